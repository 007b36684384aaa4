/** A coil whose pitch and diameter change along it, from a table of stations and closed ends. Pure figures. */
import { cellField } from '../measure/field';
import { type Monotone, monotone } from '../geometry/monotone';
import { root, valley } from '../geometry/numeric';
import { Complaint, mm, words } from '../measure/words';
import { type Knot, solvePitch } from './station-pitch';

/** One row of the table; lengths in mm, diameters of the centre line. */
export interface Station {
  readonly turn?: number | undefined;
  readonly height?: number | undefined;
  readonly diameter?: number | undefined;
  readonly pitch?: number | undefined;
}

export interface StationFigures {
  readonly turns?: number | undefined;
  readonly pitch?: number | undefined;
  /** Overall over the wire, or of the centre line. */
  readonly height?: number | undefined;
  readonly overall: boolean;
  /** Of the centre line where no row gives it; at the end, where it is another there. */
  readonly radius: number;
  readonly endRadius?: number;
  readonly wire: number;
  /** Closed coils at the start and the end, and the turns over which the pitch passes on from them. */
  readonly closed: readonly [number, number];
  readonly transition: number;
  /** Rows describe the first half; the second mirrors it. */
  readonly half: boolean;
  readonly rows: readonly Station[];
}

/** The coil by its turns: pitch, the height that it makes, and the radius of the centre line. */
export interface Stationed {
  readonly turns: number;
  readonly height: number;
  /** What the round wire adds to the height, both ends together. */
  readonly reach: number;
  /** See `Coil`. */
  readonly tips: readonly [start: number, end: number];
  readonly pitch: Monotone;
  readonly radius: Monotone;
  readonly closedPitch: readonly [number, number];
}

const MOST_TURNS = 2000;

const row = (i: number, column: keyof Station) => cellField('stations', i, column);

/**
 * Pitch and angle at each station from what is given: of pitch, turns and height two, over all or between stations (mm, radians).
 * @throws Complaint at the figure or the cell that is in conflict with the others.
 */
export function solveStations(figures: StationFigures): Stationed {
  const { turns, pitch, height } = figures;
  const rowPitch = figures.rows.some((station) => station.pitch !== undefined);
  if (turns !== undefined && pitch !== undefined && height !== undefined)
    throw new Complaint('Of pitch, turns and height only two can be given; the third follows.', 'height');
  if (turns !== undefined) {
    if (pitch === undefined && height === undefined && !rowPitch)
      throw new Complaint('The height is needed, or a pitch.', 'height');
    return withTurns(figures, turns);
  }
  if (pitch === undefined || height === undefined)
    throw new Complaint('Two of pitch, turns and height are needed; the third follows.', 'turns');
  // Turns follow: as many as reach the height at this pitch.
  const tall = (n: number) => {
    const coil = withTurns({ ...figures, height: undefined }, n);
    return coil.height + (figures.overall ? coil.reach : 0) - height;
  };
  const rows = figures.rows.map((station) => station.turn ?? 0);
  const fewest =
    Math.max(0.01, figures.closed[0] + figures.closed[1] + 2 * figures.transition, ...rows) * (1 + 1e-9) +
    1e-6;
  if (tall(fewest) > 0) throw new Complaint('The closed coils alone are taller than this.', 'height');
  let most = fewest * 2;
  while (tall(most) < 0) {
    most *= 2;
    if (most > 2 * MOST_TURNS) throw new Complaint(`This makes more than ${MOST_TURNS} turns.`, 'pitch');
  }
  return withTurns({ ...figures, height: undefined }, root(tall, fewest, most, 1e-13));
}

function withTurns(figures: StationFigures, turns: number): Stationed {
  if (turns > MOST_TURNS) throw new Complaint(`Up to ${MOST_TURNS} turns can be laid.`, 'turns');
  checkRows(figures, turns);
  if (figures.half && figures.closed[0] !== figures.closed[1])
    throw new Complaint('A spring given by its half has the same closed coils at both ends.', 'closedEnd');
  return closeEnds(figures, turns);
}

