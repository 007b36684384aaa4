import { z } from 'zod';
import { angle, choice, length, pathKind, table } from '../../kind/kind';
import { add, cross, distance, dot, norm, scale, squareTo, sub, type Vec3 } from '../../geometry/vector';
import type { Mark } from '../../kind/mark';
import { cellField } from '../../measure/field';
import { Complaint, mm, words } from '../../measure/words';
import { quintic, type Curve } from '../../path/curve';
import { movedCurve } from '../../path/wrap';
import { rotated, STILL, type Motion } from '../../geometry/motion';
import { curvesBetween, reversedPath } from '../../path/parts';
import { pathOf, pathWith, type Path, type PathPoint } from '../../path/path';

const schema = z.object({
  join: choice('fitted', 'placed'),
  blend: length({ atLeast: 0 }),
});
const PARTS = table({
  row: z.object({ way: choice('forwards', 'backwards'), roll: angle() }),
  noun: 'path',
  along: 'paths',
  fresh: { way: 'forwards', roll: '0 deg' },
});

/** Paths joined end to end: moved to fit, or left where they are and blended. */
export const chain = pathKind({
  kind: 'chain',
  title: 'Chain',
  noun: 'chain of paths',
  words: ['chain', 'join', 'joined', 'connect', 'blend', 'tail', 'hook', 'compose', 'end to end'],
  inputs: { paths: { takes: 'path', many: [2, 24] } },
  schema,
  tables: { parts: PARTS },
  defaults: { join: 'fitted', blend: '0 mm' },
  evaluate({ join, blend, parts }, { paths }) {
    const ways = paths.map((path, i) => {
      if (path.closed) throw new Complaint('A closed path has no ends to join.', `paths.${i}`);
      return parts[i]!.way === 'backwards' ? reversedPath(path) : path;
    });
    if (join === 'placed') return ways.reduce((whole, path, i) => bridge(whole, path, blend, `paths.${i}`));
    let whole = ways[0]!;
    const motions = [STILL];
    const joints: number[] = [];
    ways.slice(1).forEach((path, i) => {
      const { position, tangent } = whole.at(whole.length);
      joints.push(whole.length);
      const motion = fitting(path.at(0), position, tangent, parts[i + 1]!.roll);
      whole = pathOf([...whole.pieces, ...path.pieces.map((piece) => movedCurve(piece, motion))]);
      motions.push(motion);
    });
    return pathWith(pathOf(whole.pieces, { motions }), { joints }) satisfies Chained;
  },
  marks: (path) => rollMarks(path),
  results: (path) => [
    { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
    { name: 'corners', label: 'sharp corners', value: path.corners.length, quantity: 'number' },
  ],
});

/** A chain whose parts were fitted: the lengths at which they join. */
interface Chained extends Path {
  readonly joints?: readonly number[];
}

/** Points of a part by which it is seen how far it reaches aside of where it begins. */
const LOOKS = 40;

/** Grips that roll each part about the end of the one before it; none of parts that go straight on. */
function rollMarks(path: Path): Mark[] {
  const { joints = [] } = path as Chained;
  return joints.flatMap((from, i): Mark[] => {
    const { position: centre, tangent: axis } = path.at(from);
    const to = joints[i + 1] ?? path.length;
    const aside = (point: Vec3) => norm(cross(axis, sub(point, centre)));
    const places = Array.from(
      { length: LOOKS },
      (_x, k) => path.at(from + ((to - from) * (k + 1)) / LOOKS).position,
    );
    const at = places.reduce((best, one) => (aside(one) > aside(best) ? one : best));
    if (!(aside(at) > STRAIGHT * (to - from))) return [];
    const foot = add(centre, scale(axis, dot(axis, sub(at, centre))));
    return [{ type: 'turn', field: cellField('parts', i + 1, 'roll'), centre: foot, axis, at }];
  });
}

/** A part that reaches aside by less than this part of its length goes straight on. */
const STRAIGHT = 1e-6;

/** The rigid motion that lays the start of a path at a point, its tangent along another, rolled about it. */
function fitting(start: PathPoint, to: Vec3, tangent: Vec3, roll: number): Motion {
  const axis = cross(start.tangent, tangent);
  const s = norm(axis);
  const c = dot(start.tangent, tangent);
  const about = s > 1e-12 ? scale(axis, 1 / s) : squareTo(tangent);
  const bend = Math.atan2(s, c);
  const spin = (v: Vec3) => rotated(rotated(v, about, bend), tangent, roll);
  const [ex, ey, ez] = [spin([1, 0, 0]), spin([0, 1, 0]), spin([0, 0, 1])];
  const p = start.position;
  const moved: Vec3 = add(add(scale(ex, p[0]), scale(ey, p[1])), scale(ez, p[2]));
  return { origin: sub(to, moved), ex, ey, ez };
}

/** Both where they are, with a curve between that takes up position, direction and curvature of both. */
function bridge(whole: Path, path: Path, blend: number, slot: string): Path {
  const gap = distance(whole.at(whole.length).position, path.at(0).position);
  const meets = gap <= 1e-9 * (whole.length + path.length);
  if (meets && blend === 0) return pathOf([...whole.pieces, ...path.pieces]);
  const least = Math.min(whole.length, path.length);
  if (blend >= least)
    throw new Complaint(
      words`The blend takes up all of a path: less than ${mm(least)} fits.`,
      blend ? 'blend' : slot,
    );
  const [from, to] = [whole.at(whole.length - blend), path.at(blend)];
  return pathOf([
    ...curvesBetween(whole, 0, whole.length - blend),
    bridgeCurve(from, to),
    ...curvesBetween(path, blend, path.length),
  ]);
}

/** Quintic from one place to another that continues tangent and curvature of both. */
function bridgeCurve(from: PathPoint, to: PathPoint): Curve {
  const v = distance(from.position, to.position);
  const ahead = (p: PathPoint, way: 1 | -1): [Vec3, Vec3, Vec3] => {
    const b1 = add(p.position, scale(p.tangent, (way * v) / 5));
    const b2 = add(sub(scale(b1, 2), p.position), scale(p.normal, (v * v * p.curvature) / 20));
    return [p.position, b1, b2];
  };
  const [a0, a1, a2] = ahead(from, 1);
  const [b0, b1, b2] = ahead(to, -1);
  return quintic([a0, a1, a2, b2, b1, b0]);
}
