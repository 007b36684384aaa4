/** Where two paths come closest to each other, near places on them. */
import type { Task } from '../geometry/task';
import { type Vec3, vec3 } from '../geometry/vector';
import type { Path, Spot } from '../path/path';

export interface Closest {
  /** Between the two points, mm; where it is least it is level, and known to the last digits. */
  readonly distance: number;
  /** Half-way between them. */
  readonly place: Vec3;
}

/** Steps at most, and one that is too short to be worth it, as a part of the path. */
const MOST = 60;
const TINY = 1e-10;
/** How much a step is held back at first where it led to no shorter distance, and after another; where it is given up. */
const HELD = 1e-3;
const HARDER = 10;
const GIVEN_UP = 1e9;

/**
 * The least distance of two paths near places on them: by Newton's steps in both parameters, each held back until it leads
 * to a shorter distance (K. Levenberg, Q. Appl. Math. 2, 1944), and from the end of a piece on to the next.
 */
export function* closestNear(one: Path, other: Path, from: Spot, to: Spot): Task<Closest> {
  const [a, b] = [walking(one, from), walking(other, to)];
  const between = () => vec3([0, 1, 2].map((i) => a.d[i]! - b.d[i]!));
  const square = () => {
    const [x, y, z] = between();
    return x * x + y * y + z * z;
  };
  const tiny = (TINY * one.length) ** 2;
  let least = square();
  let held = 0;
  for (let step = 0; step < MOST && held < GIVEN_UP; step++) {
    yield;
    const r = between();
    const [freeA, freeB] = [goesOn(a, r, 1), goesOn(b, r, -1)];
    // Slopes of half the square, and its second derivatives.
    const [slopeA, slopeB] = [along(r, a.d, 3), -along(r, b.d, 3)];
    const [speedA, speedB] = [squareOf(a.d), squareOf(b.d)];
    const aa = speedA + along(r, a.d, 6) + held * speedA;
    const bb = speedB - along(r, b.d, 6) + held * speedB;
    const ab = freeA && freeB ? -(a.d[3]! * b.d[3]! + a.d[4]! * b.d[4]! + a.d[5]! * b.d[5]!) : 0;
    const size = aa * bb - ab * ab;
    const isValley = size > 0 && aa > 0;
    const [stepA, stepB] = isValley
      ? [freeA ? (ab * slopeB - bb * slopeA) / size : 0, freeB ? (ab * slopeA - aa * slopeB) / size : 0]
      : [0, 0];
    const [wasA, wasB] = [a.u, b.u];
    put(a, a.u + stepA);
    put(b, b.u + stepB);
    const next = square();
    const isShorter = next < least;
    if (isShorter) {
      least = next;
      held = held > HELD ? held / HARDER : 0;
    } else {
      put(a, wasA);
      put(b, wasB);
      held = Math.max(HELD, HARDER * held);
    }
    if (isValley && stepA * stepA * speedA + stepB * stepB * speedB <= tiny) break;
  }
  return {
    distance: Math.sqrt(least),
    place: vec3([0, 1, 2].map((i) => (a.d[i]! + b.d[i]!) / 2)),
  };
}

/** What walks along a path: where it is, and position, first and second derivative there. */
interface Walking {
  readonly path: Path;
  k: number;
  u: number;
  readonly d: Float64Array;
}

function walking(path: Path, { k, u }: Spot): Walking {
  const at = { path, k, u, d: new Float64Array(12) };
  put(at, u);
  return at;
}

/** Puts it elsewhere on its piece, no further than to the end. */
function put(at: Walking, u: number): void {
  const piece = at.path.pieces[at.k]!;
  at.u = Math.min(piece.span, Math.max(0, u));
  (piece.second ?? piece.derive).call(piece, at.u, at.d);
}

/**
 * Whether it can go on downhill from where it is; from the end of a piece on the one beside, on which it is put then.
 * `sign` tells whether the line between the two leads to it or from it.
 */
function goesOn(at: Walking, between: Vec3, sign: 1 | -1): boolean {
  const { path, k, u, d } = at;
  const { pieces } = path;
  const way = sign * along(between, d, 3) > 0 ? -1 : 1;
  if (way > 0 ? u < pieces[k]!.span : u > 0) return true;
  const last = pieces.length - 1;
  const isLast = k === (way > 0 ? last : 0);
  if (isLast && !path.closed) return false;
  at.k = isLast ? last - k : k + way;
  put(at, way > 0 ? 0 : pieces[at.k]!.span);
  if (way * sign * along(between, d, 3) < 0) return true;
  // Round a corner it goes up again.
  at.k = k;
  put(at, u);
  return false;
}

const along = ([x, y, z]: Vec3, d: Float64Array, from: number): number =>
  x * d[from]! + y * d[from + 1]! + z * d[from + 2]!;
const squareOf = (d: Float64Array): number => d[3]! * d[3]! + d[4]! * d[4]! + d[5]! * d[5]!;
