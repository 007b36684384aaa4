/** Triangles of a body fit for export: as fine as asked for, and finer where they would run into each other. */
import type { SweptBody } from './body';
import { type Meant, type Unsound, unsound } from '../mesh/verify/exportable';
import type { Poll } from '../geometry/poll';
import { runPolling } from '../geometry/task';
import { joinMeshes, type Mesh } from '../mesh/data/mesh';

interface Wanted {
  /** Chord tolerance, mm. */
  readonly tolerance: number;
  /** Triangles at most; and at most of so many it is looked whether they cross. */
  readonly most: number;
  readonly crossed: number;
  readonly poll: Poll;
}

/** What was found of the body that its mesh must bear in mind. */
interface Found {
  /** Triangles coarser than this, mm, might run into each other over a gap. */
  readonly meshWithin?: number;
  readonly overlaps?: true;
}

export interface SoundMesh {
  readonly mesh: Mesh;
  /** The chord tolerance that was needed, mm: `mesh` is coarser where the limit on triangles bit. */
  readonly needed: number;
  /** What is wrong with it all the same. */
  readonly wrong?: Unsound;
}

/** Sides closer together than the tolerance may cross at it: so often it is made finer, by so much. */
const TIMES = 3;
const FINER = 4;

/** Rejects only when `poll` does. */
export async function soundMesh(
  body: SweptBody,
  findings: readonly Found[],
  { tolerance, most, crossed, poll }: Wanted,
): Promise<SoundMesh> {
  const meant = meantBy(body, findings);
  let needed = Math.min(tolerance, ...findings.map(({ meshWithin = Infinity }) => meshWithin));
  for (let i = 0; ; i++) {
    await poll(0);
    const meshes = await runPolling(body.meshes(needed, most), poll);
    await poll(0);
    const mesh = joinMeshes(meshes);
    const coarser = mesh.tolerance > needed * (1 + 1e-9);
    const late = mesh.triangles.length > 3 * crossed || coarser;
    const wrong = await unsound(meshes, late ? { ...meant, mayCross: true } : meant, mesh, poll);
    if (!wrong) return { mesh, needed };
    if (!wrong.finer || i === TIMES) return { mesh, needed, wrong };
    needed /= FINER;
  }
}

/** What triangles of a body are measured against, by what else was found. */
const meantBy = (body: SweptBody, findings: readonly Found[]): Meant => ({
  surface: body.surface,
  // Where it folds, what is counted twice and what is counted against it differ from mesh to mesh.
  ...(!body.fold && { volume: body.volume }),
  ...(findings.some(({ overlaps }) => overlaps) && { mayCross: true as const }),
});
