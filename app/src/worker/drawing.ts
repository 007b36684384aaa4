/** What the geometry worker draws of the value of a step: triangles, lines, dimension lines. */
import { readableTolerance } from '@nematos/core/design/tolerance';
import { hash } from '@nematos/core/design/hash';
import { hatchOf } from '@nematos/core/measure/materials';
import { meshFaults, type MeshFaults } from '@nematos/core/mesh/verify/faults';
import type { Cache, Evaluation, EvaluatedStep } from '@nematos/core/design/evaluate';
import type { FilledRows, MadeFrom } from '@nematos/core/kind/kind';
import type { Poll } from '@nematos/core/geometry/poll';
import { runPolling } from '@nematos/core/geometry/task';
import { chainsOf } from '@nematos/core/view/made-of';
import { marksOf, movedMark } from '@nematos/core/view/marks';
import { motionInPart, sectionInPart } from '@nematos/core/view/in-part';
import { moved, stretchOf, type Motion } from '@nematos/core/geometry/motion';
import type { Design, Step } from '@nematos/core/design/schema';
import { bodiesOf, pathsOf, typeOf, type Value } from '@nematos/core/kind/value';
import { Complaint } from '@nematos/core/measure/words';
import { polygonOf } from '@nematos/core/section/polygon-of';
import { samplePath, planAbout, planIntervals, sum } from '@nematos/core/path/sample';
import type { Path } from '@nematos/core/path/path';
import { isMade, leavesOf, looksLikeParts, sizeAbout, type Body } from '@nematos/core/solid/body/body';
import { MEASURED } from '@nematos/core/solid/body/estimated';
import { previewOf } from '@nematos/core/solid/preview';
import {
  buffersOf,
  boxOf,
  copyOf,
  groupsIn,
  joinMeshes,
  mappedMesh,
  type Mesh,
} from '@nematos/core/mesh/data/mesh';
import { toSend, type Known, type Sending } from '@nematos/core/exchange/solid';
import { SpentMemory } from '@nematos/core/mesh/data/memory';
import type { Drawn, Looks } from './messages';

/** The most exported triangles that are shown. */
const MOST_SENT = 1_500_000;
/** How finely to draw, as parts of the body's extent, and how many triangles at most. */
const PASSES = {
  live: { part: 1 / 400, most: 40_000 },
  coarse: { part: 1 / 400, most: 40_000 },
  /** For a picture the size of a hand: less than a pixel is off, and the kernel makes it for its figures, too. */
  small: { part: 2 * MEASURED, most: 100_000 },
  settled: { part: 1 / 2500, most: 400_000 },
  /** As exported: to the tolerance of the design. */
  sent: { part: 0, most: MOST_SENT },
};
const LINE_POINTS = 4000;
/** With so few triangles, the kernel makes a finer mesh at once. */
const FEW = 4000;
const FINER = 4;

/** Memory of meshes that nobody shows any more is laid into again. */
export const memory = new SpentMemory();

/** Points (xyz each) moved along. */
function movedLine(points: ArrayLike<number>, motion: Motion | undefined): Float32Array<ArrayBuffer> {
  const line = Float32Array.from(points);
  if (motion)
    for (let i = 0; i < line.length; i += 3)
      line.set(moved(motion, [line[i]!, line[i + 1]!, line[i + 2]!]), i);
  return line;
}

function lineOf(path: Path): Float32Array<ArrayBuffer> {
  const steps = planIntervals(path, { angle: 0.09 });
  const { positions } = samplePath(path, sum(steps) > LINE_POINTS ? planAbout(path, LINE_POINTS) : steps);
  return Float32Array.from(positions);
}

/** A contour of a section as a closed line. */
function outlineOf(contour: Path): Float32Array<ArrayBuffer> {
  const points = polygonOf(contour, contour.length / 4000);
  const n = points.length / 2;
  const line = new Float32Array(3 * (n + 1));
  for (let i = 0; i <= n; i++) {
    line[3 * i] = points[2 * (i % n)]!;
    line[3 * i + 1] = points[2 * (i % n) + 1]!;
  }
  return line;
}

/** A step that has a value. */
interface WithValue {
  readonly value: Value;
  readonly madeFrom: readonly MadeFrom[];
  readonly filled?: FilledRows;
  readonly resolved: EvaluatedStep['resolved'];
  /** How it was moved to where it is in the part, if it is to be seen there. */
  readonly motion?: Motion | 'nowhere';
  readonly chains: Chains;
}

