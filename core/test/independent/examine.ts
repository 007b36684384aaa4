/** One part, examined by means of its own: what is wrong with its mesh and its figures, in words. */
import type { SweptBody } from '../../src/sweep/body';
import fc from 'fast-check';
import { checkStep } from '../../src/design/check-step';
import { type Cache, createCache, evaluate, type Evaluation } from '../../src/design/evaluate';
import { stepOf } from '../../src/design/edit';
import type { Design, Step } from '../../src/design/schema';
import type { Finding } from '../../src/kind/value';
import { inspectMesh } from '../../src/mesh/data/topology';
import { sayWords } from '../../src/measure/format';
import { Complaint } from '../../src/measure/words';
import { solidsToSend, type Sent } from '../../src/exchange/solid';
import type { Vec3 } from '../../src/geometry/vector';
import type { Path } from '../../src/path/path';
import { soundMesh } from '../../src/sweep/sound-mesh';
import { bodyDesign, type Carried } from '../bodies';
import { anyPart } from './any-part';
import { extentOf, figuresOf } from './figures';
import { chance, nearness } from './nearness';
import type { Held } from './axes';
import { type Reference, referencesOf } from './reference';
import { faultsOf } from './triangles';

export interface Examined {
  /** What was done: sound, refused in words, or overlapping and so left to what makes one clean solid of it. */
  readonly state: 'sound' | 'refused' | 'overlaps' | 'faulty';
  readonly says: readonly string[];
}

export interface Depth {
  /** Points drawn on the mesh, and on the surface. */
  readonly points: number;
  readonly seed: number;
  /** Chord tolerances at which it is meshed, mm: distances are measured at the first. */
  readonly tolerances: readonly number[];
}

const MOST_TRIANGLES = 30_000;

/** Evaluates a design, or says why it makes no body; a twist that does not close is changed to the nearest that does. */
async function evaluated(design: Design, cache: Cache): Promise<Evaluation | string> {
  for (let tries = 0; ; tries++) {
    const evaluation = await evaluate(design, cache);
    const bad = evaluation.steps.find((step) => !step.value);
    if (!bad) return evaluation;
    const mend = bad.complaints[0]?.mends?.[0];
    if (!mend?.set['twist'] || tries > 2)
      return bad.complaints.map((one) => sayWords(one.says, 'mm')).join('; ');
    Object.assign(stepOf(design, bad.id).set, mend.set);
  }
}

/** The random part of that seed. */
export const partOf = (seed: number): Carried => fc.sample(anyPart, { seed, numRuns: 1 })[0]!;

export const examineSeed = (seed: number, depth: Omit<Depth, 'seed'>): Promise<Examined> =>
  examine(partOf(seed), { ...depth, seed });

export const examine = (part: Carried, depth: Depth): Promise<Examined> =>
  examineDesign(bodyDesign(part), 'sweep', depth);

/** Examines the body that a step of a design makes. */
export async function examineDesign(design: Design, id: string, depth: Depth): Promise<Examined> {
  const cache = createCache();
  const evaluation = await evaluated(design, cache);
  if (typeof evaluation === 'string') return { state: 'refused', says: [evaluation] };
  const { steps } = evaluation;
  const at = steps.findIndex((step) => step.id === id);
  const body = steps[at]!.value as SweptBody;
  const { findings } = await checkStep(design.steps[at]!, steps[at]!, cache);
  const says: string[] = [];
  const blocked = findings.find((finding) => finding.blocks);
  if (blocked) says.push(`refused: ${sayWords(blocked.says, 'mm')} ${sayWords(blocked.detail ?? [], 'mm')}`);
  if (findings.some((finding) => finding.overlaps)) {
    says.push(...(await joinedFaults(design, evaluation, cache, depth.tolerances[0]!)));
    return { state: says.length ? 'faulty' : 'overlaps', says };
  }
  // What is hollowed is held as it was carried.
  const own = design.steps[at]!;
  const carried = own.kind === 'hollow' ? design.steps.find(({ id: one }) => one === own.from?.body)! : own;
  const guide = steps.find((step) => step.id === carried.from?.guide)?.value as Path | undefined;
  const references = referencesOf(body, heldBy(carried, guide));
  says.push(...(await meshFaults(body, findings, references, depth)));
  // Planes cut patches in two: figures of what they leave are tested against closed forms.
  if (references.every(({ swept }) => swept.planes.every((plane) => !plane)))
    says.push(...figureFaults(body, references));
  return { state: says.length ? 'faulty' : 'sound', says };
}

