/** A swept body cut in lengths that do not overlap themselves: what the mesh kernel makes one clean solid of. */
import { sum } from '../path/lay';
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

/**
 * Closed meshes of lengths of the body, each reaching over the next by one station: together they are all of it.
 * Ends are flat.
 */
export function slicesOf(swept: Swept, size: MeshSize): Pick<Mesh, 'positions' | 'triangles'>[] {
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
  const out: Pick<Mesh, 'positions' | 'triangles'>[] = [];
  let from = 0;
  while (from < stations.length - 1) {
    let to = from + 1;
    let turn = 0;
    while (to < stations.length - 1) {
      turn += angleBetween(stations[to - 1]!.here.n, stations[to]!.here.n);
      if (turn > MOST_TURN) break;
      to++;
    }
    out.push(lengthOf(stations.slice(from, to + 1), rims));
    if (to >= stations.length - 1) break;
    from = to - 1;
  }
  return out;
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
