/** Stations along a path: close enough in turn and chord height, corners and joints always hit. */
import { highest, valley } from '../geometry/numeric';
import { add, scale, type Vec3 } from '../geometry/vector';
import { sampleDense, worthDense } from './dense';
import { putStation, type Stations } from './laid';
import { pointOn, type Path } from './path';

/** Room for so many stations. */
export const stations = (count: number): Stations => ({
  positions: new Float64Array(3 * (count + 1)),
  tangents: new Float64Array(3 * (count + 1)),
});

/** How close stations stand. Lengths in mm, angle in rad. */
export interface Closeness {
  /** Greatest turn of the tangent from one to the next. */
  readonly angle: number;
  /** Greatest height of the path's arc over its chord, at the distance `reach` outside it. */
  readonly chord?: number;
  readonly reach?: number;
  /** Greatest distance from one to the next, roughly. */
  readonly step?: number;
}

/** Steps on each piece of a path, each even in the piece's own parameter. */
export function planIntervals(path: Path, { angle, chord, reach = 0, step = Infinity }: Closeness): number[] {
  return path.pieces.map(({ span, length, rate, sag }) => {
    const turns = (span * rate) / angle;
    // Chord height of a step du: (κv² + reach·(κv)²)·du²/8.
    const high = chord ? span * Math.sqrt((sag + reach * rate * rate) / (8 * chord)) : 0;
    return Math.max(1, Math.ceil(Math.max(turns, high, length / step) - 1e-9));
  });
}

/** The sum of some numbers. */
export const sum = (steps: readonly number[]): number => steps.reduce((total, n) => total + n, 0);

/** About `count` steps in all, shared out by turn and length; for drawing and charts. */
export function planAbout(path: Path, count: number): number[] {
  return path.pieces.map(({ length, turning }) =>
    Math.max(
      1,
      Math.round((count * (length / path.length + (path.turning ? turning / path.turning : 0))) / 2),
    ),
  );
}

/** Lays stations: `sum(steps)` + 1 of them. */
export function samplePath(path: Path, steps: readonly number[]): Stations {
  const out = stations(sum(steps));
  const d = new Float64Array(6);
  let at = 0;
  path.pieces.forEach((piece, i) => {
    const count = steps[i]!;
    if (piece.sample) piece.sample(count, out.positions, out.tangents, at);
    else if (worthDense(piece, count)) sampleDense(piece, count, out, at);
    else sampleEvenly(piece.first, piece.span, count, out, at, d);
    at += count;
  });
  return out;
}

function sampleEvenly(
  first: (u: number, out: Float64Array) => void,
  span: number,
  count: number,
  out: Stations,
  at: number,
  d: Float64Array,
): void {
  for (let i = 0, o = 3 * at; i <= count; i++, o += 3) {
    first(i === count ? span : (span * i) / count, d);
    putStation(out, o, d);
  }
}

/** Length along the path of station i of those planned. */
export function stationLength(path: Path, steps: readonly number[], i: number): number {
  let rest = i;
  for (const [k, piece] of path.pieces.entries()) {
    if (rest <= steps[k]!) return piece.start + (rest ? piece.lengthTo((piece.span * rest) / steps[k]!) : 0);
    rest -= steps[k]!;
  }
  return path.length;
}

/**
 * Extent of a pipe of radius r (0: of the path itself) with flat ends: at each station the disk square to
 * the tangent reaches p_i ± r·√(1 − t_i²) along axis i; the greatest, refined between its neighbours.
 */
export function pathExtent(path: Path, r: number): readonly [least: Vec3, most: Vec3] {
  const steps = planIntervals(path, { angle: 0.13 });
  const { positions: p, tangents: t } = samplePath(path, steps);
  const d = new Float64Array(6);
  const reaches = new Float64Array(p.length / 3);
  const far = (axis: 0 | 1 | 2, side: 1 | -1): number => {
    const short = (first: Path['pieces'][number]['first'], u: number): number => {
      first(u, d);
      const square = d[3]! * d[3]! + d[4]! * d[4]! + d[5]! * d[5]!;
      return -side * d[axis]! - r * Math.sqrt(Math.max(0, 1 - (d[3 + axis]! * d[3 + axis]!) / square));
    };
    for (let i = 0, o = axis; o < p.length; i++, o += 3) {
      const lean = t[o]!;
      reaches[i] = side * p[o]! + r * Math.sqrt(Math.max(0, 1 - lean * lean));
    }
    const refined = (i: number): number => {
      let found = -Infinity;
      let before = 0;
      path.pieces.forEach(({ first, span }, k) => {
        const n = steps[k]!;
        const at = i - before;
        before += n;
        // A station at a joint belongs to both.
        if (at < 0 || at > n) return;
        const [from, to] = [(span * Math.max(0, at - 1)) / n, (span * Math.min(n, at + 1)) / n];
        // A valley's floor is flat: its depth is right to the square of this.
        const place = valley((u) => short(first, u), from, to, 1e-5 * (to - from));
        found = Math.max(found, -short(first, place));
      });
      return found;
    };
    return side * highest({ samples: reaches, exactly: (i) => reaches[i]!, refined });
  };
  return [
    [far(0, -1), far(1, -1), far(2, -1)],
    [far(0, 1), far(1, 1), far(2, 1)],
  ];
}

/** Middle of a closed path or a coil, of anything else the middle of its extent; and the direction that goes with it. */
export function centreOf(path: Path): { readonly position: Vec3; readonly direction: Vec3 } {
  if (path.coil) {
    const { foot, axis, shape } = path.coil;
    return { position: add(foot, scale(axis, shape.height / 2)), direction: axis };
  }
  const [low, high] = pathExtent(path, 0);
  const { tangent, normal } = pointOn(path.pieces[0]!, 0);
  return {
    position: scale(add(low, high), 0.5),
    direction: [
      tangent[1] * normal[2] - tangent[2] * normal[1],
      tangent[2] * normal[0] - tangent[0] * normal[2],
      tangent[0] * normal[1] - tangent[1] * normal[0],
    ],
  };
}
