import { z } from 'zod';
import { angle, choice, count, Detailed, length, pathKind } from '../../kind/kind';
import { Complaint, mm, words } from '../../measure/words';
import {
  centreRadius,
  coilAlong,
  coilNeighbours,
  evenCoil,
  heightForOverall,
  leadAngle,
  nearestLengths,
  type Coil,
  type Coils,
  type CoilShape,
} from '../../path/coil';
import type { Result } from '../../kind/value';
import { coilCurve } from '../../path/coil-curve';
import type { Motion } from '../../geometry/motion';
import { solveStations, type Stationed, type StationFigures } from '../../path/stations';
import { coiledPath, coilFindings, givenOf } from './coiled';
import { seatRound } from '../../path/seat';
import { pathOf, type Path } from '../../path/path';
import { coilMarks } from './coil-marks';
import { placedMarks } from './placed-marks';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt, spanned } from './placing';

const MOST_TURNS = 2000;

const schema = z.object({
  diameter: length({ atLeast: 0 }),
  basis: choice('mean', 'outer', 'inner'),
  taper: choice('none', 'diameter', 'angle'),
  endDiameter: length({ atLeast: 0 }).optional(),
  halfAngle: angle({ above: -Math.PI / 2, below: Math.PI / 2 }).optional(),
  turns: count({ above: 0, atMost: MOST_TURNS }).optional(),
  pitch: length({ atLeast: 0 }).optional(),
  height: length({ atLeast: 0 }).optional(),
  heightBasis: choice('overall', 'centres'),
  hand: choice('right', 'left'),
  closedStart: count({ atLeast: 0, atMost: 5 }),
  closedEnd: count({ atLeast: 0, atMost: 5 }),
  transition: count({ atLeast: 0, atMost: 5 }),
  ...PLACING,
});
type HelixFigures = z.infer<typeof schema>;

