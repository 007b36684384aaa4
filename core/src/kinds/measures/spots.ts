/** Where a measure is taken, as figures of its step. */
import { choice, count, length } from '../../kind/kind';
import { writtenFigure } from '../../measure/format';
import type { LengthUnit } from '../../measure/expression';
import type { Vec3 } from '../../geometry/vector';
import type { Value } from '../../kind/value';
import { at } from './measuring';
import { stand, type Probed, type Spot } from './probe';

const PLACES = ['start', 'middle', 'end', 'along', 'joint', 'corner', 'point'] as const;

/** Figures of one spot, and of another whose fields begin with "to". */
export const SPOTS = {
  place: choice(...PLACES),
  along: length({ atLeast: 0 }),
  joint: count({ atLeast: 1 }),
  corner: count({ atLeast: 1 }),
  line: count({ atLeast: 1 }),
  x: length(),
  y: length(),
  z: length(),
  toPlace: choice(...PLACES),
  toAlong: length({ atLeast: 0 }),
  toJoint: count({ atLeast: 1 }),
  toCorner: count({ atLeast: 1 }),
  toLine: count({ atLeast: 1 }),
  toX: length(),
  toY: length(),
  toZ: length(),
};
export const SPOTS_DEFAULTS = {
  place: 'start',
  along: '0 mm',
  joint: '1',
  corner: '1',
  line: '1',
  x: '0 mm',
  y: '0 mm',
  z: '0 mm',
  toPlace: 'end',
  toAlong: '0 mm',
  toJoint: '1',
  toCorner: '1',
  toLine: '1',
  toX: '0 mm',
  toY: '0 mm',
  toZ: '0 mm',
};

/** What steps may be measured: paths and bodies, sets of them too, which stay what they are; the second may be the first again. */
const MEASURABLE = { takes: ['path', 'body'], beside: true, sets: true } as const;
export const OF_ONE_OR_TWO = { of: MEASURABLE, to: { ...MEASURABLE, optional: true } } as const;

/** A spot as its step says it. */
export interface SpotFigures {
  readonly place: (typeof PLACES)[number];
  readonly along: number;
  readonly joint: number;
  readonly corner: number;
  readonly line: number;
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/** The same of the second spot. */
export const secondSpot = (figures: {
  readonly toPlace: (typeof PLACES)[number];
  readonly toAlong: number;
  readonly toJoint: number;
  readonly toCorner: number;
  readonly toLine: number;
  readonly toX: number;
  readonly toY: number;
  readonly toZ: number;
}): SpotFigures => ({
  place: figures.toPlace,
  along: figures.toAlong,
  joint: figures.toJoint,
  corner: figures.toCorner,
  line: figures.toLine,
  x: figures.toX,
  y: figures.toY,
  z: figures.toZ,
});

/** The field that a complaint about a spot stands at. */
const FIELD = {
  along: 'along',
  joint: 'joint',
  corner: 'corner',
  start: 'place',
  middle: 'place',
  end: 'place',
  point: 'place',
} as const;

/** What is at a spot of a value; `named` gives the field of the step for each of the spot. @throws Complaint */
export function spotOn(value: Value, figures: SpotFigures, named: (field: string) => string): Probed {
  const { place, line, along, joint, corner, x, y, z } = figures;
  const spot: Spot =
    place === 'point'
      ? { at: 'point', point: [x, y, z] }
      : place === 'along'
        ? { at: 'along', line, s: along }
        : place === 'joint'
          ? { at: 'joint', line, joint }
          : place === 'corner'
            ? { at: 'corner', corner }
            : { at: place, line };
  return at(named(FIELD[place]), () => stand(value, spot));
}

/** What a step writes of a spot that was pointed at. */
export function writtenSpot(
  { on, edge, point }: Probed,
  unit: LengthUnit,
  named: (field: string) => string,
): Record<string, string> {
  const written = (values: Record<string, string>) => writtenAs(values, named);
  if (edge?.corner !== undefined) return written({ place: 'corner', corner: String(edge.corner) });
  if (!on) return writtenPoint(point, unit, named);
  const line = on.line ? { line: String(on.line + 1) } : {};
  if (on.at === 'joint') return written({ place: 'joint', joint: String(on.joint), ...line });
  if (on.at) return written({ place: on.at, ...line });
  const middle = Math.abs(on.s - on.length / 2) < 1e-6 * on.length;
  return written(
    middle
      ? { place: 'middle', ...line }
      : { place: 'along', along: writtenFigure(on.s, 'length', unit), ...line },
  );
}

const writtenAs = (values: Record<string, string>, named: (field: string) => string) =>
  Object.fromEntries(Object.entries(values).map(([field, text]) => [named(field), text]));

/** What a step writes of a place in space. */
export function writtenPoint(
  [x, y, z]: Vec3,
  unit: LengthUnit,
  named: (field: string) => string,
): Record<string, string> {
  const mm = (value: number) => writtenFigure(value, 'length', unit);
  return writtenAs({ place: 'point', x: mm(x), y: mm(y), z: mm(z) }, named);
}

/** Fields of the first spot. */
export const FIRST = (field: string): string => field;
/** Of the second: "to", and the field. */
export const SECOND = (field: string): string => `to${field[0]!.toUpperCase()}${field.slice(1)}`;
