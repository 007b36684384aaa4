/** A body wrung, tapered, drawn out or bent: its triangles are made so fine first that they keep the tolerance when they are bent. */
import { moved, STILL, turnsAbout, type Affine, type Motion } from '../geometry/motion';
import type { Mass } from '../geometry/mass';
import type { Poll } from '../geometry/poll';
import { givingWay, type Steps } from '../geometry/steps';
import { Complaint } from '../measure/words';
import { bentMesh, type Fineness } from '../mesh/bent';
import { seenThrough, type Parted } from '../mesh/bent-corners';
import { bentMass } from '../mesh/bent-mass';
import { meshMassSteps } from '../mesh/mass';
import { FRESH } from '../mesh/memory';
import { groupsIn, joinMoved, type Mesh, type MovedMesh } from '../mesh/mesh';
import { wiresOf } from '../sweep/wires';
import {
  boundsOfLeaf,
  boxAbout,
  cornersRound,
  isMade,
  isRound,
  leavesOf,
  withinOf,
  type Body,
  type Placed,
  type ReshapedBody,
  type RoughBound,
} from './body';
import { cleanly } from './cleanly';
import { groupsOf, MOST_COMBINED, solidOf } from './combined';
import { exactlyReshaped } from './exactly-reshaped';
import type { Combination } from './kernel';
import { estimatedOf, madeBody, type Measured } from './made';
import { floorStep, inSteps, shapeOf, type Reshaping, type Shape } from './shape';

/**
 * Of the tolerance, how far the triangles may be off before they are bent, and by how much their sides may be bent then:
 * along the axis, and aslant.
 */
const BEFORE = 0.6;
const AFTER = 0.16;
/** The same of sides where it is drawn coarser than was asked for: of as many triangles those look smoothest then. */
const AFTER_COARSER = 0.5;

/**
 * What was meshed last, before it was bent: for another amount it is had from there. Asked for a second time it is kept as it
 * was parted too, and all but the bending is had from that.
 */
interface Meshed {
  readonly tolerance: number;
  readonly most: number;
  readonly mesh: Mesh;
  /** How it was to be reshaped, by an amount in steps, and how finely, as JSON. */
  readonly asked: string;
  readonly parted: Parted | undefined;
}
const last = new WeakMap<Body, Meshed>();

/** How much coarser than is asked for a body is drawn, since it was of too many triangles before; at most so much. */
const coarser = new WeakMap<Body, number>();
const COARSEST = 6;
/** The same of those drawn last: with a figure that changes before it is bent a body is another one, of about its size. */
const recent: { readonly leaves: number; readonly size: number; readonly by: number }[] = [];
const RECENT = 16;
const ALIKE = 0.05;

function coarserFor(of: Body, leaves: number, size: number): number {
  const known = coarser.get(of);
  if (known !== undefined) return known;
  const like = recent.find((one) => one.leaves === leaves && Math.abs(one.size / size - 1) < ALIKE);
  return like?.by ?? 1;
}

function drawCoarser(of: Body, leaves: number, size: number, by: number): void {
  coarser.set(of, by);
  recent.unshift({ leaves, size, by });
  recent.length = Math.min(recent.length, RECENT);
}

/** Of the triangles that are allowed, those that can be bent in the time of a frame. */
const FRAME = 1 / 8;

/** The body reshaped: exactly where it can be. */
export const reshaped = (body: Body, asked: Reshaping): Body =>
  exactlyReshaped(body, asked) ?? reshapedBody(body, shapeOf(asked));

