/** Lines and arcs of drawings joined end to end. */
import { Complaint, mm, words } from '../measure/words';
import { JOINED, type Point } from './follow';

export interface Leg {
  readonly from: Point;
  readonly to: Point;
  /** Height of its arc to the right of the way, mm; 0 for a line. */
  readonly arc: number;
}

/** Ends of legs by where they are: in cells a little wider than what is joined. */
class Ends {
  private readonly cells = new Map<string, Set<number>>();

  add(i: number, { from, to }: Leg): void {
    for (const at of [from, to]) {
      const key = cellOf(Math.floor(at.x / CELL), Math.floor(at.y / CELL));
      const there = this.cells.get(key);
      if (there) there.add(i);
      else this.cells.set(key, new Set([i]));
    }
  }

  remove(i: number, { from, to }: Leg): void {
    for (const at of [from, to])
      this.cells.get(cellOf(Math.floor(at.x / CELL), Math.floor(at.y / CELL)))?.delete(i);
  }

  /** Legs that may have an end near a point. */
  *near({ x, y }: Point): Iterable<number> {
    for (let i = Math.floor((x - JOINED) / CELL); i <= Math.floor((x + JOINED) / CELL); i++)
      for (let j = Math.floor((y - JOINED) / CELL); j <= Math.floor((y + JOINED) / CELL); j++)
        yield* this.cells.get(cellOf(i, j)) ?? [];
  }
}
const CELL = 8 * JOINED;
const cellOf = (i: number, j: number): string => `${i},${j}`;

const near = (a: Point, b: Point): boolean => Math.hypot(a.x - b.x, a.y - b.y) < JOINED;
const turned = ({ from, to, arc }: Leg): Leg => ({ from: to, to: from, arc: -arc });

/**
 * Legs joined into loops. Single lines and arcs that join nothing are no outline: centre lines, say.
 * @throws Complaint where several that hang together do not close
 */
export function chained(legs: readonly Leg[]): Point[][] {
  const ends = new Ends();
  const open = new Set<number>();
  legs.forEach((leg, i) => {
    ends.add(i, leg);
    open.add(i);
  });
  const take = (i: number): Leg => {
    ends.remove(i, legs[i]!);
    open.delete(i);
    return legs[i]!;
  };
  /** The next leg from a point on, turned so that it begins there. */
  const onFrom = (at: Point): Leg | undefined => {
    for (const i of ends.near(at)) {
      const leg = legs[i]!;
      if (near(leg.from, at)) return take(i);
      if (near(leg.to, at)) return turned(take(i));
    }
    return undefined;
  };
  const loops: Point[][] = [];
  for (const i of open) {
    const first = take(i);
    const chain = [first];
    let closes = near(first.from, first.to);
    while (!closes) {
      const next = onFrom(chain.at(-1)!.to);
      if (!next) break;
      chain.push(next);
      closes = near(next.to, first.from);
    }
    if (closes) loops.push(chain.map(({ from, arc }) => ({ x: from.x, y: from.y, ...(arc && { arc }) })));
    else {
      for (let before = onFrom(first.from); before; before = onFrom(before.to)) chain.unshift(turned(before));
      if (chain.length > 1) throw openTrouble(chain[0]!.from, chain.at(-1)!.to);
    }
  }
  return loops;
}

/** What is said of an outline that does not close. */
export const openTrouble = (from: Point, to: Point): Complaint =>
  new Complaint(
    words`An outline in this drawing does not close: it begins near ${mm(from.x)}, ${mm(from.y)} and ends near ${mm(to.x)}, ${mm(to.y)}. Close it there, or take it out.`,
  );
