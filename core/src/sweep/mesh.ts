/** From a section carried along a path to triangles. */
import { layPath, sum } from '../path/lay';
import { freeFrames } from '../path/frame';
import { standing, type Standing } from './carrier';
import { planSize, type MeshSize } from './mesh-size';
import { facesOver } from './faces';
import { clipMesh } from './flush';
import type { Rim } from './rim';
import { layPlain, layRing, type Target } from './rings';
import { turnOfRing } from './sew';
import type { Swept } from './swept';

/** Triangles as the stage and the print formats take them; positions in mm, normals of unit length. */
export interface Mesh {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly triangles: Uint32Array;
  /** Chord tolerance it was made with, in mm: more than asked where the limit on triangles bit. */
  readonly tolerance: number;
}

/** One contour along the pieces from `from` to `to`, as rings of corners. */
interface Skin {
  readonly rim: Rim;
  readonly from: number;
  readonly to: number;
  /** First vertex of each of its stretches, and of its rings at both ends. */
  readonly begins: number[];
  first: number;
  last: number;
}

/** Mesh of a swept body within `tolerance` (mm), coarser where more than `most` triangles would be needed. */
export function sweptMesh(swept: Swept, tolerance: number, most: number): Mesh {
  const mesh = meshOfSize(swept, planSize(swept, tolerance, most));
  return swept.planes.reduce((whole, plane) => (plane ? clipMesh(whole, plane) : whole), mesh);
}

export function meshOfSize(swept: Swept, { steps, rims, tolerance }: MeshSize): Mesh {
  const { path } = swept.carrier;
  const stretches = stretchesOf(swept);
  const skins: Skin[] = swept.ranges.map(({ from, to }, i) => ({
    rim: rims[i]!,
    from,
    to,
    begins: [],
    first: 0,
    last: 0,
  }));
  const caps = path.closed ? [] : capsOf(swept, skins, tolerance);
  let vertices = 0;
  let triangles = 0;
  for (const skin of skins)
    for (const [from, to] of stretches) {
      const gaps = gapsIn(skin, from, to, steps);
      skin.begins.push(vertices);
      if (!gaps) continue;
      vertices += (gaps + 1) * skin.rim.count;
      triangles += gaps * skin.rim.sides.length;
    }
  const domes = caps.map(({ dome, skins: [skin] }) => (dome ? domeSize(skin!.rim, dome.rings) : undefined));
  caps.forEach(({ skins: all, faces }, i) => {
    const dome = domes[i];
    vertices += dome ? dome.vertices : all.reduce((n, { rim }) => n + rim.own.length, 0);
    triangles += dome ? dome.triangles : faces.length / 3;
  });
  const target: Target = {
    positions: new Float32Array(3 * vertices),
    normals: new Float32Array(3 * vertices),
  };
  const index = new Uint32Array(3 * triangles);
  let entry = 0;

  if (swept.carrier.plain) {
    const laid = layPath(path, steps);
    const frames = swept.round ? freeFrames(laid, swept.first) : exactFrames(swept, steps);
    for (const skin of skins) {
      const begin = sum(steps.slice(0, skin.from));
      const gaps = sum(steps.slice(skin.from, skin.to));
      layPlain(laid, frames, begin, gaps + 1, skin.rim, target, skin.begins[0]!);
    }
  } else layStretches(swept, stretches, steps, skins, target);
  for (const skin of skins) {
    stretches.forEach(([from, to], k) => {
      const gaps = gapsIn(skin, from, to, steps);
      if (!gaps) return;
      joinRings(skin.begins[k]!, gaps, skin.rim, index, entry);
      entry += 3 * gaps * skin.rim.sides.length;
    });
    const used = stretches.map(([from, to]) => gapsIn(skin, from, to, steps));
    const firstUsed = used.findIndex((gaps) => gaps > 0);
    const lastUsed = used.findLastIndex((gaps) => gaps > 0);
    skin.first = skin.begins[firstUsed]!;
    skin.last = skin.begins[lastUsed]! + used[lastUsed]! * skin.rim.count;
    sewStretches(skin, used, target.positions);
    if (path.closed) sewClosed(skin, swept.carrier.shift, target.positions);
  }

  let v = skins.reduce(
    (n, skin) =>
      n +
      stretches.reduce((k, [from, to]) => k + ringCount(gapsIn(skin, from, to, steps)) * skin.rim.count, 0),
    0,
  );
  caps.forEach((cap, i) => {
    const dome = domes[i];
    if (dome && cap.dome) {
      entry = layDome(swept, cap, target, v, index, entry);
      v += dome.vertices;
    } else {
      entry = layCap(cap, target, v, index, entry);
      v += cap.skins.reduce((n, { rim }) => n + rim.own.length, 0);
    }
  });
  return { ...target, triangles: index, tolerance };
}

