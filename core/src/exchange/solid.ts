/** One body of a design as triangles that are fit to be sent out, or the reason why not. */
import { meshCrossing } from '../mesh/crossing';
import { checkStep, type Cache, type Evaluation } from '../design/evaluate';
import { sentTolerance, stepName } from '../design/edit';
import type { Poll } from '../geometry/poll';
import type { Design } from '../design/schema';
import { sayWords } from '../measure/format';
import type { Material } from '../measure/materials';
import { Complaint, mm, words } from '../measure/words';
import { partOf } from '../view/part';
import { MOST_COMBINED, solidOf } from '../solid/combined';
import { resolvedMesh } from '../solid/resolve';
import type { Mesh } from '../mesh/mesh';
import { soundMesh } from '../sweep/sound-mesh';

/** Triangles a file may hold: a binary STL of 200 MB. */
const MOST_TRIANGLES = 4_000_000;
const TOLERANCES = [0.0005, 10] as const;

/** What is sent: closed triangles, and what they are of. */
export interface Sent {
  readonly mesh: Mesh;
  readonly material: Material;
}

/**
 * The last body of the part, meshed to the design's tolerance. @throws Complaint when there
 * is none, when a check speaks against it, or when the mesh would not be closed.
 */
export async function solidToSend(
  design: Design,
  evaluation: Evaluation,
  cache: Cache,
  poll: Poll,
): Promise<Sent> {
  const trouble = evaluation.steps.findIndex((result) => result.state === 'fault');
  if (trouble >= 0) {
    const [complaint] = evaluation.steps[trouble]!.complaints;
    throw new Complaint([`${stepName(design.steps[trouble]!)} is not made yet: `, ...complaint!.says]);
  }
  const step = partOf(design.steps).at(-1);
  const result = evaluation.steps.find(({ id }) => id === step?.id);
  if (!step || !result?.value) throw new Complaint('There is no body yet: carry a section along a path.');
  if (result.value.type !== 'body')
    throw new Complaint(`${stepName(step)} makes several bodies: add them to one, which can be sent out.`);
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
  const body = result.value;
  if (body.form !== 'swept') {
    const mesh = await solidOf(body, tolerance, poll);
    checkSize(mesh, tolerance, tolerance, MOST_COMBINED);
    return { mesh: await uncrossed(mesh, 'This', poll), material: body.material };
  }
  if (findings.some((finding) => finding.overlaps)) {
    const mesh = await resolvedMesh(body, tolerance, poll);
    checkSize(mesh, tolerance, tolerance);
    return { mesh: await uncrossed(mesh, 'What overlaps here', poll), material: body.material };
  }
  const { mesh, needed, wrong } = await soundMesh(body, findings, {
    tolerance,
    most: MOST_TRIANGLES,
    crossed: MOST_TRIANGLES,
    poll: (done) => poll(0.5 + 0.4 * done),
  });
  checkSize(mesh, needed, tolerance);
  if (wrong)
    throw new Complaint([`${stepName(step)} cannot be sent out. ${wrong.says}: `, ...wrong.detail, '.']);
  return { mesh, material: body.material };
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
