/** The bodies of a design as triangles fit for export, or the reason why not. */
import { meshCrossing } from '../mesh/verify/crossing';
import { checkStep } from '../design/check-step';
import { type Cache, type Evaluation } from '../design/evaluate';
import { stepName } from '../design/edit';
import { sentTolerance } from '../design/tolerance';
import type { Poll } from '../geometry/poll';
import type { Design } from '../design/schema';
import { sayWords } from '../measure/format';
import type { Material } from '../measure/materials';
import { Complaint, mm, words } from '../measure/words';
import { chainsOf, colourOf } from '../view/made-of';
import { partOf } from '../view/part';
import { MOST_COMBINED, solidOf } from '../solid/combine/combined';
import { freeIfSlivers } from '../solid/combine/clean';
import { selfUnion } from '../solid/combine/self-union';
import { stretchOf } from '../geometry/motion';
import { bodiesOf, membersOf, type Finding } from '../kind/value';
import { groupsIn, mappedMesh, type Mesh } from '../mesh/data/mesh';
import { leavesOf, type Body } from '../solid/body/body';
import type { SweptBody } from '../sweep/body';
import { soundMesh } from '../sweep/sound-mesh';

/** Triangles a file may hold: a binary STL of 200 MB. */
const MOST_TRIANGLES = 4_000_000;
const TOLERANCES = [0.0005, 10] as const;

/** One of the bodies that are sent: its closed triangles, what they are of, and what it is called. */
export interface Sent {
  readonly mesh: Mesh;
  readonly material: Material;
  readonly name: string;
  /** Where its faces are of several materials or colours: which triangles are of which, all of them in their order. */
  readonly faces?: readonly Faces[];
}

/** Triangles in a row that are of one material. */
export interface Faces {
  readonly material: Material;
  readonly first: number;
  readonly count: number;
}

/**
 * Every body of the part, meshed to the design's tolerance; of a set each member by itself. @throws Complaint when there
 * is none, when a check speaks against one, or when a mesh would not be closed.
 */
export async function solidsToSend(
  design: Design,
  evaluation: Evaluation,
  cache: Cache,
  poll: Poll,
): Promise<readonly Sent[]> {
  const trouble = evaluation.steps.findIndex((result) => result.state === 'fault');
  if (trouble >= 0) {
    const [complaint] = evaluation.steps[trouble]!.complaints;
    throw new Complaint([`${stepName(design.steps[trouble]!)} is not made yet: `, ...complaint!.says]);
  }
  const parts = partOf(design.steps);
  if (!parts.length) throw new Complaint('There is no body yet: carry a section along a path.');
  const tolerance = sentTolerance(design);
  const [finest, coarsest] = TOLERANCES;
  if (!(tolerance >= finest && tolerance <= coarsest))
    throw new Complaint(words`The chord tolerance must lie between ${mm(finest)} and ${mm(coarsest)}.`);
  const valueOf = (id: string) => evaluation.steps.find((result) => result.id === id)?.value;
  const sent: Sent[] = [];
  for (const [i, step] of parts.entries()) {
    const part = (done: number) => poll((i + done) / parts.length);
    const result = evaluation.steps.find(({ id }) => id === step.id);
    if (!result?.value) throw new Complaint(`${stepName(step)} is not made yet.`);
    const { findings } = await checkStep(step, result, cache, part);
    const against = findings.find((finding) => finding.blocks);
    if (against)
      throw new Complaint([
        `${stepName(step)} cannot be exported as a solid: `,
        sayWords(against.says, design.unit).replace(/^./, (c) => c.toLowerCase()),
        '.',
      ]);
    await part(0.3);
    const members = bodiesOf(result.value);
    const called = stepName(step);
    const sending: Sending = {
      design,
      evaluation,
      cache,
      name: called,
      most: MOST_TRIANGLES,
      made: new Map(),
    };
    const chains = chainsOf(design.steps, valueOf, step.id);
    let leaf = 0;
    for (const [k, body] of members.entries()) {
      const mesh = await toSend(body, tolerance, sending, (done) =>
        part(0.3 + (0.7 * (k + done)) / members.length),
      );
      const name = members.length > 1 ? `${called} ${k + 1}` : called;
      const leaves = leavesOf(body);
      const looks = leaves.map(({ material }, at) =>
        coloured(material, colourOf(design.steps, chains[leaf + at]!)),
      );
      leaf += leaves.length;
      const faces = facesOf(mesh, looks);
      sent.push({ mesh, material: looks[0]!, name, ...(faces.length > 1 && { faces }) });
    }
  }
  return sent;
}

function coloured(material: Material, colour: string | undefined): Material {
  const [own, roughness, metalness] = material.look;
  return { ...material, look: [colour ?? own, roughness, metalness] };
}

/** What is told apart in a file: the material, and its colour. */
export const materialKey = ({ name, look }: Material): string => `${name} ${look[0]}`;

