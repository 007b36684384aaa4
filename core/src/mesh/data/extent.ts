/** How far bodies reach along the axes: one by itself, or several together. */
import { STILL, type Motion } from '../../geometry/motion';
import { remembered, type Task } from '../../geometry/task';
import { type Vec3, vec3 } from '../../geometry/vector';

/** Smallest and largest x, y, z, mm. */
export type Extent = readonly [least: Vec3, most: Vec3];

/** A way along an axis: towards its greater or its smaller coordinates. */
export interface Way {
  readonly axis: 0 | 1 | 2;
  readonly side: 1 | -1;
}

/** How far something reaches one way: coordinates times the side, mm. */
export interface Reach {
  /** About how far. */
  readonly about: number;
  /** How far; where that is no further than `over`, no more than `over`. */
  most(over: number): Task<number>;
}

/** Something whose extent is looked for. */
export type Reaching = (way: Way) => Reach;

/** What an extent is known of. */
export interface Bounded {
  /** How far it reaches after a rigid motion, part by part. */
  reaching(motion: Motion): Task<readonly Reaching[]>;
}

/** What reaches as far as a box. */
export const boxReaching =
  ([least, most]: Extent): Reaching =>
  ({ axis, side }) => {
    const about = side > 0 ? most[axis] : -least[axis];
    return {
      about,
      *most() {
        yield;
        return about;
      },
    };
  };

/** The extent of all of it together: what seems to reach furthest is looked at first, and of the rest only what may reach further. */
export function* extentOf(all: readonly Reaching[]): Task<Extent> {
  function* furthest(way: Way): Task<number> {
    const reaches = all.map((one) => one(way)).sort((a, b) => b.about - a.about);
    let most = -Infinity;
    for (const reach of reaches) most = Math.max(most, yield* reach.most(most));
    return way.side * most;
  }
  function* corner(side: 1 | -1): Task<Vec3> {
    return [
      yield* furthest({ axis: 0, side }),
      yield* furthest({ axis: 1, side }),
      yield* furthest({ axis: 2, side }),
    ];
  }
  return [yield* corner(-1), yield* corner(1)];
}

/** The ways that extents reach. */
export const WAYS: readonly Way[] = ([0, 1, 2] as const).flatMap((axis) => [
  { axis, side: -1 },
  { axis, side: 1 },
]);
/** The place of a way among them. */
export const wayNumber = ({ axis, side }: Way): number => 2 * axis + (side > 0 ? 1 : 0);

/** Extent of a body after a rigid motion. */
export function* extentIn(body: Bounded, motion: Motion): Task<Extent> {
  return yield* extentOf(yield* body.reaching(motion));
}

/** The extent around several. */
export function around(extents: readonly Extent[]): Extent {
  const over = (which: 0 | 1, pick: (...x: number[]) => number) =>
    vec3(([0, 1, 2] as const).map((axis) => pick(...extents.map((one) => one[which][axis]))));
  return [over(0, Math.min), over(1, Math.max)];
}

type Remembered = ReturnType<typeof remembered<Extent>>;

const OWN = new WeakMap<Bounded, Remembered>();

/** The extent of a body, looked for once; of one that is estimated it must be measured. */
export function ownExtent(body: Bounded): Remembered {
  const extent = OWN.get(body) ?? remembered(() => extentIn(body, STILL));
  OWN.set(body, extent);
  return extent;
}

/** By the first of several bodies, what was looked for last. */
const TOGETHER = new WeakMap<Bounded, { readonly bodies: readonly Bounded[]; readonly extent: Remembered }>();

/** The extent of bodies together, looked for once; those that are estimated must be measured. */
export function extentTogether(bodies: readonly Bounded[]): Remembered {
  const [first, ...more] = bodies as readonly [Bounded, ...Bounded[]];
  if (!more.length) return ownExtent(first);
  const earlier = TOGETHER.get(first);
  if (earlier?.bodies.length === bodies.length && bodies.every((body, i) => body === earlier.bodies[i]))
    return earlier.extent;
  const extent = remembered(function* () {
    const all: Reaching[] = [];
    for (const body of bodies) all.push(...(yield* body.reaching(STILL)));
    return yield* extentOf(all);
  });
  TOGETHER.set(first, { bodies, extent });
  return extent;
}

/** Least distance between two boxes, mm; 0 where they meet. */
export const extentsApart = ([low, high]: Extent, [least, most]: Extent): number =>
  Math.hypot(...[0, 1, 2].map((k) => Math.max(0, low[k]! - most[k]!, least[k]! - high[k]!)));