const ringCount = (gaps: number): number => (gaps ? gaps + 1 : 0);

/** Steps of a skin on the pieces of a stretch. */
const gapsIn = ({ from, to }: Skin, a: number, b: number, steps: readonly number[]): number =>
  sum(steps.slice(Math.max(a, from), Math.max(Math.max(a, from), Math.min(b, to))));

/** Runs of pieces over whose joints the surface goes on smoothly, as [from, to). */
function stretchesOf({ carrier, ranges }: Swept): [number, number][] {
  const { path } = carrier;
  const n = path.pieces.length;
  if (carrier.plain && ranges.every(({ from, to }) => from === 0 && to === n)) return [[0, n]];
  if (carrier.plain) return [[0, n]];
  const [a, b] = [standing(), standing()];
  const out: [number, number][] = [[0, n]];
  for (let k = 1; k < n; k++) {
    carrier.stand(k - 1, path.pieces[k - 1]!.span, a);
    carrier.stand(k, 0, b);
    const near = (x: number, y: number, per: number) => Math.abs(x - y) * per < 1e-4;
    const size = 1 / (Math.abs(a.jx) + Math.abs(a.jy) + 1 / path.length);
    const smooth =
      near(a.gx, b.gx, size) &&
      near(a.gy, b.gy, size) &&
      near(a.turn, b.turn, size) &&
      near(a.dmix, b.dmix, size) &&
      [0, 1, 2].every((i) => near(a.n[i]!, b.n[i]!, 1)) &&
      near(a.lx, b.lx, 1) &&
      near(a.ly, b.ly, 1);
    if (smooth) continue;
    out.at(-1)![1] = k;
    out.push([k, n]);
  }
  return out;
}

/** First axis at every station, as exact as the carrier knows it. */
function exactFrames({ carrier }: Swept, steps: readonly number[]): Float64Array {
  const out = new Float64Array(3 * (sum(steps) + 1));
  const here = standing();
  let at = 0;
  carrier.path.pieces.forEach((piece, k) => {
    const n = steps[k]!;
    const last = k === steps.length - 1;
    for (let i = 0; i < (last ? n + 1 : n); i++, at += 3) {
      carrier.stand(k, i === n ? piece.span : (piece.span * i) / n, here);
      out.set(here.u, at);
    }
  });
  return out;
}

function layStretches(
  { carrier }: Swept,
  stretches: readonly [number, number][],
  steps: readonly number[],
  skins: readonly Skin[],
  target: Target,
): void {
  const here = standing();
  const ring = skins.map(() => 0);
  stretches.forEach(([from, to], which) => {
    skins.forEach((skin, i) => (ring[i] = skin.begins[which]!));
    for (let k = from; k < to; k++) {
      const { span } = carrier.path.pieces[k]!;
      const n = steps[k]!;
      for (let i = 0; i <= n; i++) {
        // A joint inside a stretch is laid once, as the next piece's first.
        if (i === n && k + 1 < to && skins.every((skin) => skin.to !== k + 1)) break;
        carrier.stand(k, i === n ? span : (span * i) / n, here);
        skins.forEach((skin, s) => {
          if (k < skin.from || k >= skin.to) return;
          if (i === n && k + 1 < Math.min(to, skin.to)) return;
          layRing(here, skin.rim, target, ring[s]!);
          ring[s]! += skin.rim.count;
        });
      }
    }
  });
}

/** Joins rings: quads, whose diagonals lean opposite ways like the squares of a chessboard. */
export function joinRings(
  begin: number,
  gaps: number,
  { count, sides }: Rim,
  triangles: Uint32Array,
  k: number,
): void {
  const n = sides.length;
  for (let i = 0; i < gaps; i++) {
    const near = begin + i * count;
    const far = near + count;
    for (let e = 0; e < n; e += 2) {
      const a = sides[e]!;
      const b = sides[e + 1]!;
      const odd = ((e >> 1) + i) & 1;
      triangles[k] = near + a;
      triangles[k + 1] = near + b;
      triangles[k + 2] = odd ? far + a : far + b;
      triangles[k + 3] = odd ? near + b : near + a;
      triangles[k + 4] = far + b;
      triangles[k + 5] = far + a;
      k += 6;
    }
  }
}

