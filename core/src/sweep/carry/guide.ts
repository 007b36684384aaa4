/** A second path as a guide: where the first axis looks, and how large the section is. */
import { type Vec3, dot, norm } from '../../geometry/vector';
import { Complaint, mm, words } from '../../measure/words';
import type { Path } from '../../path/path';

const GUIDE_LOOKS = 64;

/** About where a guide passes the sections of a path: its place (piece and part of it) by the path's, both as parts. */
function guideLies(path: Path, guide: Path): (part: number) => number {
  const [d, g] = [new Float64Array(6), new Float64Array(6)];
  const most = guide.pieces.length;
  const samples = Array.from({ length: GUIDE_LOOKS * most + 1 }, (_x, i) => {
    const k = Math.min(most - 1, Math.floor(i / GUIDE_LOOKS));
    guide.pieces[k]!.first((i / GUIDE_LOOKS - k) * guide.pieces[k]!.span, g);
    return [g[0]!, g[1]!, g[2]!] as Vec3;
  });
  const table = Array.from({ length: GUIDE_LOOKS + 1 }, (_x, i) => {
    const place = (i / GUIDE_LOOKS) * path.pieces.length;
    const k = Math.min(path.pieces.length - 1, Math.floor(place));
    path.pieces[k]!.first((place - k) * path.pieces[k]!.span, d);
    const off = (p: Vec3) => (p[0] - d[0]!) * d[3]! + (p[1] - d[1]!) * d[4]! + (p[2] - d[2]!) * d[5]!;
    // Of the places where it passes, the one that is about as far along.
    const like = (i / GUIDE_LOOKS) * most;
    let best = { q: like, far: Infinity };
    for (let j = 1; j < samples.length; j++) {
      const [a, b] = [off(samples[j - 1]!), off(samples[j]!)];
      if (a * b > 0) continue;
      const q = (j - 1 + (a === b ? 0 : a / (a - b))) / GUIDE_LOOKS;
      const far = Math.abs(q - like);
      if (far < best.far) best = { q, far };
    }
    return best.q;
  });
  return (part) => {
    const at = Math.min(1, Math.max(0, part)) * GUIDE_LOOKS;
    const i = Math.min(GUIDE_LOOKS - 1, Math.floor(at));
    const [a, b] = [table[i]!, table[i + 1]!];
    // Over the seam of a closed guide there is nothing between.
    return Math.abs(b - a) > most / 2 ? a : a + (at - i) * (b - a);
  };
}

/** The guide as it pierces the plane square to the path: where it looks, and how far it stands off. */
export function guideAlong(path: Path, guide: Path | undefined) {
  if (!guide) throw new Complaint('Choose the guide path.', 'guide');
  const d = new Float64Array(6);
  const g = new Float64Array(6);
  const bent = new Float64Array(12);
  const lies = guideLies(path, guide);
  /** How far the guide's place q (piece and part of it) lies ahead of the section's plane, and its rate by q. */
  const over = (q: number): readonly [off: number, rate: number] => {
    const k = Math.min(guide.pieces.length - 1, Math.max(0, Math.floor(q)));
    const { span } = guide.pieces[k]!;
    guide.pieces[k]!.first((q - k) * span, g);
    return [
      (g[0]! - d[0]!) * d[3]! + (g[1]! - d[1]!) * d[4]! + (g[2]! - d[2]!) * d[5]!,
      (g[3]! * d[3]! + g[4]! * d[4]! + g[5]! * d[5]!) * span,
    ];
  };
  const most = guide.pieces.length;
  /** Where it looked last, with `d` and `g` as they are there: way and size of a place are asked for one after the other. */
  let last: { readonly piece: number; readonly u: number; readonly look: Vec3 } | undefined;
  const looks = (piece: number, u: number): Vec3 => {
    if (last?.piece === piece && last.u === u) return last.look;
    last = { piece, u, look: look(piece, u) };
    return last.look;
  };
  const look = (piece: number, u: number): Vec3 => {
    last = undefined;
    const curve = path.pieces[piece]!;
    curve.first(u, d);
    const part = (piece + u / curve.span) / path.pieces.length;
    let q = lies(part);
    for (let i = 0; i < 60; i++) {
      const [off, rate] = over(q);
      if (Math.abs(rate) < 1e-12) break;
      const step = Math.max(-0.1, Math.min(0.1, off / rate));
      let next = q - step;
      if (guide.closed) next = ((next % most) + most) % most;
      else next = Math.max(0, Math.min(most, next));
      const stays = Math.abs(next - q) < 1e-13 * most;
      q = next;
      if (!stays) continue;
      const [left] = over(q);
      if (Math.abs(left) > 1e-6 * guide.length * Math.sqrt(d[3]! ** 2 + d[4]! ** 2 + d[5]! ** 2)) break;
      return [g[0]! - d[0]!, g[1]! - d[1]!, g[2]! - d[2]!];
    }
    throw new Complaint(
      words`At ${mm(curve.start + curve.lengthTo(u))} along, the guide does not pass the section: it must reach from one end of the path to the other.`,
      'guide',
    );
  };
  const first = norm(looks(0, 0));
  if (!(first > 1e-9 * path.length))
    throw new Complaint('The guide begins on the path itself: it must stand off it.', 'guide');
  return {
    axis: looks,
    /** Its place q goes on so that it stays in the section's plane: (G′q′ − P′)·P′ + (G − P)·P″ = 0. */
    size(piece: number, u: number): { factor: number; rate: number } {
      const arm = looks(piece, u);
      const way: Vec3 = [g[3]!, g[4]!, g[5]!];
      path.pieces[piece]!.derive(u, bent);
      const on: Vec3 = [bent[3]!, bent[4]!, bent[5]!];
      const onward = (dot(on, on) - dot(arm, [bent[6]!, bent[7]!, bent[8]!])) / dot(way, on);
      const far = norm(arm);
      return { factor: far / first, rate: (dot(arm, way) * onward) / far ** 2 / norm(on) };
    },
  };
}