/** Faces by what they look like, those in a row that look alike as one. */
function facesOf(mesh: Mesh, looks: readonly Material[]): Faces[] {
  const faces: Faces[] = [];
  for (const { leaf, first, count } of groupsIn(mesh)) {
    const material = looks[leaf]!;
    const before = faces.at(-1);
    if (before && materialKey(before.material) === materialKey(material))
      faces[faces.length - 1] = { ...before, count: before.count + count };
    else faces.push({ material, first, count });
  }
  return faces;
}

/** A design as it was evaluated, and what is known of it. */
export interface Known {
  readonly design: Design;
  readonly evaluation: Evaluation;
  readonly cache: Cache;
}

/** What bodies are sent of. */
export interface Sending extends Known {
  /** What the part is called. */
  readonly name: string;
  /** Triangles of a body at most. */
  readonly most: number;
  /** Of copies of one body the triangles are made once. */
  readonly made: Map<Body, { readonly tolerance: number; readonly mesh: Mesh }>;
}

/** Triangles of a body within a tolerance, mm. @throws Complaint where they are too many, or run through themselves */
export async function toSend(body: Body, tolerance: number, sending: Sending, poll: Poll): Promise<Mesh> {
  const earlier = sending.made.get(body);
  if (earlier?.tolerance === tolerance) return earlier.mesh;
  const mesh = await madeToSend(body, tolerance, sending, poll);
  sending.made.set(body, { tolerance, mesh });
  return mesh;
}

async function madeToSend(body: Body, tolerance: number, sending: Sending, poll: Poll): Promise<Mesh> {
  if (body.form === 'placed') {
    const base = await toSend(body.source, tolerance / stretchOf(body.map), sending, poll);
    // Rounding may lay slivers across each other where it stands now.
    return uncrossed(await freeIfSlivers(mappedMesh(base, body.map), poll), 'This', poll);
  }
  const found = body.form === 'swept' && (await foundOf(body, sending, poll));
  if (found) return sweptToSend(body, sending, found, tolerance, poll);
  const mesh = await solidOf(body, tolerance, poll);
  checkSize(mesh, tolerance, tolerance, MOST_COMBINED);
  return uncrossed(mesh, 'This', poll);
}

/** What was found of a body by the step that made it, of which copies of it are; undefined where it is no step's own. */
async function foundOf(
  body: Body,
  { design, evaluation, cache }: Known,
  poll: Poll,
): Promise<readonly Finding[] | undefined> {
  const at = evaluation.steps.findIndex(({ value }) => value && membersOf(value).includes(body));
  return at < 0
    ? undefined
    : (await checkStep(design.steps[at]!, evaluation.steps[at]!, cache, poll)).findings;
}

/** Triangles of a swept body: as it is, or made clean where it runs through itself. */
async function sweptToSend(
  body: SweptBody,
  { name, most }: Sending,
  findings: readonly Finding[],
  tolerance: number,
  poll: Poll,
): Promise<Mesh> {
  if (findings.some((finding) => finding.overlaps)) {
    const mesh = await selfUnion(body, tolerance, poll);
    checkSize(mesh, tolerance, tolerance);
    return uncrossed(mesh, 'What overlaps here', poll);
  }
  const { mesh, needed, wrong } = await soundMesh(body, findings, {
    tolerance,
    most,
    crossed: most,
    poll: (done) => poll(0.5 + 0.4 * done),
  });
  checkSize(mesh, needed, tolerance, most);
  if (wrong) throw new Complaint([`${name} cannot be exported. ${wrong.says}: `, ...wrong.detail, '.']);
  return mesh;
}

/** The mesh itself. @throws Complaint where it runs through itself */
async function uncrossed(mesh: Mesh, what: string, poll: Poll): Promise<Mesh> {
  const place = await meshCrossing(mesh, (done) => poll(0.9 + 0.05 * done));
  if (place)
    throw new Complaint(
      words`${what} could not be joined cleanly: it still runs through itself near ${mm(place[0])}, ${mm(place[1])}, ${mm(place[2])}. Another chord tolerance may do.`,
    );
  return mesh;
}

/**
 * Refuses a mesh whose tolerance had to be widened to keep it within the number of triangles.
 * @throws Complaint where a mesh is coarser than was wanted, for the number of its triangles
 */
function checkSize(mesh: Mesh, wanted: number, asked: number, most = MOST_TRIANGLES): void {
  if (mesh.tolerance <= wanted * (1 + 1e-9)) return;
  const many = words`more than ${most / 1e6} million triangles`;
  throw new Complaint(
    wanted < asked
      ? words`The gap in this part is so small that its two sides are only kept apart at a chord tolerance of ${mm(wanted)}: that makes `.concat(
          many,
          '. Widen the gap, or close it.',
        )
      : words`At a chord tolerance of ${mm(asked)} this makes `.concat(
          many,
          words`: ${mm(mesh.tolerance)} would do.`,
        ),
  );
}
