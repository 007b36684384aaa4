/** What is measured at one place that was pointed at. */
import { stepName } from '@nematos/core/design/edit';
import type { KindName } from '@nematos/core/design/registry';
import type { Vec3 } from '@nematos/core/geometry/vector';
import type { Probed } from '@nematos/core/kinds/measures/probe';
import { FIRST, SECOND, writtenSpot } from '@nematos/core/kinds/measures/spots';
import { formatNumber } from '@nematos/core/measure/format';
import { MM_IN } from '@nematos/core/measure/quantity';
import { useBench, useDesign, useUnit } from '../../bench/bench';
import type { Pointed } from '../../bench/state';
import { Line, Lines, Row } from './side-panel';

/** Keeps a measure of some of the places that were pointed at as a step of the sheet. */
export type Keep = (kind: KindName, set: Record<string, string>, of: readonly Pointed[]) => void;

/** Where what is measured stands: on a sharp edge, else on the centre line where there is one, else on the surface. */
export const spotOf = ({ point, on, edge }: Probed) => edge?.place ?? on?.place ?? point;

/** The place, and what is to be measured there alone. */
export function Spot({
  sign,
  pointed,
  found,
  asked,
  keep,
  amounts,
}: {
  sign: string;
  pointed: Pointed;
  found: Probed | undefined;
  /** Set while the answer is awaited. */
  asked: boolean;
  keep: Keep;
  /** Whether to tell the figures of its body. */
  amounts: boolean;
}) {
  const design = useDesign();
  const unit = useUnit();
  const step = design.steps.find(({ id }) => id === pointed.step);
  const { on, about, edge } = found ?? {};
  const place = found && spotOf(found);
  const title = `${sign}, on ${step ? stepName(step) : 'what is gone'}${found ? whereOn(found) : ''}`;
  if (!found)
    return (
      <>
        <h3 className="mt-1.5 font-semibold">{title}</h3>
        <p className="text-quiet">{asked ? '…' : 'That place no longer exists. Pick it again.'}</p>
      </>
    );
  const spotted = writtenSpot(found, unit, FIRST);
  /** A length at this place alone. */
  const one = (says: string, value: number | undefined, what: string) =>
    value !== undefined && (
      <Line
        says={says}
        value={value}
        quantity="length"
        onKeep={() => keep('measure-length', { what, ...spotted }, [pointed])}
      />
    );
  return (
    <Lines title={title}>
      {place && (
        <Coordinates
          place={place}
          rough={!on && !edge}
          of={sign}
          onKeep={(what) => keep('measure-length', { what, ...spotted }, [pointed])}
        />
      )}
      {on && (
        <Line
          says="along its path"
          value={on.s}
          quantity="length"
          onKeep={() =>
            keep('measure-length', { what: 'along', place: 'start', ...writtenSpot(found, unit, SECOND) }, [
              pointed,
            ])
          }
        />
      )}
      {on?.section?.round && one('diameter', on.section.width, 'diameter')}
      {on?.section && !on.section.round && (
        <>
          {one('section wide', on.section.width, 'wide')}
          {one('section high', on.section.height, 'high')}
        </>
      )}
      {one('wall', on?.section?.wall, 'wall')}
      {one('length of the edge', edge?.length, 'side')}
      {one('bend radius', on?.bend, 'bend')}
      {one('diameter about its axis', about && 2 * about.radius, 'diameter')}
      {amounts && <Amounts pointed={pointed} keep={keep} />}
    </Lines>
  );
}

/** Where a place is; each coordinate can be kept, where they are exact. */
function Coordinates({
  place,
  rough,
  of,
  onKeep,
}: {
  place: Vec3;
  rough: boolean;
  of: string;
  onKeep(what: string): void;
}) {
  const unit = useUnit();
  const told = place.map((x) => formatNumber(x / MM_IN[unit], 4));
  return (
    <Row says={`x y z, ${unit}`}>
      {rough
        ? `≈ ${told.join('\u2002')}`
        : (['x', 'y', 'z'] as const).map((axis, i) => (
            <button
              key={axis}
              type="button"
              aria-label={`Keep on the sheet: ${axis} of ${of}`}
              title="Keep it on the sheet"
              className="ml-1.5 rounded underline decoration-dotted underline-offset-3 first:ml-0 hover:bg-hover"
              onClick={() => onKeep(`at${axis.toUpperCase()}`)}
            >
              {told[i]}
            </button>
          ))}
    </Row>
  );
}

const ENDS = { start: ', at its start', end: ', at its end', joint: ', at a joint' };

/** Where on its step a place is, if that is anywhere special. */
function whereOn({ on, about, edge }: Probed): string {
  if (on?.at) return ENDS[on.at];
  if (edge?.corner) return ', at a corner';
  return about?.edge || edge ? ', at an edge' : '';
}

const AMOUNTS = [
  ['volume', 'measure-volume'],
  ['surface', 'measure-area'],
  ['mass', 'measure-mass'],
] as const;

/** Volume, surface and mass of the body that was pointed at. */
function Amounts({ pointed, keep }: { pointed: Pointed; keep: Keep }) {
  const figures = useBench(({ seen }) => seen?.steps.find(({ id }) => id === pointed.step)?.results);
  return AMOUNTS.map(([name, kind]) => {
    const figure = figures?.find((one) => one.name === name);
    return (
      figure && (
        <Line
          key={name}
          says={name}
          value={figure.value}
          quantity={figure.quantity}
          rough={figure.within !== undefined}
          onKeep={() => keep(kind, {}, [pointed])}
        />
      )
    );
  });
}