/** Triangles of a body: of what the kernel makes at once only where nothing else looks like it. */
async function meshOf(
  body: Body,
  tolerance: number,
  most: number,
  pass: keyof typeof PASSES,
  poll: Poll,
): Promise<Mesh> {
  const settled = pass === 'settled' || pass === 'sent';
  if (body.form === 'placed' && isMade(body.source)) {
    const base = await meshOf(body.source, tolerance / stretchOf(body.map), most, pass, poll);
    return mappedMesh(base, body.map, memory);
  }
  if (isMade(body) && (settled || !looksLikeParts(body))) {
    const alike = settled ? undefined : await body.lookalike(tolerance, poll);
    if (alike) return copyOf(alike, memory);
    // Made once, to be measured and to be seen.
    const fine = pass === 'settled' ? Math.max(tolerance, body.shownAt) : tolerance;
    const solid = await body.solid(fine, poll, !settled);
    const finer = (pass === 'live' || pass === 'coarse') && solid.triangles.length < 3 * FEW;
    return copyOf(finer ? await body.solid(tolerance / FINER, poll, true) : solid, memory);
  }
  return runPolling(body.meshing(tolerance, most, memory), poll);
}

/** What the exported triangles of bodies are made from, and the chord tolerance of the design, mm. */
type Shown = Sending & { readonly tolerance: number };

/** The same for a design; what copies are copies of is made once for all that is shown with it. */
export const sendingOf = (known: Known, tolerance: number): Shown => ({
  ...known,
  name: 'This',
  most: MOST_SENT,
  tolerance,
  made: new Map(),
});

/** The exported triangles of a body; if the export refuses it, the shown ones. */
async function sentMesh(body: Body, sending: Shown, most: number, poll: Poll): Promise<Mesh> {
  const { tolerance } = sending;
  try {
    return copyOf(await toSend(body, tolerance, { ...sending, most }, poll), memory);
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    return meshOf(body, tolerance, most, 'sent', poll);
  }
}

/** The faults of a body's exported triangles. */
export async function faultsOf(body: Body, sending: Shown, poll: Poll): Promise<MeshFaults> {
  const mesh = await sentMesh(body, sending, MOST_SENT, poll);
  try {
    return await meshFaults(mesh, poll);
  } finally {
    memory.giveBack(buffersOf(mesh));
  }
}

/** How the triangles of bodies look, laid one after another: by the bodies they were made of in the end. */
function looksOf(bodies: readonly Body[], meshes: readonly Mesh[], chains: Chains): Looks {
  const looks: Run[] = [];
  let [first, leaf] = [0, 0];
  bodies.forEach((body, i) => {
    const mesh = meshes[i]!;
    const leaves = leavesOf(body);
    for (const group of groupsIn(mesh))
      looks.push({
        look: leaves[group.leaf]!.material.look,
        hatch: hatchOf(leaves[group.leaf]!.material),
        by: chains[leaf + group.leaf]!,
        first: first + group.first,
        count: group.count,
      });
    first += mesh.triangles.length / 3;
    leaf += leaves.length;
  });
  return joined(looks);
}

type Run = Looks[number] & { readonly first: number; readonly count: number };

/** Runs of triangles that look alike and come through the same steps are one. */
function joined(looks: readonly Run[]): Looks {
  const out: Run[] = [];
  for (const run of looks) {
    const before = out.at(-1);
    if (
      before?.look === run.look &&
      before.hatch === run.hatch &&
      before.clear === run.clear &&
      String(before.by) === String(run.by)
    )
      out[out.length - 1] = { ...before, count: before.count + run.count };
    else out.push(run);
  }
  return out;
}

/** The steps that each leaf of what is drawn came through. */
type Chains = readonly (readonly string[])[];

/** Whether the kernel has to make something before it can be seen as it is. */
const needsKernel = (bodies: readonly Body[]): boolean => bodies.some((one) => !looksLikeParts(one));

/** The triangles of bodies as one mesh, and how they look: of their previews if the kernel has not made them yet. */
async function drawBodies(
  bodies: readonly Body[],
  chains: Chains,
  pass: keyof typeof PASSES,
  poll: Poll,
  sending?: Shown,
) {
  const { part, most } = PASSES[pass];
  const size = Math.max(...bodies.map(sizeAbout));
  if (pass === 'live' && needsKernel(bodies)) {
    const { mesh, parts, extent } = await previewOf(bodies, size * part, most, poll, memory);
    const looks = parts.map(({ clear, leaf, ...rest }) => ({
      ...rest,
      by: chains[leaf]!,
      ...(clear && { clear: true as const }),
    }));
    return { looks: joined(looks), extent, mesh };
  }
  const meshes: Mesh[] = [];
  const tolerance = sending?.tolerance ?? size * part;
  for (const body of bodies)
    meshes.push(
      sending
        ? await sentMesh(body, sending, most / bodies.length, poll)
        : await meshOf(body, tolerance, most / bodies.length, pass, poll),
    );
  const mesh = joinMeshes(meshes, memory);
  const fine = pass === 'settled' || pass === 'sent';
  const wanted =
    pass === 'settled'
      ? Math.max(size * MEASURED, ...bodies.map((body) => (isMade(body) ? body.shownAt : 0)))
      : tolerance;
  const coarse = fine && mesh.tolerance > 1.001 * wanted;
  const looks = looksOf(bodies, meshes, chains);
  return { looks, extent: boxOf(mesh), mesh, ...(coarse && { coarse }) };
}

