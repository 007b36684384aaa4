/** Kept measures on the stage: a line between their places, with their name and value. */
import { Vector3 } from 'three';
import { useShallow } from 'zustand/react/shallow';
import { stepName } from '@nematos/core/design/edit';
import { useBench, useBenchStore, useDesign, useUnit } from '../../bench/bench';
import { selecting, shownCount } from '../../bench/selection';
import type { View } from '../../render/view';
import { LEVEL_INK, Shown } from '../../ui/figure';
import { showOnSheet } from '../../ui/motion';
import { INKED } from './inked';

/** Measures that are to be seen: passed by the needle, and not hidden. */
export function KeptMeasures({ view }: { view: View | undefined; frame: number }) {
  const store = useBenchStore();
  const design = useDesign();
  const unit = useUnit();
  const count = useBench(shownCount);
  const drawn = useBench((bench) => bench.drawn);
  const seen = useBench(
    useShallow(({ seen: all }) => all?.steps.filter(({ yields }) => yields === 'measure')),
  );
  const checked = useBench((bench) => bench.checked);
  if (!view || !seen?.length) return null;
  const shown = new Map(design.steps.slice(0, count).map((step) => [step.id, step]));
  return seen.map(({ id, results }) => {
    const [step, line] = [shown.get(id), drawn.get(id)];
    const [figure] = results;
    if (!step || step.hidden || !figure || line?.type !== 'line' || !line.lines[0]?.length) return null;
    const [places] = line.lines;
    const count = places.length / 3;
    const all = Array.from({ length: count }, (_x, i) =>
      view.project(new Vector3().fromArray(places, 3 * i)),
    ).filter((one) => one !== undefined);
    // A part of it lies behind the reader.
    if (all.length < count) return null;
    const [a, b] = [all[0]!, all.at(-1)!];
    const middle = all.length > 2 ? all[Math.floor(all.length / 2)]! : a.clone().lerp(b, 0.5);
    const level = checked[id]?.findings[0]?.level;
    const ink = level ? LEVEL_INK[level] : 'var(--thread)';
    return (
      <div key={id} data-kept={id} className="pointer-events-none absolute inset-0">
        <svg {...INKED} className="absolute inset-0 size-full" aria-hidden stroke={ink} fill={ink}>
          <path d={`M${all.map(({ x, y }) => `${x} ${y}`).join('L')}`} fill="none" strokeWidth="1.25" />
          <circle cx={a.x} cy={a.y} r="2.6" />
          <circle cx={b.x} cy={b.y} r="2.6" />
        </svg>
        <button
          type="button"
          {...INKED}
          className="pointer-events-auto absolute -translate-x-1/2 -translate-y-[130%] rounded-sm bg-sheet/90 px-1.5 py-0.5 text-[12.5px] leading-tight whitespace-nowrap hover:bg-sheet"
          style={{ left: middle.x, top: middle.y }}
          title="Go to this measure on the sheet"
          onClick={() => {
            store.getState().look(selecting(id));
            showOnSheet(id);
          }}
        >
          <span className="text-quiet">{stepName(step)}</span>{' '}
          <span className="font-medium" style={{ color: level === 'fault' ? ink : undefined }}>
            <Shown value={figure.value} quantity={figure.quantity} unit={unit} />
          </span>
        </button>
      </div>
    );
  });
}
