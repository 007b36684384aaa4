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

/** Where a guide pierces the plane square to a path: from the path to there, and along the guide. */
interface Pierced {
  readonly arm: Vec3;
  readonly way: Vec3;
}

/** Places of a piece that are kept at most. */
const MOST_KNOWN = 10_000;

/** By guide and path: bodies that differ in their sections have it in common. */
const ALONG = new WeakMap<Path, WeakMap<Path, ReturnType<typeof piercing>>>();

/**
 * The guide as it pierces the plane square to the path: where it looks, and how far it stands off.
 * @throws Complaint where there is none, or where it does not pass the path
 */
export function guideAlong(path: Path, guide: Path | undefined): ReturnType<typeof piercing> {
  if (!guide) throw new Complaint('Choose the guide path.', 'guide');
  const ofGuide = ALONG.get(guide) ?? new WeakMap<Path, ReturnType<typeof piercing>>();
  ALONG.set(guide, ofGuide);
  const along = ofGuide.get(path) ?? piercing(path, guide);
  ofGuide.set(path, along);
  return along;
}

function piercing(path: Path, guide: Path) {
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
  /** By piece, what was found: of one place way and size are asked for, by each of several integrals. */
  const known = path.pieces.map(() => new Map<number, Pierced>());
  const pierced = (piece: number, u: number): Pierced => {
    const before = known[piece]!.get(u);
    if (before) return before;
    if (known[piece]!.size > MOST_KNOWN) known[piece]!.clear();
    const found = pierce(piece, u);
    known[piece]!.set(u, found);
    return found;
  };
  const pierce = (piece: number, u: number): Pierced => {
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
      // The step that would follow is about as long as the square of this one.
      const stays = Math.abs(next - q) < 1e-8 * most;
      q = next;
      if (!stays) continue;
      const [left] = over(q);
      if (Math.abs(left) > 1e-6 * guide.length * Math.sqrt(d[3]! ** 2 + d[4]! ** 2 + d[5]! ** 2)) break;
      return { arm: [g[0]! - d[0]!, g[1]! - d[1]!, g[2]! - d[2]!], way: [g[3]!, g[4]!, g[5]!] };
    }
    throw new Complaint(
      words`At ${mm(curve.start + curve.lengthTo(u))} along, the guide does not pass the section: it must reach from one end of the path to the other.`,
      'guide',
    );
  };
  const first = norm(pierced(0, 0).arm);
  if (!(first > 1e-9 * path.length))
    throw new Complaint('The guide begins on the path itself: it must stand off it.', 'guide');
  return {
    axis: (piece: number, u: number): Vec3 => pierced(piece, u).arm,
    /** Its place q goes on so that it stays in the section's plane: (G′q′ − P′)·P′ + (G − P)·P″ = 0. */
    size(piece: number, u: number): { factor: number; rate: number } {
      const { arm, way } = pierced(piece, u);
      path.pieces[piece]!.derive(u, bent);
      const on: Vec3 = [bent[3]!, bent[4]!, bent[5]!];
      const onward = (dot(on, on) - dot(arm, [bent[6]!, bent[7]!, bent[8]!])) / dot(way, on);
      const far = norm(arm);
      return { factor: far / first, rate: (dot(arm, way) * onward) / far ** 2 / norm(on) };
    },
  };
}
