/** What must hold of any path, whatever its kind: checked by differences and by a quadrature of its own. */
import { expect } from 'chai';
import { cross, distance, dot, norm, scale, sub, type Vec3 } from '../src/geometry/vector';
import { samplePath, planIntervals, stationLength, sum } from '../src/path/sample';
import type { Path } from '../src/path/path';

const at = (d: Float64Array, order: number): Vec3 => [d[3 * order]!, d[3 * order + 1]!, d[3 * order + 2]!];
const angleBetween = (a: Vec3, b: Vec3): number => Math.atan2(norm(cross(a, b)), dot(a, b));

/** Length of a piece by Simpson's rule on its speed, refined until it settles; knows nothing of Gauss panels. */
export function simpson(speed: (u: number) => number, span: number): number {
  let last = NaN;
  for (let n = 64; n <= 1 << 13; n *= 2) {
    let total = speed(0) + speed(span);
    for (let i = 1; i < n; i++) total += (i % 2 ? 4 : 2) * speed((span * i) / n);
    const value = (total * span) / n / 3;
    if (Math.abs(value - last) <= 2e-11 * value) return value;
    last = value;
  }
  return last;
}

/** Length by chords between even places, extrapolated: from points alone. */
export function byChords(path: Path): number {
  const chords = (n: number) => {
    let sum = 0;
    for (const { start, length } of path.pieces)
      for (let i = 0; i < n; i++)
        sum += distance(
          path.at(start + (length * i) / n).position,
          path.at(start + (length * (i + 1)) / n).position,
        );
    return sum;
  };
  const n = Math.ceil(4000 / path.pieces.length);
  const [coarse, fine] = [chords(n), chords(2 * n)];
  return fine + (fine - coarse) / 3;
}

export interface Sound {
  /** Second derivatives are continuous where pieces meet, corners apart. */
  readonly curvatureContinuous?: boolean;
  /** How exact its derivatives are; winding differences some. */
  readonly thirdTo?: number;
}

/** @throws when a path is not what it says. */
export function expectSound(path: Path, { curvatureContinuous, thirdTo = 2e-4 }: Sound = {}): void {
  const d = new Float64Array(12);
  const e = new Float64Array(12);
  const f = new Float64Array(12);
  const size = path.length;
  let length = 0;
  for (const piece of path.pieces) {
    const { span, samplingHint = 1 } = piece;
    length += simpson((u) => {
      piece.first(u, d);
      return Math.hypot(d[3]!, d[4]!, d[5]!);
    }, span);
    // Of a bend of a thousandth of a degree differences are all rounding.
    if (piece.length < 1e-2) continue;
    const h = (1e-5 * span) / samplingHint;
    for (const part of [0.13, 0.5, 0.77]) {
      const u = part * span;
      piece.derive(u, d);
      piece.first(u, e);
      const speed = norm(at(d, 1));
      expect(distance(at(d, 0), at(e, 0)), 'first and derive agree in place').below(1e-10 * size);
      expect(distance(at(d, 1), at(e, 1)), 'and in the first derivative').below(1e-9 * speed);
      piece.derive(u - h, e);
      piece.derive(u + h, f);
      const difference = (order: number) => scale(sub(at(f, order), at(e, order)), 1 / (2 * h));
      const scaleOf = (order: number) =>
        [0, 1, 2, 3]
          .slice(order)
          .reduce((total, k) => total + norm(at(d, k)) * (span / samplingHint) ** (k - order), 0) +
        (speed * samplingHint ** (order - 1)) / span ** (order - 1);
      for (const order of [0, 1] as const)
        expect(distance(difference(order), at(d, order + 1)), `derivative ${order + 1} is the slope`).below(
          3e-7 * scaleOf(order + 1),
        );
      expect(distance(difference(2), at(d, 3)), 'derivative 3 is the slope').below(thirdTo * scaleOf(3));
    }
  }
  expect(path.length, 'length').closeTo(length, 1e-9 * length);

  const ends = path.pieces.map((piece) => {
    piece.derive(0, d);
    piece.derive(piece.span, e);
    return { from: d.slice(), to: e.slice() };
  });
  const joints = path.closed ? ends.length : ends.length - 1;
  for (let i = 0; i < joints; i++) {
    const [a, b] = [ends[i]!.to, ends[(i + 1) % ends.length]!.from];
    const s = path.pieces[(i + 1) % ends.length]!.start;
    expect(distance(at(a, 0), at(b, 0)), `joined at ${s}`).below(1e-8 * size);
    const corner = path.corners.some((one) => Math.abs(one - s) < 1e-9 * size);
    const bend = angleBetween(at(a, 1), at(b, 1));
    if (corner) expect(bend, `corner at ${s}`).above(1e-7);
    else {
      expect(bend, `no kink at ${s}`).below(2e-6);
      if (curvatureContinuous) {
        const k = (x: Float64Array) => scale(cross(at(x, 1), at(x, 2)), 1 / norm(at(x, 1)) ** 3);
        expect(distance(k(a), k(b)), `curvature at ${s}`).below(1e-5 * (path.tightest.curvature + 1 / size));
      }
    }
  }

  const steps = planIntervals(path, { angle: 0.3, step: size / 20 });
  const laid = samplePath(path, steps);
  const total = sum(steps);
  for (const i of [0, 1, Math.floor(total / 3), Math.floor(total * 0.8), total]) {
    const s = stationLength(path, steps, i);
    const point = path.at(s);
    expect(distance(at(laid.positions, i), point.position), 'stations stand on the path').below(1e-9 * size);
    const corner = path.corners.some((one) => Math.abs(one - s) < 1e-6 * size);
    if (!corner) expect(distance(at(laid.tangents, i), point.tangent)).below(1e-7);
    expect(Math.abs(norm(point.tangent) - 1)).below(1e-12);
    expect(Math.abs(dot(point.tangent, point.normal))).below(1e-9);
  }
  for (const value of [path.turning, path.tightest.curvature]) expect(Number.isFinite(value)).equal(true);
  expect(path.tightest.at).within(0, path.length * (1 + 1e-12));
}
