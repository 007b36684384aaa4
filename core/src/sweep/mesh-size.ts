/** How finely a swept body is meshed: stations along its path, points round its section. */
import { planSteps, sum } from '../path/lay';
import { changesOf, type Change } from './changes';
import { rimBetween, rimOf, type Rim } from './rim';
import type { Swept } from './swept';

export interface MeshSize {
  /** Steps along each piece of the path. */
  readonly steps: readonly number[];
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
  for (let coarser = 1; ; coarser *= 1.25) {
    const half = (tolerance * coarser) / 2;
    // Where sides are not flat either, some of it is theirs.
    const each = warp > 0 ? SHARED * half : half;
    const angle = Math.min(STEEPEST_OF_ALL, STEEPEST * Math.max(1, coarser / 8));
    // A side of length w whose ends rise apart by β·w a millimetre of path is a saddle: over a step ds it stands off by β·ds·w/4.
    const saddle = warp > 0 ? Math.sqrt((4 * half) / warp) : Infinity;
    const size = {
      chord: Math.min(each, ROOM * Math.max(room, LEAST_ROOM * swept.reach)) / swept.scale,
      step: saddle,
    };
    const rims = swept.pairs
      ? swept.pairs.map((pairs) => rimBetween(pairs, size))
      : swept.section.contours.map((contour) => rimOf(contour, size));
    const longest = Math.max(...rims.map(longestSide));
    const plain = planSteps(path, { angle, chord: each, reach: swept.reach * swept.scale });
    const steps = plain.map((own, k) => stepsOn(changes[k]!, path.pieces[k]!, { own, each, angle, longest }));
    const triangles = rims.reduce((n, rim) => n + sum(steps) * rim.sides.length, 0);
    if (triangles <= most || coarser > 1e5) return { steps, rims, tolerance: 2 * half };
  }
}

/**
 * A polygon of the section's area stands out at its corners by half of its greatest chord height: where a bend leaves
 * little room within itself, by no more than half of that.
 */
const ROOM = 1;
/** Part of the tolerance left to either of path and section where sides warp. */
const SHARED = 0.92;
/** Less room than this part of the section is as good as none. */
const LEAST_ROOM = 1e-3;

function stepsOn(
  { turn, growth, bow, warp, reach }: Change,
  { length }: { readonly length: number },
  { own, each, angle, longest }: { own: number; each: number; angle: number; longest: number },
): number {
  // A step ds of a long side stands off by its bow, bow·ds²/8, and by its warp, warp·w·ds/4: both of them together.
  const [a, b] = [bow / 8, (warp * longest) / 4];
  const long = a > 0 ? (Math.sqrt(b * b + 8 * a * each) - b) / (2 * a) : (2 * each) / b;
  return Math.max(
    own,
    Math.ceil((length * turn) / angle),
    Math.ceil(length * Math.sqrt(a / each) - 1e-9),
    b > 0 ? Math.ceil(length / long) : 1,
    Math.ceil((length * Math.min(growth, 1)) / Math.max(reach, length / 64)),
  );
}

function longestSide({ at, into, sides }: Rim): number {
  let longest = 0;
  for (const points of into ? [at, into.at] : [at])
    for (let e = 0; e < sides.length; e += 2) {
      const [a, b] = [2 * sides[e]!, 2 * sides[e + 1]!];
      longest = Math.max(longest, Math.hypot(points[a]! - points[b]!, points[a + 1]! - points[b + 1]!));
    }
  return longest;
}
