/** The charts along a path. */
import { lazy, Suspense } from 'react';
import { stepName } from '@nematos/core/design/edit';
import { Shown } from '../../ui/figure';
import { useBench, useBenchStore, useOfDesign, useUnit } from '../../bench/bench';

/** The drawing of charts is loaded when they are first unfolded. */
const LengthwiseChart = lazy(async () => ({ default: (await import('./chart')).LengthwiseChart }));

/** One chart, and the others that can be chosen. */
export function LengthwisePanel() {
  const store = useBenchStore();
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
  const channels = charts?.data.channels ?? [];
  const channel = channels.find((one) => one.name === chosen) ?? channels[0];
  const length = charts?.data.s.at(-1);
  return (
    <>
      <header className="flex items-center gap-4 pt-2 pr-11 pl-4">
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
      </header>
      <div className="relative min-h-0 grow px-3 pb-1">
        {charts && channel && (
          <Suspense>
            <LengthwiseChart key={charts.step} step={charts.step} data={charts.data} channel={channel} />
          </Suspense>
        )}
      </div>
    </>
  );
}
