/** Dimension lines: where the figures of a step can be seen, and pulled, on the part. */
import type { Coil } from '../path/coil';
import { add, scale, sub, type Vec3 } from '../geometry/vector';
import { pointOn } from '../path/path';
import type { FilledRows } from '../kind/kind';
import type { Step } from '../design/schema';
import type { Value } from '../kind/value';

/** A figure that can be seen and pulled on the part: a dimension line, or a corner point. */
export type Mark = LineMark | PointMark;

/** A point whose coordinates are cells of a table. */
export interface PointMark {
  readonly step: string;
  readonly shape: 'point';
  readonly table: string;
  readonly row: number;
  readonly at: Vec3;
}

/** A dimension line of one figure. Places in mm. */
export interface LineMark {
  readonly step: string;
  readonly field: string;
  /** 'along': from `from` to `to`, drawn clear of the part by `clear` from the axis. 'across': a diameter about `from`. */
  readonly shape: 'along' | 'across';
  readonly from: Vec3;
  readonly to: Vec3;
  /** Unit vector of the axis. */
  readonly axis: Vec3;
  /** Distance from the axis that is clear of the part. */
  readonly clear: number;
  /** Radius on which an 'across' mark measures. */
  readonly radius: number;
  /** Which way along the axis an 'across' mark is clear of the part. */
  readonly outward: 1 | -1;
}

/** Points beyond this many would only be in each other's way. */
const MOST_POINTS = 200;

/** Marks of a step's own figures, as far as they are given. */
export function marksOf(step: Step, value: Value, filled: FilledRows | undefined): Mark[] {
  const points = filled?.points ?? pointRows(value);
  if (
    points.length &&
    points.length <= MOST_POINTS &&
    step.rows?.points &&
    (step.set.by ?? 'points') === 'points'
  )
    return points.map(({ x = 0, y = 0, z = 0 }, row) => ({
      step: step.id,
      shape: 'point',
      table: 'points',
      row,
      at: [x, y, z],
    }));
  return value.type === 'path' && value.coil && step.kind === 'helix' ? coilMarks(step, value.coil) : [];
}

/** A curve through its points has them where its pieces meet. */
function pointRows(value: Value): Record<string, number>[] {
  if (value.type !== 'path') return [];
  const ends = value.closed ? [] : [value.at(value.length).position];
  return [...value.pieces.map((piece) => pointOn(piece, 0).position), ...ends].map(([x, y, z]) => ({
    x,
    y,
    z,
  }));
}

function coilMarks({ id, set }: Step, { shape, wire, foot, axis, tips }: Coil): LineMark[] {
  const top = add(foot, scale(axis, shape.height));
  const marks: LineMark[] = [];
  if (set.height !== undefined) {
    const [below, above] = tips.map((tip) => scale(axis, set.heightBasis === 'overall' ? tip * wire : 0)) as [
      Vec3,
      Vec3,
    ];
    const clear = Math.max(shape.startRadius, shape.endRadius) + wire / 2;
    marks.push({
      step: id,
      field: 'height',
      shape: 'along',
      from: sub(foot, below),
      to: add(top, above),
      axis,
      clear,
      radius: 0,
      outward: 1,
    });
  }
  const across = (field: string, at: Vec3, radius: number, outward: 1 | -1): LineMark => {
    const from = add(at, scale(axis, (outward * wire) / 2));
    const side = set.basis === 'outer' ? wire / 2 : set.basis === 'inner' ? -wire / 2 : 0;
    return {
      step: id,
      field,
      shape: 'across',
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
