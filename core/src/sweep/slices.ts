/** A swept body cut in lengths that do not overlap themselves: what the mesh kernel makes one clean solid of. */
import { Complaint } from '../measure/words';
import { sum } from '../path/lay';
import { isConvex, polygonOf } from '../section/polygon-of';
import { standing, type Standing } from './carrier';
import { capFaces } from './caps';
import { joinRings, type Mesh } from './mesh';
import type { MeshSize } from './mesh-size';
import type { Rim } from './rim';
import { layRing } from './rings';
import type { Swept } from './swept';
import { turnOfRing } from './sew';

/** No length turns further than this, so that it cannot come back to itself: a third of a turn. */
const MOST_TURN = (2 * Math.PI) / 3;

/** A ring of corners for every contour, at one station. */
interface Station {
  readonly here: Standing;
  readonly positions: readonly Float32Array[];
}

export interface Slices {
  /** Closed meshes, with flat ends. */
  readonly lengths: readonly Pick<Mesh, 'positions' | 'triangles'>[];
  /** Points, xyz each, whose convex hulls are the rest: where the section folds over itself, and domes. */
  readonly hulls: readonly Float32Array[];
}

/**
 * Lengths of the body, each reaching over the next by one station: together they are all of it. Of a convex section
 * also where it folds over itself, and its domes. @throws Complaint where it is not convex and does so
 */
export function slicesOf(swept: Swept, size: MeshSize): Slices {
  const stations = stationsOf(swept, size);
  const { rims } = size;
  const { path, shift } = swept.carrier;
  if (path.closed) {
    // The last station is the first: its corners in the same places, and one more in front, so that both ends meet.
    const last = stations.length - 1;
    const orders = rims.map((rim) => turnOfRing(rim, shift));
    const ahead = (station: Station, way: 1 | -1): Station => ({
      here: station.here,
      positions: station.positions.map((ring, i) => turned(ring, rims[i]!, way * orders[i]!)),
    });
    stations[last] = { here: stations[last]!.here, positions: ahead(stations[0]!, 1).positions };
    stations.unshift(ahead(stations[last - 1]!, -1));
  }
  const folded = foldsOf(swept, stations);
  const hulls: Float32Array[] = [];
  const lengths: Pick<Mesh, 'positions' | 'triangles'>[] = [];
  const last = stations.length - 1;
  let from = 0;
  while (from < last) {
    if (folded[from]) {
      // From one station to the next, and a little over both, so that nothing only touches.
      const begins = folded[from - 1] ? from : Math.max(0, from - 1);
      hulls.push(pointsOf(stations.slice(begins, Math.min(last, from + 2) + 1)));
      from++;
      continue;
    }
    let to = from + 1;
    let turn = 0;
    while (to < last && !folded[to]) {
      turn += angleBetween(stations[to - 1]!.here.n, stations[to]!.here.n);
      if (turn > MOST_TURN) break;
      to++;
    }
    lengths.push(lengthOf(stations.slice(from, to + 1), rims));
    // A length ended by a fold goes on beyond it; any other is reached over by one station.
    from = to >= last || folded[to] ? to : to - 1;
  }
  swept.domes.forEach((height, i) => {
    if (height) hulls.push(domePoints(swept, stations, i ? 'end' : 'start', height));
  });
  if (hulls.length && !isSimple(swept))
    throw new Complaint(
      'Where a section folds over itself, and under domes, only a full convex section can be made one clean solid.',
    );
  return { lengths, hulls };
}

/** Whether the section is full and turns to no other side: hulls of it hold nothing that it does not. */
export const isSimple = ({ section, into }: Pick<Swept, 'section' | 'into'>): boolean =>
  [section, ...(into ? [into] : [])].every(
    ({ contours, reach }) => contours.length === 1 && isConvex(polygonOf(contours[0]!, reach * 1e-3)),
  );

/** Whether the section folds over itself between each station and the next. */
function foldsOf({ section, into }: Swept, stations: readonly Station[]): boolean[] {
  const outlines = [section, ...(into ? [into] : [])].map(({ contours, reach }) =>
    polygonOf(contours[0]!, reach * 1e-3),
  );
  const folds = stations.map(({ here }) => {
    const [ax, ay] = [here.sx * (here.jx + here.dlx), here.sy * (here.jy + here.dly)];
    return outlines.some((points) => {
      for (let i = 0; i < points.length; i += 2)
        if (here.cn + points[i]! * ax + points[i + 1]! * ay <= 1e-6) return true;
      return false;
    });
  });
  return stations.slice(1).map((_station, i) => folds[i]! || folds[i + 1]!);
}

