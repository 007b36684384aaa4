import type { Result } from '@nematos/core/kind/value';
import { formatNumber } from '@nematos/core/measure/format';
import { MM_IN } from '@nematos/core/measure/quantity';
import { useUnit } from '../../bench/bench';
import { toneOf } from '../../ui/figure';

/** How far the part reaches along x, y and z, on one line of a list of results; nothing where that is not known. */
export function Extent({ figures, quiet }: { figures: readonly Result[]; quiet?: boolean | undefined }) {
  const unit = useUnit();
  const sides = ['X', 'Y', 'Z'].flatMap(
    (axis) => figures.find(({ name }) => name === `extent${axis}` || name === `pathExtent${axis}`) ?? [],
  );
  if (sides.length < 3) return null;
  return (
    <div className="flex justify-between gap-3 py-[1.4px]">
      <dt className="text-quiet">Extent</dt>
      <dd className={`text-right ${toneOf(quiet)}`}>
        {sides.map((side, i) => (
          <span key={side.name}>
            {i > 0 && <span className="text-quiet"> × </span>}
            {formatNumber(side.value / MM_IN[unit], 3)}
          </span>
        ))}{' '}
        <span className="unit">{unit}</span>
      </dd>
    </div>
  );
}