function heldBy({ set }: Step, guide?: Path): Held {
  const number = (field: string, otherwise: string) => Number.parseFloat(set[field] ?? otherwise);
  return {
    hold: (set.hold ?? 'free') as Held['hold'],
    facing: [number('facingX', '0'), number('facingY', '0'), number('facingZ', '1')] as Vec3,
    turned: (number('turned', '0') * Math.PI) / 180,
    ...(guide && { guide }),
  };
}

async function meshFaults(
  body: SweptBody,
  findings: readonly Finding[],
  references: readonly Reference[],
  { tolerances, points, seed }: Depth,
): Promise<string[]> {
  const says: string[] = [];
  for (const [i, tolerance] of tolerances.entries()) {
    // At the first tolerance nothing is coarser for the number of its triangles.
    const most = i ? MOST_TRIANGLES : 20 * MOST_TRIANGLES;
    const { mesh, needed } = await soundMesh(body, findings, {
      tolerance,
      most,
      crossed: most,
      poll: async () => {},
    });
    const { where: _where, ...faults } = faultsOf(mesh);
    // What is coarser than was wanted is never sent out, and may cross itself.
    const coarser = mesh.tolerance > needed * (1 + 1e-9);
    for (const [name, count] of Object.entries(faults))
      if (count && !(coarser && name === 'crossing')) says.push(`${count} ${name} at ${tolerance}`);
    if (i) continue;
    const allowed = mesh.tolerance;
    const { mesh: off, surface, where } = nearness(references, mesh, points, allowed, chance(seed));
    const place = where.map((x) => x.toFixed(2)).join();
    // Float32 rounds a place to so much.
    const slack = allowed + 1e-5;
    if (off > slack) says.push(`mesh ${off.toFixed(4)} off its surface for ${allowed} near ${place}`);
    if (surface > slack) says.push(`surface ${surface.toFixed(4)} off its mesh for ${allowed} near ${place}`);
    const volume = inspectMesh(mesh).volume;
    if (Math.abs(volume - body.volume) > 0.25 * body.surface * allowed)
      says.push(`mesh of ${volume.toFixed(3)} mm³ for ${body.volume.toFixed(3)}`);
  }
  return says;
}

/** What is wrong with the one clean solid that is sent of a body that overlaps itself; a reason given in words is none. */
async function joinedFaults(
  design: Design,
  evaluation: Evaluation,
  cache: Cache,
  tolerance: number,
): Promise<string[]> {
  try {
    const [{ mesh }] = (await solidsToSend(
      { ...design, tolerance: `${tolerance} mm` },
      evaluation,
      cache,
      async () => {},
    )) as [Sent];
    const { where: _where, ...faults } = faultsOf(mesh);
    return Object.entries(faults).flatMap(([name, count]) => (count ? [`${count} ${name} once joined`] : []));
  } catch (error) {
    if (error instanceof Complaint) return [];
    throw error;
  }
}

const EXACT = 1e-9;

function figureFaults(body: SweptBody, references: ReturnType<typeof referencesOf>): string[] {
  const says: string[] = [];
  const want = figuresOf(references);
  const size = Math.max(...body.extent[1].map((x, k) => Math.max(Math.abs(x), Math.abs(body.extent[0][k]!))));
  const compare = (name: string, got: number, right: number, scale: number) => {
    if (!(Math.abs(got - right) <= EXACT * scale))
      says.push(`${name} ${got} for ${right} (${((got - right) / scale).toExponential(1)})`);
  };
  compare('volume', body.volume, want.volume, Math.abs(want.volume));
  compare('surface', body.surface, want.surface, want.surface);
  body.mass.first.forEach((got, k) => compare(`first moment ${k}`, got, want.first[k]!, want.volume * size));
  body.mass.second.forEach((got, k) =>
    compare(`second moment ${k}`, got, want.second[k]!, want.volume * size * size),
  );
  const extent = extentOf(references);
  ([0, 1] as const).forEach((which) =>
    body.extent[which].forEach((got, k) =>
      compare(`extent ${which ? 'high' : 'low'} ${'xyz'[k]}`, got, extent[which]![k]!, size),
    ),
  );
  return says;
}
