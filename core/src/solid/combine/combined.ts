/** Bodies added, taken from one another, or what is common to them: meshed by the kernel, their figures estimates. */
import { GeometryError } from '../../geometry/error';
import type { Poll } from '../../geometry/poll';
import { runPolling, type Task } from '../../geometry/task';
import { mm, words, type Words } from '../../measure/words';
import { meshCrossing } from '../../mesh/verify/crossing';
import { extentTogether, ownExtent, type Extent, type Reaching } from '../../mesh/data/extent';
import { FRESH } from '../../mesh/data/memory';
import { stretchOf } from '../../geometry/motion';
import { vec3 } from '../../geometry/vector';
import { groupsIn, joinMeshes, mappedMesh, type Mesh } from '../../mesh/data/mesh';
import { isMade, leavesOf, sizeCombined, withinOf, type Body, type CombinedBody } from '../body/body';
import { chordCorrectedMass } from './chord-correction';
import { combine, type Combination } from '../kernel/kernel';
import { KernelError } from '../kernel/error';
import { type Operation } from '../kernel/volumes';
import { pastFlush, type Flushed } from './flush';
import { madeBody, measuredBy, type Measured } from '../body/estimated';
import { cleaned, isFrayed } from './clean';
import { selfUnion } from './self-union';

/** Triangles of each body that goes into the kernel. */
export const MOST_COMBINED = 400_000;
/** A body of others. */
export function combinedBody(operation: Operation, bodies: readonly Body[]): CombinedBody {
  /** What is added looks from outside like its parts; of anything else the first is shown until it is known. */
  function* meshing(tolerance: number, most: number, memory = FRESH): Task<Mesh> {
    const shown = operation === 'add' ? bodies : bodies.slice(0, 1);
    const meshes: Mesh[] = [];
    for (const body of shown) meshes.push(yield* body.meshing(tolerance, most / shown.length));
    return { ...joinMeshes(meshes, memory), groups: groupsOf(shown, meshes) };
  }
  const body: CombinedBody = madeBody({ form: 'combined', operation, bodies } as const, {
    material: bodies[0]!.material,
    size: sizeCombined(operation, bodies),
    solid: (tolerance, poll, trusted) =>
      cleaned((finer) => combined(operation, bodies, finer * tolerance, poll, trusted), trusted, poll),
    meshing,
    async measured(finest, solid, poll) {
      // Of what is taken away, or kept in common, no figures of its own are asked for.
      const asked = operation === 'add' ? bodies : operation === 'subtract' ? bodies.slice(0, 1) : [];
      for (const one of asked) await one.measured(poll);
      const found = await measuredBy(finest, solid, (made, tolerance) =>
        chordCorrectedMass(body, made, { tolerance, most: MOST_COMBINED }, poll),
      );
      // What is added reaches as far as its parts do; what others are taken from as far as before, where that is left of it.
      if (operation === 'add') {
        await extentTogether(bodies).known(poll);
        return { ...found, ...extentOver(bodies, found) };
      }
      if (operation === 'common') return found;
      await ownExtent(bodies[0]!).known(poll);
      return { ...found, extent: extentLeft(bodies[0]!, found) };
    },
  });
  return body;
}

/** Triangles of several bodies laid one after another, by the leaves they come from. */
export function groupsOf(bodies: readonly Body[], meshes: readonly Mesh[]) {
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
const numbered = (mesh: Mesh, leaf: number) =>
  groupsIn(mesh).map((group) => ({ ...group, leaf: group.leaf + leaf }));

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
  const made: Pieces = new Map();
  for (const [i, body] of bodies.entries()) {
    await poll((0.8 * i) / bodies.length);
    const meshes = await piecesOf(body, tolerance, poll, trusted, made);
    mended ||= meshes.some((mesh) => mesh.mended);
    const leaves = leavesOf(body);
    const groups = (mesh: Mesh) => ({ groups: numbered(mesh, leaf) });
    solids.push({ meshes: meshes.map((mesh) => ({ ...mesh, ...groups(mesh) })), leaves });
    leaf += leaves.length;
  }
  await poll(0.8);
  const combining = (given: readonly (readonly Mesh[])[]) =>
    inWords(WORK[operation], () => combine(operation, given, tolerance, () => poll(0.8)));
  const first = await combining(pastFlush(operation, solids, tolerance / PAST, 'aslant'));
  const frayed = first && !trusted && (await isFrayed(first, poll));
  // Rounding may keep apart what is flush.
  const apart = first && !trusted && operation === 'add' && first.parts > 1;
  let whole = first;
  if (frayed || apart) {
    whole = await combining(pastFlush(operation, solids, tolerance / PAST, 'all'));
    if (!frayed && whole && (whole.parts >= first.parts || (await isFrayed(whole, poll)))) whole = first;
  }
  if (!whole) throw new GeometryError('nothing-left', NOTHING[operation]);
  await poll(1);
  return { ...whole, mended: mended || whole !== first };
}

