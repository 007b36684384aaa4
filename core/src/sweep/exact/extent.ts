/** Extent of a swept body, from its path and its section. */
import { highestSteps, root, valleySteps } from '../../geometry/numeric';
import type { Plane } from '../../geometry/plane';
import type { Task } from '../../geometry/task';
import { type Vec3, vec3 } from '../../geometry/vector';
import { boxReaching, wayNumber, WAYS, type Reaching, type Way } from '../../mesh/data/extent';
import type { Path, Spot } from '../../path/path';
import { pathExtent, planIntervals } from '../../path/sample';
import { standing, type Carrier, type Standing } from '../carry/carrier';
import { changesOf } from '../carry/changes';
import { domeReach } from '../carry/dome';
import { lipReach } from '../carry/lip';
import type { Swept } from '../carry/swept';
import { ROUGH, sectionReach, type SectionReach } from './reach';

/** Places looked at are no further apart in turn, of the path or of the section on it, rad. */
const ANGLE = 0.13;
/** A peak is looked for to this part of the stretch it is on; to this where it may be a kink, off by as much as its place is. */
const PEAK = 1e-5;
const KINK = 1e-9;
/** Where what reaches furthest leaps by this part of the section's reach, one corner takes over from another. */
const LEAP = 0.2;
/** Closer looks about a place: where one corner of the section takes over from another there may be a peak on both sides. */
const CLOSER = 8;

/** What comes up to a plane does so but for rounding: by this part of the section's reach, square to it by this. */
const UP_TO = 1e-9;
const SQUARE = 1e-15;

/** What the extent is looked for on. */
interface Looked {
  readonly path: Path;
  readonly carrier: Carrier;
  readonly reach: SectionReach;
  /** How far the section itself reaches, mm. */
  readonly across: number;
  readonly cut: boolean;
  /** Steps between the places looked at, by piece. */
  readonly steps: readonly number[];
  /** Written over at each place that is looked at closely. */
  readonly here: Standing;
}

/**
 * At each station the section reaches furthest in a direction at one of its points; the furthest station of all is
 * refined between its neighbours. Of a round this is p ± r·√(1 − t²), see `pathExtent`.
 */
export function* sweptReaching(swept: Swept): Task<Reaching> {
  const { carrier, section, domes } = swept;
  const { path } = carrier;
  const planes = swept.planes.filter((plane) => plane !== undefined);
  yield;
  if (carrier.plain && swept.round && !domes[0] && !domes[1] && !swept.lip && !planes.length)
    return boxReaching(pathExtent(path, section.reach));
  const changes = changesOf(swept);
  const steps = planIntervals(path, { angle: ANGLE, step: path.length / 24 }).map((own, k) =>
    Math.max(own, Math.ceil((changes[k]!.turn * path.pieces[k]!.length) / ANGLE), carrier.plain ? 1 : 4),
  );
  const places = path.pieces.flatMap((piece, k) =>
    Array.from({ length: steps[k]! + 1 }, (_x, i): Spot => ({ k, u: (piece.span * i) / steps[k]! })),
  );
  yield;
  const reach = yield* sectionReach(swept, planes);
  const looked: Looked = {
    path,
    carrier,
    reach,
    across: swept.reach,
    cut: planes.length > 0,
    steps,
    here: standing(),
  };
  const sampled = yield* samplesAt(looked, places);
  const [first, last] = [places[0]!, places.at(-1)!].map(({ k, u }) => {
    const here = standing();
    carrier.stand(k, u, here);
    return here;
  }) as [Standing, Standing];
  return (way) => {
    const samples = sampled[wayNumber(way)]!;
    return {
      about: samples.reduce((most, one) => Math.max(most, one)),
      *most(over) {
        yield;
        // Nothing reaches beyond a plane that faces that way, and what it cuts comes up to it.
        const bound = Math.min(
          ...planes
            .filter((plane) => facesAlong(plane, way))
            .map((plane) => way.side * plane.point[way.axis]),
        );
        let most = samples.some((one) => one >= bound - UP_TO * swept.reach)
          ? bound
          : yield* highestSteps(
              {
                samples,
                off: ROUGH * swept.reach * swept.scale,
                exactly: (i) => reachAt(looked, places[i]!, way),
                refined: (i) => highestNear(looked, places[i]!, way),
              },
              over,
            );
        domes.forEach((height, i) => {
          if (!height) return;
          most = Math.max(most, domeReach(swept, i ? last : first, i ? 1 : -1, height, along(way)));
        });
        return swept.lip ? Math.max(most, lipReach(swept, last, along(way))) : most;
      },
    };
  };
}