/** The body seen through a shape. */
export function reshapedBody(of: Body, shape: Shape): ReshapedBody {
  const leaves = leavesOf(of).map((placed, i): Placed => ({
    map: STILL,
    material: placed.material,
    leaf: { form: 'piece', from: placed.leaf, bounds: once(() => boundsThrough(leafBounds(of)[i]!, shape)) },
  }));
  const reach = once(() =>
    leafBounds(of)
      .flat()
      .reduce((most, { at, within }) => Math.max(most, shape.reach(at) + within), 0),
  );
  // In steps, so that what is drawn of one amount serves for the next.
  const finer = once(() => 1 / floorStep(BEFORE / shape.stretch(reach())));
  const size = once(() =>
    sizeOver(leaves.flatMap(({ leaf }) => (leaf.form === 'piece' ? leaf.bounds() : []))),
  );
  const sizeBefore = once(() => sizeOver(leafBounds(of).flat()));
  const fineness = (shape: Shape, tolerance: number, after = AFTER): Fineness => {
    const within = after * tolerance;
    return { levels: shape.levels(reach(), within), within };
  };
  const notFiner = (mesh: Mesh, tolerance: number): Mesh => ({
    ...mesh,
    tolerance: Math.max(tolerance, mesh.tolerance * finer()),
  });

  const stepped = once(() => shapeOf(inSteps(shape.asked)));
  /** The body within a tolerance that is one of steps. */
  function* bent(tolerance: number, most: number, after: number, memory = FRESH): Steps<Mesh | undefined> {
    const fine = tolerance / finer();
    const asked = JSON.stringify([stepped().asked, after]);
    const known = last.get(of);
    const same = known?.tolerance === fine && known.most === most;
    if (same && known.parted && known.asked === asked) return seenThrough(known.parted, shape, memory);
    const mesh = same ? known.mesh : yield* of.meshing(fine, most);
    const { slant } = stepped();
    const made = yield* bentMesh(
      notFiner(mesh, tolerance),
      { at: shape.at, height: shape.height, slant },
      fineness(stepped(), tolerance, after),
      most * SPARE,
      memory,
      same,
    );
    if (made) last.set(of, { tolerance: fine, most, mesh, asked, parted: made.straight });
    return made?.mesh;
  }

  const parts = partsOf(of, shape.asked);

  function* meshing(tolerance: number, most: number, memory = FRESH): Steps<Mesh> {
    if (parts) {
      const meshes = yield* partMeshes(parts, tolerance, most);
      const whole = joinMoved(meshes, memory);
      if (of.form !== 'combined') return whole;
      const groups = groupsOf(
        of.bodies,
        meshes.map(({ mesh }) => mesh),
      );
      return { ...whole, groups };
    }
    for (;;) {
      const by = coarserFor(of, leaves.length, sizeBefore());
      const drawn = floorStep(tolerance * by);
      const mesh = yield* bent(drawn, most, by > 1 ? AFTER_COARSER : AFTER, memory);
      const over = mesh ? mesh.triangles.length / 3 / (most * FRAME) : 2;
      if (over > 1)
        drawCoarser(of, leaves.length, sizeBefore(), Math.min(mesh ? COARSEST : Infinity, by * over));
      if (mesh) return mesh;
    }
  }

  /** The body as a closed mesh, bent. @throws Complaint where that takes too many triangles */
  async function bentFrom(whole: Mesh, tolerance: number, poll: Poll): Promise<Mesh> {
    const made = await givingWay(
      bentMesh(notFiner(whole, tolerance), shape, fineness(shape, tolerance), MOST_COMBINED * SPARE),
      poll,
    );
    if (!made)
      throw new Complaint(
        'So fine a tolerance needs too many triangles here: take a coarser one, or change the shape by less.',
      );
    return made.mesh;
  }

  async function bentSolid(tolerance: number, poll: Poll, trusted: boolean): Promise<Combination> {
    const whole = await solidOf(of, tolerance / finer(), poll, trusted);
    const mesh = await bentFrom(whole, tolerance, poll);
    const { parts = 1, skins = 0, mended } = whole;
    const groups = groupsIn(mesh);
    const { volume } = (await givingWay(meshMassSteps(mesh), poll)).mass;
    return { ...mesh, groups, volume, parts, skins, mended };
  }

  return madeBody({ form: 'reshaped', of, shape, leaves } as const, {
    material: of.material,
    get size() {
      return size();
    },
    solid: (tolerance, poll, trusted) =>
      cleanly((finer) => bentSolid(finer * tolerance, poll, trusted), trusted, poll),
    meshing,
    async measured(finest, _solid, poll) {
      await of.measured(poll);
      const begin = isMade(of) ? of.checkedAt : finest;
      const found: { mass: Mass; surface: number }[] = [];
      // Of the faces as they were, bent; what their chords left out of the body is as large a part of it now.
      const fine = await solidOf(of, begin, poll);
      for (const coarser of [1, 2, 4, 8]) {
        const before = coarser > 1 ? await solidOf(of, coarser * begin, poll) : fine;
        const was = await givingWay(meshMassSteps(before), poll);
        const now = await givingWay(bentMass(before, shape, shape.levels(reach(), coarser * begin)), poll);
        const volume = now.mass.volume * (of.volume / was.mass.volume);
        found.push({ mass: { ...now.mass, volume }, surface: now.surface * (of.surface / was.surface) });
      }
      const stretch = shape.stretch(reach());
      const within = EXTENT * finest;
      const whole = stretch * fine.tolerance > within ? await solidOf(of, within / stretch, poll) : fine;
      const { positions } = await bentFrom(whole, within, poll);
      const tolerance = stretch * whole.tolerance + AFTER * within;
      return withKept(estimatedOf(found, { positions, tolerance, parts: fine.parts ?? 1 }), of, shape);
    },
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
function partsOf(of: Body, asked: Reshaping): readonly Part[] | undefined {
  const known = new Map<Body, Body>();
  const part = (body: Body, by: Motion, share: number): Part => {
    const made = known.get(body) ?? reshaped(body, asked);
    known.set(body, made);
    return { body: made, by, share };
  };
  const turns = (map: Affine) => asked.way !== 'bend' && turnsAbout(map, asked.at);
  if (of.form === 'combined' && of.operation === 'add')
    return of.bodies.map((one) => {
      const share = 1 / of.bodies.length;
      return one.form === 'placed' && turns(one.map) ? part(one.of, one.map, share) : part(one, STILL, share);
    });
  if (of.form !== 'swept' || of.swept.length === 1) return undefined;
  const wires = wiresOf(of);
  if (!wires.some(({ copy }) => copy && turns(copy.by))) return undefined;
  return wires.map(({ body, share, copy }) =>
    copy && turns(copy.by) ? part(copy.of, copy.by, share) : part(body, STILL, share),
  );
}

function* partMeshes(parts: readonly Part[], tolerance: number, most: number): Steps<MovedMesh[]> {
  const made = new Map<Body, Mesh>();
  const meshes: MovedMesh[] = [];
  for (const { body, by, share } of parts) {
    const mesh = made.get(body) ?? (yield* body.meshing(tolerance, most * share));
    made.set(body, mesh);
    meshes.push({ mesh, by });
  }
  return meshes;
}

/** What is known better than by triangles: a volume that is kept; and how far off the body was before. */
function withKept(found: Measured, of: Body, { keepsVolume }: Shape): Measured {
  const { mass, surface, within } = found;
  const off = withinOf(of) ?? { volume: 0, surface: 0 };
  const volume = keepsVolume ? of.volume : mass.volume;
  return {
    ...found,
    mass: { ...mass, volume },
    within: {
      ...within,
      volume: (keepsVolume ? 0 : within.volume) + (off.volume * volume) / of.volume,
      surface: within.surface + (off.surface * surface) / of.surface,
    },
  };
}

/** Its extent is seen of triangles at most so many times as coarse as it is measured by. */
const EXTENT = 2;

/** What is bent may be of so many times as many triangles. */
const SPARE = 4;

const sizeOver = (bounds: readonly RoughBound[]): number => {
  const [low, high] = boxAbout(bounds);
  return Math.max(...high.map((x, k) => x - low[k]!));
};

/** What is worked out when it is first asked for. */
function once<T>(work: () => T): () => T {
  let made: { readonly value: T } | undefined;
  return () => (made ??= { value: work() }).value;
}

/** Places on what a turned body stands between, along each of its sides. */
const LOOKS = 5;

/** Of bodies: of another amount they are the same. */
const BOUNDS = new WeakMap<Body, readonly (readonly RoughBound[])[]>();

/** Where each leaf of a body is, before it is bent. */
function leafBounds(of: Body): readonly (readonly RoughBound[])[] {
  const bounds = BOUNDS.get(of) ?? leavesOf(of).map(boundsOf);
  BOUNDS.set(of, bounds);
  return bounds;
}

function boundsThrough(bounds: readonly RoughBound[], shape: Shape): RoughBound[] {
  const out = new Float64Array(12);
  return bounds.map(({ at, within }) => {
    shape.at(at[0], at[1], at[2], out);
    return { at: [out[0]!, out[1]!, out[2]!], within: within * shape.stretch(shape.reach(at) + within) };
  });
}

/** Where a leaf is, so closely that a bend of it is seen. */
function boundsOf(placed: Placed): readonly RoughBound[] {
  const { leaf, map } = placed;
  if (leaf.form !== 'turned') return boundsOfLeaf(placed);
  const [low, high] = leaf.extent;
  const parts = Array.from({ length: LOOKS }, (_x, i) => i / (LOOKS - 1));
  const side = (k: 0 | 1 | 2) => parts.map((part) => low[k] + part * (high[k] - low[k]));
  const across = isRound(leaf.turned)
    ? cornersRound(high[0])
    : side(0).flatMap((x) => side(1).map((y): [number, number] => [x, y]));
  return across.flatMap(([x, y]) => side(2).map((z) => ({ at: moved(map, [x, y, z]), within: 0 })));
}
