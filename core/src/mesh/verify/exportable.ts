/** The conditions for export: the triangles close, bound the right volume, and do not cross. */
import type { Poll } from '../../geometry/poll';
import type { Vec3 } from '../../geometry/vector';
import type { Mesh } from '../data/mesh';
import { mm, told, words, type Words } from '../../measure/words';
import { runPolling } from '../../geometry/task';
import { inspectSteps } from '../data/topology';
import { meshCrossing } from './crossing';

/** What triangles are measured against. */
export interface Meant {
  /** Exact volume, mm³, where there is one, and surface, mm². */
  readonly volume?: number;
  readonly surface: number;
  /** Set where they may run through themselves: what overlaps is made one clean solid of later. */
  readonly mayCross?: true;
}

export interface Unsound {
  /** What is wrong, as a sentence without its full stop; and its figures. */
  readonly says: string;
  readonly detail: Words;
  readonly place?: Vec3;
  /** Set where finer triangles might do: sides close together cross when they are coarse. */
  readonly finer?: true;
}

/**
 * Volume that a mesh may be off by, as a part of surface times chord tolerance. Chords stand off on both sides of the
 * surface they follow: of all that is made here the worst is off by half of this.
 */
const OFF = 0.25;
/** A corner in single precision is off by this part of its distance from the origin. */
const ROUNDING = 1e-7;

/** What is wrong with meshes, each of which must close by itself; undefined where nothing is. Rejects only when `poll` does. */
export async function unsound(
  meshes: readonly Mesh[],
  { volume, surface, mayCross }: Meant,
  joined: Mesh,
  poll: Poll,
): Promise<Unsound | undefined> {
  let [openEdges, degenerate, bounded] = [0, 0, 0];
  let tolerance = 0;
  let inward = false;
  for (const mesh of meshes) {
    const report = await runPolling(inspectSteps(mesh), poll);
    openEdges += report.openEdges;
    degenerate += report.degenerate;
    bounded += report.volume;
    inward ||= report.volume <= 0;
    tolerance = Math.max(tolerance, mesh.tolerance);
  }
  if (openEdges || degenerate)
    return {
      says: 'Its surface is not closed',
      detail: words`${openEdges} open edges, ${degenerate} collapsed triangles`,
      finer: true,
    };
  await poll(0);
  let far = 0;
  for (const x of joined.positions) far = Math.max(far, Math.abs(x));
  const allowed = surface * (OFF * tolerance + ROUNDING * far);
  if (volume !== undefined && (inward || Math.abs(bounded - volume) > allowed))
    return {
      says: 'Its surface does not bound what it should',
      detail: words`${told(bounded, 'volume')} for ${told(volume, 'volume')}; at a chord tolerance of ${mm(tolerance)} they may differ by ${told(allowed, 'volume')}`,
    };
  if (mayCross) return undefined;
  const place = await meshCrossing(joined, poll);
  return (
    place && {
      says: 'Its surface runs through itself',
      detail: words`near ${mm(place[0])}, ${mm(place[1])}, ${mm(place[2])}`,
      place,
      finer: true,
    }
  );
}
