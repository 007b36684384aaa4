/** A swept body cut in lengths that do not overlap themselves: what the mesh kernel makes one clean solid of. */
import { Complaint } from '../../measure/words';
import { sum } from '../../path/sample';
import { isConvex, polygonOf } from '../../section/polygon-of';
import { standing, type Standing } from '../carry/carrier';
import { capFaces, loopsAt } from './caps';
import { convexParts } from '../../mesh/build/convex-parts';
import { facesOver } from '../../mesh/build/faces';
import { joinRings } from './mesh';
import { type Triangles } from '../../mesh/data/mesh';
import type { MeshSize } from './mesh-size';
import type { Rim } from './rim';
import { writeRing } from './rings';
import type { Swept } from '../carry/swept';
import { seatsOf } from './sew';

/** No length of more than two steps turns further than this, so that it cannot come back to itself: a third of a turn. */
const MOST_TURN = (2 * Math.PI) / 3;

/** A ring of corners for every contour, at one station. */
interface Station {
  readonly here: Standing;
  readonly positions: readonly Float32Array[];
}

export interface Slices {
  /** Closed meshes, with flat ends. */
  readonly lengths: readonly Triangles[];
  /** Points, xyz each, whose convex hulls are the rest: where the section folds over itself, and domes. */
  readonly hulls: readonly Float32Array[];
}

/**
 * Lengths of the body, each reaching over the next by one station: together they are all of it. Where the section
 * folds over itself its convex parts, each from one station to the next. @throws Complaint over domes of a section
 * that is not full and convex
 */
export function slicesOf(swept: Swept, size: MeshSize): Slices {
  const stations = stationsOf(swept, size);
  const { rims } = size;
  const { path, shift } = swept.carrier;
  if (path.closed) {
    // The last station is the first: its corners in the same places, and one more in front, so that both ends meet.
    const last = stations.length - 1;
    const seats = seatsOf(rims, shift);
    const [first, before] = [stations[0]!, stations[last - 1]!];
    stations[last] = {
      here: stations[last]!.here,
      positions: seats.map(({ rim, begin }, i) => turned(first.positions[rim]!, rims[i]!, begin)),
    };
    const ahead: Float32Array[] = [];
    seats.forEach(({ rim, begin }, i) => (ahead[rim] = turned(before.positions[i]!, rims[i]!, -begin)));
    stations.unshift({ here: before.here, positions: ahead });
  }
  const folded = foldsOf(swept, stations);
  const hollow = hollowOf(swept, size);
  const hulls: Float32Array[] = [];
  const lengths: Triangles[] = [];
  const last = stations.length - 1;
  const partsAt = partsBy(swept, rims);
  // A wall fills what a bore that reaches into it would take away, so that bores reach over and walls do not.
  const mayReach = (gap: number, from: number) => gap >= 0 && gap < last && (hollow[from]! || !hollow[gap]!);
  let from = 0;
  while (from < last) {
    if (folded[from]) {
      // From one station to the next, and a little over both, so that nothing only touches.
      const begins = !folded[from - 1] && mayReach(from - 1, from) ? from - 1 : from;
      const ends = mayReach(from + 1, from) ? from + 2 : from + 1;
      const there = stations.slice(begins, ends + 1);
      for (const part of partsAt(stations[from]!.here, hollow[from]!)) hulls.push(pointsOf(there, part));
      from++;
      continue;
    }
    let to = from + 1;
    let turn = 0;
    while (to < last && !folded[to] && hollow[to] === hollow[from]) {
      turn += angleBetween(stations[to - 1]!.here.n, stations[to]!.here.n);
      // Of two steps at the least, so that one of them can be reached over.
      if (turn > MOST_TURN && to > from + 1) break;
      to++;
    }
    const another = to < last && hollow[to] !== hollow[from];
    const begins = from > 0 && hollow[from] && !hollow[from - 1] ? from - 1 : from;
    const ends = another && hollow[from] ? to + 1 : to;
    // Where two reach over each other their triangles are the same, to the last digit.
    lengths.push(lengthOf(stations.slice(begins, ends + 1), hollow[from] ? rims : rims.slice(0, 1), begins));
    // A length ended by a fold or by a wall goes on beyond it; any other is reached over by one station.
    from = to >= last || folded[to] || another ? to : to - 1;
  }
  if (swept.domes.some((height) => height > 0) && !isSimple(swept))
    throw new Complaint('Under domes only a full convex section can be made one clean solid.');
  if (swept.lip)
    throw new Complaint('Under a rounded rim it cannot be made one clean solid: leave the rim sharp.');
  swept.domes.forEach((height, i) => {
    if (height) hulls.push(domePoints(swept, stations, rims[0]!, i ? 'end' : 'start', height));
  });
  return { lengths, hulls };
}