/** Ends are moved past what they are flush with by this part of the tolerance. */
const PAST = 4;

/** Triangles of a body that close, and whether that had to be brought about. */
export type Clean = Mesh & Partial<Pick<Combination, 'mended' | 'parts' | 'skins'>>;

/** A body as one closed mesh that is free of itself. */
export async function solidOf(body: Body, tolerance: number, poll: Poll, trusted = false): Promise<Clean> {
  const pieces = await piecesOf(body, tolerance, poll, trusted);
  if (pieces.length === 1) return pieces[0]!;
  const whole = await inWords(WORK.add, () =>
    combine(
      'add',
      pieces.map((piece) => [{ ...piece, groups: numbered(piece, 0) }]),
      tolerance,
      poll,
    ),
  );
  return whole ?? joinMeshes(pieces);
}

/** Meshes of bodies, by the tolerance they were made within: of copies of one they are made once. */
type Pieces = Map<Body, { readonly tolerance: number; readonly pieces: readonly Clean[] }>;

/**
 * A body as closed meshes, each free of itself: wires may run into one another, and one may stand wholly within another.
 */
async function piecesOf(
  body: Body,
  tolerance: number,
  poll: Poll,
  trusted: boolean,
  made: Pieces = new Map(),
): Promise<readonly Clean[]> {
  const earlier = made.get(body);
  if (earlier?.tolerance === tolerance) return earlier.pieces;
  const pieces = await piecesMade(body, tolerance, poll, trusted, made);
  made.set(body, { tolerance, pieces });
  return pieces;
}

async function piecesMade(
  body: Body,
  tolerance: number,
  poll: Poll,
  trusted: boolean,
  made: Pieces,
): Promise<readonly Clean[]> {
  if (isMade(body)) return [await body.solid(tolerance, poll, trusted)];
  if (body.form === 'placed') {
    const pieces = await piecesOf(body.source, tolerance / stretchOf(body.map), poll, trusted, made);
    return pieces.map(({ mended, ...mesh }) => ({ ...mappedMesh(mesh, body.map), mended }));
  }
  if (body.form === 'turned') return [await runPolling(body.meshing(tolerance, MOST_COMBINED), poll)];
  if (body.form === 'meshed') {
    const mesh = await runPolling(body.meshing(tolerance, MOST_COMBINED), poll);
    const place = trusted ? undefined : await meshCrossing(mesh, poll);
    if (place)
      throw new GeometryError(
        'crosses-itself',
        words`A part from a file runs through itself near ${mm(place[0])}, ${mm(place[1])}, ${mm(place[2])}. Repair it in the program that made it.`,
      );
    return [mesh];
  }
  const meshes = await runPolling(body.meshes(tolerance, MOST_COMBINED), poll);
  if (!trusted && (body.fold || (await anyCrossing(meshes, poll))))
    return [{ ...(await selfUnion(body, tolerance, poll)), mended: true }];
  return meshes;
}

/** Whether one of the wires of a body runs through itself. */
async function anyCrossing(meshes: readonly Mesh[], poll: Poll): Promise<boolean> {
  for (const mesh of meshes) if (await meshCrossing(mesh, poll)) return true;
  return false;
}

/** What the kernel says, in the user's words. */
export async function inWords<T>(what: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof KernelError)) throw error;
    const says: Words = [`${what}: `, ...error.says, '. Moving one of them a little may do.'];
    throw new GeometryError('kernel-failed', says);
  }
}

function extentOver(
  bodies: readonly Body[],
  { within }: Measured,
): Pick<Measured, 'extent' | 'reaching' | 'within'> {
  const off = bodies.map((body) => withinOf(body)?.extent ?? 0);
  return {
    extent: extentTogether(bodies).value(),
    *reaching(motion) {
      const all: Reaching[] = [];
      for (const body of bodies) all.push(...(yield* body.reaching(motion)));
      return all;
    },
    within: { ...within, extent: Math.max(...off) },
  };
}

/** The extent of a body from which others were taken: its own wherever what is left reaches as far within the tolerance. */
function extentLeft({ extent }: Body, { extent: found, within }: Measured): Extent {
  const side = (i: 0 | 1) =>
    vec3(found[i].map((x, k) => (Math.abs(x - extent[i][k]!) <= within.extent ? extent[i][k]! : x)));
  return [side(0), side(1)];
}
