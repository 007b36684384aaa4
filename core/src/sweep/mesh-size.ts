/** How finely a swept body is meshed: stations along its path, points round its section. */
import { planSteps, sum } from '../path/lay';
import { standing } from './carrier';
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
const LOOKS = 7;

/** What changes of the section on one piece, at its most: a millimetre of path. */
interface Change {
  /** Turn beside the path's own, rad. */
  readonly turn: number;
  /** Growth of the outermost point, and change of that. */
  readonly growth: number;
  readonly swell: number;
  /** Greatest distance of the section from the path, mm. */
  readonly reach: number;
}

/**
 * How finely to mesh: half of `tolerance` (mm) for the chord height of the outermost fibre along the
 * path, half for that of the section; coarser where that would make more than `most` triangles.
 */
export function planSize(swept: Swept, tolerance: number, most: number): MeshSize {
  const { path } = swept.carrier;
  const changes = changesOf(swept);
  const turn = Math.max(...changes.map((change) => change.turn));
  for (let coarser = 1; ; coarser *= 1.25) {
    const half = (tolerance * coarser) / 2;
    const angle = Math.min(STEEPEST_OF_ALL, STEEPEST * Math.max(1, coarser / 8));
    // A side of length w that turns by ω a millimetre is a saddle: over a step ds it stands off by ω·ds·w/4.
    const saddle = turn > 0 && !swept.round ? Math.sqrt((4 * half) / turn) : Infinity;
    const rims = swept.pairs
      ? swept.pairs.map((pairs) => rimBetween(pairs, { chord: half, step: saddle }))
      : swept.section.contours.map((contour) => rimOf(contour, { chord: half / swept.scale, step: saddle }));
    const longest = Math.max(...rims.map(longestSide)) * swept.scale;
    const reach = Math.max(...changes.map((change) => change.reach));
    const plain = planSteps(path, { angle, chord: half, reach });
    const steps = plain.map((own, k) => {
      const { turn: omega, growth, swell, reach: far } = changes[k]!;
      const { length } = path.pieces[k]!;
      return Math.max(
        own,
        Math.ceil((length * omega) / angle),
        Math.ceil(length * Math.sqrt((far * omega * omega + swell) / (8 * half))),
        omega > 0 ? Math.ceil((length * omega * longest) / (4 * half)) : 1,
        Math.ceil((length * Math.min(growth, 1)) / Math.max(far, length / 64)),
      );
    });
    const triangles = rims.reduce((n, rim) => n + sum(steps) * rim.sides.length, 0);
    if (triangles <= most || coarser > 1e5) return { steps, rims, tolerance: 2 * half };
  }
}

function longestSide({ at, sides }: Rim): number {
  let longest = 0;
  for (let e = 0; e < sides.length; e += 2) {
    const [a, b] = [2 * sides[e]!, 2 * sides[e + 1]!];
    longest = Math.max(longest, Math.hypot(at[a]! - at[b]!, at[a + 1]! - at[b + 1]!));
  }
  return longest;
}

function changesOf({ carrier, reach: widest, round }: Swept): Change[] {
  const { path, plain, stand } = carrier;
  if (plain) return path.pieces.map(() => ({ turn: 0, growth: 0, swell: 0, reach: widest }));
  const here = standing();
  return path.pieces.map((piece) => {
    const k = path.pieces.indexOf(piece);
    let [turn, growth, swell, reach, last] = [0, 0, 0, 0, NaN];
    for (let i = 0; i < LOOKS; i++) {
      stand(k, (piece.span * (i + 0.5)) / LOOKS, here);
      const far = widest * Math.max(here.sx, here.sy);
      const grows =
        widest * Math.max(Math.abs(here.gx * here.sx), Math.abs(here.gy * here.sy)) +
        widest * Math.abs(here.dmix);
      if (!round) turn = Math.max(turn, Math.abs(here.turn));
      growth = Math.max(growth, grows);
      reach = Math.max(reach, far);
      if (i > 0) swell = Math.max(swell, Math.abs(grows - last) / (piece.length / LOOKS));
      last = grows;
    }
    return { turn, growth, swell, reach };
  });
}
