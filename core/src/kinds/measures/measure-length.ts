/** A length measured of one step or between two, kept on the sheet. */
import { z } from 'zod';
import { Complaint } from '../../measure/words';
import { choice, length, measureKind } from '../../kind/kind';
import { bodiesOf, type Measure, type Value } from '../../kind/value';
import type { Poll } from '../../geometry/poll';
import { distance, type Vec3, vec3 } from '../../geometry/vector';
import { facesApart } from '../../solid/face-gap';
import { nearestNeighbours, type Neighbours } from '../../solid/neighbours';
import { checkMeasure, measuredResults, measuredLater, measuredNow, measureOf } from './measuring';
import { leastBetween } from './least';
import { betweenTwo, meantOf, placesAlong, type OnLine, type Probed } from './probe';
import {
  FIRST,
  OF_ONE_OR_TWO,
  SECOND,
  secondSpot,
  SPOTS,
  SPOTS_DEFAULTS,
  spotOn,
  type SpotFigures,
} from './spots';

/** What can be measured as a length, in words. */
const LABELS = {
  centres: 'centre to centre',
  x: 'apart in x',
  y: 'apart in y',
  z: 'apart in z',
  along: 'along the path',
  gap: 'least gap',
  lines: 'least between the lines',
  faces: 'least between the faces',
  diameter: 'diameter',
  wide: 'section wide',
  high: 'section high',
  wall: 'wall',
  side: 'length of the edge',
  bend: 'bend radius',
  atX: 'x of the place',
  atY: 'y of the place',
  atZ: 'z of the place',
} as const;
type What = keyof typeof LABELS;

/** Length between two spots, of one, or the least gap of bodies. */
export const measureLength = measureKind({
  kind: 'measure-length',
  title: 'Length',
  noun: 'measured length',
  words: [
    'measure',
    'distance',
    'coordinate',
    'position',
    'gap',
    'diameter',
    'wall',
    'tolerance',
    'dimension',
    'check',
  ],
  inputs: OF_ONE_OR_TWO,
  schema: z.object({
    what: choice(...(Object.keys(LABELS) as [What, ...What[]])),
    ...SPOTS,
    wanted: length().optional(),
    tolerance: length({ atLeast: 0 }).optional(),
  }),
  defaults: { what: 'centres', ...SPOTS_DEFAULTS },
  evaluate(figures, { of, to = of }): Measure {
    const { what, place, toPlace, wanted, tolerance } = figures;
    const label =
      what === 'centres' && place === 'corner' && toPlace === 'corner' ? 'corner to corner' : LABELS[what];
    const held = { quantity: 'length', label, wanted, tolerance } as const;
    if (what === 'gap') return measuredLater({ ...held, find: (poll) => leastGap(of, to, poll) });
    if (what === 'faces')
      return measuredLater({ ...held, find: (poll) => leastOfFaces(of, to, figures, poll) });
    return measuredNow({
      ...held,
      find() {
        const a = spotOn(of, figures, FIRST);
        if (isOfOne(what)) return ofOne(what, a);
        const b = spotOn(to, secondSpot(figures), SECOND);
        return between(what, of, to, [a, b]);
      },
    });
  },
  measure: measureOf,
  results: measuredResults,
  check: checkMeasure,
});

const OF_ONE = ['diameter', 'wide', 'high', 'wall', 'side', 'bend', 'atX', 'atY', 'atZ'] as const;
type OfOne = (typeof OF_ONE)[number];
/** Whether it is measured at one spot alone. */
export const isOfOne = (what: string): what is OfOne => OF_ONE.some((one) => one === what);

/** Of a place, from the origin. */
const COORDINATES = { atX: 0, atY: 1, atZ: 2 } as const;
type Coordinate = keyof typeof COORDINATES;
const isCoordinate = (what: What): what is Coordinate => what in COORDINATES;

