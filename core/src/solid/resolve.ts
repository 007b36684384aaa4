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
  const slices = body.swept.flatMap((swept) => {
    const whole = swept.ranges.every(({ from, to }) => from === 0 && to === swept.carrier.path.pieces.length);
    if (!whole || swept.domes[0] || swept.domes[1])
      throw new Complaint(
        'A body that overlaps itself can be made one solid only with flat or flush ends, so far: no domes, no walls in its bore.',
      );
    const size = planSize(swept, tolerance, share);
    reached = Math.max(reached, size.tolerance);
    const [start, end] = swept.planes;
    return slicesOf(swept, size).map((slice) => {
      const mesh: Mesh = { ...slice, normals: new Float32Array(slice.positions.length), tolerance };
      // Planes cut every length alike: what lies wholly beyond is left out.
      return [start, end].reduce(
        (cut, plane) => (plane && cut.triangles.length ? clipMesh(cut, plane) : cut),
        mesh,
      );
    });
  });
  await poll(0.4);
  const made = await union(
    slices.filter(({ triangles }) => triangles.length),
    tolerance,
  );
  await poll(0.9);
  return creased(made, reached);
}
