/** What of triangles a printer would stumble on, and where. */
import type { Poll } from '../../geometry/poll';
import { runPolling } from '../../geometry/task';
import type { Vec3 } from '../../geometry/vector';
import { inspectSteps, type EdgeFault, type EdgeFaults } from '../data/topology';
import { meshCrossing } from './crossing';
import type { Triangles } from '../data/mesh';

export interface MeshFaults {
  readonly edges: Readonly<Record<EdgeFault, EdgeFaults>>;
  /** Triangles with two corners in one place. */
  readonly degenerate: number;
  /** A place where triangles run through each other; undefined where none do. */
  readonly crossing?: Vec3;
}

/** The faults of one mesh. Rejects only when `poll` does. */
export async function meshFaults(mesh: Triangles, poll: Poll): Promise<MeshFaults> {
  const { edges, degenerate } = await runPolling(inspectSteps(mesh), poll);
  const crossing = await meshCrossing(mesh, poll);
  return { edges, degenerate, ...(crossing && { crossing }) };
}

/** The faults of several together; of places the first of each. */
export function allFaults(all: readonly MeshFaults[]): MeshFaults {
  const of = (fault: EdgeFault): EdgeFaults => {
    const place = all.find(({ edges }) => edges[fault].place)?.edges[fault].place;
    return { count: all.reduce((sum, { edges }) => sum + edges[fault].count, 0), ...(place && { place }) };
  };
  const crossing = all.find((one) => one.crossing)?.crossing;
  return {
    edges: { open: of('open'), doubled: of('doubled'), turned: of('turned') },
    degenerate: all.reduce((sum, one) => sum + one.degenerate, 0),
    ...(crossing && { crossing }),
  };
}