/** A length that one spot has. @throws Complaint where it has none */
function ofOne(what: OfOne, probed: Probed) {
  const { on, about, edge, point } = probed;
  if (isCoordinate(what)) {
    const place = meantOf(probed);
    return { value: place[COORDINATES[what]], places: [place] };
  }
  const value =
    what === 'side' ? edge?.length : what === 'diameter' && about ? 2 * about.radius : on && ofLine(what, on);
  if (value === undefined)
    throw new Complaint(
      what === 'bend'
        ? 'It is straight there: choose a place in a bend.'
        : `There is no ${LABELS[what]} there: measure something else, or elsewhere.`,
      'what',
    );
  return { value, places: [edge?.place ?? on?.place ?? point] };
}

function ofLine(what: Exclude<OfOne, 'side' | Coordinate>, { section, bend }: OnLine): number | undefined {
  switch (what) {
    case 'bend':
      return bend;
    case 'diameter':
      return section?.round ? section.width : undefined;
    case 'wide':
      return section?.width;
    case 'high':
      return section?.height;
    case 'wall':
      return section?.wall;
  }
}

const AXES = { x: 0, y: 1, z: 2 } as const;

/** A length between two spots. @throws Complaint where it cannot be told */
function between(
  what: Exclude<What, OfOne | 'gap' | 'faces'>,
  of: Value,
  to: Value,
  [a, b]: readonly [Probed, Probed],
) {
  const [p, q] = [meantOf(a), meantOf(b)];
  if (what === 'along') {
    const along = betweenTwo(a, b, of === to).along;
    if (along === undefined)
      throw new Complaint('These are not two places of one line: choose both on one.', 'what');
    return { value: along, places: placesAlong(of, a.on!, b.on!) };
  }
  if (what === 'lines') {
    const least = leastBetween(of, a, to, b);
    if (!least)
      throw new Complaint(
        'These places are not on two centre lines, axes or edges. Choose other places.',
        'what',
      );
    return least;
  }
  if (what === 'centres') return { value: distance(p, q), places: [p, q] };
  // Along the axis, from beside the one to the other.
  const axis = AXES[what];
  return { value: Math.abs(q[axis] - p[axis]), places: [vec3(q.with(axis, p[axis])), q] };
}

/** The least distance between the faces that two places are on. @throws Complaint */
async function leastOfFaces(
  of: Value,
  to: Value,
  figures: SpotFigures & Parameters<typeof secondSpot>[0],
  poll: Poll,
) {
  // A place in space is meant as it is, not the edge beside it.
  const placeOf = (value: Value, spot: SpotFigures, named: (field: string) => string): Vec3 =>
    spot.place === 'point' ? [spot.x, spot.y, spot.z] : spotOn(value, spot, named).point;
  const places = [placeOf(of, figures, FIRST), placeOf(to, secondSpot(figures), SECOND)] as const;
  const bodies = [bodiesOf(of), bodiesOf(to)] as const;
  for (const body of bodies.flat()) await body.measured(poll);
  const found = await facesApart(bodies, places, poll);
  if (!found)
    throw new Complaint('These places are not on two faces of bodies. Choose other places.', 'what');
  return { value: found.gap, within: found.within, places: [found.place] };
}

/** The least gap between bodies: of one step and another, or among those of one. @throws Complaint */
async function leastGap(of: Value, to: Value, poll: Poll) {
  const [mine, theirs] = [bodiesOf(of), bodiesOf(to)];
  if (!mine.length || !theirs.length)
    throw new Complaint('A gap is measured between bodies: choose one here.', mine.length ? 'to' : 'of');
  for (const body of [...mine, ...theirs]) await body.measured(poll);
  const pairs = of === to ? [mine] : mine.flatMap((a) => theirs.map((b) => [a, b]));
  let best: Neighbours | undefined;
  for (const pair of pairs) {
    const found = await nearestNeighbours(pair, poll);
    if (found && (!best || found.gap < best.gap)) best = found;
  }
  if (!best) throw new Complaint('A gap needs two bodies: choose another here.', 'to');
  return { value: best.gap, within: best.within, places: [best.place] };
}