/**
 * The picture of a step at a fineness; nothing for a duty, or for a measure that takes long to calculate.
 */
export async function draw(
  step: Step,
  key: string,
  made: WithValue,
  pass: keyof typeof PASSES,
  poll: Poll,
  sending?: Shown,
): Promise<Drawn | undefined> {
  const { value, motion: stands, chains } = made;
  const motion = stands === 'nowhere' ? undefined : stands;
  /** Some marks are known only once the triangles are. */
  const base = () => {
    const marks = stands === 'nowhere' ? [] : marksOf(step, made);
    return { step: step.id, key, marks: motion ? marks.map((mark) => movedMark(mark, motion)) : marks };
  };
  switch (value.type) {
    case 'body':
    case 'set': {
      const bodies = bodiesOf(value);
      if (!bodies.length) return { ...base(), type: 'line', lines: pathsOf(value).map(lineOf) };
      const drawn = await drawBodies(bodies, chains, pass, poll, sending);
      return { ...base(), type: 'body', ...drawn };
    }
    case 'path':
      return {
        ...base(),
        type: 'line',
        lines: [movedLine(lineOf(value), motion)],
        // The path it is compared with can wait.
        ...(value.aside &&
          pass !== 'live' && { aside: value.aside().map((points) => movedLine(points, motion)) }),
      };
    case 'section':
      return { ...base(), type: 'line', lines: value.contours.map(outlineOf), corners: value.corners };
    case 'measure':
      if (pass === 'settled' || pass === 'small') value.found ??= await value.find(poll);
      return (
        value.found && {
          ...base(),
          type: 'line',
          loose: true,
          lines: [new Float32Array(value.found.places.flat())],
        }
      );
    case 'duty':
      return undefined;
  }
}

/** What was drawn; nothing where it cannot be, which its figures tell. */
export async function made(drawing: Promise<Drawn | undefined>): Promise<Drawn | undefined> {
  try {
    return await drawing;
  } catch (error) {
    if (error instanceof Complaint) return undefined;
    throw error;
  }
}

/**
 * What is to be drawn: steps whose key on the main thread is another, and of bodies only those in `looked`, where given.
 * With `sent` the bodies in view settle at the export tolerance.
 */
export interface Wish {
  readonly have: Readonly<Record<string, string>>;
  readonly sent?: boolean | undefined;
  readonly looked?: readonly string[] | undefined;
}

/** Draws the steps whose key at this fineness is not on the main thread already. */
export async function drawAll(
  design: Design,
  evaluation: Evaluation,
  pass: keyof typeof PASSES,
  { have, looked, sent }: Wish,
  cache: Cache,
  poll: Poll,
): Promise<Drawn[]> {
  const drawn: Drawn[] = [];
  const tolerance = sent ? readableTolerance(design) : undefined;
  const values = new Map(evaluation.steps.map(({ id, value }) => [id, value]));
  const valueOf = (id: string) => values.get(id);
  for (const [i, { id, key, value, madeFrom, filled, resolved }] of evaluation.steps.entries()) {
    if (!value || !madeFrom) continue;
    if (pass !== 'settled' && looked && typeOf(value) === 'body' && !looked.includes(id)) continue;
    const step = design.steps[i]!;
    const motion =
      value.type === 'path'
        ? motionInPart(design.steps, valueOf, id)
        : sectionInPart(design.steps, valueOf, id);
    const here = motion ? `${key}@${hash(JSON.stringify(motion))}` : key;
    const kernel = needsKernel(bodiesOf(value));
    if (pass === 'coarse' && !kernel) continue;
    const mine = have[id];
    // What is there already in this or in a better way.
    const better = [`${here}?`, here, `${here}!`, `${here}!!`];
    const asSent =
      tolerance !== undefined && pass === 'settled' && typeOf(value) === 'body' && looked?.includes(id);
    const goal = asSent ? 3 : pass === 'settled' ? 2 : pass === 'live' && kernel ? 0 : 1;
    if (mine !== undefined && better.indexOf(mine) >= goal) continue;
    const fine = better[goal]!;
    const chains = chainsOf(design.steps, valueOf, id);
    poll.at?.(id);
    const found = { value, madeFrom, resolved, chains, ...(filled && { filled }), ...(motion && { motion }) };
    const one = await made(
      asSent
        ? draw(step, fine, found, 'sent', poll, sendingOf({ design, evaluation, cache }, tolerance))
        : draw(step, fine, found, pass, poll),
    );
    if (!one) continue;
    drawn.push(one);
    await poll(i / design.steps.length);
  }
  return drawn;
}