/** Whether the section has its holes between each station and the next: walls close them. */
function hollowOf({ carrier, ranges }: Swept, { intervals }: MeshSize): boolean[] {
  const holes = ranges.slice(1);
  const out = intervals.flatMap((n, k) =>
    Array.from({ length: n }, () => holes.some(({ from, to }) => k >= from && k < to)),
  );
  return carrier.path.closed ? [out.at(-1)!, ...out] : out;
}

/** A point of a rim: which rim, and which of its points. */
type OnRim = readonly [rim: number, point: number];
const ownOf = (rims: readonly Rim[]): OnRim[] =>
  rims.flatMap((rim, i) => Array.from(rim.own, (v): OnRim => [i, v]));

/** The convex parts of the section's face at a place, hollow or not. */
function partsBy({ into }: Swept, rims: readonly Rim[]): (here: Standing, hollow: boolean) => OnRim[][] {
  const known = new Map<boolean, OnRim[][]>();
  return (here, hollow) => {
    let found = into ? undefined : known.get(hollow);
    if (found) return found;
    const there = hollow ? rims : rims.slice(0, 1);
    const loops = loopsAt(there, here);
    const own = ownOf(there);
    found = convexParts(facesOver(loops, true), loops.flat()).map((part) => part.map((i) => own[i]!));
    known.set(hollow, found);
    return found;
  };
}

/** Whether the section is full and turns to no other side. */
const isSimple = ({ section, into }: Pick<Swept, 'section' | 'into'>): boolean =>
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

/** Points of a part of the section at each of these stations. */
function pointsOf(stations: readonly Station[], part: readonly OnRim[]): Float32Array {
  const out = new Float32Array(3 * stations.length * part.length);
  let at = 0;
  for (const { positions } of stations)
    for (const [i, v] of part) for (let k = 0; k < 3; k++) out[at++] = positions[i]![3 * v + k]!;
  return out;
}

const DOME_RINGS = 16;

/** A dome and the last step before it. */
function domePoints(
  swept: Swept,
  stations: readonly Station[],
  rim: Rim,
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
  return pointsOf([before, ...rings], ownOf([rim]));
}

function stationsOf({ carrier }: Swept, { intervals, rims }: MeshSize): Station[] {
  const out: Station[] = [];
  carrier.path.pieces.forEach((piece, k) => {
    const n = intervals[k]!;
    for (let i = out.length ? 1 : 0; i <= n; i++) {
      const here = standing();
      carrier.stand(k, i === n ? piece.span : (piece.span * i) / n, here);
      out.push({ here, positions: rims.map((rim) => ringAt(here, rim)) });
    }
  });
  if (out.length !== sum(intervals) + 1) throw new Error('stations lost');
  return out;
}

function ringAt(here: Standing, rim: Rim): Float32Array {
  const target = { positions: new Float32Array(3 * rim.count), normals: new Float32Array(3 * rim.count) };
  writeRing(here, rim, target, 0);
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

function lengthOf(stations: readonly Station[], rims: readonly Rim[], phase: number): Triangles {
  const gaps = stations.length - 1;
  const counts = rims.map(({ count }) => count);
  const begins = counts.map((_count, i) => stations.length * sum(counts.slice(0, i)));
  const positions = new Float32Array(3 * stations.length * sum(counts));
  stations.forEach((station, s) => {
    rims.forEach((_rim, i) => positions.set(station.positions[i]!, 3 * (begins[i]! + s * counts[i]!)));
  });
  const sides = rims.reduce((n, rim) => n + rim.sides.length, 0);
  const caps = ([-1, 1] as const).map((side) =>
    capFaces(rims, stations[side < 0 ? 0 : gaps]!.here, side),
  ) as [number[], number[]];
  const triangles = new Uint32Array(3 * gaps * sides + caps[0].length + caps[1].length);
  let entry = 0;
  rims.forEach((rim, i) => {
    joinRings(begins[i]!, gaps, rim, triangles, entry, phase);
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