/** Rows ascend in turn and height, and say where they stand. @throws Complaint at the cell in fault. */
function checkRows({ rows, half, closed, transition }: StationFigures, turns: number): void {
  let turn = -Infinity;
  let height = -Infinity;
  const end = half ? turns / 2 : turns;
  rows.forEach((station, i) => {
    if (station.turn === undefined && station.height === undefined)
      throw new Complaint('Say at which turn, or at which height, this station stands.', row(i, 'turn'));
    if (station.turn === undefined && station.pitch !== undefined)
      throw new Complaint('A pitch needs the turn at which it holds.', row(i, 'turn'));
    if (station.turn !== undefined) {
      if (station.turn <= turn) throw new Complaint('The turns of the stations must rise.', row(i, 'turn'));
      if (station.turn < 0) throw new Complaint('The first turn is 0.', row(i, 'turn'));
      if (station.turn > end * (1 + 1e-12))
        throw new Complaint(
          half ? `The half of this coil has ${shown(end)} turns.` : `This coil has only ${shown(end)} turns.`,
          row(i, 'turn'),
        );
      const within =
        station.turn < closed[0] + (closed[0] ? transition : 0) - 1e-12 ||
        (!half && station.turn > turns - closed[1] - (closed[1] ? transition : 0) + 1e-12);
      // Both ends may have a height: 0, and that of the whole.
      const inside = station.turn > 0 && station.turn < turns;
      if (within && (station.pitch !== undefined || (station.height !== undefined && inside)))
        throw new Complaint(
          'This lies in the closed coils, whose pitch follows from the wire.',
          row(i, 'turn'),
        );
      turn = station.turn;
    }
    if (station.height !== undefined) {
      if (station.height < height)
        throw new Complaint('The heights of the stations must rise.', row(i, 'height'));
      height = station.height;
    }
  });
}

const shown = (x: number): string => String(Number(x.toFixed(3)));

/** Finds the pitch of the closed coils, at which they just lie on their neighbours. */
function closeEnds(figures: StationFigures, turns: number): Stationed {
  const { closed, wire, transition } = figures;
  const dead = closed[0] + closed[1] + (closed[0] ? transition : 0) + (closed[1] ? transition : 0);
  if (dead > turns)
    throw new Complaint(
      words`${shown(turns)} turns are too few for ${shown(closed[0] + closed[1])} closed coils and the way to them.`,
      closed[0] ? 'closedStart' : 'closedEnd',
    );
  if (dead > 0 && !(wire > 0))
    throw new Complaint('Closed coils need to know the wire: choose the section here.', 'section');
  if (dead > 0 && dead < turns && !(transition > 0))
    throw new Complaint(
      'The transition is 0 turns; the pitch cannot jump from the closed coils to the others. Use at least 0.1 turns.',
      'transition',
      { says: ['a quarter turn'], set: { transition: '0.25' } },
    );
  let pitches: [number, number] = [closed[0] ? wire : 0, closed[1] ? wire : 0];
  let reach = wire;
  let coil = coilFrom(figures, turns, pitches, reach);
  const gapAt = (which: 0 | 1, at: Stationed): number => {
    const n = closed[which];
    const from = which === 0 ? 0 : turns - Math.max(1, n);
    const to = which === 0 ? Math.max(0, n - 1) : turns - 1;
    return nearestCoil(at, from, to).distance - wire;
  };
  // Secants from the straight coil's pitch; the other figures follow along.
  let before: { pitches: [number, number]; gaps: [number, number] } | undefined;
  for (let i = 0; i < 40; i++) {
    const gaps: [number, number] = [closed[0] ? gapAt(0, coil) : 0, closed[1] ? gapAt(1, coil) : 0];
    const next = ([0, 1] as const).map((k) => {
      if (!closed[k]) return 0;
      const dp = before ? pitches[k] - before.pitches[k] : 0;
      const slope = before && Math.abs(dp) > 1e-15 ? (gaps[k] - before.gaps[k]) / dp : 1;
      return Math.max(0, pitches[k] - gaps[k] / (slope > 0.05 ? slope : 1));
    }) as [number, number];
    const change = Math.max(Math.abs(next[0] - pitches[0]), Math.abs(next[1] - pitches[1]));
    before = { pitches, gaps };
    const now = wire * (coil.tips[0] + coil.tips[1]);
    if (change <= 1e-10 * wire && Math.abs(now - reach) <= 1e-10 * wire) break;
    pitches = next;
    reach = now;
    coil = coilFrom(figures, turns, pitches, reach);
  }
  for (const k of [0, 1] as const) if (closed[k]) checkClosed(k, gapAt(k, coil), coil);
  return coil;
}

/** A closed coil lies on its neighbour to this part of the wire. */
const LIES_WITHIN = 1e-4;

/**
 * Looks whether closed coils lie on their neighbours; where the diameter changes fast they lie beside them, without pitch.
 * @throws Complaint where no pitch brings them there
 */
