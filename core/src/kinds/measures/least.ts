/** The least distance between the lines that two places are on: centre lines, sharp edges, or axes without end. */
import { moved } from '../../geometry/motion';
import { valley } from '../../geometry/numeric';
import { add, distance, dot, scale, sub, type Vec3 } from '../../geometry/vector';
import type { Value } from '../../kind/value';
import { nearestOn, type Mapped } from '../../path/nearest';
import { edgeLine, linesOf, type AboutAxis, type Probed } from './probe';

export interface Least {
  readonly value: number;
  readonly places: readonly [Vec3, Vec3];
}

/** Samples of a line from which the nearest place of the other is looked for, and those of the other that are looked at. */
const LOOKS = 240;
const FAR_LOOKS = 200;
/** Only so many of them, the nearest, are refined. */
const REFINED = 3;

type Line = { readonly mapped: Mapped } | { readonly axis: AboutAxis };

/** The line of a place; undefined at a corner, where several meet, and on no line. */
function lineOf(value: Value, { on, about, edge }: Probed): Line | undefined {
  if (edge) return edge.edge === undefined ? undefined : { mapped: edgeLine(value, edge.edge) };
  if (on) return { mapped: linesOf(value)[on.line]! };
  return about && { axis: about };
}

/** The least distance between the lines of two places, mm; undefined where they are on one line, or one is on none. */
export function leastBetween(of: Value, a: Probed, to: Value, b: Probed): Least | undefined {
  if (of === to && isSameLine(a, b)) return undefined;
  const [one, other] = [lineOf(of, a), lineOf(to, b)];
  if (!one || !other) return undefined;
  if ('axis' in one) {
    if ('axis' in other) return betweenAxes(one.axis, other.axis);
    const { value, places } = fromPath(other.mapped, one);
    return { value, places: [places[1], places[0]] };
  }
  return fromPath(one.mapped, other);
}

const isSameLine = (a: Probed, b: Probed): boolean => {
  if (a.edge || b.edge) return a.edge?.edge === b.edge?.edge;
  if (a.on || b.on) return a.on?.line === b.on?.line;
  if (!a.about || !b.about) return false;
  const { value } = betweenAxes(a.about, b.about);
  return value < SAME && Math.abs(dot(a.about.way, b.about.way)) > 1 - SAME;
};
/** Axes no farther apart than this, mm, and as parallel, are one. */
const SAME = 1e-9;

/** Of two straight lines without end: along their common normal, or anywhere where they are parallel. */
function betweenAxes({ foot: p, way: v }: AboutAxis, { foot: q, way: w }: AboutAxis): Least {
  const [across, apart] = [dot(v, w), sub(q, p)];
  const lean = 1 - across * across;
  const along = lean < 1e-18 ? 0 : (dot(apart, v) - across * dot(apart, w)) / lean;
  const from = add(p, scale(v, along));
  const place = add(q, scale(w, dot(sub(from, q), w)));
  return { value: distance(from, place), places: [from, place] };
}

/** From a path to another line: the nearest of many places, refined about it. */
function fromPath({ path, map }: Mapped, other: Line): Least {
  const placeAt = (s: number): Vec3 => moved(map, path.at(s).position);
  const nearest = (point: Vec3): Vec3 => {
    if ('axis' in other) {
      const { foot, way } = other.axis;
      return add(foot, scale(way, dot(sub(point, foot), way)));
    }
    const { s } = nearestOn(other.mapped, point, FAR_LOOKS);
    return moved(other.mapped.map, other.mapped.path.at(s).position);
  };
  const far = (s: number): number => {
    const at = placeAt(s);
    return distance(at, nearest(at));
  };
  const step = path.length / LOOKS;
  const looks = Array.from({ length: LOOKS + 1 }, (_x, i) => ({ s: i * step, far: far(i * step) }));
  let best = Infinity;
  let at = 0;
  for (const { s } of looks.toSorted((a, b) => a.far - b.far).slice(0, REFINED)) {
    const refined = valley(far, Math.max(0, s - step), Math.min(path.length, s + step), 1e-10 * path.length);
    for (const place of [s, refined]) if (far(place) < best) [best, at] = [far(place), place];
  }
  const from = placeAt(at);
  return { value: best, places: [from, nearest(from)] };
}
