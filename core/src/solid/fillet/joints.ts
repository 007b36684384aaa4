/** Where the faces of different bodies meet on a combination: the lines along which it may be rounded. */
import type { Task } from '../../geometry/task';
import { cross, distance, dot, sub, unit, type Vec3 } from '../../geometry/vector';
import { weldSteps } from '../../mesh/data/topology';
import type { GroupedMesh } from '../../mesh/data/mesh';
import { PairTable } from '../../mesh/data/pair-table';

/** One side of a joint's edge: the outward normals of a body's face at its ends. */
interface Side {
  readonly start: Vec3;
  readonly end: Vec3;
}

/** An edge of the mesh between two bodies' faces; seen from outside and along it the first body's face is on the left. */
export interface JointEdge {
  readonly from: Vec3;
  readonly to: Vec3;
  readonly left: Side;
  readonly right: Side;
}

/** A line along which the faces of two bodies meet. */
export interface Joint {
  /** The leaves whose faces lie on its left and on its right. */
  readonly bodies: readonly [left: number, right: number];
  readonly edges: readonly JointEdge[];
  readonly closed: boolean;
  /** Whether it is a hollow, in which something can be laid; else a ridge. */
  readonly hollow: boolean;
  readonly length: number;
}

/** Triangles between two pauses. */
const TOGETHER = 1024;

/** The joints of a mesh whose groups say which body each face is of. */
export function* jointsOf(mesh: GroupedMesh): Task<Joint[]> {
  const { positions: p, normals: n, triangles, groups } = mesh;
  const same = yield* weldSteps(p);
  const owner = new Uint32Array(triangles.length / 3);
  for (const { leaf, first, count } of groups) owner.fill(leaf, first, first + count);
  yield;
  // Each side of an edge, by its corners in the order in which its triangle goes round.
  const sides = new PairTable();
  const touched = new Uint8Array(p.length / 3);
  // Only corners that faces of two bodies share can be ends of such an edge.
  const first = new Int32Array(p.length / 3).fill(-1);
  for (let i = 0; i < triangles.length; i++) {
    if (i % TOGETHER === 0) yield;
    const v = same[triangles[i]!]!;
    const mine = owner[Math.floor(i / 3)]!;
    if (first[v]! < 0) first[v] = mine;
    else if (first[v] !== mine) touched[v] = 1;
  }
  for (let i = 0; i < triangles.length; i++) {
    if (i % TOGETHER === 0) yield;
    const [a, b] = [triangles[i]!, triangles[i % 3 === 2 ? i - 2 : i + 1]!];
    if (touched[same[a]!] && touched[same[b]!]) sides.set(same[a]!, same[b]!, i);
  }
  const at = (of: Float32Array, v: number): Vec3 => [of[3 * v]!, of[3 * v + 1]!, of[3 * v + 2]!];
  /** Edges by the pair of bodies, from each corner on. */
  const found = new Map<string, Map<number, { readonly edge: JointEdge; readonly to: number }[]>>();
  for (let i = 0; i < triangles.length; i++) {
    if (i % TOGETHER === 0) yield;
    const [a, b] = [triangles[i]!, triangles[i % 3 === 2 ? i - 2 : i + 1]!];
    if (!touched[same[a]!] || !touched[same[b]!] || sides.get(same[a]!, same[b]!) !== i) continue;
    const j = sides.get(same[b]!, same[a]!);
    if (j < 0) continue;
    const [left, right] = [owner[Math.floor(i / 3)]!, owner[Math.floor(j / 3)]!];
    // Each edge once, the body with the lower number on its left.
    if (left >= right) continue;
    const [c, d] = [triangles[j]!, triangles[j % 3 === 2 ? j - 2 : j + 1]!];
    const pair = `${left} ${right}`;
    const starts = found.get(pair) ?? new Map<number, { edge: JointEdge; to: number }[]>();
    found.set(pair, starts);
    const list = starts.get(same[a]!) ?? [];
    starts.set(same[a]!, list);
    list.push({
      to: same[b]!,
      edge: {
        from: at(p, a),
        to: at(p, b),
        left: { start: at(n, a), end: at(n, b) },
        right: { start: at(n, d), end: at(n, c) },
      },
    });
  }
  yield;
  return [...found].flatMap(([pair, starts]) => {
    const bodies = pair.split(' ').map(Number) as [number, number];
    return chains(starts).map(({ edges, closed }) => jointFrom(bodies, edges, closed));
  });
}

/** Edges one after another. */
function chains(starts: Map<number, { readonly edge: JointEdge; readonly to: number }[]>) {
  const ends = new Set([...starts.values()].flatMap((list) => list.map(({ to }) => to)));
  const made: { edges: JointEdge[]; closed: boolean }[] = [];
  const take = (from: number): void => {
    const edges: JointEdge[] = [];
    let at = from;
    for (let next = starts.get(at)?.pop(); next; next = starts.get(at)?.pop()) {
      edges.push(next.edge);
      at = next.to;
      if (at === from) break;
    }
    if (edges.length) made.push({ edges, closed: at === from });
  };
  // Open ones from their ends first.
  for (const start of starts.keys()) if (!ends.has(start)) take(start);
  for (const [start, list] of starts) while (list.length) take(start);
  return made;
}

function jointFrom(bodies: Joint['bodies'], edges: readonly JointEdge[], closed: boolean): Joint {
  let [length, bend] = [0, 0];
  for (const { from, to, left, right } of edges) {
    const long = distance(from, to);
    if (!(long > 0)) continue;
    length += long;
    // The face on the left lies to the left of the edge: where the right one's normal looks there, the two enclose a hollow.
    const inLeft = cross(left.start, unit(sub(to, from)));
    bend += long * dot(inLeft, right.start);
  }
  return { bodies, edges, closed, hollow: bend > 0, length };
}