function checkClosed(end: 0 | 1, gap: number, { closedPitch, reach }: Stationed): void {
  const isFlat = closedPitch[end] === 0;
  if (Math.abs(gap) <= LIES_WITHIN * reach || (gap > 0 && isFlat)) return;
  throw new Complaint(
    gap > 0
      ? words`The closed coils stay ${mm(gap)} off their neighbours. Change the pitch, the diameter or the closed coils.`
      : words`The closed coils cut ${mm(-gap)} into their neighbours. Give more height or pitch, or fewer closed coils.`,
    end === 0 ? 'closedStart' : 'closedEnd',
  );
}

/** See `Coil.tips`. */
function tipsOf({ pitch, radius, turns }: Pick<Stationed, 'pitch' | 'radius' | 'turns'>): Stationed['tips'] {
  const flat = (t: number) => {
    const r = radius.at(t);
    const level = Math.hypot(2 * Math.PI * r[0], r[1]);
    return level / Math.hypot(level, pitch.at(t)[0]) / 2;
  };
  return [flat(0), flat(turns)];
}

/** Lays pitch and radius over all turns, with closed coils of given pitches. */
function coilFrom(
  figures: StationFigures,
  turns: number,
  closedPitch: readonly [number, number],
  reach: number,
): Stationed {
  const { closed, transition, rows, half } = figures;
  const end = half ? turns / 2 : turns;
  const whole = figures.height === undefined ? undefined : figures.height - (figures.overall ? reach : 0);
  if (whole !== undefined && whole < 0)
    throw new Complaint(
      words`Overall the coil is at least as tall as its wire, ${mm(figures.wire)}.`,
      'height',
    );
  const top = whole === undefined ? undefined : half ? whole / 2 : whole;

  const knots: Knot[] = [{ turn: 0, pitch: closed[0] ? closedPitch[0] : undefined, height: 0 }];
  const put = (knot: Knot) => {
    const i = knots.findIndex((other) => Math.abs(other.turn - knot.turn) < 1e-9);
    if (i < 0) knots.push(knot);
    else knots[i] = { ...knots[i]!, ...knot, pitch: knot.pitch ?? knots[i]!.pitch };
  };
  if (closed[0]) {
    put({ turn: closed[0], pitch: closedPitch[0] });
    if (transition > 0) put({ turn: closed[0] + transition, pitch: undefined });
  }
  if (closed[1] && !half) {
    if (transition > 0) put({ turn: turns - closed[1] - transition, pitch: undefined });
    put({ turn: turns - closed[1], pitch: closedPitch[1] });
  }
  const last: Knot = { turn: end, pitch: closed[1] && !half ? closedPitch[1] : undefined };
  put(top === undefined ? last : { ...last, height: top, field: 'height' });
  rows.forEach((station, i) => {
    if (station.turn === undefined) return;
    const shapes = station.pitch !== undefined || station.height !== undefined;
    if (!shapes) return;
    put({
      turn: station.turn,
      pitch: station.pitch,
      ...(station.height !== undefined && { height: station.height, field: row(i, 'height') }),
    });
  });
  knots.sort((a, b) => a.turn - b.turn);
  const pitch = solvePitch(knots, figures.pitch, half, closed[0] + closed[1] > 0);
  const known = half ? mirrored(pitch, turns) : pitch;
  const total = known.integral(turns);
  const radius = radiusThrough(figures, turns, end, known);
  const tips = tipsOf({ pitch: known, radius, turns });
  const coil: Stationed = { turns, height: total, reach, tips, pitch: known, radius, closedPitch };
  const low = rows.findIndex(
    (station) => station.height !== undefined && station.turn === undefined && station.height > total + 1e-9,
  );
  if (low >= 0) throw new Complaint(words`The coil ends at ${mm(total)}.`, row(low, 'height'));
  return coil;
}

/** The function on the first half, and its mirror image on the second. */
function mirrored(half: Monotone, turns: number): Monotone {
  const middle = turns / 2;
  const area = half.integral(middle);
  return {
    xs: [
      ...half.xs,
      ...half.xs
        .slice(0, -1)
        .map((x) => turns - x)
        .reverse(),
    ],
    at(x) {
      if (x <= middle) return half.at(x);
      const [a, b, c, d] = half.at(turns - x);
      return [a, -b, c, -d];
    },
    value: (x) => half.value(x <= middle ? x : turns - x),
    slope: (x) => (x <= middle ? half.slope(x) : -half.slope(turns - x)),
    integral: (x) => (x <= middle ? half.integral(x) : 2 * area - half.integral(turns - x)),
  };
}

