/**
 * What a combined mesh measures, brought closer to the truth: of each body it is made of the true volume and surface are
 * known, and so how far the true surface stands off its triangles.
 */
import { determinant, scaleOf, stretchOf } from '../../geometry/motion';
import { PAIRS, type Mass } from '../../geometry/mass';
import { runPolling, type Task } from '../../geometry/task';
import type { Poll } from '../../geometry/poll';
import { meshMassSteps } from '../../mesh/data/mass';
import { mappedMesh, type Mesh } from '../../mesh/data/mesh';
import { trianglesArea } from '../../mesh/query/triangle-sizes';
import { leavesOf, type Body, type Leaf, type Placed } from '../body/body';
import type { Combination } from '../kernel/kernel';

/** Of the curved faces of a mesh: how far the true surface stands outside of them, mm, and how many times as large it is. */
interface Missing {
  readonly outside: number;
  readonly times: number;
}
const NOTHING: Missing = { outside: 0, times: 1 };

/** Corner normals as near to each other as this are one: the face is flat, and true as it is. */
const FLAT = 1e-10;

/** Whether a triangle stands for a curved piece of surface. */
function isCurved(normals: Float32Array, a: number, b: number, c: number): boolean {
  const apart = (i: number, j: number) =>
    (normals[i]! - normals[j]!) ** 2 +
    (normals[i + 1]! - normals[j + 1]!) ** 2 +
    (normals[i + 2]! - normals[j + 2]!) ** 2;
  return apart(3 * a, 3 * b) > FLAT || apart(3 * b, 3 * c) > FLAT || apart(3 * c, 3 * a) > FLAT;
}

/** Area of the triangle that begins at `t`, twice. */
function twiceArea({ positions: p, triangles }: Mesh, t: number): number {
  const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
  const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
  const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
  const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  return Math.sqrt(x * x + y * y + z * z);
}

function* missingOf({ leaf, map }: Placed, tolerance: number, most: number): Task<Missing> {
  if (leaf.form === 'piece') return NOTHING;
  // It is no more than its triangles.
  if (leaf.form === 'meshed') return NOTHING;
  // Of what folds over itself the true volume cannot be told.
  if (leaf.form === 'swept' && leaf.fold) return NOTHING;
  const by = scaleOf(map);
  const unmoved = yield* leaf.meshing(tolerance / stretchOf(map), most);
  // What is but moved, turned or as much larger every way is measured where it was.
  const mesh = by === undefined ? mappedMesh(unmoved, map) : unmoved;
  let curved = 0;
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    if (t % TOGETHER === 0) yield;
    if (isCurved(mesh.normals, mesh.triangles[t]!, mesh.triangles[t + 1]!, mesh.triangles[t + 2]!))
      curved += twiceArea(mesh, t) / 2;
  }
  if (curved === 0) return NOTHING;
  const { mass, surface } = yield* meshMassSteps(mesh);
  return by === undefined
    ? { outside: (Math.abs(determinant(map)) * leaf.volume - mass.volume) / curved, times: 1 }
    : { outside: (by * (leaf.volume - mass.volume)) / curved, times: 1 + (leaf.surface - surface) / curved };
}

/** Which leaves of a body are taken away in it: −1, and 1 of the others; in the order of its leaves. */
function signsOf(body: Body, sign: 1 | -1 = 1): (1 | -1)[] {
  if (body.form === 'placed') return signsOf(body.source, sign);
  if (body.form === 'shelled') return [...signsOf(body.source, sign), -sign as 1 | -1];
  if (body.form === 'filleted') return [...signsOf(body.source, sign), sign];
  if (body.form !== 'combined') return leavesOf(body).map(() => sign);
  return body.bodies.flatMap((one, i) =>
    signsOf(one, body.operation === 'subtract' && i > 0 ? (-sign as 1 | -1) : sign),
  );
}

/** What a combination measures; `areas` is its surface leaf by leaf, mm². */
interface Closer {
  readonly mass: Mass;
  readonly surface: number;
  readonly areas: readonly number[];
}

/** Mass and surface of a combination that was meshed at a tolerance (mm), with what its chords leave out. */
export async function chordCorrectedMass(
  body: Body,
  made: Combination,
  { tolerance, most }: { tolerance: number; most: number },
  poll: Poll,
): Promise<Closer> {
  const known = new Map<Leaf, Map<string, Missing>>();
  const missing: Missing[] = [];
  for (const placed of leavesOf(body)) {
    const { leaf, map } = placed;
    const of = known.get(leaf) ?? new Map<string, Missing>();
    known.set(leaf, of);
    // Copies that are but moved or turned are alike.
    const by = scaleOf(map);
    const key = by === undefined ? JSON.stringify(map) : by.toFixed(9);
    const found = of.get(key) ?? (await runPolling(missingOf(placed, tolerance, most), poll));
    of.set(key, found);
    missing.push(found);
  }
  return runPolling(withMissing(made, missing, signsOf(body)), poll);
}

/** Corners between two pauses. */
const TOGETHER = 3 * 128;

function* withMissing(
  mesh: Combination,
  missing: readonly Missing[],
  signs: readonly (1 | -1)[],
): Task<Closer> {
  const { mass, surface } = yield* meshMassSteps(mesh);
  const more = { volume: 0, surface: 0, first: [0, 0, 0], second: [0, 0, 0, 0, 0, 0] };
  const middle = [0, 0, 0];
  const { positions: p, normals, triangles } = mesh;
  const areas = missing.map(() => 0);
  for (const { leaf, first, count } of mesh.groups) {
    for (let t = first; t < first + count; t += TOGETHER) {
      areas[leaf]! += trianglesArea(mesh, t, Math.min(TOGETHER, first + count - t));
      yield;
    }
    const { outside, times } = missing[leaf]!;
    if (outside === 0 && times === 1) continue;
    const thick = signs[leaf]! * outside;
    for (let t = 3 * first; t < 3 * (first + count); t += 3) {
      if (t % TOGETHER === 0) yield;
      const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
      if (!isCurved(normals, a, b, c)) continue;
      const area = twiceArea(mesh, t) / 2;
      for (let k = 0; k < 3; k++) middle[k] = (p[3 * a + k]! + p[3 * b + k]! + p[3 * c + k]!) / 3;
      more.volume += thick * area;
      more.surface += (times - 1) * area;
      areas[leaf]! += (times - 1) * area;
      for (let k = 0; k < 3; k++) more.first[k]! += thick * area * middle[k]!;
      for (let k = 0; k < PAIRS.length; k++) {
        const [i, j] = PAIRS[k]!;
        more.second[k]! += thick * area * middle[i]! * middle[j]!;
      }
    }
  }
  const add = <T extends readonly number[]>(to: T, by: readonly number[]) =>
    to.map((x, k) => x + by[k]!) as unknown as T;
  return {
    mass: {
      volume: mass.volume + more.volume,
      first: add(mass.first, more.first),
      second: add(mass.second, more.second),
    },
    surface: surface + more.surface,
    areas,
  };
}
