/** Flat faces over loops of points, every point of them used. */
import earcut from 'earcut';
import { loopArea } from '../data/loops';

/** A loop of points, x and y in turn. */
export type Loop = readonly number[];

/** How far points in line are bent inward for the triangulation, as a part of the side they lie on. */
const BUMP = 1e-6;

/**
 * Triangles over the first loop with the others as its holes, by the loops' points one after another. Triangulation
 * leaves out points in line, which would leave gaps where other faces meet there, or makes triangles without area of
 * them: they are bent inward a little while it works, so that no three of them can be a triangle, and stay where they are.
 */
export function facesOver(loops: readonly Loop[], anticlockwise: boolean): number[] {
  const outward = loopArea(loops[0]!) > 0 ? 1 : -1;
  const points = loops.flatMap((loop) => bent(loop, outward));
  const starts: number[] = [];
  let n = loops[0]!.length / 2;
  for (const hole of loops.slice(1)) {
    starts.push(n);
    n += hole.length / 2;
  }
  const faces = earcut(points, starts);
  const want = anticlockwise ? 1 : -1;
  for (let t = 0; t < faces.length; t += 3) {
    const [a, b, c] = [faces[t]!, faces[t + 1]!, faces[t + 2]!];
    const twice =
      (points[2 * b]! - points[2 * a]!) * (points[2 * c + 1]! - points[2 * a + 1]!) -
      (points[2 * b + 1]! - points[2 * a + 1]!) * (points[2 * c]! - points[2 * a]!);
    if (twice * want < 0) [faces[t + 1], faces[t + 2]] = [c, b];
  }
  flipSlivers(loops.flat(), faces);
  return faces;
}

/** Less high than this part of its longest side a triangle is a line: points of two loops that lie in line with each other. */
const SLIVER = 1e-6;

/** Gives the longest side of triangles without area to the other two corners: theirs, and the one across. */
function flipSlivers(points: readonly number[], faces: number[]): void {
  const far = (a: number, b: number) =>
    Math.hypot(points[2 * a]! - points[2 * b]!, points[2 * a + 1]! - points[2 * b + 1]!);
  const height = (a: number, b: number, c: number) =>
    Math.abs(
      (points[2 * b]! - points[2 * a]!) * (points[2 * c + 1]! - points[2 * a + 1]!) -
        (points[2 * b + 1]! - points[2 * a + 1]!) * (points[2 * c]! - points[2 * a]!),
    ) /
    far(a, c) ** 2;
  // Where slivers lie beside each other a flip may make another: so often at most.
  for (let turn = 0; turn < 4; turn++) {
    let flipped = false;
    for (let t = 0; t < faces.length; t += 3) {
      // Turned so that a to c is the longest side, b between them.
      let [a, b, c] = [faces[t]!, faces[t + 1]!, faces[t + 2]!];
      for (let i = 0; i < 2 && !(far(a, c) >= far(a, b) && far(a, c) >= far(b, c)); i++)
        [a, b, c] = [b, c, a];
      if (height(a, b, c) > SLIVER) continue;
      for (let o = 0; o < faces.length; o += 3) {
        const k = [0, 1, 2].find((i) => faces[o + i] === a && faces[o + ((i + 1) % 3)] === c);
        if (k === undefined) continue;
        const d = faces[o + ((k + 2) % 3)]!;
        faces.splice(t, 3, a, b, d);
        faces.splice(o, 3, b, c, d);
        flipped = true;
        break;
      }
    }
    if (!flipped) return;
  }
}

const IN_LINE = 1e-5;

/** The loop with its points in line set on a flat arch, to the left of the way where `outward` is 1. */
function bent(loop: Loop, outward: number): number[] {
  const n = loop.length / 2;
  const at = (i: number, k: 0 | 1) => loop[2 * (((i % n) + n) % n) + k]!;
  const corner = Array.from({ length: n }, (_x, i) => {
    const [ax, ay] = [at(i, 0) - at(i - 1, 0), at(i, 1) - at(i - 1, 1)];
    const [bx, by] = [at(i + 1, 0) - at(i, 0), at(i + 1, 1) - at(i, 1)];
    return Math.abs(ax * by - ay * bx) > IN_LINE * Math.hypot(ax, ay) * Math.hypot(bx, by);
  });
  const out = [...loop];
  const first = corner.indexOf(true);
  if (first < 0) return out;
  for (let i = first; i < first + n;) {
    let j = i + 1;
    while (!corner[j % n]) j++;
    const [dx, dy] = [at(j, 0) - at(i, 0), at(j, 1) - at(i, 1)];
    const long = dx * dx + dy * dy;
    for (let k = i + 1; k < j; k++) {
      const t = ((at(k, 0) - at(i, 0)) * dx + (at(k, 1) - at(i, 1)) * dy) / long;
      const bump = outward * BUMP * t * (1 - t);
      const o = 2 * (k % n);
      out[o] = at(i, 0) + t * dx - bump * dy;
      out[o + 1] = at(i, 1) + t * dy + bump * dx;
    }
    i = j;
  }
  return out;
}
