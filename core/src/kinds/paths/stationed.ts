import { lastWhere } from '../../geometry/search';
import { z } from 'zod';
import { choice, count, Detailed, length, pathKind, table } from '../../kind/kind';
import { cellField } from '../../measure/field';

import { Complaint } from '../../measure/words';
import { centreRadius } from '../../path/coil';
import { type Handle } from '../../path/path';
import { coilFindings, coiledPath, givenOf } from './coiled';
import { coilMarks } from './coil-marks';
import { placedMarks } from './placed-marks';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';
import { solveStations, type StationFigures, type Stationed } from '../../path/stations';

const stations = table({
  noun: 'station',
  row: z.object({
    turn: count({ atLeast: 0 }).optional(),
    height: length({ atLeast: 0 }).optional(),
    diameter: length({ above: 0 }).optional(),
    pitch: length({ atLeast: 0 }).optional(),
  }),
  between: { columns: ['turn', 'height'], first: { turn: '1' }, last: { turn: '2' } },
  fresh: {},
  most: 200,
});
const schema = z.object({
  diameter: length({ above: 0 }),
  basis: choice('mean', 'outer', 'inner'),
  turns: count({ above: 0, atMost: 2000 }).optional(),
  pitch: length({ atLeast: 0 }).optional(),
  height: length({ above: 0 }).optional(),
  heightBasis: choice('overall', 'centres'),
  hand: choice('right', 'left'),
  closedStart: count({ atLeast: 0, atMost: 5 }),
  closedEnd: count({ atLeast: 0, atMost: 5 }),
  transition: count({ atLeast: 0, atMost: 5 }),
  described: choice('whole', 'half'),
  ...PLACING,
});
type Given = z.infer<typeof schema> & { readonly stations: readonly z.infer<typeof stations.row>[] };

/** Helix of changing pitch and diameter: stations, closed ends, waisted and barrel springs by their half. */
export const stationed = pathKind({
  kind: 'stationed',
  title: 'Coil',
  noun: 'helix with stations',
  words: [
    'coil',
    'spring',
    'helix',
    'stations',
    'variable',
    'pitch',
    'progressive',
    'waisted',
    'barrel',
    'hourglass',
    'closed',
    'ends',
    'table',
  ],
  inputs: { section: { takes: 'section', optional: true }, ...PLACING_INPUTS },
  schema,
  tables: { stations },
  defaults: {
    diameter: '20 mm',
    basis: 'mean',
    turns: '8',
    height: '50 mm',
    heightBasis: 'centres',
    hand: 'right',
    closedStart: '0',
    closedEnd: '0',
    transition: '0.5',
    described: 'whole',
    ...PLACING_DEFAULTS,
  },
  evaluate(figures, { section, place }) {
    const wire = section?.diameter ?? 0;
    const coil = solveStations(stationFigures(figures, wire));
    const path = coiledPath({
      stations: coil,
      from: stationFigures(figures, wire),
      hand: figures.hand === 'right' ? 1 : -1,
      start: figures.startAngle,
      at: placedAt(figures, place),
      figures: givenOf(figures, wire),
      other: ({ wire: otherWire = wire, diameter = figures.diameter, ...change }) =>
        stationFigures({ ...figures, diameter, ...change }, wire ? otherWire : wire),
      handles: (lengthAt) => handlesOf(figures, coil, wire, lengthAt),
    });
    return new Detailed(path, coil);
  },
  fill(figures, { section }, coil) {
    const wire = section?.diameter ?? 0;
    const beyond = figures.basis === 'outer' ? wire : figures.basis === 'inner' ? -wire : 0;
    return {
      stations: figures.stations.map((station) => {
        const turn = station.turn ?? turnOf(coil, station.height!);
        return {
          turn,
          height: coil.pitch.integral(turn),
          diameter: 2 * coil.radius.at(turn)[0] + beyond,
          pitch: coil.pitch.at(turn)[0],
        };
      }),
    };
  },
  marks: (path, set, _filled, resolved) => [...coilMarks(path, set), ...placedMarks(set, resolved, () => [])],
  results(path, { detail: coil }) {
    const active = coil.turns / 2;
    return [
      { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
      { name: 'turns', label: 'turns', value: coil.turns, quantity: 'number' },
      { name: 'height', label: 'height of the centre line', value: coil.height, quantity: 'length' },
      { name: 'overallHeight', label: 'overall height', value: coil.height + coil.reach, quantity: 'length' },
      { name: 'pitch', label: 'pitch in the middle', value: coil.pitch.at(active)[0], quantity: 'length' },
      {
        name: 'closedPitch',
        label: 'pitch of the closed coils',
        value: coil.closedPitch[0],
        quantity: 'length',
      },
      {
        name: 'meanDiameter',
        label: 'mean diameter at the start',
        value: 2 * coil.radius.at(0)[0],
        quantity: 'length',
      },
    ];
  },
  check: async (path, _context, { detail }) => ({ findings: coilFindings(path, detail), limits: [] }),
});

const turnOf = ({ pitch, turns }: Stationed, height: number): number =>
  lastWhere((turn) => pitch.integral(turn) < height, 0, turns);

function stationFigures(figures: Given, wire: number): StationFigures {
  const refers =
    figures.basis !== 'mean' || (figures.heightBasis === 'overall' && figures.height !== undefined);
  if (refers && !wire)
    throw new Complaint(
      'Outer, inner and overall figures need to know the section that will be swept: choose it here.',
      figures.basis !== 'mean' ? 'basis' : 'heightBasis',
    );
  return {
    turns: figures.turns,
    pitch: figures.pitch,
    height: figures.height,
    overall: figures.heightBasis === 'overall',
    radius: centreRadius(figures.diameter, figures.basis, wire, 'diameter'),
    wire,
    closed: [figures.closedStart, figures.closedEnd],
    transition: figures.transition,
    half: figures.described === 'half',
    rows: figures.stations.map((station, i) => ({
      ...station,
      ...(station.diameter !== undefined && {
        diameter:
          2 * centreRadius(station.diameter, figures.basis, wire, cellField('stations', i, 'diameter')),
      }),
    })),
  };
}

/** The rows of the table in the charts of pitch and diameter. */
function handlesOf(
  figures: Given,
  coil: Stationed,
  wire: number,
  lengthAt: (turn: number) => number,
): Handle[] {
  const offset = figures.basis === 'outer' ? wire : figures.basis === 'inner' ? -wire : 0;
  return figures.stations.flatMap((station, i) => {
    const turn = station.turn ?? turnOf(coil, station.height!);
    const s = lengthAt(turn);
    const handle = (channel: 'pitch' | 'diameter', value: number, by: number): Handle => ({
      channel,
      field: cellField('stations', i, channel),
      s,
      value,
      offset: by,
    });
    // A pitch is a figure only where it is given: elsewhere it follows from the rest.
    return [
      ...(station.pitch === undefined ? [] : [handle('pitch', station.pitch, 0)]),
      handle('diameter', 2 * coil.radius.at(turn)[0], offset),
    ];
  });
}
