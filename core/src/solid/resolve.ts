/** One clean solid of a swept body that overlaps itself, or whose wires run into one another. */
import type { Poll } from '../design/kind';
import { Complaint } from '../measure/words';
import type { Body } from '../sweep/body';
import { clipMesh } from '../sweep/clip';
import type { Mesh } from '../sweep/mesh';
import { planSize } from '../sweep/mesh-size';
import { slicesOf } from '../sweep/slices';
import { creased } from './creased';
import { union } from './kernel';

/** More triangles than this take the kernel minutes. */
const MOST_TRIANGLES = 1_500_000;

/** @throws Complaint where it cannot be done; KernelError where the kernel fails */
export async function resolvedMesh(body: Body, tolerance: number, poll: Poll): Promise<Mesh> {
  const share = MOST_TRIANGLES / body.swept.length;
  let reached = 0;
  const lengths: Mesh[] = [];
  const hulls: Float32Array[] = [];
  for (const swept of body.swept) {
    if (swept.ranges.some(({ from, to }) => from > 0 || to < swept.carrier.path.pieces.length))
      throw new Complaint(
        'A body that overlaps itself can be made one solid only without walls in its bore.',
      );
    const size = planSize(swept, tolerance, share);
    reached = Math.max(reached, size.tolerance);
    const slices = slicesOf(swept, size);
    if (slices.hulls.length && swept.planes.some((plane) => plane !== undefined))
      throw new Complaint(
        'A body that folds over itself can be made one solid only with ends that are not ground.',
      );
    hulls.push(...slices.hulls);
    for (const slice of slices.lengths) {
      const mesh: Mesh = { ...slice, normals: new Float32Array(slice.positions.length), tolerance };
      // Planes cut every length alike: what lies wholly beyond is left out.
      const cut = swept.planes.reduce<Mesh>(
        (left, plane) => (plane && left.triangles.length ? clipMesh(left, plane) : left),
        mesh,
      );
      if (cut.triangles.length) lengths.push(cut);
    }
  }
  await poll(0.4);
  const made = await union(lengths, hulls, tolerance);
  await poll(0.9);
  return creased(made, reached);
}
