/** What folds up from the foot of the stage: the charts along a path, and spreads. */
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { useBench, useBenchStore } from '../../bench/bench';
import { LengthwisePanel } from '../lengthwise/lengthwise';
import { SpreadPanel } from '../spread/spread';

const USUAL = 180;
const [LEAST, MOST] = [120, 420];
const held = (height: number): number => Math.min(MOST, Math.max(LEAST, Math.round(height)));

/** Folded it offers what can be unfolded; else one of them, as high as it is pulled. */
export function Foot() {
  const store = useBenchStore();
  const made = useBench((bench) => bench.seen?.steps.some(({ yields }) => yields === 'path') ?? false);
  const any = useBench((bench) => bench.seen?.steps.some(({ results }) => results.length > 0) ?? false);
  const awaited = useBench((bench) => bench.seen === undefined);
  // Before the first answer it stands as high as it was left: the stage does not jump.
  const lengthwise = useBench((bench) => bench.view.lengthwise ?? false) && (made || awaited);
  const spread = useBench((bench) => bench.view.spread !== undefined);
  const height = useBench((bench) => bench.view.chartHeight ?? USUAL);
  const from = useRef<{ y: number; height: number } | undefined>(undefined);
  const { look } = store.getState();
  if (!lengthwise && !spread)
    return (
      <div className="flex h-8 shrink-0 items-center gap-5 border-t border-hair bg-page px-4">
        {made && <Unfold says="Lengthwise" onClick={() => look({ lengthwise: true })} />}
        {any && (
          <Unfold
            says="Spread"
            onClick={() => look({ spread: store.getState().history.present.spreads?.[0]?.id ?? '' })}
          />
        )}
      </div>
    );
  const resize = (next: number) => look({ chartHeight: held(next) });
  const onPointerMove = (event: PointerEvent) => {
    if (from.current) resize(from.current.height + from.current.y - event.clientY);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowUp') resize(height + 20);
    if (event.key === 'ArrowDown') resize(height - 20);
  };
  return (
    <section
      aria-label={spread ? 'Spread' : 'Lengthwise'}
      style={{ height: spread ? height + 60 : height }}
      className="relative flex shrink-0 flex-col border-t border-hair bg-page"
    >
      <div
        role="separator"
        tabIndex={0}
        aria-orientation="horizontal"
        aria-label="Height of the charts"
        aria-valuenow={height}
        aria-valuemin={LEAST}
        aria-valuemax={MOST}
        className="absolute inset-x-0 -top-1 z-10 h-2 cursor-row-resize touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = { y: event.clientY, height };
        }}
        onPointerMove={onPointerMove}
        onPointerUp={() => (from.current = undefined)}
        onPointerCancel={() => (from.current = undefined)}
        onKeyDown={onKeyDown}
      />
      <button
        type="button"
        aria-expanded
        title="Fold away"
        aria-label="Fold the charts away"
        onClick={() => look(spread ? { spread: undefined } : { lengthwise: false })}
        className="absolute top-2 right-4 z-10 text-quiet hover:text-ink"
      >
        <ChevronDown size={14} />
      </button>
      {spread ? <SpreadPanel /> : <LengthwisePanel />}
    </section>
  );
}

const Unfold = ({ says, onClick }: { says: string; onClick(): void }) => (
  <button
    type="button"
    aria-expanded={false}
    onClick={onClick}
    className="flex items-center gap-1.5 text-quiet hover:text-ink"
  >
    <ChevronUp size={14} /> {says}
  </button>
);
