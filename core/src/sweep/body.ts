/** A section carried along paths, kept as exactly that: figures come from it, triangles when asked. */
import { runNow, remembered, type Task } from '../geometry/task';
import { addMass } from '../geometry/mass';
import type { Material } from '../measure/materials';
import { samplePath, planAbout } from '../path/sample';
import type { Handle, Path } from '../path/path';
import { isCentred, type Section } from '../section/section';
import { boxReaching, extentOf, type Reaching } from '../mesh/data/extent';
import { sweptReaching } from './exact/extent';
import { isSteady, massSteps } from './exact/figures';
import { type Fold, foldOf } from './exact/fold';
import { surfaceSteps } from './exact/surface';
import { sweptMesh } from './skin/mesh';
import type { Bodily } from '../mesh/data/body';
import { joinMoved, type Mesh, type MovedMesh } from '../mesh/data/mesh';
import { FRESH, type MeshMemory } from '../mesh/data/memory';
import { copiesAmong } from './carry/copies';
import { movedSwept } from './carry/moved';
import type { Swept } from './carry/swept';
import { STILL, type Motion } from '../geometry/motion';

export interface SweptBody extends Bodily {
  readonly form: 'swept';
  /** What is carried along each path: one, or as many as the set has that was swept along. */
  readonly swept: readonly Swept[];
  /** The paths as they are carried along: corners turned, cut where the section changes. */
  readonly paths: readonly Path[];
  /** The section as it was chosen. */
  readonly section: Section;
  /** Of all paths together, mm. */
  readonly length: number;
  /** Where it folds over itself: volume, surface and moments then say nothing. */
  readonly fold: Fold | undefined;
  /** Points of its charts that are figures of its step. */
  readonly handles: readonly Handle[];
  /** Least wall that is wanted, mm. */
  readonly leastWall?: number;
  /** Triangles of each wire by itself: they share no corners, and each closes. */
  meshes(tolerance: number, most: number): Task<readonly Mesh[]>;
}

interface BodyExtras {
  readonly leastWall?: number | undefined;
  readonly handles?: readonly Handle[];
}

/** A body of sections carried along paths; its figures are worked out when they are asked for. */
export function sweptBody(
  swept: readonly Swept[],
  section: Section,
  material: Material,
  { leastWall, handles = [] }: BodyExtras = {},
): SweptBody {
  const sum = (all: readonly number[]) => all.reduce((total, one) => total + one, 0);
  const masses = ofEach(swept, massSteps);
  const surfaces = ofEach(swept, surfaceSteps);
  const extent = remembered(function* () {
    return yield* extentOf(yield* wiresReaching(swept, STILL));
  });
  const fold = remembered(function* () {
    yield;
    return foldOf(swept);
  });
  const meshing = (tolerance: number, most: number, memory = FRESH) =>
    joinedMesh(swept, tolerance, most, memory);
  return {
    type: 'body',
    form: 'swept',
    swept,
    handles,
    paths: swept.map(({ carrier }) => carrier.path),
    section,
    material,
    length: sum(swept.map(({ carrier }) => carrier.path.length)),
    get volume() {
      // Of one that is steady it is known without the moments.
      return sum(swept.map((one, i) => plainVolume(one) ?? masses.value()[i]!.volume));
    },
    get surface() {
      return sum(surfaces.value());
    },
    get mass() {
      return addMass(masses.value());
    },
    get fold() {
      return fold.value();
    },
    *reaching(motion) {
      // Copies that are but moved reach as far, and are asked for beside it.
      return motion === STILL ? [boxReaching(yield* extent.steps())] : yield* wiresReaching(swept, motion);
    },
    get extent() {
      return extent.value();
    },
    async measured(poll) {
      for (const figure of [fold, masses, surfaces]) await figure.known(poll);
    },
    weighed: masses.known,
    ...(leastWall !== undefined && { leastWall }),
    *meshes(tolerance, most) {
      const meshes: Mesh[] = [];
      for (const one of yield* wireMeshes(swept, tolerance, most)) meshes.push(yield* joinMoved([one]));
      return meshes;
    },
    meshing,
    mesh: (...wanted) => runNow(meshing(...wanted)),
  };
}

/** A figure of each wire, worked out when it is first asked for. */
const ofEach = <T>(swept: readonly Swept[], steps: (one: Swept) => Task<T>) =>
  remembered(function* () {
    const all: T[] = [];
    for (const one of swept) all.push(yield* steps(one));
    return all;
  });

function* wiresReaching(swept: readonly Swept[], motion: Motion): Task<readonly Reaching[]> {
  const all: Reaching[] = [];
  for (const one of swept) all.push(yield* sweptReaching(motion === STILL ? one : movedSwept(one, motion)));
  return all;
}

/** Triangles of each wire; of those that are but moved, of the first. */
function* wireMeshes(swept: readonly Swept[], tolerance: number, most: number): Task<readonly MovedMesh[]> {
  const all: MovedMesh[] = [];
  for (const [i, copy] of copiesAmong(swept).entries()) {
    yield;
    const mesh = copy
      ? all[copy.original]!.mesh
      : yield* sweptMesh(swept[i]!, tolerance, most / swept.length);
    all.push({ mesh, by: copy?.by ?? STILL });
  }
  return all;
}

/** Triangles of all wires together. */
function* joinedMesh(
  swept: readonly Swept[],
  tolerance: number,
  most: number,
  memory: MeshMemory,
): Task<Mesh> {
  const [first, ...more] = swept;
  return more.length
    ? yield* joinMoved(yield* wireMeshes(swept, tolerance, most), memory)
    : yield* sweptMesh(first!, tolerance, most, memory);
}

/** Points of the path that its rough size is taken from. */
const ROUGH_POINTS = 240;

/** Of bodies: what is drawn of them asks for it several times. */
const SIZES = new WeakMap<Pick<SweptBody, 'swept'>, number>();

/** About how large a body is along x, y or z, whichever is most, mm: fast, and good enough to choose how finely to mesh it. */
export function sizeAbout(body: Pick<SweptBody, 'swept'>): number {
  const size = SIZES.get(body) ?? roughSize(body);
  SIZES.set(body, size);
  return size;
}

function roughSize({ swept }: Pick<SweptBody, 'swept'>): number {
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const { carrier, reach, scale } of swept) {
    const { positions } = samplePath(carrier.path, planAbout(carrier.path, ROUGH_POINTS));
    for (let i = 0; i < positions.length; i++) {
      const k = i % 3;
      low[k] = Math.min(low[k]!, positions[i]! - reach * scale);
      high[k] = Math.max(high[k]!, positions[i]! + reach * scale);
    }
  }
  return Math.max(...high.map((x, k) => x - low[k]!));
}

/** Where nothing changes along the path and it runs through the centroid: area by length (Pappus). */
const plainVolume = (swept: Swept): number | undefined =>
  isSteady(swept) && isCentred(swept.section) ? swept.section.area * swept.carrier.path.length : undefined;