/** Places looked at between two pauses. */
const MANY = 32;

/** About how far the section reaches each way at places: by way, all that is kept of them. */
function* samplesAt({ carrier, reach, here }: Looked, places: readonly Spot[]): Task<Float64Array[]> {
  const samples = WAYS.map(() => new Float64Array(places.length));
  for (const [i, { k, u }] of places.entries()) {
    if (i % MANY === 0) yield;
    carrier.stand(k, u, here);
    const points = reach.rough(here);
    WAYS.forEach((way, number) => (samples[number]![i] = reach.of(here, points, way)));
  }
  return samples;
}

/** Whether a plane leaves what lies behind it, seen that way. */
const facesAlong = ({ normal }: Plane, { axis, side }: Way): boolean => -side * normal[axis] > 1 - SQUARE;

const along = ({ axis, side }: Way): Vec3 => vec3([0, 1, 2].map((k) => (k === axis ? side : 0)));

/** How far the section reaches at one place, exactly. */
function reachAt({ carrier, reach, here }: Looked, { k, u }: Spot, way: Way): number {
  carrier.stand(k, u, here);
  return reach.exactly(here, way);
}

/** Greatest near a place: of closer looks every one that stands over its neighbours is refined. */
function* highestNear(looked: Looked, { k, u }: Spot, way: Way): Task<number> {
  const { path, carrier, reach, here, steps } = looked;
  const { span } = path.pieces[k]!;
  const step = span / steps[k]!;
  const [from] = keptOf(looked, k, Math.max(0, u - step), u);
  const [, to] = keptOf(looked, k, u, Math.min(span, u + step));
  if (to <= from) return -Infinity;
  const at = (look: number) => from + ((to - from) * look) / CLOSER;
  const looks = Array.from({ length: CLOSER + 1 }, (_x, look) => {
    carrier.stand(k, at(look), here);
    return reach.closely(here, way);
  });
  let most = -Infinity;
  for (const [look, value] of looks.entries()) {
    if (value < (looks[look - 1] ?? -Infinity) || value < (looks[look + 1] ?? -Infinity)) continue;
    yield;
    const [a, b] = [at(Math.max(0, look - 1)), at(Math.min(CLOSER, look + 1))];
    const peak = yield* peakOf(looked, k, a, b, way);
    most = Math.max(most, peak, reachAt(looked, { k, u: at(look) }, way));
  }
  return most;
}

/** The part of a stretch on which planes leave something. */
function keptOf(
  { path, carrier, reach, here, cut }: Looked,
  k: number,
  from: number,
  to: number,
): readonly [number, number] {
  if (!cut || to <= from) return [from, to];
  const over = (u: number): number => {
    carrier.stand(k, u, here);
    return reach.over(here);
  };
  const [before, after] = [over(from), over(to)];
  if (before >= 0 === after >= 0) return before >= 0 ? [from, to] : [from, from];
  const at = root(over, from, to, 1e-14);
  const inside = 1e-12 * path.pieces[k]!.span;
  return after < 0 ? [from, Math.max(from, at - inside)] : [Math.min(to, at + inside), to];
}

/** Greatest on a stretch without a valley within; where one corner takes over from another each may have its own peak. */
function* peakOf(looked: Looked, k: number, a: number, b: number, way: Way): Task<number> {
  const { path, carrier, reach, here, across, cut } = looked;
  const furthestAt = (u: number) => {
    carrier.stand(k, u, here);
    return reach.furthest(here, way);
  };
  const ends = cut ? [] : [furthestAt(a), furthestAt(b)];
  const leaps =
    ends.length > 0 && Math.hypot(ends[0]![0]! - ends[1]![0]!, ends[0]![1]! - ends[1]![1]!) > LEAP * across;
  const short = (u: number) => -reachAt(looked, { k, u }, way);
  const peak = yield* valleySteps(short, a, b, (leaps ? KINK : PEAK) * (b - a));
  const high = -short(peak);
  if (!leaps) return high;
  // The peak of the other corner may lie between the looks beside.
  const { span } = path.pieces[k]!;
  const [from, to] = [Math.max(0, a - (b - a) / 2), Math.min(span, b + (b - a) / 2)];
  let most = high;
  for (const point of ends) {
    const shortBy = (u: number): number => {
      carrier.stand(k, u, here);
      return -reach.of(here, point, way);
    };
    const own = yield* valleySteps(shortBy, from, to, PEAK * (b - a));
    const by = Math.abs(own - peak) / 2;
    const there = yield* valleySteps(short, Math.max(from, own - by), Math.min(to, own + by), PEAK * by);
    most = Math.max(most, -short(there));
  }
  return most;
}