/** Helix of constant pitch, straight or conical, by any two of pitch, turns and height; its end coils may be closed. */
export const helix = pathKind({
  kind: 'helix',
  title: 'Coil',
  noun: 'helix',
  words: [
    'screw line',
    'coil',
    'helix',
    'thread',
    'spiral',
    'screw',
    'cone',
    'conical',
    'taper',
    'winding',
    'closed',
  ],
  inputs: { section: { takes: 'section', optional: true }, ...PLACING_INPUTS },
  schema,
  defaults: {
    diameter: '16 mm',
    basis: 'mean',
    taper: 'none',
    turns: '6',
    height: '32 mm',
    heightBasis: 'centres',
    hand: 'right',
    closedStart: '0',
    closedEnd: '0',
    transition: '0.5',
    ...PLACING_DEFAULTS,
  },
  evaluate(given, { section, place }) {
    const between = spanned(given);
    if (between !== undefined && given.height !== undefined)
      throw new Complaint('The two points give the height: leave it out here.', 'height');
    const figures: HelixFigures =
      between === undefined ? given : { ...given, height: between, heightBasis: 'centres' };
    const closed = figures.closedStart > 0 || figures.closedEnd > 0;
    const refersToSection =
      closed ||
      figures.basis !== 'mean' ||
      (figures.heightBasis === 'overall' && figures.height !== undefined);
    if (refersToSection && !section)
      throw new Complaint(
        'Outer, inner and overall figures need to know the section that will be swept: choose it here.',
        figures.basis !== 'mean' ? 'basis' : 'heightBasis',
      );
    const wire = section?.diameter ?? 0;
    const at = placedAt(figures, place);
    const hand = figures.hand === 'right' ? 1 : -1;
    if (closed) return closedCoil(figures, given, wire, hand, at);
    const shape = coilShape(figures, wire);
    const coils: Coils = {
      pitch: shape.height / shape.turns,
      figures: givenOf(given, wire),
      nearest: () => nearestLengths(shape),
      *distanceWith({ wire: otherWire = wire, diameter = figures.diameter, ...change }) {
        const other = coilShape({ ...figures, diameter, ...change }, refersToSection ? otherWire : wire);
        return coilNeighbours(other).distance;
      },
    };
    const coil = evenCoil(shape, { wire, hand, foot: at.origin, axis: at.ez });
    const curve = coilCurve(shape, hand, figures.startAngle, at);
    const rise = shape.height > 0 ? (shape.endRadius - shape.startRadius) / shape.height : 0;
    return pathOf([curve], {
      open: true,
      seat: seatRound([curve], at, rise),
      coil,
      coils,
      along: coilAlong(coil),
    });
  },
  marks: (path, set, _filled, resolved) => [...coilMarks(path, set), ...placedMarks(set, resolved, () => [])],
  results(path, { detail }) {
    const { shape, tips, wire, closed, pitch } = path.coil!;
    const middle = pitch(shape.turns / 2);
    return [
      { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
      { name: 'pitch', label: 'pitch', value: middle, quantity: 'length' },
      { name: 'turns', label: 'turns', value: shape.turns, quantity: 'number' },
      { name: 'height', label: 'height of the centre line', value: shape.height, quantity: 'length' },
      {
        name: 'overallHeight',
        label: 'overall height',
        value: shape.height + wire * (tips[0] + tips[1]),
        quantity: 'length',
      },
      { name: 'meanDiameter', label: 'mean diameter', value: 2 * shape.startRadius, quantity: 'length' },
      {
        name: 'endMeanDiameter',
        label: 'mean diameter at the end',
        value: 2 * shape.endRadius,
        quantity: 'length',
      },
      {
        name: 'halfAngle',
        label: 'half-angle of the cone',
        value: Math.atan2(shape.startRadius - shape.endRadius, shape.height),
        quantity: 'angle',
      },
      { name: 'leadAngle', label: 'lead angle', value: leadAngle(shape, middle), quantity: 'angle' },
      ...(detail ? closedResults(closed, detail) : []),
      {
        name: 'curvature',
        label: 'greatest curvature',
        value: path.tightest.curvature,
        quantity: 'curvature',
      },
      { name: 'torsion', label: 'torsion at the start', value: path.at(0).torsion, quantity: 'curvature' },
    ];
  },
  check: async (path, _context, { detail }) => ({
    findings: detail ? coilFindings(path, detail) : [],
    limits: [],
  }),
});

const closedResults = (closed: Coil['closed'], { closedPitch }: Stationed): Result[] => [
  {
    name: 'closedPitch',
    label: 'pitch of the closed coils',
    value: closedPitch[closed[0] ? 0 : 1],
    quantity: 'length',
  },
];

/** A coil some of whose end coils lie on their neighbours. @throws Complaint at the figure in fault */
function closedCoil(
  figures: HelixFigures,
  given: HelixFigures,
  wire: number,
  hand: 1 | -1,
  at: Motion,
): Detailed<Path, Stationed | undefined> {
  const from = stationsOf(figures, wire);
  const stations = solveStations(from);
  const path = coiledPath({
    stations,
    from,
    hand,
    start: figures.startAngle,
    at,
    figures: givenOf(given, wire),
    other: ({ wire: otherWire = wire, diameter = figures.diameter, ...change }) =>
      stationsOf({ ...figures, diameter, ...change }, otherWire),
  });
  return new Detailed(path, stations);
}

/** How often the end of a cone of given angle is brought to where the height puts it. */
const MOST_ROUNDS = 60;

function stationsOf(figures: HelixFigures, wire: number): StationFigures {
  const { turns, pitch, height, basis, taper } = figures;
  checkLinked(figures);
  const radius = centreRadius(figures.diameter, basis, wire, 'diameter');
  if (!(radius > 0))
    throw new Complaint(
      'Closed coils lie on their neighbours, and none can begin in the middle.',
      'diameter',
    );
  const base: StationFigures = {
    turns,
    pitch,
    height,
    overall: figures.heightBasis === 'overall',
    radius,
    wire,
    closed: [figures.closedStart, figures.closedEnd],
    transition: figures.transition,
    half: false,
    rows: [],
  };
  if (taper === 'none') return base;
  if (taper === 'diameter')
    return {
      ...base,
      endRadius: centreRadius(need(figures.endDiameter, 'endDiameter'), basis, wire, 'endDiameter'),
    };
  const slope = Math.tan(need(figures.halfAngle, 'halfAngle'));
  let endRadius = radius;
  for (let i = 0; i < MOST_ROUNDS; i++) {
    const next = radius - solveStations({ ...base, endRadius }).height * slope;
    if (next < 0) throw closesBefore(radius / slope);
    if (Math.abs(next - endRadius) < 1e-12 * radius) break;
    endRadius = next;
  }
  return { ...base, endRadius };
}

const closesBefore = (height: number): Complaint =>
  new Complaint(
    words`The cone closes at ${mm(height)}, before the coil ends: it wants a smaller angle or less height.`,
    'halfAngle',
  );

/**
 * Refuses a helix that is given too little, or too much.
 * @throws Complaint where of pitch, turns and height not two are given
 */
function checkLinked({ turns, pitch, height }: HelixFigures): void {
  const given = [turns, pitch, height].filter((figure) => figure !== undefined).length;
  if (given !== 2)
    throw new Complaint(
      given > 2
        ? 'Of pitch, turns and height only two can be given; the third follows.'
        : 'Two of pitch, turns and height are needed; the third follows.',
      turns === undefined ? 'turns' : 'height',
    );
}

/** From the figures as given to the centre line. `wire` in mm. @throws Complaint at the figure in fault. */
function coilShape(figures: HelixFigures, wire: number): CoilShape {
  const { turns, pitch, height, basis, taper } = figures;
  checkLinked(figures);
  const startRadius = centreRadius(figures.diameter, basis, wire, 'diameter');
  const angled = taper === 'angle';
  const slope = angled ? Math.tan(need(figures.halfAngle, 'halfAngle')) : 0;
  const fixedEnd =
    taper === 'diameter'
      ? centreRadius(need(figures.endDiameter, 'endDiameter'), basis, wire, 'endDiameter')
      : startRadius;
  const withHeight = (centre: number, n: number): CoilShape => ({
    startRadius,
    endRadius: angled ? startRadius - centre * slope : fixedEnd,
    turns: n,
    height: centre,
  });

  const shape = solve();
  if (!(shape.startRadius > 0 || shape.endRadius > 0))
    throw new Complaint('One end of the coil needs a diameter greater than 0.', 'diameter');
  if (shape.endRadius < 0) throw closesBefore(startRadius / slope);
  if (shape.turns > MOST_TURNS)
    throw new Complaint(
      words`This makes ${Math.round(shape.turns)} turns; up to ${MOST_TURNS} can be laid.`,
      'pitch',
    );
  return shape;

  function solve(): CoilShape {
    if (height === undefined) return withHeight(pitch! * turns!, turns!);
    const overall = figures.heightBasis === 'overall' && wire > 0;
    if (turns !== undefined) {
      if (!overall) return withHeight(height, turns);
      return withHeight(
        centreHeight((h) => withHeight(h, turns)),
        turns,
      );
    }
    if (pitch! <= 0) throw new Complaint('The pitch must be more than 0 where the height is given.', 'pitch');
    if (!overall) return withHeight(height, height / pitch!);
    const centre = centreHeight((h) => withHeight(h, Math.max(h, 1e-9) / pitch!));
    return withHeight(centre, centre / pitch!);
  }

  function centreHeight(shapeAt: (height: number) => CoilShape): number {
    if (height! < wire)
      throw new Complaint(words`Overall the coil is at least as tall as its wire, ${mm(wire)}.`, 'height');
    const centre = heightForOverall(shapeAt, height!, wire);
    if (Number.isNaN(centre))
      throw new Complaint(words`This is too low for a wire of ${mm(wire)}.`, 'height');
    return centre;
  }
}

function need(value: number | undefined, field: string): number {
  if (value === undefined) throw new Complaint('A figure is missing here.', field);
  return value;
}
