/** The charts along a path, folding up from the foot of the stage. */
import { ChevronDown, ChevronUp } from 'lucide-react';
import { lazy, Suspense, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { stepName } from '@nematos/core/design/edit';
import { Shown } from '../../ui/figure';
import { useBench, useBenchStore, useOfDesign, useUnit } from '../../bench/bench';

/** The drawing of charts is loaded when they are first unfolded. */
const LengthwiseChart = lazy(async () => ({ default: (await import('./chart')).LengthwiseChart }));

const USUAL = 180;
const held = (height: number): number => Math.min(420, Math.max(120, Math.round(height)));

/** The panel of charts along the path, folded or open. */
export function LengthwisePanel() {
  const store = useBenchStore();
  const open = useBench((bench) => bench.view.lengthwise ?? false);
  const height = useBench((bench) => bench.view.chartHeight ?? USUAL);
  const made = useBench((bench) => bench.seen?.steps.some(({ yields }) => yields === 'path') ?? false);
  const charts = useBench((bench) => bench.charts);
  const chosen = useBench((bench) => bench.view.channel);
  const name = useOfDesign((design) => {
    const step = design.steps.find(({ id }) => id === charts?.step);
    return step && stepName(step);
  });
  const set = useBench(
    (bench) => bench.seen?.steps.find(({ id }) => id === charts?.step)?.members !== undefined,
  );
  const unit = useUnit();
  const from = useRef<{ y: number; height: number } | undefined>(undefined);
  if (!made) return null;

  const resize = (next: number) => store.getState().look({ chartHeight: held(next) });
  const onPointerMove = (event: PointerEvent) => {
    if (from.current) resize(from.current.height + from.current.y - event.clientY);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowUp') resize(height + 20);
    if (event.key === 'ArrowDown') resize(height - 20);
  };
  const fold = () => store.getState().look({ lengthwise: !open });
  if (!open)
    return (
      <div className="flex h-8 shrink-0 items-center border-t border-hair bg-page px-4">
        <button
          type="button"
          aria-expanded={false}
          onClick={fold}
          className="flex items-center gap-1.5 text-quiet hover:text-ink"
        >
          <ChevronUp size={14} /> Lengthwise
        </button>
      </div>
    );
  const channels = charts?.data.channels ?? [];
  const channel = channels.find((one) => one.name === chosen) ?? channels[0];
  const length = charts?.data.s.at(-1);
  return (
    <section
      aria-label="Lengthwise"
      style={{ height }}
      className="relative flex shrink-0 flex-col border-t border-hair bg-page"
    >
      <div
        role="separator"
        tabIndex={0}
        aria-orientation="horizontal"
        aria-label="Height of the charts"
        aria-valuenow={height}
        aria-valuemin={120}
        aria-valuemax={420}
        className="absolute inset-x-0 -top-1 h-2 cursor-row-resize touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = { y: event.clientY, height };
        }}
        onPointerMove={onPointerMove}
        onPointerUp={() => (from.current = undefined)}
        onPointerCancel={() => (from.current = undefined)}
        onKeyDown={onKeyDown}
      />
      <header className="flex items-center gap-4 px-4 pt-2">
        {channels.map((one) => (
          <button
            key={one.name}
            type="button"
            aria-pressed={one === channel}
            onClick={() => store.getState().look({ channel: one.name })}
            className={one === channel ? 'font-semibold' : 'text-quiet hover:text-ink'}
          >
            {one.label}
          </button>
        ))}
        <span className="ml-auto text-quiet">
          {length !== undefined && (
            <>
              along <Shown value={length} quantity="length" unit={unit} /> of{' '}
              {set ? `the first of ${name}` : name}
            </>
          )}
        </span>
        <button
          type="button"
          aria-expanded
          title="Fold away"
          aria-label="Fold the charts away"
          onClick={fold}
          className="text-quiet hover:text-ink"
        >
          <ChevronDown size={14} />
        </button>
      </header>
      <div className="relative min-h-0 grow px-3 pb-1">
        {charts && channel && (
          <Suspense>
            <LengthwiseChart key={charts.step} step={charts.step} data={charts.data} channel={channel} />
          </Suspense>
        )}
      </div>
    </section>
  );
}
