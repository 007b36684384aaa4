import { z } from 'zod';
import { choice, count, length, pathKind } from '../../kind/kind';
import { add, scale, sub, type Vec3 } from '../../geometry/vector';
import { ledAlong, ledBy, lineMark, type Mark } from '../../kind/mark';
import { Complaint, mm, words } from '../../measure/words';
import { curvesBetween, reversedPath } from '../../path/parts';
import { line } from '../../path/curve';
import { movedCurve } from '../../path/wrap';
import { STILL } from '../../geometry/motion';
import { centreOf } from '../../path/sample';
import { pathWith, pathOf, type Leg, type Path } from '../../path/path';
import { withLengths } from './legs';

const schema = z.object({
  take: choice('all', 'lengths', 'legs'),
  from: length({ atLeast: 0 }).optional(),
  to: length({ atLeast: 0 }).optional(),
  firstLeg: count({ atLeast: 1 }),
  lastLeg: count({ atLeast: 1 }),
  way: choice('forwards', 'backwards'),
  extendStart: length({ atLeast: 0 }),
  extendEnd: length({ atLeast: 0 }),
  move: choice('stays', 'start', 'end'),
  goal: choice('point', 'path'),
  toX: length(),
  toY: length(),
  toZ: length(),
  anchor: choice('start', 'end', 'centre'),
});

/** Part of a path as a path of its own: trimmed, some legs of a run, reversed, extended, moved to a point. */
export const part = pathKind({
  kind: 'part',
  title: 'Part',
  noun: 'part of a path',
  words: ['part', 'trim', 'cut', 'reverse', 'extend', 'lengthen', 'legs', 'move', 'shift', 'piece'],
  inputs: { path: { takes: 'path' }, place: { takes: 'path', optional: true } },
  schema,
  defaults: {
    take: 'all',
    firstLeg: '1',
    lastLeg: '1',
    way: 'forwards',
    extendStart: '0 mm',
    extendEnd: '0 mm',
    move: 'stays',
    goal: 'point',
    toX: '0 mm',
    toY: '0 mm',
    toZ: '0 mm',
    anchor: 'end',
  },
  evaluate(figures, { path, place }) {
    const taken = take(figures, path);
    const forwards = figures.way === 'forwards';
    const turned = forwards ? taken : reversedPath(taken);
    const longer = extended(turned, figures);
    // A bend table is that of what was taken: with more at its ends there is none.
    const legs = longer === turned && taken.legs && (forwards ? taken.legs : reversedLegs(taken.legs));
    const kept = (one: Path) => (legs ? withLengths(one, legs) : one);
    if (figures.move === 'stays') return kept(longer === path ? withoutHandles(path) : longer);
    const goal =
      figures.goal === 'point'
        ? ([figures.toX, figures.toY, figures.toZ] as const)
        : anchorOf(figures, place);
    const by = sub(goal, longer.at(figures.move === 'start' ? 0 : longer.length).position);
    const motion = { ...STILL, origin: by };
    return kept(
      pathOf(
        longer.pieces.map((piece) => movedCurve(piece, motion)),
        { motions: [motion] },
      ),
    );
  },
  marks: partMarks,
  results: () => [],
});

/** Where the part begins and ends on its path, what was added at its ends, and the point it was moved to. */
function partMarks(
  path: Path,
  { take = 'all', way = 'forwards', move = 'stays', goal = 'point' }: Readonly<Record<string, string>>,
  _filled: unknown,
  resolved: Readonly<Record<string, { readonly value: number }>>,
): Mark[] {
  if (path.closed) return [];
  const ends = [
    { s: 0, out: -1, more: 'extendStart', cut: way === 'forwards' ? 'from' : 'to', name: 'start' },
    { s: path.length, out: 1, more: 'extendEnd', cut: way === 'forwards' ? 'to' : 'from', name: 'end' },
  ] as const;
  return ends.flatMap(({ s, out, more, cut, name }): Mark[] => {
    const { position: at, tangent } = path.at(s);
    const outward = scale(tangent, out);
    const added = resolved[more]?.value ?? 0;
    const taken = sub(at, scale(outward, added));
    const marks: Mark[] = [];
    if (take === 'lengths')
      marks.push(
        ledAlong(cut, `Where it is taken ${cut}`, taken, scale(tangent, way === 'forwards' ? 1 : -1)),
      );
    if (take === 'lengths' && added > 0) marks.push(lineMark(more, taken, at, outward, 0));
    else if (take !== 'lengths' && move !== name)
      marks.push(ledAlong(more, `Longer at its ${name}`, at, outward));
    if (move === name && goal === 'point')
      marks.push({ type: 'point', led: ledBy('toX', 'toY', 'toZ'), name: 'Where it is moved to', at });
    return marks;
  });
}

/** The points of its charts are figures of another step, and cannot be pulled here. */
const withoutHandles = (path: Path): Path => pathWith(path, { handles: [] });

/** The legs of a run run backwards: bends turn about the other way of their axis. */
const reversedLegs = (legs: readonly Leg[]): Leg[] =>
  [...legs].reverse().map((leg) => ({ ...leg, ...(leg.axis && { axis: scale(leg.axis, -1) }) }));

type PartFigures = z.infer<typeof schema>;

function take(figures: PartFigures, path: Path): Path {
  if (figures.take === 'all') return path;
  if (figures.take === 'lengths') {
    const { from = 0, to = path.length } = figures;
    if (to > path.length * (1 + 1e-12))
      throw new Complaint(words`The path is only ${mm(path.length)} long.`, 'to');
    if (!(to > from)) throw new Complaint('The part must end after it starts.', 'to');
    return pathOf(curvesBetween(path, from, to));
  }
  const { legs } = path;
  if (!legs)
    throw new Complaint('Only a run of straights and bends has legs: take a part by lengths here.', 'take');
  const { firstLeg, lastLeg } = figures;
  for (const field of ['firstLeg', 'lastLeg'] as const) {
    if (!Number.isInteger(figures[field])) throw new Complaint('Legs are counted in whole numbers.', field);
    if (figures[field] > legs.length)
      throw new Complaint(`The run has ${legs.length} legs, straights and bends.`, field);
  }
  if (lastLeg < firstLeg) throw new Complaint('The last leg must not come before the first.', 'lastLeg');
  const kept: readonly Leg[] = legs.slice(firstLeg - 1, lastLeg);
  return withLengths(pathOf(curvesBetween(path, kept[0]!.from, kept.at(-1)!.to)), kept);
}

function extended(path: Path, { extendStart, extendEnd }: PartFigures): Path {
  if (extendStart === 0 && extendEnd === 0) return path;
  if (path.closed)
    throw new Complaint('A closed path has no ends to extend.', extendStart ? 'extendStart' : 'extendEnd');
  const [a, b] = [path.at(0), path.at(path.length)];
  return pathOf([
    line(sub(a.position, scale(a.tangent, extendStart)), a.position),
    ...path.pieces,
    line(b.position, add(b.position, scale(b.tangent, extendEnd))),
  ]);
}

function anchorOf({ anchor }: PartFigures, place: Path | undefined): Vec3 {
  if (!place) throw new Complaint('Choose the path that this is moved to.', 'place');
  if (anchor === 'centre') return centreOf(place).position;
  return place.at(anchor === 'start' ? 0 : place.length).position;
}
