/** How a body is seen through a shape: its triangles, made so fine that they keep the tolerance when bent, and what it measures. */
import { GeometryError } from '../../geometry/error';
import { firstAbove } from '../../geometry/search';
import { Memo } from '../../geometry/memo';
import { moved, STILL } from '../../geometry/motion';
import type { Mass } from '../../geometry/mass';
import type { Poll } from '../../geometry/poll';
import { runPolling, type Task } from '../../geometry/task';
import { bentMesh, type Fineness } from '../../mesh/build/subdivide';
import { seenThrough, type Parted } from '../../mesh/build/subdivide-corners';
import { bentMass } from '../../mesh/build/deformed-mass';
import { meshMassSteps } from '../../mesh/data/mass';
import { FRESH } from '../../mesh/data/memory';
import { groupsIn, type Mesh } from '../../mesh/data/mesh';
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
  type RoughBound,
} from '../body/body';
import { MOST_COMBINED, solidOf } from '../combine/combined';
import type { Combination } from '../kernel/kernel';
import { estimatedOf, MEASURED, type Measured } from '../body/estimated';
import { floorStep, inSteps, deformationOf, type Deformation } from '../../geometry/deformation';

/**
 * Of the tolerance, how far the triangles may be off before they are bent, and by how much their sides may be bent then:
 * along the axis, and aslant.
 */
const BEFORE = 0.6;
const AFTER = 0.16;
/** The same of sides where it is drawn coarser than was asked for: of as many triangles those look smoothest then. */
const AFTER_COARSER = 0.5;

/**
 * What was meshed last, before it was bent: another amount starts from there. Asked for a second time, it is kept as it
 * was parted too, and only the bending is left to do.
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

/** A body of too many triangles is drawn so much coarser than is asked for, at most. */
const COARSEST = 6;
/** The coarsest mesh of a body that was asked for last, before it is bent: it tells how coarsely the body is to be drawn. */
const rough = new WeakMap<Body, Pick<Meshed, 'tolerance' | 'most' | 'mesh'>>();

/** It is shown so many times as coarse as it could be measured, at most. */
const SHOWN = 3;
/** A solid that is finer than is asked for by no more than this serves as well, if it is there already. */
const HARDLY = 0.7;
const ROUNDING = 1e-9;

/** Of the triangles that are allowed, those that can be bent in the time of a frame. */
const FRAME = 1 / 8;

/** A body that is bent. */
export class DeformedMesh {
  /** Its leaves, each as the piece it becomes. */
  readonly leaves: readonly Placed[];
  /** How far from the axis, or along it, the shape takes hold of it. */
  private readonly reach = once(() =>
    leafBounds(this.of)
      .flat()
      .reduce((most, { at, within }) => Math.max(most, this.shape.reach(at) + within), 0),
  );
  /** How much finer its triangles are made first; in steps, so that what is drawn of one amount serves for the next. */
  private readonly finer = once(() => 1 / floorStep(BEFORE / this.shape.stretch(this.reach())));
  private readonly stepped = once(() => deformationOf(inSteps(this.shape.asked)));
  /** About how large it is when bent, mm. */
  readonly size = once(() =>
    sizeOver(this.leaves.flatMap(({ leaf }) => (leaf.form === 'piece' ? leaf.bounds() : []))),
  );
  /** Chord tolerance it has when the solid is bent that the body was measured by, mm, within limits. */
  readonly shownAt = once(() => {
    const least = MEASURED * this.size();
    const bent = isMade(this.of) ? this.of.checkedAt * this.finer() : least;
    return Math.min(Math.max(least, bent), SHOWN * least);
  });

  constructor(
    private readonly of: Body,
    private readonly shape: Deformation,
  ) {
    this.leaves = leavesOf(of).map((placed, i): Placed => ({
      map: STILL,
      material: placed.material,
      leaf: {
        form: 'piece',
        from: placed.leaf,
        bounds: once(() => boundsThrough(leafBounds(of)[i]!, shape)),
      },
    }));
  }

  private fineness(shape: Deformation, tolerance: number, after = AFTER): Fineness {
    const within = after * tolerance;
    return { levels: shape.levels(this.reach(), within), within };
  }

  private notFiner(mesh: Mesh, tolerance: number): Mesh {
    return { ...mesh, tolerance: Math.max(tolerance, mesh.tolerance * this.finer()) };
  }

  /** Its triangles within a tolerance (mm), coarser where more than `most` would be needed. */
  *drawn(tolerance: number, most: number, memory = FRESH): Task<Mesh> {
    for (let by = yield* this.coarseness(tolerance, most); ; by *= 2) {
      const drawn = floorStep(tolerance * by);
      const mesh = yield* this.bent(drawn, most, by > 1 ? AFTER_COARSER : AFTER, memory);
      if (mesh) return mesh;
    }
  }

  /** How much coarser it is drawn than is asked for: by the triangles that it has at its coarsest, once parted. */
  private *coarseness(tolerance: number, most: number): Task<number> {
    const coarsest = floorStep(tolerance * COARSEST);
    const { levels } = this.fineness(this.stepped(), coarsest, AFTER_COARSER);
    const fine = coarsest / this.finer();
    const known = rough.get(this.of);
    const same = known?.tolerance === fine && known.most === most;
    const mesh = same ? known.mesh : yield* this.of.meshing(fine, most);
    if (!same) rough.set(this.of, { tolerance: fine, most, mesh });
    const pieces = partsBetween(mesh, this.shape, levels);
    return Math.min(COARSEST, Math.max(1, (COARSEST * pieces) / (most * FRAME)));
  }

