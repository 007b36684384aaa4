/** What coils of changing pitch share, whether stations or closed ends change it: their path, their neighbours, findings. */
import type { Jet } from '../../geometry/jet';
import type { Finding } from '../../kind/value';
import { mm, words } from '../../measure/words';
import type { Coil, Coils } from '../../path/coil';
import type { Motion } from '../../geometry/motion';
import { pathWith, pathOf, type Handle, type Path } from '../../path/path';
import type { Curve } from '../../path/curve';
import { polarCurve } from '../../path/polar';
import { nearestCoil, solveStations, type StationFigures, type Stationed } from '../../path/stations';

interface Coiled {
  readonly stations: Stationed;
  /** What it was solved from. */
  readonly from: StationFigures;
  readonly hand: 1 | -1;
  /** Angle of its start, rad. */
  readonly start: number;
  readonly at: Motion;
  readonly figures: Coils['figures'];
  /** What it would be solved from with other figures. */
  other(change: Parameters<Coils['distanceWith']>[0]): StationFigures;
  handles?(lengthAt: (turn: number) => number): readonly Handle[];
}

const PER_TURN = 1 / (2 * Math.PI);

const byAngle = ([a, b, c, d]: Jet): Jet => [a, b * PER_TURN, c * PER_TURN ** 2, d * PER_TURN ** 3];

/** The coil from one of its turns to another, by its angle. */
function curveBetween({ stations, hand, start, at }: Coiled, begin: number, to: number): Curve {
  const { pitch, radius } = stations;
  const within = (u: number) => Math.min(to - 1e-13, begin + u * PER_TURN);
  return polarCurve(
    {
      span: 2 * Math.PI * (to - begin),
      start: start + hand * 2 * Math.PI * begin,
      hand,
      samplingHint: Math.max(1, Math.ceil(to - begin)),
      quick(u, out) {
        const t = within(u);
        out[0] = radius.value(t);
        out[1] = radius.slope(t) * PER_TURN;
        out[2] = pitch.integral(begin + u * PER_TURN);
        out[3] = pitch.value(t) * PER_TURN;
      },
      radius: (u) => byAngle(radius.at(within(u))),
      height: (u) => {
        const p = pitch.at(within(u));
        return byAngle([pitch.integral(begin + u * PER_TURN), p[0], p[1], p[2]]);
      },
    },
    at,
  );
}

/** Lays a coil along the z axis of a frame: a piece from each station to the next, the curve being smooth within. */
export function coiledPath(coiled: Coiled): Path {
  const { stations, from, hand, at, figures, other, handles } = coiled;
  const { pitch, radius, turns, height, tips } = stations;
  const knots = [...pitch.xs, ...radius.xs]
    .sort((a, b) => a - b)
    .filter((t, i, all) => i === 0 || t - all[i - 1]! > 1e-9);
  knots[0] = 0;
  knots[knots.length - 1] = turns;
  const curves = knots.slice(1).map((to, i) => curveBetween(coiled, knots[i]!, to));
  const turnAt = (piece: number, u: number) => knots[piece]! + u * PER_TURN;
  const lengthAt = (turn: number): number => lengthAtTurn(path.pieces, turn);
  const coil: Coil = {
    shape: { startRadius: radius.value(0), endRadius: radius.value(turns), turns, height },
    even: false,
    closed: from.closed,
    transition: from.transition,
    radius: (turn) => radius.value(turn),
    pitch: (turn) => pitch.value(turn),
    tips,
    hand,
    foot: at.origin,
    axis: at.ez,
    wire: from.wire,
  };
  const path: Path = pathOf(curves, {
    open: true,
    coil,
    coils: {
      pitch: pitch.at(turns / 2)[0],
      nearest() {
        const { distance, at: places } = nearestCoil(stations, 0, turns - 1);
        return { distance, at: [lengthAt(places[0]), lengthAt(places[1])] };
      },
      lie: from.closed[0] >= 1 || from.closed[1] >= 1,
      figures,
      *distanceWith(change) {
        const changed = solveStations(other(change));
        yield;
        return nearestCoil(changed, ...working(changed, from.closed)).distance;
      },
    },
    along: {
      pitch: (piece, u) => pitch.at(turnAt(piece, u))[0],
      diameter: (piece, u) => 2 * radius.at(turnAt(piece, u))[0],
    },
  });
  return handles ? pathWith(path, { handles: handles(lengthAt) }) : path;
}

/** Turns between which coils work: closed ones, which lie on each other, apart. */
function working(coil: Stationed, closed: readonly [number, number]): [number, number] {
  const from = closed[0] >= 1 ? Math.min(coil.turns, closed[0]) : 0;
  return [from, Math.max(from, coil.turns - 1 - (closed[1] >= 1 ? closed[1] : 0))];
}

/** A pitch under the wire: coils that would lie in each other; else what the working ones leave. */
export function coilFindings({ coil, at, pieces }: Path, stationed: Stationed): Finding[] {
  const { wire, closed } = coil!;
  if (!wire || stationed.turns < 1) return [];
  const worst = nearestCoil(stationed, 0, stationed.turns - 1);
  const cuts = worst.distance < wire * (1 - 1e-6);
  const found = cuts ? worst : nearestCoil(stationed, ...working(stationed, closed));
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

/** The figures of a coil that were given, with their values; see `Coils`. */
export function givenOf(
  {
    diameter,
    turns,
    pitch,
    height,
  }: Partial<Record<'diameter' | 'turns' | 'pitch' | 'height', number | undefined>>,
  wire: number,
): Coils['figures'] {
  return {
    wire,
    ...(diameter !== undefined && { diameter }),
    ...(turns !== undefined && { turns }),
    ...(pitch !== undefined && { pitch }),
    ...(height !== undefined && { height }),
  };
}