function pointsOf(stations: readonly Station[]): Float32Array {
  const rings = stations.flatMap(({ positions }) => positions);
  const out = new Float32Array(rings.reduce((n, ring) => n + ring.length, 0));
  let at = 0;
  for (const ring of rings) {
    out.set(ring, at);
    at += ring.length;
  }
  return out;
}

const DOME_RINGS = 16;

/** A dome and the last step before it. */
function domePoints(
  swept: Swept,
  stations: readonly Station[],
  which: 'start' | 'end',
  height: number,
): Float32Array {
  const [end, before] = which === 'end' ? [stations.at(-1)!, stations.at(-2)!] : [stations[0]!, stations[1]!];
  const { here, positions } = end;
  const [x, y] = swept.middle(here.mix);
  const out = which === 'end' ? 1 : -1;
  const middle = [0, 1, 2].map((k) => here.c[k]! + here.sx * x * here.u[k]! + here.sy * y * here.w[k]!);
  const rings = Array.from({ length: DOME_RINGS + 1 }, (_x, i): Station => {
    const phi = (i * Math.PI) / 2 / DOME_RINGS;
    const [c, s] = [Math.cos(phi), Math.sin(phi)];
    return {
      here,
      positions: positions.map((ring) =>
        ring.map((p, j) => {
          const k = j % 3;
          return middle[k]! + c * (p - middle[k]!) + out * s * height * here.n[k]!;
        }),
      ),
    };
  });
  return pointsOf([before, ...rings]);
}

function stationsOf({ carrier }: Swept, { steps, rims }: MeshSize): Station[] {
  const out: Station[] = [];
  carrier.path.pieces.forEach((piece, k) => {
    const n = steps[k]!;
    for (let i = out.length ? 1 : 0; i <= n; i++) {
      const here = standing();
      carrier.stand(k, i === n ? piece.span : (piece.span * i) / n, here);
      out.push({ here, positions: rims.map((rim) => ringAt(here, rim)) });
    }
  });
  if (out.length !== sum(steps) + 1) throw new Error('stations lost');
  return out;
}

function ringAt(here: Standing, rim: Rim): Float32Array {
  const target = { positions: new Float32Array(3 * rim.count), normals: new Float32Array(3 * rim.count) };
  layRing(here, rim, target, 0);
  return target.positions;
}

/** A ring begun at another of its corners. */
function turned(ring: Float32Array, { count }: Rim, by: number): Float32Array {
  const out = new Float32Array(ring.length);
  for (let j = 0; j < count; j++) {
    const from = (((j + by) % count) + count) % count;
    for (let k = 0; k < 3; k++) out[3 * j + k] = ring[3 * from + k]!;
  }
  return out;
}

const angleBetween = (a: Float64Array, b: Float64Array): number =>
  2 * Math.asin(Math.min(1, Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!) / 2));

function lengthOf(stations: readonly Station[], rims: readonly Rim[]): Pick<Mesh, 'positions' | 'triangles'> {
  const gaps = stations.length - 1;
  const counts = rims.map(({ count }) => count);
  const begins = counts.map((_count, i) => stations.length * sum(counts.slice(0, i)));
  const positions = new Float32Array(3 * stations.length * sum(counts));
  stations.forEach((station, s) => {
    station.positions.forEach((ring, i) => positions.set(ring, 3 * (begins[i]! + s * counts[i]!)));
  });
  const sides = rims.reduce((n, rim) => n + rim.sides.length, 0);
  const caps = ([-1, 1] as const).map((side) =>
    capFaces(rims, stations[side < 0 ? 0 : gaps]!.here, side),
  ) as [number[], number[]];
  const triangles = new Uint32Array(3 * gaps * sides + caps[0].length + caps[1].length);
  let entry = 0;
  rims.forEach((rim, i) => {
    joinRings(begins[i]!, gaps, rim, triangles, entry);
    entry += 3 * gaps * rim.sides.length;
  });
  // Corners of the faces, by the rings' own points one after another.
  const corners = (station: number) =>
    rims.flatMap((rim, i) => Array.from(rim.own, (v) => begins[i]! + station * rim.count + v));
  caps.forEach((faces, which) => {
    const own = corners(which ? gaps : 0);
    for (const corner of faces) triangles[entry++] = own[corner]!;
  });
  return { positions, triangles };
}