  /** Its triangles within a tolerance that is one of steps; undefined where there would be too many. */
  private *bent(tolerance: number, most: number, after: number, memory = FRESH): Task<Mesh | undefined> {
    const { of, shape } = this;
    const fine = tolerance / this.finer();
    const stepped = this.stepped();
    const asked = JSON.stringify([stepped.asked, after]);
    const known = last.get(of);
    const same = known?.tolerance === fine && known.most === most;
    if (same && known.parted && known.asked === asked) return seenThrough(known.parted, shape, memory);
    const mesh = same ? known.mesh : yield* of.meshing(fine, most);
    const made = yield* bentMesh(
      this.notFiner(mesh, tolerance),
      { at: shape.at, height: shape.height, slant: stepped.slant },
      this.fineness(stepped, tolerance, after),
      most * SPARE,
      memory,
      same,
    );
    if (made) last.set(of, { tolerance: fine, most, mesh, asked, parted: made.straight });
    return made?.mesh;
  }

  /** The body as a closed mesh, bent. @throws Complaint where that takes too many triangles */
  private async bentFrom(whole: Mesh, tolerance: number, poll: Poll): Promise<Mesh> {
    const { shape } = this;
    const finely = this.fineness(shape, tolerance);
    const steps = bentMesh(this.notFiner(whole, tolerance), shape, finely, MOST_COMBINED * SPARE);
    const made = await runPolling(steps, poll);
    if (!made)
      throw new GeometryError(
        'too-many-triangles',
        'So fine a tolerance needs too many triangles here: take a coarser one, or change the shape by less.',
      );
    return made.mesh;
  }

  /** The solid within a tolerance, mm. @throws Complaint where that takes too many triangles */
  async solid(tolerance: number, poll: Poll, trusted: boolean): Promise<Combination> {
    const before = tolerance / this.finer();
    const known = isMade(this.of) && this.of.checkedAt;
    const serves = known && known > HARDLY * before && known < (1 + ROUNDING) * before;
    const whole = await solidOf(this.of, serves ? known : before, poll, trusted);
    const mesh = await this.bentFrom(whole, tolerance, poll);
    const { parts = 1, skins = 0, mended } = whole;
    const groups = groupsIn(mesh);
    const { volume } = (await runPolling(meshMassSteps(mesh), poll)).mass;
    return { ...mesh, groups, volume, parts, skins, mended };
  }

  /** What it measures, at the finest at a tolerance, mm. */
  async measured(finest: number, poll: Poll): Promise<Measured> {
    const { of, shape } = this;
    await of.measured(poll);
    const begin = isMade(of) ? of.checkedAt : finest;
    const found: { mass: Mass; surface: number }[] = [];
    // Of the faces as they were, bent; what their chords left out of the body is as large a part of it now.
    const fine = await solidOf(of, begin, poll);
    for (const coarser of [1, 2, 4, 8]) {
      const before = coarser > 1 ? await solidOf(of, coarser * begin, poll, !fine.mended) : fine;
      const was = await runPolling(meshMassSteps(before), poll);
      const levels = shape.levels(this.reach(), coarser * begin);
      const now = await runPolling(bentMass(before, shape, levels), poll);
      const volume = now.mass.volume * (of.volume / was.mass.volume);
      found.push({ mass: { ...now.mass, volume }, surface: now.surface * (of.surface / was.surface) });
    }
    const stretch = shape.stretch(this.reach());
    const within = EXTENT * finest;
    const whole = stretch * fine.tolerance > within ? await solidOf(of, within / stretch, poll) : fine;
    const { positions } = await this.bentFrom(whole, within, poll);
    const tolerance = stretch * whole.tolerance + AFTER * within;
    return withKept(estimatedOf(found, { positions, tolerance, parts: fine.parts ?? 1 }), of, shape);
  }
}

/** About how many triangles a mesh has once it is parted at levels: each level that one crosses makes two more. */
function partsBetween(
  { positions: p, triangles }: Mesh,
  shape: Deformation,
  levels: readonly number[],
): number {
  const places = Int32Array.from({ length: p.length / 3 }, (_x, i) =>
    firstAbove(levels, shape.height(p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!)),
  );
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [places[triangles[t]!]!, places[triangles[t + 1]!]!, places[triangles[t + 2]!]!];
    sum += 1 + 2 * (Math.max(a, b, c) - Math.min(a, b, c));
  }
  return sum;
}

/** What is known better than by triangles: a volume that is kept; and how far off the body was before. */
function withKept(found: Measured, of: Body, { keepsVolume }: Deformation): Measured {
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
const BOUNDS = new Memo<Body, readonly (readonly RoughBound[])[]>();

/** Where each leaf of a body is, before it is bent. */
const leafBounds = (of: Body): readonly (readonly RoughBound[])[] =>
  BOUNDS.value(of, () => leavesOf(of).map(boundsOf));

function boundsThrough(bounds: readonly RoughBound[], shape: Deformation): RoughBound[] {
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
