/** Shells of a closed mesh: which of them are solids, which hollows in them, and which are neither. */
import type { Task } from '../../geometry/task';
import { meshVolume } from '../data/topology';
import { boxOf, type Triangles } from '../data/mesh';
import { PairTable } from '../data/pair-table';
import { depthBelow, signedOf } from '../query/signed-distance';

interface Shell extends Triangles {
  readonly volume: number;
  readonly box: ReturnType<typeof boxOf>;
}

/** What is wrong with a shell: it faces inward and is no hollow, or fills what is solid already. */
export type ShellFault = 'inside out' | 'solid twice';

/** Nearer to another shell than this part of its size, a corner does not tell on which side of it the shell lies. */
const TOUCHING = 1e-6;
/** Corners and boxes looked at between two pauses. */
const TOGETHER = 1024;

/**
 * The first fault among the shells of a mesh whose edges all have two triangles: a solid must lie in none of the others, or in a
 * hollow of one; a hollow in one solid. Each is taken to lie on one side of every other.
 */
export function* shellFault(mesh: Triangles): Task<ShellFault | undefined> {
  const axis = longestAxis(boxOf(mesh));
  const begin = ({ box: [low] }: Shell) => low[axis]!;
  const shells = (yield* shellsOf(mesh)).sort((a, b) => begin(a) - begin(b));
  const depth = shells.map(() => 0);
  let first = 0;
  for (const outer of shells) {
    yield;
    // Of those in order only the ones that begin between its ends can lie within.
    while (begin(shells[first]!) < begin(outer)) first++;
    const within: number[] = [];
    for (let i = first; i < shells.length && begin(shells[i]!) <= outer.box[1][axis]!; i++)
      if (shells[i] !== outer && isBoxWithin(shells[i]!, outer)) within.push(i);
    if (!within.length) continue;
    const signed = yield* signedOf(outer);
    const [facing, size] = [
      Math.sign(outer.volume),
      Math.max(...outer.box[1].map((x, k) => x - outer.box[0][k]!)),
    ];
    for (const i of within) {
      yield;
      const { positions: p } = shells[i]!;
      for (let v = 0; v < p.length; v += 3) {
        const below = facing * depthBelow(signed, p[v]!, p[v + 1]!, p[v + 2]!);
        if (Math.abs(below) < TOUCHING * size) continue;
        if (below > 0) depth[i]! += facing;
        break;
      }
    }
  }
  if (shells.some(({ volume }, i) => volume < 0 && depth[i] !== 1)) return 'inside out';
  return shells.some(({ volume }, i) => volume > 0 && depth[i] !== 0) ? 'solid twice' : undefined;
}

function longestAxis([low, high]: Shell['box']): number {
  const sizes = high.map((x, k) => x - low[k]!);
  return sizes.indexOf(Math.max(...sizes));
}

const isBoxWithin = ({ box: [low, high] }: Shell, { box: [least, most] }: Shell): boolean =>
  low[0] >= least[0] &&
  low[1] >= least[1] &&
  low[2] >= least[2] &&
  high[0] <= most[0] &&
  high[1] <= most[1] &&
  high[2] <= most[2];

/** Triangles that hang together by their edges, each shell with corners of its own. */
function* shellsOf({ positions, triangles }: Triangles): Task<Shell[]> {
  const edges = new PairTable(triangles.length);
  const joined = Uint32Array.from({ length: triangles.length / 3 }, (_x, i) => i);
  const first = (triangle: number): number => {
    let at = triangle;
    while (joined[at] !== at) at = joined[at] = joined[joined[at]!]!;
    return at;
  };
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % TOGETHER === 0) yield;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!];
      edges.set(a, b, t / 3);
      const other = edges.get(b, a);
      if (other >= 0) joined[first(other)] = first(t / 3);
    }
  }
  const corners = new Map<number, number[]>();
  for (let t = 0; t < triangles.length; t += 3) {
    const shell = first(t / 3);
    const known = corners.get(shell) ?? [];
    known.push(triangles[t]!, triangles[t + 1]!, triangles[t + 2]!);
    corners.set(shell, known);
  }
  const shells: Shell[] = [];
  for (const one of corners.values()) {
    yield;
    shells.push(shellOf(positions, one));
  }
  return shells;
}

function shellOf(positions: Float32Array, corners: readonly number[]): Shell {
  const own = new Map<number, number>();
  const places: number[] = [];
  const triangles = Uint32Array.from(corners, (corner) => {
    const known = own.get(corner) ?? own.size;
    if (known === own.size) {
      own.set(corner, known);
      places.push(positions[3 * corner]!, positions[3 * corner + 1]!, positions[3 * corner + 2]!);
    }
    return known;
  });
  const mesh = { positions: Float32Array.from(places), triangles };
  return { ...mesh, volume: meshVolume(mesh.positions, triangles), box: boxOf(mesh) };
}
