import { add, scale, sub, type Vec3 } from '../../geometry/vector';
import { lineMark, type LineMark } from '../../kind/mark';
import type { Path } from '../../path/path';

/** Dimension lines of a coil: its height along the axis, its diameter below it, and above it where it is another there. */
export function coilMarks({ coil }: Path, set: Readonly<Record<string, string>>): LineMark[] {
  if (!coil) return [];
  const { shape, wire, foot, axis, tips } = coil;
  const top = add(foot, scale(axis, shape.height));
  const marks: LineMark[] = [];
  if (set.height !== undefined) {
    const [below, above] = tips.map((tip) => scale(axis, set.heightBasis === 'overall' ? tip * wire : 0)) as [
      Vec3,
      Vec3,
    ];
    const clear = Math.max(shape.startRadius, shape.endRadius) + wire / 2;
    marks.push(lineMark('height', sub(foot, below), add(top, above), axis, clear));
  }
  const across = (field: string, at: Vec3, radius: number, outward: 1 | -1): LineMark => {
    const from = add(at, scale(axis, (outward * wire) / 2));
    const side = set.basis === 'outer' ? wire / 2 : set.basis === 'inner' ? -wire / 2 : 0;
    return {
      field,
      type: 'across',
      from,
      to: from,
      axis,
      clear: radius + wire / 2,
      radius: radius + side,
      outward,
    };
  };
  marks.push(across('diameter', foot, shape.startRadius, -1));
  if (set.taper === 'diameter') marks.push(across('endDiameter', top, shape.endRadius, 1));
  return marks;
}
