/** Bodies added, taken from one another, or what is common to them: meshed by the kernel, their figures estimates. */
import type { Mass } from '../geometry/mass';
import type { Poll } from '../geometry/poll';
import { finished, givingWay, type Steps } from '../geometry/steps';
import type { Vec3 } from '../geometry/vector';
import { Complaint, type Words } from '../measure/words';
import { meshCrossing } from '../mesh/crossing';
import { FRESH } from '../mesh/memory';
import { stretchOf } from '../geometry/motion';
import { boxOf, joinMeshes, mappedMesh, mappedPlaces, type Mesh } from '../mesh/mesh';
import { leavesOf, sizeCombined, withinOf, type Body, type CombinedBody, type Within } from './body';
import { closerMass } from './closer';
import { estimated, furtherMass } from './estimate';
import { combine, KernelError, type Combination, type Operation } from './kernel';
import { around } from '../sweep/exact/extent';
import { pastFlush, type Flushed } from './flush';
import { resolvedMesh } from './resolve';

/** Chord tolerance it is measured at, as a part of its size; and at twice, four and eight times it. */
const MEASURED = 1 / 2000;
/** Triangles of each body that goes into the kernel. */
export const MOST_COMBINED = 400_000;
/** So many solids are kept: a coarse and a fine one to be seen, and those it is measured by. */
const KEPT = 6;

interface Measured {
  readonly mass: Mass;
  readonly surface: number;
  readonly extent: readonly [Vec3, Vec3];
  readonly within: Within;
  readonly parts: number;
  /** Corners of the finest mesh, xyz each. */
  readonly corners: Float32Array;
}

/** A body of others. */
export function combinedBody(operation: Operation, bodies: readonly Body[]): CombinedBody {
  const size = sizeCombined(operation, bodies);
  const kept = new Map<string, Combination>();
  let known: Measured | undefined;
  const measured = (): Measured => {
    if (!known) throw new Error('asked for before it was measured');
    return known;
  };

  async function solid(tolerance: number, poll: Poll, trusted = false): Promise<Combination> {
    const key = `${tolerance} ${trusted}`;
    const earlier = kept.get(key) ?? kept.get(`${tolerance} false`);
    if (earlier) return earlier;
    const made = await combined(operation, bodies, tolerance, poll, trusted);
    if (kept.size >= KEPT) kept.delete([...kept.keys()][0]!);
    kept.set(key, made);
    return made;
  }

  /** What is added looks from outside like its parts; of anything else the first is shown until it is known. */
  function* meshing(tolerance: number, most: number, memory = FRESH): Steps<Mesh> {
    const shown = operation === 'add' ? bodies : bodies.slice(0, 1);
    const meshes: Mesh[] = [];
    for (const body of shown) meshes.push(yield* body.meshing(tolerance, most / shown.length));
    return { ...joinMeshes(meshes, memory), groups: groupsOf(shown, meshes) };
  }

  return {
    type: 'body',
    form: 'combined',
    operation,
    bodies,
    material: bodies[0]!.material,
    checkedAt: size * MEASURED,
    get volume() {
      return measured().mass.volume;
    },
    get mass() {
      return measured().mass;
    },
    get surface() {
      return measured().surface;
    },
    get extent() {
      return measured().extent;
    },
    *extentIn(motion) {
      yield;
      return boxOf({ positions: mappedPlaces(measured().corners, motion) });
    },
    get within() {
      return measured().within;
    },
    get parts() {
      return measured().parts;
    },
    async measured(poll) {
      if (known) return;
      for (const body of bodies) await body.measured(poll);
      const found = await measuredBy(
        size * MEASURED,
        (tolerance, trusted) => solid(tolerance, poll, trusted),
        (made, tolerance) => closerMass(this, made, { tolerance, most: MOST_COMBINED }, poll),
      );
      // What is added reaches as far as its parts do.
      known = operation === 'add' ? { ...found, ...extentOver(bodies, found) } : found;
    },
    solid,
    meshing,
    mesh: (...wanted) => finished(meshing(...wanted)),
  };
}

/** Triangles of several bodies laid one after another, by the leaves they come from. */
function groupsOf(bodies: readonly Body[], meshes: readonly Mesh[]) {
  let [leaf, first] = [0, 0];
  return meshes.flatMap((mesh, i) => {
    const count = mesh.triangles.length / 3;
    const groups = numbered(mesh, leaf).map((group) => ({ ...group, first: group.first + first }));
    leaf += leavesOf(bodies[i]!).length;
    first += count;
    return groups;
  });
}

/** Groups of a mesh, its leaves numbered from `leaf` on. */
const numbered = ({ groups, triangles }: Mesh, leaf: number) =>
  (groups ?? [{ of: 0, first: 0, count: triangles.length / 3 }]).map((group) => ({
    ...group,
    of: group.of + leaf,
  }));

const WORK: Readonly<Record<Operation, string>> = {
  add: 'These bodies could not be added',
  subtract: 'This could not be taken away',
  common: 'What these bodies have in common could not be made',
};

const NOTHING: Readonly<Record<Operation, string>> = {
  add: 'Nothing is left of it: choose other bodies.',
  subtract: 'Nothing is left of it: make what is taken away smaller, or move it.',
  common: 'These bodies have nothing in common: move one into the other.',
};

