/** How far the figures of a coil may go, each alone, before its coils touch. */
import { rootSearch } from '../../geometry/numeric';
import type { Task } from '../../geometry/task';
import type { Limit } from '../../kind/value';
import { Complaint, mm, told, words } from '../../measure/words';
import type { CoilFigure, Coils } from '../../path/coil';

const TO = { most: ['up to', 'at most'], least: ['down to', 'at least'] } as const;
const NOUN: Record<CoilFigure, string> = {
  pitch: 'of pitch',
  height: 'tall',
  turns: 'turns',
  wire: 'across',
  diameter: 'across',
};

/** Limits of pitch (given or not), and of height, turns and wire as far as they are given and coils can touch at all. */
export function* coilLimits(
  coils: Coils,
  wire: number,
  steps: { path: string; section: string },
): Task<Limit[]> {
  const limits: Limit[] = [];
  for (const [figure, side] of SOUGHT) {
    const now = { ...coils.figures, wire, pitch: coils.pitch }[figure];
    if (now === undefined) continue;
    const value = yield* touching(coils, wire, figure, now, side);
    if (value === undefined) continue;
    const quantity = figure === 'turns' ? 'number' : 'length';
    const within = side === 'most' ? now <= value : now >= value;
    const shown = figure === 'turns' ? told(value, 'number') : mm(value);
    limits.push({
      step: figure === 'wire' ? steps.section : steps.path,
      field: figure === 'wire' ? 'diameter' : figure,
      says: words`${TO[side][within ? 0 : 1]} ${shown} ${NOUN[figure]}`,
      beyond: within ? 'before the coils touch' : 'for the coils to clear',
      value,
      side,
      quantity,
    });
  }
  return limits;
}

const SOUGHT: readonly (readonly [CoilFigure, Limit['side']])[] = [
  ['pitch', 'least'],
  ['height', 'least'],
  ['turns', 'most'],
  ['wire', 'most'],
];

/** Value of one figure, the others kept, at which the coils just touch; undefined when they never do. */
function* touching(
  coils: Coils,
  wire: number,
  figure: CoilFigure,
  now: number,
  side: Limit['side'],
): Task<number | undefined> {
  // A pitch that is not given is tried in place of the height.
  const instead = figure === 'pitch' && coils.figures.pitch === undefined ? { height: undefined } : {};
  const room = function* (value: number): Task<number> {
    const otherWire = figure === 'wire' ? value : wire;
    try {
      const change = figure === 'wire' ? {} : { [figure]: value };
      const distance = yield* coils.distanceWith({ wire: otherWire, ...instead, ...change });
      return Math.min(distance, 1e6) - otherWire;
    } catch (error) {
      // Of figures beyond what makes a coil.
      if (error instanceof Complaint) return NaN;
      throw error;
    }
  };
  const here = yield* room(now);
  if (Number.isNaN(here)) return undefined;
  const tighter = side === 'most' ? 1.15 : 1 / 1.15;
  const step = here > 0 ? tighter : 1 / tighter;
  for (let [near, before, i] = [now, here, 0]; i < 60; i++) {
    yield;
    const far = near * step;
    const there = yield* room(far);
    if (Number.isNaN(there)) return undefined;
    if (there > 0 !== here > 0) return yield* between([near, before], [far, there], room);
    [near, before] = [far, there];
  }
  return undefined;
}

/** Where there is just room between two figures. */
function* between(
  less: readonly [number, number],
  more: readonly [number, number],
  room: (value: number) => Task<number>,
): Task<number> {
  const search = rootSearch(less, more, 1e-10);
  for (let next = search.next(); ; next = search.next(yield* room(next.value))) {
    if (next.done) return next.value;
    yield;
  }
}