/** Radius of the centre line by turns: through the diameters given, the usual one at both ends. */
function radiusThrough(
  { rows, radius, endRadius = radius, half }: StationFigures,
  turns: number,
  end: number,
  pitch: Monotone,
): Monotone {
  const given = rows.flatMap((station, i) => {
    if (station.diameter === undefined) return [];
    const turn = station.turn ?? turnAt(pitch, station.height!, end);
    if (station.diameter <= 0) throw new Complaint('This must be more than 0.', row(i, 'diameter'));
    return [{ turn, radius: station.diameter / 2 }];
  });
  const all = [...given];
  if (!all.some(({ turn }) => turn < 1e-9)) all.push({ turn: 0, radius });
  if (!all.some(({ turn }) => turn > end - 1e-9))
    all.push({ turn: end, radius: half ? all.at(0)!.radius : endRadius });
  if (half && !given.some(({ turn }) => turn > end - 1e-9))
    all.at(-1)!.radius = given.at(-1)?.radius ?? radius;
  all.sort((a, b) => a.turn - b.turn);
  const own = monotone(
    all.map(({ turn }) => turn),
    all.map((one) => one.radius),
    (i) => half && i === all.length - 1,
  );
  return half ? mirrored(own, turns) : own;
}

/** Turn at which the coil has climbed to a height. */
const turnAt = (pitch: Monotone, height: number, end: number): number =>
  height <= 0
    ? 0
    : pitch.integral(end) <= height
      ? end
      : root((t) => pitch.integral(t) - height, 0, end, 1e-14);

/** Looks for the nearest neighbour this often a turn, where the coil changes along it. */
const LOOKS = 8;

const MOST_LOOKS = 400;

interface Nearest {
  readonly b: number;
  readonly distance: number;
}
const nearer = (one: Nearest, other: Nearest): Nearest => (other.distance < one.distance ? other : one);

/** Nearest neighbouring coil of those that begin between two turns: distance (mm) and the turns of the two places. */
export function nearestCoil(
  coil: Pick<Stationed, 'pitch' | 'radius' | 'turns'>,
  from: number,
  to: number,
): { readonly distance: number; readonly at: readonly [number, number] } {
  const { pitch, radius, turns } = coil;
  const between = (a: number, b: number) => {
    const p = radius.value(a);
    const q = radius.value(b);
    const rise = pitch.integral(b) - pitch.integral(a);
    return Math.sqrt(Math.max(0, p * p + q * q - 2 * p * q * Math.cos(2 * Math.PI * (b - a)) + rise * rise));
  };
  const level = radius.xs.every((x) => radius.at(x)[0] === radius.at(0)[0]);
  /** Between two turns, where the distance from a is least. */
  const nearest = (a: number, low: number, high: number) => {
    const p = radius.value(a);
    const foot = pitch.integral(a);
    // Half of what its square changes by.
    const slope = (b: number) => {
      const q = radius.value(b);
      const turned = 2 * Math.PI * (b - a);
      const wider = level ? 0 : radius.slope(b) * (q - p * Math.cos(turned));
      return wider + 2 * Math.PI * p * q * Math.sin(turned) + (pitch.integral(b) - foot) * pitch.value(b);
    };
    const ends = [low, high].map((b) => ({ b, distance: between(a, b) })) as [Nearest, Nearest];
    if (!(low < high && slope(low) < 0 && slope(high) > 0)) return nearer(...ends);
    const b = root(slope, low, high, 1e-12);
    return { b, distance: between(a, b) };
  };
  const nearestFrom = (a: number) => {
    const next = nearest(a, a + 0.72, Math.min(turns, a + 1.28));
    if (level || a + 1.72 > turns) return next;
    // Where the diameter changes fast, the coil after the next may come nearer.
    return nearer(next, nearest(a, a + 1.72, Math.min(turns, a + 2.28)));
  };
  const last = Math.min(to, turns - 1);
  const count = last <= from ? 0 : Math.min(MOST_LOOKS, Math.ceil((last - from) * LOOKS));
  let best = { distance: Infinity, a: 0, b: 0 };
  for (let i = 0; i <= count; i++) {
    const a = count ? from + ((last - from) * i) / count : from;
    const found = nearestFrom(a);
    if (found.distance < best.distance) best = { ...found, a };
  }
  if (count) {
    const step = (last - from) / count;
    const a = valley(
      (x) => nearestFrom(x).distance,
      Math.max(from, best.a - step),
      Math.min(last, best.a + step),
      1e-9,
    );
    const found = nearestFrom(a);
    if (found.distance < best.distance) best = { ...found, a };
  }
  return { distance: best.distance, at: [best.a, best.b] };
}
