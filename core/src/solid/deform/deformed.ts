/** A body wrung, tapered, drawn out or bent. */
import { STILL, turnsAbout, type Affine, type Motion } from '../../geometry/motion';
import type { Task } from '../../geometry/task';
import { FRESH, type MeshMemory } from '../../mesh/data/memory';
import { joinMoved, type Mesh, type MovedMesh } from '../../mesh/data/mesh';
import { wiresOf } from '../../sweep/wires';
import { DeformedMesh } from './deform-mesh';
import type { Body, DeformedBody } from '../body/body';
import { cleaned } from '../combine/clean';
import { groupsOf } from '../combine/combined';
import { exactlyDeformed } from './exact';
import { madeBody } from '../body/estimated';
import { deformationOf, type DeformOptions, type Deformation } from '../../geometry/deformation';

/** The body reshaped: exactly where it can be. */
export const deformed = (body: Body, asked: DeformOptions): Body =>
  exactlyDeformed(body, asked) ?? deformedBody(body, deformationOf(asked));

/** The body seen through a deformation. */
export function deformedBody(of: Body, deformation: Deformation): DeformedBody {
  const mesh = new DeformedMesh(of, deformation);
  const parts = partsOf(of, deformation.asked);
  return madeBody({ form: 'deformed', source: of, deformation, leaves: mesh.leaves } as const, {
    material: of.material,
    get size() {
      return mesh.size();
    },
    get shownAt() {
      return mesh.shownAt();
    },
    solid: (tolerance, poll, trusted) =>
      cleaned((finer) => mesh.solid(finer * tolerance, poll, trusted), trusted, poll),
    meshing: (tolerance, most, memory = FRESH) =>
      parts ? joinParts(of, parts, tolerance, most, memory) : mesh.drawn(tolerance, most, memory),
    measured: (finest, _solid, poll) => mesh.measured(finest, poll),
  });
}

/** A body reshaped, then moved; and what part of the triangles it may take. */
interface Part {
  readonly body: Body;
  readonly by: Motion;
  readonly share: number;
}

/**
 * What is bent part by part: what is added, since some of it may stay exact, and wires of which one is another turned about the
 * axis. What is turned so, and not bent out of it, is reshaped once.
 */
function partsOf(of: Body, asked: DeformOptions): readonly Part[] | undefined {
  const known = new Map<Body, Body>();
  const part = (body: Body, by: Motion, share: number): Part => {
    const made = known.get(body) ?? deformed(body, asked);
    known.set(body, made);
    return { body: made, by, share };
  };
  const turns = (map: Affine) => asked.way !== 'bend' && turnsAbout(map, asked.at);
  if (of.form === 'combined' && of.operation === 'add')
    return of.bodies.map((one) => {
      const share = 1 / of.bodies.length;
      return one.form === 'placed' && turns(one.map)
        ? part(one.source, one.map, share)
        : part(one, STILL, share);
    });
  if (of.form !== 'swept' || of.swept.length === 1) return undefined;
  const wires = wiresOf(of);
  if (!wires.some(({ copy }) => copy && turns(copy.by))) return undefined;
  return wires.map(({ body, share, copy }) =>
    copy && turns(copy.by) ? part(copy.of, copy.by, share) : part(body, STILL, share),
  );
}

/** The parts as one mesh, each bent by itself. */
function* joinParts(
  of: Body,
  parts: readonly Part[],
  tolerance: number,
  most: number,
  memory: MeshMemory,
): Task<Mesh> {
  const meshes = yield* partMeshes(parts, tolerance, most);
  const whole = yield* joinMoved(meshes, memory);
  if (of.form !== 'combined') return whole;
  const groups = groupsOf(
    of.bodies,
    meshes.map(({ mesh }) => mesh),
  );
  return { ...whole, groups };
}

function* partMeshes(parts: readonly Part[], tolerance: number, most: number): Task<MovedMesh[]> {
  const made = new Map<Body, Mesh>();
  const meshes: MovedMesh[] = [];
  for (const { body, by, share } of parts) {
    const mesh = made.get(body) ?? (yield* body.meshing(tolerance, most * share));
    made.set(body, mesh);
    meshes.push({ mesh, by });
  }
  return meshes;
}
