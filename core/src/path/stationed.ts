import { z } from 'zod';
import { cellField, choice, count, length, pathKind, table } from '../design/kind';
import type { Finding } from '../design/value';
import type { Jet } from '../geometry/jet';

import { Complaint, mm, words } from '../measure/words';
import { centreRadius, type Coils } from './coil';
import { pathOf, type Handle, type Path } from './path';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';
import { polarCurve } from './polar';
import { nearestCoil, solveStations, type StationFigures, type Stationed } from './stations';

const stations = table({
  noun: 'station',
  row: z.object({
    turn: count({ atLeast: 0 }).optional(),
    height: length({ atLeast: 0 }).optional(),
    diameter: length({ above: 0 }).optional(),
    pitch: length({ atLeast: 0 }).optional(),
  }),
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

interface StationedPath extends Path {
  readonly stationed: Stationed;
  readonly wire: number;
  readonly ends: readonly [number, number];
}

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
    const coil = solved(figures, wire);
    const at = placedAt(figures, place);
    const hand = figures.hand === 'right' ? 1 : -1;
    const perTurn = 1 / (2 * Math.PI);
    // A piece from each station to the next: the curve is smooth within.
    const knots = [...coil.pitch.xs, ...coil.radius.xs]
      .sort((a, b) => a - b)
      .filter((t, i, all) => i === 0 || t - all[i - 1]! > 1e-9);
    knots[0] = 0;
    knots[knots.length - 1] = coil.turns;
    const curves = knots.slice(1).map((to, i) => {
      const from = knots[i]!;
      const byAngle = ([a, b, c, d]: Jet): Jet => [a, b * perTurn, c * perTurn ** 2, d * perTurn ** 3];
      const within = (u: number) => Math.min(to - 1e-13, from + u * perTurn);
      return polarCurve(
        {
          span: 2 * Math.PI * (to - from),
          start: figures.startAngle + hand * 2 * Math.PI * from,
          hand,
          lobes: Math.max(1, Math.ceil(to - from)),
          quick(u, out) {
            const t = within(u);
            out[0] = coil.radius.value(t);
            out[1] = coil.radius.slope(t) * perTurn;
            out[2] = coil.pitch.integral(from + u * perTurn);
            out[3] = coil.pitch.value(t) * perTurn;
          },
          radius: (u) => byAngle(coil.radius.at(within(u))),
          height: (u) => {
            const t = within(u);
            const p = coil.pitch.at(t);
            return byAngle([coil.pitch.integral(from + u * perTurn), p[0], p[1], p[2]]);
          },
        },
        at,
      );
    });
    const turnAt = (piece: number, u: number) => knots[piece]! + u * perTurn;
    const path: Path = pathOf(curves, {
      coils: coilsOf(figures, wire, coil, (turn) => lengthAtTurn(path.pieces, turn)),
      along: {
        pitch: (piece, u) => coil.pitch.at(turnAt(piece, u))[0],
        diameter: (piece, u) => 2 * coil.radius.at(turnAt(piece, u))[0],
      },
    });
    const out: StationedPath = {
      ...path,
      get tightest() {
        return path.tightest;
      },
      stationed: coil,
      wire,
      ends: [figures.closedStart, figures.closedEnd],
      handles: handlesOf(figures, coil, wire, (turn) => lengthAtTurn(path.pieces, turn)),
    };
    return out;
  },
  fill(figures, { section }) {
    const wire = section?.diameter ?? 0;
    const coil = solved(figures, wire);
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
  figures(path) {
    const { stationed: coil } = path as StationedPath;
    const active = coil.turns / 2;
    return [
      { name: 'length', label: 'length', value: path.length, quantity: 'length' },
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
  check: async (path) => ({ findings: pitchFinding(path as StationedPath), limits: [] }),
});

const turnOf = (coil: Stationed, height: number): number => {
  let [low, high] = [0, coil.turns];
  for (let i = 0; i < 60; i++) {
    const mid = (low + high) / 2;
    if (coil.pitch.integral(mid) < height) low = mid;
    else high = mid;
  }
  return (low + high) / 2;
};

/** The last coil solved: its figures are asked for twice, for the path and for its table. */
let last: { figures: Given; wire: number; coil: Stationed } | undefined;
function solved(figures: Given, wire: number): Stationed {
  if (last?.figures === figures && last.wire === wire) return last.coil;
  const coil = solveStations(stationFigures(figures, wire));
  last = { figures, wire, coil };
  return coil;
}

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

/** Turns between which coils work: closed ones, which lie on each other, apart. */
function working(coil: Stationed, closed: readonly [number, number]): [number, number] {
  const from = closed[0] >= 1 ? Math.min(coil.turns, closed[0]) : 0;
  return [from, Math.max(from, coil.turns - 1 - (closed[1] >= 1 ? closed[1] : 0))];
}

function coilsOf(figures: Given, wire: number, coil: Stationed, lengthAt: (turn: number) => number): Coils {
  const { diameter, turns, pitch, height } = figures;
  return {
    pitch: coil.pitch.at(coil.turns / 2)[0],
    nearest() {
      const { distance, at } = nearestCoil(coil, 0, coil.turns - 1);
      return { distance, at: [lengthAt(at[0]), lengthAt(at[1])] };
    },
    lie: figures.closedStart >= 1 || figures.closedEnd >= 1,
    given: {
      diameter,
      wire,
      ...(turns !== undefined && { turns }),
      ...(pitch !== undefined && { pitch }),
      ...(height !== undefined && { height }),
    },
    distanceWith({ wire: otherWire = wire, diameter: otherDiameter = diameter, ...change }) {
      const other = solveStations(
        stationFigures({ ...figures, diameter: otherDiameter, ...change }, wire ? otherWire : wire),
      );
      return nearestCoil(other, ...working(other, [figures.closedStart, figures.closedEnd])).distance;
    },
  };
}

/** A pitch under the wire: coils that would lie in each other; else what the working ones leave. */
function pitchFinding({ stationed: coil, wire, ends, at, pieces }: StationedPath): Finding[] {
  if (!wire || coil.turns < 1) return [];
  const worst = nearestCoil(coil, 0, coil.turns - 1);
  const cuts = worst.distance < wire * (1 - 1e-6);
  const [from, to] = working(coil, ends);
  const found = cuts ? worst : nearestCoil(coil, from, to);
  const gap = found.distance - wire;
  if (found.distance > 20 * wire) return [];
  return [
    {
      name: 'coils',
      level: cuts ? 'fault' : 'good',
      says: cuts
        ? words`The pitch is too small for the wire near turn ${shownTurn(found.at[0])}`
        : words`Working coils clear by ${mm(gap)}`,
      value: found.distance,
      limit: wire,
      margin: gap,
      quantity: 'length',
      place: at(lengthAtTurn(pieces, found.at[0])).position,
    },
  ];
}

const shownTurn = (turn: number): string => String(Math.round(turn * 10) / 10);

function lengthAtTurn(pieces: Path['pieces'], turn: number): number {
  let rest = 2 * Math.PI * turn;
  for (const piece of pieces) {
    if (rest <= piece.span) return piece.start + piece.lengthTo(rest);
    rest -= piece.span;
  }
  return pieces.at(-1)!.start + pieces.at(-1)!.length;
}
