/** Questions of measures: places, distances, cuts, points and saddles. */
import { evaluate } from '@nematos/core/design/evaluate';
import { crossSection, type CrossSection } from '@nematos/core/view/cross-section';
import type { Design } from '@nematos/core/design/schema';
import { bodiesOf } from '@nematos/core/kind/value';
import type { Vec3 } from '@nematos/core/geometry/vector';
import { nearestNeighbours, type Neighbours } from '@nematos/core/solid/neighbours';
import { saddlesIn } from '@nematos/core/kinds/bodies/join';
import { saddleLoops } from '@nematos/core/exchange/saddle-drawing';
import { facesApart, type FacesApart } from '@nematos/core/solid/face-gap';
import { leastBetween, type Least } from '@nematos/core/kinds/measures/least';
import { placeAlong, probe, type Probed } from '@nematos/core/kinds/measures/probe';
import { cutMeasures, type CutMeasures } from '@nematos/core/view/cut-measures';
import type { Plane } from '@nematos/core/geometry/plane';
import { sentTolerance } from '@nematos/core/design/tolerance';
import { writePoints } from '@nematos/core/exchange/rows';
import type { Asking } from './messages';
import { cache, orRefused, unlessStale } from './sessions';

/** What the geometry worker answers about measures. */
export const measuring = {
  /** The plane square to a step's path at a length along it (mm), and the true section there; undefined without a path. */
  async crossSection(
    design: Design,
    step: string,
    s: number,
    asking: Asking,
  ): Promise<CrossSection | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const value = steps.find(({ id }) => id === step)?.value;
      return value && crossSection(value, s);
    });
  },

  /** What a step is at a place, or at a part of its first line; undefined where there is nothing. */
  async probe(design: Design, step: string, at: Vec3 | number, asking: Asking): Promise<Probed | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const value = steps.find(({ id }) => id === step)?.value;
      const place = value && (typeof at === 'number' ? placeAlong(value, at) : at);
      return place && probe(value, place);
    });
  },

  /** The least distance between the lines of two places that were pointed at; undefined where they are not on two. */
  async least(
    design: Design,
    [one, other]: readonly [string, string],
    [a, b]: readonly [Probed, Probed],
    asking: Asking,
  ): Promise<Least | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const [of, to] = [one, other].map((id) => steps.find((step) => step.id === id)?.value);
      return of && to && leastBetween(of, a, to, b);
    });
  },

  /** What a plane meets of the bodies of steps measures, and how far that may be off. */
  async cutMeasures(
    design: Design,
    ids: readonly string[],
    plane: Plane,
    asking: Asking,
  ): Promise<CutMeasures | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const bodies = steps.filter(({ id }) => ids.includes(id)).flatMap(({ value }) => bodiesOf(value));
      return cutMeasures(bodies, plane, poll);
    });
  },

  /** The least gap between the bodies of two steps; undefined where one has none. */
  async gap(design: Design, one: string, other: string, asking: Asking): Promise<Neighbours | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll);
      const bodies = [one, other].map((id) => steps.find((step) => step.id === id)?.value);
      const [a, b] = bodies;
      if (a?.type !== 'body' || b?.type !== 'body') return undefined;
      return nearestNeighbours([a, b], poll);
    });
  },

  /** The least distance between the faces that two places are on; undefined where they are not on two. */
  async faces(
    design: Design,
    [one, other]: readonly [string, string],
    places: readonly [Vec3, Vec3],
    asking: Asking,
  ): Promise<FacesApart | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll);
      const bodiesIn = (id: string) => bodiesOf(steps.find((step) => step.id === id)?.value);
      return facesApart([bodiesIn(one), bodiesIn(other)], places, poll);
    });
  },

  /** Points along a step's path as CSV, or why there are none. */
  async points(
    design: Design,
    step: string,
    asking: Asking,
  ): Promise<{ text?: string; refused?: string } | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const value = steps.find(({ id }) => id === step)?.value;
      if (value?.type !== 'path') return { refused: 'Choose a single path on the sheet first.' };
      return orRefused(design, () => ({ text: writePoints(value, sentTolerance(design), design.unit) }));
    });
  },

  /** The saddles of joined tubes as flat patterns: closed outlines, mm. */
  async saddles(design: Design, step: string, asking: Asking): Promise<Float64Array[] | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const [from] = steps.find(({ id }) => id === step)?.madeFrom ?? [];
      return saddleLoops((await saddlesIn(from, poll)) ?? []);
    });
  },
};
