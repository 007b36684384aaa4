/** The ends of a mesh: flat faces, floors of holes, domes. */
import { type Standing, standing } from '../carry/carrier';
import { tangentOf } from '../../path/curve';
import { facesOver } from '../../mesh/build/faces';
import type { Skin } from './rings';
import type { Rim } from './rim';
import type { Target } from './rings';
import type { Swept } from '../carry/swept';

/** How high something round stands on an end, and of how many rings it is. */
interface Rounding {
  readonly height: number;
  readonly rings: number;
}

export interface Cap {
  /** Which way it looks: against the path or along it. */
  readonly side: 1 | -1;
  readonly here: Standing;
  /** Rings it closes. */
  readonly skins: readonly Skin[];
  readonly end: 'first' | 'last';
  /** Triangles, by the rings' own points one after another. */
  readonly faces: readonly number[];
  readonly dome?: Rounding;
  readonly lip?: Rounding;
}

/** The flat faces at the ends, floors of holes that stop before them, and domes. */
export function capsOf(swept: Swept, skins: readonly Skin[], tolerance: number): Cap[] {
  const { path, stand, plain } = swept.carrier;
  const anyAxis = plain && swept.round && !swept.into;
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
    lip = 0,
  ) => {
    const here = standing();
    // For a flat face of a plain round any axis will do: the kept one takes a table of frames to find.
    if (anyAxis && height === 0 && lip === 0) here.n.set(tangentOf(path.pieces[piece]!, u));
    else stand(piece, u, here);
    out.push({
      side,
      here,
      skins: mine,
      end,
      faces: lip
        ? []
        : capFaces(
            mine.map(({ rim }) => rim),
            here,
            side,
          ),
      ...(height > 0 && {
        dome: { height, rings: roundRings(Math.max(height, swept.reach * swept.scale), tolerance) },
      }),
      ...(lip > 0 && { lip: { height: lip, rings: 2 * roundRings(lip, tolerance) } }),
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
    swept.lip,
  );
  for (const hole of holes) {
    // A floor looks into the hole: against the side on which the hole ends.
    if (hole.from > 0 || startDome) face(hole.from, 0, 1, 'first', [hole]);
    if (hole.to < n || endDome) face(hole.to - 1, spanOf(hole.to - 1), -1, 'last', [hole]);
  }
  return out;
}

/** Triangles over contours, the first with the others as its holes, each turned to look to its side. */
export const capFaces = (rims: readonly Rim[], here: Standing, side: 1 | -1): number[] =>
  facesOver(loopsAt(rims, here), side > 0);

/** The rims' own points, x and y in turn, as large as they are there. */
export const loopsAt = (rims: readonly Rim[], { sx, sy, mix }: Standing): number[][] =>
  rims.map((rim) =>
    Array.from(rim.own).flatMap((i) =>
      ([0, 1] as const).map((k) => {
        const mine = rim.at[2 * i + k]!;
        const other = rim.into?.at[2 * i + k] ?? mine;
        return (k ? sy : sx) * (mine + mix * (other - mine));
      }),
    ),
  );

/** Writes a flat face: its rings' own points once more, with the normal of the face. */
export function writeCap(
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
const roundRings = (radius: number, tolerance: number): number =>
  Math.min(60, Math.max(4, Math.ceil((Math.PI / 2) * Math.sqrt(radius / (4 * Math.max(tolerance, 1e-9))))));

/** Vertices and triangles of a dome of so many rings. */
export const domeSize = ({ count, sides }: Rim, rings: number) => ({
  vertices: rings * count + 1,
  triangles: (rings - 1) * sides.length + sides.length / 2,
});

/**
 * Writes a dome: the end's ring drawn in towards the section's middle as the cosine, and out along the path as the
 * sine, of an angle up to a right one. Half an ellipsoid on a round; its volume is ⅔ of face times height.
 */
export function writeDome(
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