async function combined(
  operation: Operation,
  bodies: readonly Body[],
  tolerance: number,
  poll: Poll,
  trusted: boolean,
): Promise<Combination> {
  const solids: Flushed[] = [];
  let leaf = 0;
  let mended = false;
  for (const [i, body] of bodies.entries()) {
    await poll((0.8 * i) / bodies.length);
    const meshes = await piecesOf(body, tolerance, poll, trusted);
    mended ||= meshes.some((mesh) => mesh.mended);
    const leaves = leavesOf(body);
    const groups = (mesh: Mesh) => ({ groups: numbered(mesh, leaf) });
    solids.push({ meshes: meshes.map((mesh) => ({ ...mesh, ...groups(mesh) })), leaves });
    leaf += leaves.length;
  }
  await poll(0.8);
  const made = (given: readonly (readonly Mesh[])[]) =>
    inWords(WORK[operation], () => combine(operation, given, tolerance));
  const first = await made(pastFlush(operation, solids, tolerance / PAST, 'aslant'));
  const frayed = first && !trusted && (await isFrayed(first, poll));
  const whole = frayed ? await made(pastFlush(operation, solids, tolerance / PAST, 'all')) : first;
  if (!whole) throw new Complaint(NOTHING[operation]);
  await poll(1);
  return { ...whole, mended: mended || frayed };
}

/** Ends are moved past what they are flush with by this part of the tolerance. */
const PAST = 4;

/** Whether rounding has left skins: parts without substance, or faces that cross. */
const isFrayed = async (made: Combination, poll: Poll): Promise<boolean> =>
  made.skins > 0 || (await meshCrossing(made, poll)) !== undefined;

type Clean = Mesh & Pick<Combination, 'mended'>;

/** A body as one closed mesh that is free of itself. */
export async function solidOf(body: Body, tolerance: number, poll: Poll): Promise<Mesh> {
  const pieces = await piecesOf(body, tolerance, poll, false);
  if (pieces.length === 1) return pieces[0]!;
  const whole = await inWords(WORK.add, () =>
    combine(
      'add',
      pieces.map((piece) => [{ ...piece, groups: numbered(piece, 0) }]),
      tolerance,
    ),
  );
  return whole ?? joinMeshes(pieces);
}

/**
 * A body as closed meshes, each free of itself: wires may run into one another, and one may stand wholly within another.
 */
async function piecesOf(
  body: Body,
  tolerance: number,
  poll: Poll,
  trusted: boolean,
): Promise<readonly Clean[]> {
  if (body.form === 'combined') return [await body.solid(tolerance, poll, trusted)];
  if (body.form === 'placed') {
    const pieces = await piecesOf(body.of, tolerance / stretchOf(body.map), poll, trusted);
    return pieces.map(({ mended, ...mesh }) => ({ ...mappedMesh(mesh, body.map), mended }));
  }
  if (body.form === 'turned') return [await givingWay(body.meshing(tolerance, MOST_COMBINED), poll)];
  const meshes = await givingWay(body.meshes(tolerance, MOST_COMBINED), poll);
  if (!trusted && (body.fold || (await anyCrossing(meshes, poll))))
    return [{ ...(await resolvedMesh(body, tolerance, poll)), mended: true }];
  return meshes;
}

/** Whether one of the wires of a body runs through itself. */
async function anyCrossing(meshes: readonly Mesh[], poll: Poll): Promise<boolean> {
  for (const mesh of meshes) if (await meshCrossing(mesh, poll)) return true;
  return false;
}

/** What the kernel says, in the user's words. */
async function inWords<T>(what: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof KernelError)) throw error;
    const says: Words = [`${what}: `, ...error.says, '. Moving one of them a little may do.'];
    throw new Complaint(says);
  }
}

function extentOver(bodies: readonly Body[], { within }: Measured): Pick<Measured, 'extent' | 'within'> {
  const off = bodies.map((body) => withinOf(body)?.extent ?? 0);
  return {
    extent: around(bodies.map(({ extent }) => extent)),
    within: { ...within, extent: Math.max(...off) },
  };
}

/** What is measured of meshes of four tolerances; where the finest was clean as it came, so are the others. */
async function measuredBy(
  finest: number,
  solid: (tolerance: number, trusted: boolean) => Promise<Combination>,
  mass: (made: Combination, tolerance: number) => ReturnType<typeof closerMass>,
): Promise<Measured> {
  const fine = await solid(finest, false);
  const measure = async (coarser: number) =>
    mass(await solid(coarser * finest, !fine.mended), coarser * finest);
  const [a, b, c, d] = [
    await mass(fine, finest),
    await measure(2),
    await measure(4),
    await measure(8),
  ] as const;
  const volume = estimated([a.mass.volume, b.mass.volume, c.mass.volume, d.mass.volume]);
  const surface = estimated([a.surface, b.surface, c.surface, d.surface]);
  return {
    mass: volume.extrapolated ? furtherMass(a.mass, b.mass) : a.mass,
    surface: surface.value,
    extent: boxOf(fine),
    within: { volume: volume.within, surface: surface.within, extent: 2 * fine.tolerance },
    parts: fine.parts,
    corners: fine.positions,
  };
}
