/** Dimension lines of bodies round an axis. */
import { moved, STILL, turned } from '../../geometry/motion';
import { unit, type Vec3 } from '../../geometry/vector';
import { ledBy, lineMark, type LineMark, type Mark, type PointMark } from '../../kind/mark';
import type { Body } from '../../solid/body/body';

/** Where a diameter is measured: height along the axis, radius, and the way along the axis that is clear of the body. */
export interface Across {
  readonly field: string;
  readonly at: number;
  readonly radius: number;
  readonly outward: 1 | -1;
}

/** Diameters, from the foot up to a height, and the place, of a body that was made about the z axis and placed. */
export function axisMarks(
  body: Body,
  placing: string | undefined,
  clear: number,
  across: readonly Across[],
  height?: { readonly field: string; readonly value: number },
): Mark[] {
  const map = body.form === 'placed' ? body.map : STILL;
  const axis = unit(turned(map, [0, 0, 1]));
  const place = (z: number): Vec3 => moved(map, [0, 0, z]);
  const base = { axis, clear } as const;
  return [
    ...across.map(({ field, at, radius, outward }): LineMark => {
      const from = place(at);
      return { ...base, field, type: 'across', from, to: from, radius, outward };
    }),
    ...(height ? [lineMark(height.field, place(0), place(height.value), axis, clear)] : []),
    ...placeGrip(map.origin, placing),
  ];
}

/** The place of a body on its axis, to be moved by hand; none where two points or a path say where it is. */
export const placeGrip = (at: Vec3, placing: string | undefined): PointMark[] =>
  placing === undefined || placing === 'axis'
    ? [{ type: 'point', led: ledBy('originX', 'originY', 'originZ'), name: 'Its place', at }]
    : [];

/** The same of a body that stands where it was made, or was put in place whole. */
export const gripOf = (body: Body, placing: string | undefined): PointMark[] =>
  placeGrip(body.form === 'placed' ? body.map.origin : [0, 0, 0], placing);

/** The section of a body that was turned about the z axis, and placed. */
export function turnedSection(body: Body) {
  const leaf = body.form === 'placed' ? body.source : body;
  if (leaf.form !== 'turned') throw new Error('not turned');
  return leaf.turned.section;
}
