/** One clean solid of a swept body that overlaps itself, or whose wires run into one another. */
import { GeometryError } from '../../geometry/error';
import type { SweptBody } from '../../sweep/body';
import type { Poll } from '../../geometry/poll';
import { runPolling } from '../../geometry/task';
import { mm, words } from '../../measure/words';
import { clipMesh } from '../../mesh/cut/clip';
import { planesOf } from '../../sweep/carry/cutting';
import { groupsIn, type GroupedMesh, type Mesh } from '../../mesh/data/mesh';
import { planSize } from '../../sweep/skin/mesh-size';
import { slicesOf } from '../../sweep/skin/slices';
import { cleaned } from './clean';
import { creased } from '../../mesh/build/normals';
import { type Hull, union } from '../kernel/kernel';
import { KernelError } from '../kernel/error';

/** More triangles than this take the kernel minutes. */
const MOST_TRIANGLES = 1_500_000;
/** And so do more hulls. */
const MOST_HULLS = 20_000;

/**
 * The mesh of a body that runs through itself, as one clean solid: pieces that don't are joined by the kernel.
 * @throws Complaint where it cannot be done, or fails
 */
export const selfUnion = (body: SweptBody, tolerance: number, poll: Poll): Promise<Mesh> =>
  cleaned((finer) => joinedMesh(body, finer * tolerance, poll), false, poll);

async function joinedMesh(body: SweptBody, tolerance: number, poll: Poll): Promise<GroupedMesh> {
  const share = MOST_TRIANGLES / body.swept.length;
  let reached = 0;
  const lengths: Mesh[] = [];
  const hulls: Hull[] = [];
  for (const swept of body.swept) {
    const size = planSize(swept, tolerance, share);
    reached = Math.max(reached, size.tolerance);
    const slices = slicesOf(swept, size);
    const planes = planesOf(swept);
    hulls.push(...slices.hulls.map((points) => ({ points, planes })));
    if (hulls.length > MOST_HULLS)
      throw new GeometryError(
        'too-many-parts',
        words`At a chord tolerance of ${mm(tolerance)} too much of it folds over itself to be made one clean solid: a coarser one would do.`,
      );
    for (const slice of slices.lengths) {
      const mesh: Mesh = { ...slice, normals: new Float32Array(slice.positions.length), tolerance };
      // Planes cut every length alike: what lies wholly beyond is left out.
      const cut = planes.reduce<Mesh>(
        (left, plane) => (left.triangles.length ? clipMesh(left, plane) : left),
        mesh,
      );
      if (cut.triangles.length) lengths.push(cut);
    }
  }
  await poll(0.4);
  const made = await union(lengths, hulls, tolerance, (done) => poll(0.4 + 0.5 * done)).catch(
    (error: unknown) => {
      if (!(error instanceof KernelError)) throw error;
      throw new GeometryError('kernel-failed', [
        'What overlaps here could not be joined to one clean solid: ',
        ...error.says,
        '. Another chord tolerance may do; parts that only touch are best moved into each other, or apart.',
      ]);
    },
  );
  await poll(0.9);
  const mesh = await runPolling(creased(made, reached), () => poll(0.9));
  return { ...mesh, groups: groupsIn(mesh) };
}
