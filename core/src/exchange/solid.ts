/** One body of a design as triangles that are fit to be sent out, or the reason why not. */
import { inspectMesh } from '../check/closed';
import { checkStep, type Cache, type Evaluation } from '../design/evaluate';
import { sentTolerance, stepName } from '../design/edit';
import type { Poll } from '../design/kind';
import type { Design } from '../design/schema';
import { sayWords } from '../measure/format';
import type { MaterialId } from '../measure/materials';
import { Complaint, mm, words } from '../measure/words';
import { resolvedMesh } from '../solid/resolve';
import type { Mesh } from '../sweep/mesh';

/** Triangles a file may hold: a binary STL of 200 MB. */
const MOST_TRIANGLES = 4_000_000;
const TOLERANCES = [0.0005, 10] as const;

/** What is sent: closed triangles, and what they are of. */
export interface Sent {
  readonly mesh: Mesh;
  readonly material: MaterialId;
}

/**
 * The body that stands last on the sheet, meshed to the design's tolerance. @throws Complaint when there
 * is none, when a check speaks against it, or when the mesh would not be closed.
 */
export async function solidToSend(
  design: Design,
  evaluation: Evaluation,
  cache: Cache,
  poll: Poll,
): Promise<Sent> {
  const i = evaluation.steps.findLastIndex(
    (result, at) => result.value?.type === 'body' && !design.steps[at]!.hidden,
  );
  const trouble = evaluation.steps.findIndex((result) => result.state === 'fault');
  if (trouble >= 0) {
    const [complaint] = evaluation.steps[trouble]!.complaints;
    throw new Complaint([`${stepName(design.steps[trouble]!)} is not made yet: `, ...complaint!.says]);
  }
  if (i < 0) throw new Complaint('There is no body yet: carry a section along a path.');
  const step = design.steps[i]!;
  const result = evaluation.steps[i]!;
  if (result.value?.type !== 'body') throw new Error('not a body');
  const { findings } = await checkStep(step, result, cache, poll);
  const against = findings.find((finding) => finding.blocks);
  if (against)
    throw new Complaint([
      `${stepName(step)} cannot be sent out as a solid: `,
      sayWords(against.says, design.unit).replace(/^./, (c) => c.toLowerCase()),
      '.',
    ]);

  const tolerance = sentTolerance(design);
  const [finest, coarsest] = TOLERANCES;
  if (!(tolerance >= finest && tolerance <= coarsest))
    throw new Complaint(words`The chord tolerance must lie between ${mm(finest)} and ${mm(coarsest)}.`);
  await poll(0.3);
  const overlaps = findings.some((finding) => finding.overlaps);
  const mesh = overlaps
    ? await resolvedMesh(result.value, tolerance, poll)
    : result.value.mesh(tolerance, MOST_TRIANGLES);
  if (mesh.tolerance > tolerance * (1 + 1e-9))
    throw new Complaint(
      words`At a chord tolerance of ${mm(tolerance)} this makes more than ${MOST_TRIANGLES / 1e6} million triangles: ${mm(mesh.tolerance)} would do.`,
    );
  await poll(0.6);
  const { openEdges, degenerate, volume } = inspectMesh(mesh);
  if (openEdges || degenerate || volume <= 0)
    throw new Complaint(
      `The surface does not close: ${openEdges} open edges, ${degenerate} collapsed triangles.`,
    );
  return { mesh, material: result.value.material };
}
