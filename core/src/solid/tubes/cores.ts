/** Whether a straight core can be pulled out of the bore of a tube, and by which end. */
import type { Task } from '../../geometry/task';
import { add, cross, scale, squareTo, type Vec3 } from '../../geometry/vector';
import type { Triangles } from '../../mesh/data/mesh';
import { rayHits } from '../../mesh/query/ray';
import { moved, scaleOf } from '../../geometry/motion';
import { boreReach, depthIn, mouthsOf, type Tube } from './tubes';
import { sectionStands } from '../../sweep/carry/stands';

/** What becomes of the core of a tube. */
export type Core =
  /** It comes out by these ends. */
  | { readonly ends: readonly ('start' | 'end')[] }
  /** It is held: by a bend, by what is narrower towards each open end, because no end is open, or by what is in front of them. The place. */
  | { readonly held: 'bend' | 'narrow' | 'inside' | 'outside'; readonly place: Vec3; readonly s?: number };

/** Places along a bore that are looked at. */
const LOOKS = 64;
/** Sizes that differ by less than this part are the same; curvatures below this part of one over the length are straight. */
const SAME = 1e-9;
const STRAIGHT = 1e-6;

/** The core of a tube among all that are joined; undefined where it has no bore, or closes on itself. */
export function coreOf(tube: Tube, all: readonly Tube[]): Core | undefined {
  const mouths = mouthsOf(tube);
  if (!tube.swept || !mouths) return undefined;
  const { swept, map } = tube;
  const { path } = swept.carrier;
  const { curvature, at } = path.tightest;
  const bent = path.corners[0] ?? (curvature * path.length > STRAIGHT ? at : undefined);
  if (bent !== undefined) return { held: 'bend', place: moved(map, path.at(bent).position), s: bent };
  // An end that lies in another tube leads nowhere a core could go.
  const others = all.filter((one) => one !== tube);
  const open = mouths.map(({ at }) => !others.some((one) => depthIn(one, at, 'outside') > 0));
  if (!open.some(Boolean)) return { held: 'inside', place: mouths[0].at };
  const [before, after] = [endSizes(tube, 0), endSizes(tube, 1)];
  const along = Array.from({ length: LOOKS + 1 }, (_x, i) => sizesAt(tube, (i / LOOKS) * path.length));
  const sizes = [...before.toReversed(), ...along, ...after];
  const rises = (from: number, to: number) =>
    sizes[to]!.some((size, k) => size < sizes[from]![k]! * (1 - SAME));
  const ends = (['start', 'end'] as const).filter((_end, e) => {
    if (!open[e]) return false;
    // On its way out it must nowhere grow narrower.
    return sizes.every((_size, i) => i === 0 || !(e ? rises(i - 1, i) : rises(i, i - 1)));
  });
  if (ends.length) return { ends };
  const narrow = sizes.findIndex((_size, i) => i > 0 && (rises(i - 1, i) || rises(i, i - 1)));
  const s = (Math.min(LOOKS, Math.max(0, narrow - before.length)) / LOOKS) * path.length;
  return { held: 'narrow', place: moved(map, path.at(s).position), s };
}

/** Sizes of a bore two ways, as parts of what its section says. */
type Size = readonly [number, number];

/** Outward along what has been made of its start (0) or its end (1). */
function endSizes({ swept, map, ends }: Tube, end: 0 | 1): Size[] {
  const reach = boreReach(swept!.section) * (scaleOf(map) ?? 1);
  return (ends?.[end]?.bore ?? []).map((radius) => [radius / reach, radius / reach]);
}

/** Places of the bore that are looked from on its way out: so many round it, at these parts of its radius; and its middle. */
const ROUND = 12;
const RADII = [0, 0.5, 0.98] as const;
/** They begin so far out of the mouth, as a part of the bore. */
const OUT = 1e-3;

/** What of it still comes out when the whole of what is joined, as a closed mesh, may stand in its way before the mouths. */
export function* coreAmong(core: Core, tube: Tube, whole: Triangles): Task<Core> {
  if (!('ends' in core)) return core;
  const places: (Vec3 | undefined)[] = [];
  for (const end of core.ends) places.push(yield* placeBefore(tube, end, whole));
  const ends = core.ends.filter((_end, i) => !places[i]);
  return ends.length ? { ends } : { held: 'outside', place: places[0]! };
}

/** The nearest place before a mouth that a core as long as the tube would meet on its way straight out. */
function* placeBefore(tube: Tube, end: 'start' | 'end', whole: Triangles): Task<Vec3 | undefined> {
  const { at, out, reach } = mouthsOf(tube)![end === 'start' ? 0 : 1];
  const long = tube.swept!.carrier.path.length * (scaleOf(tube.map) ?? 1);
  const ex = squareTo(out);
  const ey = cross(out, ex);
  let nearest: { readonly far: number; readonly place: Vec3 } | undefined;
  for (const part of RADII)
    for (let i = 0; i < (part ? ROUND : 1); i++) {
      yield;
      const angle = (2 * Math.PI * i) / ROUND;
      const aside = add(scale(ex, Math.cos(angle)), scale(ey, Math.sin(angle)));
      const from = add(add(at, scale(aside, part * reach)), scale(out, OUT * reach));
      const far = rayHits(whole, from, out).find((hit) => hit > 0 && hit < long);
      if (far !== undefined && !(nearest && nearest.far <= far))
        nearest = { far, place: add(from, scale(out, far)) };
    }
  return nearest?.place;
}

function sizesAt({ swept }: Tube, s: number): Size {
  const { ex, ey } = sectionStands(swept!, s);
  return [Math.hypot(...ex), Math.hypot(...ey)];
}
