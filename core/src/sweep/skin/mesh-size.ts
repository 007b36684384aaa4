/** How finely a swept body is meshed: stations along its path, points round its section. */
import { planIntervals, sum } from '../../path/sample';
import { changesOf, type Change } from '../carry/changes';
import type { Section } from '../../section/section';
import { rimBetween, rimOf, type Rim } from './rim';
import type { Swept } from '../carry/swept';

export interface MeshSize {
  /** Steps along each piece of the path. */
  readonly intervals: readonly number[];
  /** The contours of the section, laid. */
  readonly rims: readonly Rim[];
  readonly tolerance: number;
}

/** No step turns further than this, so that shading stays smooth on coarse meshes: 18°. */
const STEEPEST = Math.PI / 10;
/** Where the limit on triangles bites hard it may turn up to 60°. */
const STEEPEST_OF_ALL = Math.PI / 3;

/**
 * How finely to mesh: half of `tolerance` (mm) for the chord height along the path, half for that of the section, and
 * for sides that are not flat; coarser where that would make more than `most` triangles.
 */
export function planSize(swept: Swept, tolerance: number, most: number): MeshSize {
  const { path } = swept.carrier;
  const changes = changesOf(swept);
  const warp = Math.max(...changes.map((change) => change.warp));
  const room = Math.min(...changes.map((change) => change.room));
  // Chords of outline and hole stand off towards each other by one and a half times this: they must not meet.
  const wall = Math.min(swept.section.wall ?? Infinity, swept.into?.wall ?? Infinity);
  for (let coarser = 1; ; coarser *= 1.25) {
    const half = (tolerance * coarser) / 2;
    // Where sides are not flat either, some of it is theirs.
    const each = warp > 0 ? SHARED * half : half;
    const angle = Math.min(STEEPEST_OF_ALL, STEEPEST * Math.max(1, coarser / 8));
    // A side of length w whose ends rise apart by β·w a millimetre of path is a saddle: over a step ds it stands off by β·ds·w/4.
    const saddle = warp > 0 ? Math.sqrt((4 * half) / warp) : Infinity;
    const size = {
      chord: Math.min(
        each / swept.scale,
        (ROOM * Math.max(room, LEAST_ROOM * swept.reach)) / swept.scale,
        wall / 2,
      ),
      step: saddle,
      ...(path.closed && !swept.round && { multiple: timesOf(swept.section) }),
    };
    const rims = swept.pairs
      ? swept.pairs.map((pairs) => rimBetween(pairs, size))
      : swept.section.contours.map((contour) => rimOf(contour, size));
    const longest = longestSides(rims);
    const plain = planIntervals(path, { angle, chord: each, reach: swept.reach * swept.scale });
    const intervals = plain.map((own, k) =>
      stepsOn(changes[k]!, path.pieces[k]!, { own, half, each, angle, longest }),
    );
    const triangles = rims.reduce((n, rim) => n + sum(intervals) * rim.sides.length, 0);
    if (triangles <= most || coarser > 1e5) return { intervals, rims, tolerance: 2 * half };
  }
}

/** How often a section that has turned along a closed path may come to stand on itself; a round drawn out, turned by half. */
const timesOf = ({ symmetry }: Section): number => (Number.isFinite(symmetry) ? symmetry : 2);

/**
 * A polygon of the section's area stands out at its corners by half of its greatest chord height: where a bend leaves
 * little room within itself, by no more than half of that.
 */
const ROOM = 1;
/** Part of the tolerance left to either of path and section where sides warp. */
const SHARED = 0.85;
/** Part of the tolerance that all together may take there. */
const FILLED = 0.93;
/** Less room than this part of the section is as good as none. */
const LEAST_ROOM = 1e-3;

function stepsOn(
  { turn, growth, bow, warp, reach }: Change,
  { length }: { readonly length: number },
  {
    own,
    half,
    each,
    angle,
    longest,
  }: { own: number; half: number; each: number; angle: number; longest: Sides },
): number {
  // A step ds of a side of length w stands off by its bow, bow·ds²/8, and by its warp, warp·w·ds/4, both together; beside
  // that a bent side by its own chord height.
  const step = (w: number, room: number): number => {
    const [a, b] = [bow / 8, (warp * w) / 4];
    return (2 * room) / (b + Math.sqrt(b * b + 4 * a * room));
  };
  const [flat, bent] = [step(longest.flat, FILLED * 2 * half), step(longest.bent, FILLED * 2 * half - each)];
  return Math.max(
    own,
    Math.ceil((length * turn) / angle),
    Math.ceil(length * Math.sqrt(bow / (8 * each)) - 1e-9),
    warp > 0 ? Math.ceil(length / Math.min(flat, bent)) : 1,
    Math.ceil((length * Math.min(growth, 1)) / Math.max(reach, length / 64)),
  );
}

/** Longest sides of rims, mm: straight ones, and chords of bends. */
interface Sides {
  readonly flat: number;
  readonly bent: number;
}

function longestSides(rims: readonly Rim[]): Sides {
  let [flat, bent] = [0, 0];
  for (const rim of rims) {
    const { sides } = rim;
    const both = rim.into ? [rim, rim.into] : [rim];
    for (let e = 0; e < sides.length; e += 2) {
      const [a, b] = [2 * sides[e]!, 2 * sides[e + 1]!];
      let long = 0;
      let straight = true;
      for (const { at, way } of both) {
        long = Math.max(long, Math.hypot(at[a]! - at[b]!, at[a + 1]! - at[b + 1]!));
        const [ax, ay, bx, by] = [way[a]!, way[a + 1]!, way[b]!, way[b + 1]!];
        if (Math.abs(ax * by - ay * bx) > 1e-6 * Math.hypot(ax, ay) * Math.hypot(bx, by)) straight = false;
      }
      if (straight) flat = Math.max(flat, long);
      else bent = Math.max(bent, long);
    }
  }
  return { flat, bent };
}