/** Where one stretch ends and the next begins, both rings stand in the very same place. */
function sewStretches({ begins, rim }: Skin, gaps: readonly number[], p: Float32Array): void {
  for (let k = 1; k < begins.length; k++)
    if (gaps[k] && gaps[k - 1]) {
      const end = begins[k - 1]! + gaps[k - 1]! * rim.count;
      p.copyWithin(3 * begins[k]!, 3 * end, 3 * (end + rim.count));
    }
}

/** The last ring of a closed body is its first, begun at another of its points where it has turned. */
function sewClosed({ first, last, rim }: Skin, shift: number, p: Float32Array): void {
  const begin = turnOfRing(rim, shift);
  for (let j = 0; j < rim.count; j++) {
    const from = 3 * (first + ((begin + j) % rim.count));
    p.copyWithin(3 * (last + j), from, from + 3);
  }
}

interface Cap {
  /** Which way it looks: against the path or along it. */
  readonly side: 1 | -1;
  readonly here: Standing;
  /** Rings it closes. */
  readonly skins: readonly Skin[];
  readonly end: 'first' | 'last';
  /** Triangles, by the rings' own points one after another. */
  readonly faces: readonly number[];
  readonly dome?: { readonly height: number; readonly rings: number };
}

/** The flat faces at the ends, floors of holes that stop before them, and domes. */
function capsOf(swept: Swept, skins: readonly Skin[], tolerance: number): Cap[] {
  const { path, stand } = swept.carrier;
  const n = path.pieces.length;
  const out: Cap[] = [];
  const outer = skins[0]!;
  const face = (
    piece: number,
    u: number,
    side: 1 | -1,
    end: Cap['end'],
    mine: readonly Skin[],
    height = 0,
  ) => {
    const here = standing();
    stand(piece, u, here);
    out.push({
      side,
      here,
      skins: mine,
      end,
      faces: capFaces(
        mine.map(({ rim }) => rim),
        here,
        side,
      ),
      ...(height > 0 && {
        dome: { height, rings: domeRings(Math.max(height, swept.section.reach * swept.scale), tolerance) },
      }),
    });
  };
  const holes = skins.slice(1);
  const spanOf = (k: number) => path.pieces[k]!.span;
  const [startDome, endDome] = swept.domes;
  face(
    0,
    0,
    -1,
    'first',
    startDome ? [outer] : [outer, ...holes.filter(({ from }) => from === 0)],
    startDome,
  );
  face(
    n - 1,
    spanOf(n - 1),
    1,
    'last',
    endDome ? [outer] : [outer, ...holes.filter(({ to }) => to === n)],
    endDome,
  );
  for (const hole of holes) {
    // A floor looks into the hole: against the side on which the hole ends.
    if (hole.from > 0 || startDome) face(hole.from, 0, 1, 'first', [hole]);
    if (hole.to < n || endDome) face(hole.to - 1, spanOf(hole.to - 1), -1, 'last', [hole]);
  }
  return out;
}

/** Triangles over contours, the first with the others as its holes; each turned to look to its side. */
export function capFaces(rims: readonly Rim[], { sx, sy, mix }: Standing, side: 1 | -1): number[] {
  const loops = rims.map((rim) =>
    Array.from(rim.own).flatMap((i) =>
      ([0, 1] as const).map((k) => {
        const mine = rim.at[2 * i + k]!;
        const other = rim.into?.at[2 * i + k] ?? mine;
        return (k ? sy : sx) * (mine + mix * (other - mine));
      }),
    ),
  );
  return facesOver(loops, side > 0);
}

/** Writes a flat face: its rings' own points once more, with the normal of the face. */
function layCap(
  { side, here, skins, end, faces }: Cap,
  target: Target,
  v: number,
  index: Uint32Array,
  entry: number,
) {
  const { positions: p, normals } = target;
  let at = v;
  for (const skin of skins)
    for (const i of skin.rim.own) {
      const from = 3 * (skin[end] + i);
      p.copyWithin(3 * at, from, from + 3);
      for (let k = 0; k < 3; k++) normals[3 * at + k] = side * here.n[k]!;
      at++;
    }
  for (const corner of faces) index[entry++] = v + corner;
  return entry;
}

