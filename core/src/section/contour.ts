/** Outlines of corner points: straights between them, each corner sharp, rounded or chamfered. */
import { cross, dot, norm, sub, unit, add, scale, type Vec3 } from '../geometry/vector';
import { Complaint, mm, words } from '../measure/words';
import { arc, line, type Curve } from '../path/curve';
import { backwards } from '../path/wrap';
import { pathOf, type Path } from '../path/path';

export interface Corner {
  readonly x: number;
  readonly y: number;
  /** Rounded to this radius, mm. */
  readonly radius?: number | undefined;
  /** Cut off, this far from the corner on both sides, mm. */
  readonly chamfer?: number | undefined;
  /** Height of the arc to the next corner over its chord, mm: positive outward on an anticlockwise outline. */
  readonly arc?: number | undefined;
}

/** Where a mistake at corner i is told, and what the corner is called. */
export interface CornerNames {
  field(i: number, what: 'point' | 'radius' | 'chamfer' | 'arc'): string;
  called?(i: number): string;
}

/** Directions that differ by less than this (rad) are one: there is no corner to round. */
const IN_LINE = 1e-9;

/**
 * Closed curve through corners, run as they are listed. It begins with the side that
 * leads into the first corner. @throws Complaint where a corner cannot take its radius; names the largest that fits.
 */
export function cornered(corners: readonly Corner[], names: CornerNames): Path {
  const n = corners.length;
  const called = (i: number) => names.called?.(i) ?? `Corner ${i + 1}`;
  const at = (i: number): Vec3 => [corners[(i + n) % n]!.x, corners[(i + n) % n]!.y, 0];
  const legs = corners.map((_corner, i) => sub(at(i + 1), at(i)));
  const long = legs.map(norm);
  const size = Math.max(...long);
  long.forEach((length, i) => {
    if (!(length > 1e-9 * size))
      throw new Complaint(`${called(i)} and the next stand in one place.`, names.field((i + 1) % n, 'point'));
  });
  const way = legs.map((leg) => unit(leg));
  const cut = corners.map((_corner, i) => cutCorner(corners, i, way, called(i), names));
  checkRoom(corners, cut, long, called, names);
  const curves: Curve[] = [];
  for (let k = 0; k < n; k++) {
    // The side into corner k, then the corner itself: of a symmetric outline all parts are alike.
    const i = (k + n - 1) % n;
    const from = add(at(i), scale(way[i]!, cut[i]!.far));
    const to = add(at(k), scale(way[i]!, -cut[k]!.far));
    const bulge = bulgeOf(corners, i);
    if (bulge) curves.push(bulged(at(i), at(k), bulge));
    else if (norm(sub(to, from)) > 1e-9 * size) curves.push(line(from, to));
    const { far, turn } = cut[k]!;
    if (!far) continue;
    const here = at(k);
    const begin = add(here, scale(way[i]!, -far));
    const finish = add(here, scale(way[k]!, far));
    const { radius } = corners[k]!;
    if (!radius) curves.push(line(begin, finish));
    else {
      const left = way[i]![0] * way[k]![1] - way[i]![1] * way[k]![0] > 0 ? 1 : -1;
      const inward: Vec3 = [-left * way[i]![1], left * way[i]![0], 0];
      curves.push(arc(add(begin, scale(inward, radius)), scale(inward, -1), way[i]!, radius, turn));
    }
  }
  return pathOf(curves);
}

/** A corner that is cut: by how much the outline turns there (rad), and how far from it the cut begins, mm. */
interface CutCorner {
  readonly turn: number;
  readonly far: number;
}

/** How far the side from corner i on stands off its chord, mm. */
const bulgeOf = (corners: readonly Corner[], i: number): number =>
  corners[(i + corners.length) % corners.length]!.arc ?? 0;

/** What corner i takes of its sides; `way` is where each side goes. @throws Complaint where it can take no radius or chamfer */
function cutCorner(
  corners: readonly Corner[],
  i: number,
  way: readonly Vec3[],
  called: string,
  { field }: CornerNames,
): CutCorner {
  const { radius = 0, chamfer = 0 } = corners[i]!;
  const before = way[(i + way.length - 1) % way.length]!;
  const turn = Math.atan2(norm(cross(before, way[i]!)), dot(before, way[i]!));
  if (turn < IN_LINE || !(radius || chamfer)) return { turn, far: 0 };
  if (radius && chamfer)
    throw new Complaint(`${called} has a radius and a chamfer: leave one of them out.`, field(i, 'chamfer'));
  if (bulgeOf(corners, i) || bulgeOf(corners, i - 1))
    throw new Complaint(`${called} ends an arc, and stays sharp.`, field(i, radius ? 'radius' : 'chamfer'));
  if (turn > Math.PI - 1e-6)
    throw new Complaint(`At ${called.toLowerCase()} the outline turns back on itself.`, field(i, 'point'));
  return { turn, far: radius ? radius * Math.tan(turn / 2) : chamfer };
}

/** Looks whether the sides, so long (mm), have room for what is cut of them. @throws Complaint at the one that asks for most */
function checkRoom(
  corners: readonly Corner[],
  cut: readonly CutCorner[],
  long: readonly number[],
  called: (i: number) => string,
  { field }: CornerNames,
): void {
  const n = corners.length;
  const slack = 1e-9 * Math.max(...long);
  const room = (i: number) =>
    Math.min(long[(i + n - 1) % n]! - cut[(i + n - 1) % n]!.far, long[i]! - cut[(i + 1) % n]!.far);
  const order = cut.map((_one, i) => i).sort((i, j) => cut[j]!.far - cut[i]!.far || i - j);
  order.forEach((i) => {
    const { far, turn } = cut[i]!;
    if (!far || far <= room(i) + slack) return;
    const { radius } = corners[i]!;
    const even = Math.min(long[(i + n - 1) % n]!, long[i]!) / 2;
    // Where all corners have the like, half of the side is each one's own.
    const alike = cut.every((one) => Math.abs(one.far - far) < slack);
    const most = Math.max(0, alike ? even : room(i));
    throw new Complaint(
      radius
        ? words`${called(i)} cannot take a radius of ${mm(radius)}: up to ${mm(most / Math.tan(turn / 2))} fits.`
        : words`${called(i)} cannot take a chamfer of ${mm(far)}: up to ${mm(most)} fits.`,
      field(i, radius ? 'radius' : 'chamfer'),
    );
  });
}

/** Arc from a to b, standing off its chord by h to the right of the way (outward where the outline is anticlockwise). */
function bulged(a: Vec3, b: Vec3, h: number): Curve {
  const chord = norm(sub(b, a));
  const along = unit(sub(b, a));
  const right: Vec3 = [along[1], -along[0], 0];
  const side = Math.sign(h);
  const out = scale(right, side);
  const half = 2 * Math.atan2(2 * Math.abs(h), chord);
  const radius = chord / 2 / Math.sin(half);
  const middle = scale(add(a, b), 0.5);
  const centre = add(middle, scale(out, Math.abs(h) - radius));
  const from = unit(sub(a, centre));
  const toward: Vec3 = side > 0 ? [-from[1], from[0], 0] : [from[1], -from[0], 0];
  return arc(centre, from, toward, radius, 2 * half);
}

/** Full circle, anticlockwise from the right. */
export const circle = (x: number, y: number, radius: number): Path =>
  pathOf([arc([x, y, 0], [1, 0, 0], [0, 1, 0], radius, 2 * Math.PI)]);

/** The same curve run the other way: a hole is an outline run clockwise. */
export const asHole = (contour: Path): Path => pathOf([...contour.pieces].reverse().map(backwards));
