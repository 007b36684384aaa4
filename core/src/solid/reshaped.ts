/** A body wrung, tapered, drawn out or bent: its triangles are made so fine first that they keep the tolerance when they are bent. */
import { moved, STILL, stretchOf } from '../geometry/motion';
import { givingWay, type Steps } from '../geometry/steps';
import { bentMass, bentMesh } from '../mesh/bent';
import { meshMass } from '../mesh/mass';
import { FRESH } from '../mesh/memory';
import type { Mesh } from '../mesh/mesh';
import {
  boxAbout,
  leavesOf,
  roughBounds,
  withinOf,
  type Body,
  type Placed,
  type ReshapedBody,
  type RoughBound,
} from './body';
import { MOST_COMBINED, solidOf } from './combined';
import { madeBody, measuredBy, type Measured } from './made';
import { placedBody } from './placed';
import type { Shape } from './shape';

/**
 * Of the tolerance, how far the triangles may be off before they are bent, and by how much their sides may be bent then:
 * along the axis, and aslant.
 */
const BEFORE = 0.45;
const AFTER = 0.25;

/** What was meshed last, before it was bent: of another amount all but the bending is had from it. */
let last: { of: Body; tolerance: number; most: number; mesh: Mesh } | undefined;

/** The body seen through a shape. */
export function reshapedBody(of: Body, shape: Shape): ReshapedBody {
  const leaves = leavesOf(of).map((placed): Placed => ({
    map: STILL,
    material: placed.material,
    leaf: { form: 'piece', from: placed.leaf, bounds: () => boundsThrough(placed, shape) },
  }));
  const reach = Math.max(...roughBounds(of).map(({ at, within }) => shape.reach(at) + within));
  // In powers of two, so that what is drawn of one amount serves for the next.
  const finer = 2 ** Math.ceil(Math.log2(shape.stretch(reach) / BEFORE));
  function bent(mesh: Mesh, tolerance: number, most: number, memory = FRESH) {
    const within = AFTER * tolerance;
    const before = { ...mesh, tolerance: Math.max(tolerance, mesh.tolerance * finer) };
    return bentMesh(before, shape, { levels: shape.levels(reach, within), within }, most, memory);
  }

  function* meshing(tolerance: number, most: number, memory = FRESH): Steps<Mesh> {
    const fine = tolerance / finer;
    if (!(last?.of === of && last.tolerance === fine && last.most === most))
      last = { of, tolerance: fine, most, mesh: yield* of.meshing(fine, most) };
    return yield* bent(last.mesh, tolerance, most * SPARE, memory);
  }

  return madeBody({ form: 'reshaped', of, shape, leaves } as const, {
    material: of.material,
    size: sizeOver(leaves.flatMap(({ leaf }) => (leaf.form === 'piece' ? leaf.bounds() : []))),
    async solid(tolerance, poll, trusted) {
      const whole = await solidOf(of, tolerance / finer, poll, trusted);
      const mesh = await givingWay(bent(whole, tolerance, MOST_COMBINED * SPARE), poll);
      const { parts = 1, skins = 0, mended } = whole;
      const groups = mesh.groups ?? [{ of: 0, first: 0, count: mesh.triangles.length / 3 }];
      return { ...mesh, groups, volume: meshMass(mesh).mass.volume, parts, skins, mended };
    },
    meshing,
    async measured(finest, solid, poll) {
      await of.measured(poll);
      // Of the faces as they were, bent; what their chords left out of the body is as large a part of it now.
      const found = await measuredBy(finest, solid, async ({ mended }, tolerance) => {
        const before = await solidOf(of, tolerance / finer, poll, !mended);
        const was = meshMass(before);
        const now = await givingWay(bentMass(before, shape, shape.levels(reach, tolerance)), poll);
        const volume = now.mass.volume * (of.volume / was.mass.volume);
        return { mass: { ...now.mass, volume }, surface: now.surface * (of.surface / was.surface) };
      });
      return withKept(found, of, shape);
    },
  });
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

/** What is bent may be of so many times as many triangles. */
const SPARE = 4;

const sizeOver = (bounds: readonly RoughBound[]): number => {
  const [low, high] = boxAbout(bounds);
  return Math.max(...high.map((x, k) => x - low[k]!));
};

/** Places on the box of a turned body, along each of its sides. */
const LOOKS = 5;

function boundsThrough(placed: Placed, shape: Shape): RoughBound[] {
  const out = new Float64Array(12);
  return boundsOf(placed).map(({ at, within }) => {
    shape.at(...at, out);
    return { at: [out[0]!, out[1]!, out[2]!], within: within * shape.stretch(shape.reach(at) + within) };
  });
}

/** Where a leaf is, so closely that a bend of it is seen. */
function boundsOf({ leaf, map }: Placed): readonly RoughBound[] {
  if (leaf.form === 'swept') return roughBounds(placedBody(leaf, map));
  if (leaf.form === 'piece')
    return leaf.bounds().map(({ at, within }) => ({ at: moved(map, at), within: stretchOf(map) * within }));
  const [low, high] = leaf.extent;
  const parts = Array.from({ length: LOOKS }, (_x, i) => i / (LOOKS - 1));
  const side = (k: 0 | 1 | 2) => parts.map((part) => low[k] + part * (high[k] - low[k]));
  return side(0).flatMap((x) =>
    side(1).flatMap((y) => side(2).map((z) => ({ at: moved(map, [x, y, z]), within: 0 }))),
  );
}