/** Rings of a quarter round of that radius, half of the tolerance being its chord height. */
const domeRings = (radius: number, tolerance: number): number =>
  Math.min(60, Math.max(4, Math.ceil((Math.PI / 2) * Math.sqrt(radius / (4 * Math.max(tolerance, 1e-9))))));
const domeSize = ({ count, sides }: Rim, rings: number) => ({
  vertices: rings * count + 1,
  triangles: (rings - 1) * sides.length + sides.length / 2,
});

/**
 * Writes a dome: the end's ring drawn in towards the section's middle as the cosine, and out along the path as the
 * sine, of an angle up to a right one. Half an ellipsoid on a round; its volume is ⅔ of face times height.
 */
function layDome(
  swept: Swept,
  cap: Cap,
  target: Target,
  v: number,
  index: Uint32Array,
  entry: number,
): number {
  const { positions: p, normals } = target;
  const { here, side, end } = cap;
  const { rings, height } = cap.dome!;
  const [skin] = cap.skins as [Skin];
  const { count, sides, way } = skin.rim;
  const [gx, gy] = swept.middle(here.mix);
  const middle = [0, 1, 2].map((k) => here.c[k]! + here.sx * gx * here.u[k]! + here.sy * gy * here.w[k]!);
  const ring = skin[end];
  for (let i = 0; i < rings; i++) {
    const phi = (i * Math.PI) / 2 / rings;
    const [c, s] = [Math.cos(phi), Math.sin(phi)];
    for (let j = 0; j < count; j++) {
      const o = 3 * (v + i * count + j);
      const t = [0, 1, 2].map(
        (k) => here.sx * way[2 * j]! * here.u[k]! + here.sy * way[2 * j + 1]! * here.w[k]!,
      );
      const r = [0, 1, 2].map((k) => p[3 * (ring + j) + k]! - middle[k]!);
      const up = [0, 1, 2].map((k) => side * height * c * here.n[k]! - s * r[k]!);
      const m = [
        t[1]! * up[2]! - t[2]! * up[1]!,
        t[2]! * up[0]! - t[0]! * up[2]!,
        t[0]! * up[1]! - t[1]! * up[0]!,
      ];
      const size = side * Math.hypot(m[0]!, m[1]!, m[2]!) || 1;
      for (let k = 0; k < 3; k++) {
        p[o + k] = i === 0 ? p[3 * (ring + j) + k]! : middle[k]! + c * r[k]! + side * s * height * here.n[k]!;
        normals[o + k] = m[k]! / size;
      }
    }
  }
  const pole = v + rings * count;
  for (let k = 0; k < 3; k++) {
    p[3 * pole + k] = middle[k]! + side * height * here.n[k]!;
    normals[3 * pole + k] = side * here.n[k]!;
  }
  const put = (a: number, b: number, c: number) => {
    index[entry++] = a;
    index[entry++] = side > 0 ? b : c;
    index[entry++] = side > 0 ? c : b;
  };
  for (let i = 0; i < rings; i++)
    for (let e = 0; e < sides.length; e += 2) {
      const [a, b] = [v + i * count + sides[e]!, v + i * count + sides[e + 1]!];
      if (i === rings - 1) put(a, b, pole);
      else {
        put(a, b, b + count);
        put(a, b + count, a + count);
      }
    }
  return entry;
}

/** Several meshes as one, as coarse as the coarsest; they share no corners. */
export function joinMeshes(meshes: readonly Mesh[]): Mesh {
  if (meshes.length === 1) return meshes[0]!;
  const total = (of: 'positions' | 'triangles') => meshes.reduce((n, mesh) => n + mesh[of].length, 0);
  const positions = new Float32Array(total('positions'));
  const normals = new Float32Array(total('positions'));
  const triangles = new Uint32Array(total('triangles'));
  let vertex = 0;
  let k = 0;
  for (const mesh of meshes) {
    positions.set(mesh.positions, vertex);
    normals.set(mesh.normals, vertex);
    for (const corner of mesh.triangles) triangles[k++] = corner + vertex / 3;
    vertex += mesh.positions.length;
  }
  return { positions, normals, triangles, tolerance: Math.max(...meshes.map((mesh) => mesh.tolerance)) };
}
