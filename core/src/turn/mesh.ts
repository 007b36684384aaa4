/** From a section turned about an axis to triangles. */
import type { Task } from '../geometry/task';
import { facesOver } from '../mesh/build/faces';
import { FRESH } from '../mesh/data/memory';
import type { Mesh } from '../mesh/data/mesh';
import { Row } from '../mesh/data/growing-row';
import { rimOf, type Rim, type Ring } from '../sweep/skin/rim';
import type { Turned } from './turned';

/** No step round the axis turns further than this, so that shading stays smooth on coarse meshes: 18°. */
const STEEPEST = Math.PI / 10;
/** Whole rounds reach as far to all four sides. */
const QUARTERS = 4;
/** Points nearer to the axis than this part of the section lie on it. */
const ON_AXIS = 1e-9;

/** Mesh of a turned body within `tolerance` (mm), coarser where more than `most` triangles would be needed. */
export function* turnedMesh(turned: Turned, tolerance: number, most: number, memory = FRESH): Task<Mesh> {
  yield;
  const { section, round } = turned;
  for (let coarser = 1; ; coarser *= 1.25) {
    const half = (tolerance * coarser) / 2;
    const rims = section.contours.map((contour) =>
      rimOf(contour, { chord: half, step: Infinity, inscribed: true }),
    );
    const ring = ringOf(turned, half / section.box.right);
    const faces = round.closed ? 0 : 2;
    const triangles = rims.reduce((n, rim) => n + (rim.sides.length * ring.sides.length) / 2, 0);
    if (triangles > most && coarser < 1e5) continue;
    yield;
    const tooth = ON_AXIS * section.reach;
    return { ...written(rims, ring, faces, tooth, memory), tolerance: 2 * half };
  }
}

/** Points of the round; of a part of a turn they lie as far out as keeps the volume. */
function ringOf({ round, arc }: Turned, chord: number): Ring {
  const step = STEEPEST;
  if (round.closed)
    return rimOf(round, { chord, step: arc ? step : Infinity, ...(arc && { multiple: QUARTERS }) });
  const { from, by } = arc!;
  // The sector of the polygon has the area of the arc’s: chords stand off on both sides, in all by (1 − cos(δ/2)).
  const n = Math.max(1, Math.ceil(by / Math.min(step, 2 * Math.acos(Math.max(0, 1 - 1.5 * chord)))));
  const far = Math.sqrt(by / n / Math.sin(by / n));
  const count = n + 1;
  const at = new Float64Array(2 * count);
  const way = new Float64Array(2 * count);
  for (let i = 0; i < count; i++) {
    const angle = from + (by * i) / n;
    at.set([far * Math.cos(angle), far * Math.sin(angle)], 2 * i);
    way.set([-Math.sin(angle), Math.cos(angle)], 2 * i);
  }
  return {
    at,
    way,
    count,
    sides: Uint32Array.from({ length: 2 * n }, (_x, i) => (i + 1) >> 1),
    own: Uint32Array.from({ length: count }, (_x, i) => i),
  };
}

/** Every point of the section at every place of the round, the quads between them, and the faces at both ends of a part of a turn. */
function written(rims: readonly Rim[], ring: Ring, faces: number, tooth: number, memory = FRESH) {
  const corners = rims.reduce((n, rim) => n + rim.count, 0);
  const ends = rims.reduce((n, rim) => n + rim.own.length, 0);
  const positions = memory.floats(3 * (corners * ring.count + faces * ends));
  const normals = memory.floats(positions.length);
  const index = new Row(rims.reduce((n, { sides }) => n + (3 * sides.length * ring.sides.length) / 2, 0));
  let v = 0;
  for (const rim of rims) {
    const onAxis = (i: number) => Math.abs(rim.at[2 * i]!) <= tooth;
    writeSkin(rim, ring, onAxis, { positions, normals }, v);
    joinSkin(rim, ring, onAxis, v, index);
    v += rim.count * ring.count;
  }
  if (faces) {
    const loops = rims.map((rim) => [...rim.own].flatMap((i) => [rim.at[2 * i]!, rim.at[2 * i + 1]!]));
    for (const end of [0, 1] as const) {
      const begin = v;
      const j = end ? ring.count - 1 : 0;
      let skin = 0;
      for (const rim of rims) {
        for (const i of rim.own) {
          const from = 3 * (skin + j * rim.count + i);
          positions.copyWithin(3 * v, from, from + 3);
          const out = end ? 1 : -1;
          normals.set([out * ring.way[2 * j]!, out * ring.way[2 * j + 1]!, 0], 3 * v);
          v++;
        }
        skin += rim.count * ring.count;
      }
      for (const corner of facesOver(loops, end === 0)) index.push(begin + corner);
    }
  }
  const triangles = memory.indices(index.size);
  triangles.set(index.values.subarray(0, index.size));
  index.giveBack();
  return { positions, normals, triangles };
}

function writeSkin(
  rim: Rim,
  ring: Ring,
  onAxis: (i: number) => boolean,
  { positions, normals }: Pick<Mesh, 'positions' | 'normals'>,
  v: number,
): void {
  for (let j = 0; j < ring.count; j++) {
    const qx = ring.at[2 * j]!;
    const qy = ring.at[2 * j + 1]!;
    const wx = ring.way[2 * j]!;
    const wy = ring.way[2 * j + 1]!;
    for (let i = 0; i < rim.count; i++) {
      const x = onAxis(i) ? 0 : rim.at[2 * i]!;
      const dx = rim.way[2 * i]!;
      const dy = rim.way[2 * i + 1]!;
      const o = 3 * (v + j * rim.count + i);
      // Adding 0 leaves no −0, which would not be the same place.
      positions[o] = x * qx + 0;
      positions[o + 1] = x * qy + 0;
      positions[o + 2] = rim.at[2 * i + 1]!;
      // Way round × way along the contour: its outside is on its right.
      const nx = wy * dy;
      const ny = -wx * dy;
      const nz = dx * (wx * qy - wy * qx);
      const size = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
      normals[o] = nx / size;
      normals[o + 1] = ny / size;
      normals[o + 2] = nz / size;
    }
  }
}

/** Quads whose diagonals lean opposite ways like the squares of a chessboard; triangles where a side ends on the axis. */
function joinSkin(rim: Rim, ring: Ring, onAxis: (i: number) => boolean, v: number, index: Row): void {
  for (let e = 0; e < ring.sides.length; e += 2) {
    const near = v + ring.sides[e]! * rim.count;
    const far = v + ring.sides[e + 1]! * rim.count;
    for (let s = 0; s < rim.sides.length; s += 2) {
      const a = rim.sides[s]!;
      const b = rim.sides[s + 1]!;
      const [first, last] = [onAxis(a), onAxis(b)];
      if (first && last) continue;
      const leans = ((e + s) >> 1) & 1;
      if (!first) index.push3(near + a, far + a, last || leans ? near + b : far + b);
      if (last) continue;
      if (!first && leans) index.push3(near + b, far + a, far + b);
      else index.push3(near + a, far + b, near + b);
    }
  }
}
