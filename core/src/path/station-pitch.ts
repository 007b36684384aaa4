/** Pitch by turns through the stations of a coil: monotone cubics that reach the heights that are given. */
import { type Monotone, monotone } from '../geometry/monotone';
import { root } from '../geometry/numeric';
import { Complaint, mm, words } from '../measure/words';

export interface Knot {
  readonly turn: number;
  pitch: number | undefined;
  /** Height from the foot where it is given, and the field that gives it. */
  readonly height?: number;
  readonly field?: string;
}

/**
 * Fills in the pitches that are not given: one for each stretch between heights that are, so that it is
 * reached. At a height given between stretches the pitch is level. With `closed` ends nothing is put between pitches that are all
 * given: it would lift coils that are closed. @throws Complaint at the figure in conflict
 */
export function solvePitch(
  knots: readonly Knot[],
  usual: number | undefined,
  half: boolean,
  closed: boolean,
): Monotone {
  const anchors = knots.flatMap((knot, i) => (knot.height === undefined ? [] : [i]));
  const last = knots.length - 1;
  const parts = anchors.flatMap((from, k) => {
    const to = anchors[k + 1] ?? last;
    if (to === from) return [];
    const part = knots.slice(from, to + 1);
    const level = (turn: number) =>
      (from > 0 && turn === part[0]!.turn) ||
      (half && to === last && turn === knots[last]!.turn) ||
      (to < last && turn === part.at(-1)!.turn);
    const filled =
      anchors[k + 1] === undefined
        ? settle(part, usual)
        : reach(part, averages(knots, anchors, k), level, closed);
    return [byPitch(filled, level)];
  });
  return joined(parts);
}

const byPitch = (knots: readonly Knot[], level: (turn: number) => boolean, open = 0): Monotone =>
  monotone(
    knots.map(({ turn }) => turn),
    knots.map(({ pitch }) => pitch ?? open),
    (i) => level(knots[i]!.turn),
  );

/** Pitches of a stretch whose height follows: the usual one, or those that are given carried on. */
function settle(part: readonly Knot[], usual: number | undefined): Knot[] {
  if (usual !== undefined) return part.map((knot) => ({ ...knot, pitch: knot.pitch ?? usual }));
  const given = part.filter((knot) => knot.pitch !== undefined);
  if (!given.length) throw new Complaint('A pitch is needed, or the height.', 'height');
  return part.flatMap((knot, i) => {
    if (knot.pitch !== undefined) return [knot];
    if (i > 0 && i < part.length - 1) return [];
    return [{ ...knot, pitch: (i === 0 ? given[0]! : given.at(-1)!).pitch }];
  });
}

/** Functions on neighbouring stretches as one. */
function joined(parts: readonly Monotone[]): Monotone {
  if (parts.length === 1) return parts[0]!;
  const areas = [0];
  for (const part of parts) areas.push(areas.at(-1)! + part.integral(part.xs.at(-1)!));
  const ends = parts.map((part) => part.xs.at(-1)!);
  const partAt = (x: number) => {
    let i = 0;
    while (i < ends.length - 1 && x >= ends[i]!) i++;
    return i;
  };
  return {
    xs: parts.flatMap((part, i) => (i ? part.xs.slice(1) : part.xs)),
    at: (x) => parts[partAt(x)]!.at(x),
    value: (x) => parts[partAt(x)]!.value(x),
    slope: (x) => parts[partAt(x)]!.slope(x),
    integral(x) {
      const i = partAt(x);
      return areas[i]! + parts[i]!.integral(x);
    },
  };
}

/** Mean pitch of a stretch and of its neighbours: what a station between takes where it is not told. */
function averages(knots: readonly Knot[], anchors: readonly number[], k: number) {
  const mean = (i: number): number | undefined => {
    const [a, b] = [knots[anchors[i] ?? -1], knots[anchors[i + 1] ?? -1]];
    return a && b ? (b.height! - a.height!) / (b.turn - a.turn) : undefined;
  };
  const here = mean(k)!;
  const between = (other: number | undefined) =>
    other === undefined
      ? undefined
      : here + other > 0
        ? // So much at most that a stretch can still begin or end at no pitch and reach its height.
          Math.min((2 * here * other) / (here + other), 1.6 * Math.min(here, other))
        : 0;
  return { start: between(mean(k - 1)), end: between(mean(k + 1)) };
}

/** The pitch of what is not told in a stretch, at which it climbs from its first height to its last. */
export function reach(
  part: readonly Knot[],
  ends: { start: number | undefined; end: number | undefined },
  level: (turn: number) => boolean,
  closed = false,
): Knot[] {
  const first = part[0]!;
  const last = part.at(-1)!;
  const climb = last.height! - first.height!;
  const told = part.map((knot, i) => ({
    ...knot,
    pitch: knot.pitch ?? (i === 0 ? ends.start : i === part.length - 1 ? ends.end : undefined),
  }));
  const isTold = told.every((knot) => knot.pitch !== undefined);
  if (isTold && closed) {
    const sum = byPitch(told, level).integral(last.turn);
    if (Math.abs(sum - climb) <= 1e-6 * Math.max(1, climb)) return told;
    throw new Complaint(
      words`These pitches add up to ${mm(sum)}, and the height asks for ${mm(climb)}. Clear the height or one pitch.`,
      last.field,
    );
  }
  // Where all is told, a place in the middle takes up the difference.
  const knots = !isTold
    ? told
    : [told[0]!, { turn: (first.turn + told[1]!.turn) / 2, pitch: undefined }, ...told.slice(1)];
  const climbs = (q: number) => byPitch(knots, level, q).integral(last.turn) - climb;
  const over = climbs(0);
  if (over > 1e-9 * Math.max(1, climb))
    throw new Complaint(
      words`The pitches up to here climb ${mm(climb + over)} by themselves: more than the ${mm(climb)} there is.`,
      last.field,
    );
  let most = Math.max(1e-6, (2 * climb) / (last.turn - first.turn));
  while (climbs(most) < 0) most *= 2;
  const q = over >= 0 ? 0 : root(climbs, 0, most, 1e-14);
  return knots.map((knot) => ({ ...knot, pitch: knot.pitch ?? q }));
}
