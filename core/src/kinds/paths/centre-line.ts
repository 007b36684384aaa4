import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { choice, figure, length, pathKind, type FilledRows } from '../../kind/kind';
import type { Figure, Finding } from '../../kind/value';
import type { Poll } from '../../geometry/poll';
import { finished, givingWay, type Steps } from '../../geometry/steps';
import { sub } from '../../geometry/vector';
import { Complaint, mm, words } from '../../measure/words';
import { centresOf, type Centres } from '../../mesh/centres';
import { cutFigures } from '../../mesh/cut-figures';
import { bendPoints, bendRows, bendsThrough, type At, type Vertex } from '../../path/bends';
import { cornersThrough, furthestOff } from '../../path/fitted';
import { pathOf, pathWith, type Path } from '../../path/path';
import { spline } from '../../path/spline';
import { leavesOf, type Body } from '../../solid/body';
import { solidOf } from '../../solid/combined';
import { LEG_TABLES, legRows, runFigures, withLengths } from './legs';

const schema = z.object({
  as: choice('bends', 'curve'),
  within: length({ above: 0 }),
  bent: figure('number', { atLeast: 0, atMost: 1 }),
});

interface Within {
  readonly length: number;
  readonly straight: number;
}

/** A path read from a body. */
interface CentreLine extends Path {
  readonly centres: Centres;
  /** How far the furthest place of the middle is off it, mm. */
  readonly off: number;
  /** How far its length and the lengths of its straights may be off, mm. */
  readonly within: Within;
  /** The corners of what was read as straights and bends. */
  readonly vertices?: readonly Vertex[];
}

/** What was found in bodies: other figures of the step change. */
const FOUND = new WeakMap<Body, Centres>();
/** What was read of it last as straights and bends, by how near. */
const READ = new WeakMap<Centres, LRUCache<number, CentreLine>>();

/**
 * Chord tolerance of what is followed, as a part of the size of the body; and once it is known how thick that is, as a part of
 * its thickness.
 */
const FINE = 1 / 200;

async function centresIn(body: Body, poll: Poll): Promise<Centres> {
  const known = FOUND.get(body);
  if (known) return known;
  const [low, high] = body.extent;
  const size = Math.hypot(...high.map((x, k) => x - low[k]!));
  let found = await givingWay(centresOf(await solidOf(body, size * FINE, poll)), poll);
  // Triangles out of a file are no finer than they are.
  if (leavesOf(body).some(({ leaf }) => leaf.form !== 'meshed'))
    found = await givingWay(centresOf(await solidOf(body, found.thick * FINE, poll)), poll);
  FOUND.set(body, found);
  return found;
}

const ANYWHERE: At = { radius: () => 'body', point: () => 'body' };

/** Straights and bends through the middle: the first way of reading it that comes near enough. @throws Complaint */
function* bendsIn(centres: Centres, within: number): Steps<CentreLine> {
  const known = READ.get(centres) ?? new LRUCache<number, CentreLine>({ max: 8 });
  READ.set(centres, known);
  const before = known.get(within);
  if (before) return before;
  let nearest: ReturnType<typeof furthestOff> | undefined;
  for (const vertices of cornersThrough(centres, centres.thick)) {
    yield;
    const path = runThrough(vertices, centres.closed);
    if (!path) continue;
    const off = furthestOff(path, centres);
    if (off.far <= within) {
      const read = pathWith(path, {
        centres,
        vertices,
        off: off.far,
        within: withinOf(path, off.far, centres),
      });
      known.set(within, read);
      return read;
    }
    if (!nearest || off.far < nearest.far) nearest = off;
  }
  if (!nearest)
    throw new Complaint('It is not made of straights and bends: read it as a smooth curve.', 'as');
  throw new Complaint(
    words`As straights and bends it is ${mm(nearest.far)} off ${mm(nearest.at)} from its start: allow as much, or read it as a smooth curve.`,
    'within',
  );
}

/** Undefined where bends do not fit between each other. */
function runThrough(vertices: readonly Vertex[], closed: boolean): Path | undefined {
  try {
    const { curves, legs } = bendsThrough(vertices, 'bent', closed, ANYWHERE);
    return withLengths(pathOf(curves), legs);
  } catch (error) {
    if (error instanceof Complaint) return undefined;
    throw error;
  }
}

/** Straights and bends through the middle, bent by a part of their angles. */
function* bentBy(centres: Centres, within: number, part: number): Steps<CentreLine> {
  const read = yield* bendsIn(centres, within);
  return part < 1 ? unbent(read, part) : read;
}

/**
 * The same with its bends bent only by a part of their angles, 0 to 1: the middle of each stays as long as it is, and its
 * beginning where it is. @throws Complaint where it has no ends
 */
function unbent(
  { vertices = [], length: whole, centres, off, within }: CentreLine,
  part: number,
): CentreLine {
  if (centres.closed)
    throw new Complaint(
      'What goes round without an end cannot be unbent: it has no blank. Leave it bent once as far as it is.',
      'bent',
    );
  const rows = part
    ? bendRows(vertices, 'bent', ANYWHERE).map(({ length, rotation, angle, radius }) => ({
        length,
        rotation,
        angle: angle * part,
        radius: radius / part,
      }))
    : [{ length: whole, rotation: 0, angle: 0, radius: 0 }];
  const [first, second] = vertices as [Vertex, Vertex];
  const laid = bendPoints(rows, 'bent', first.point, sub(second.point, first.point), () => 'bent');
  const path = runThrough(laid, false);
  if (!path) throw new Error('bends that are bent less have room');
  return pathWith(path, { centres, vertices: laid, off, within });
}

/** Places of a smooth curve: one of so many. */
const SPARSE = [8, 4, 2, 1] as const;

/** A smooth curve through as few places as come near enough. @throws Complaint */
function* curveIn(centres: Centres, within: number): Steps<CentreLine> {
  let worst: ReturnType<typeof furthestOff> | undefined;
  for (const every of SPARSE) {
    yield;
    const { places, closed } = centres;
    const last = places.length - 1;
    const through = places.filter((_place, i) =>
      closed ? i % every === 0 : i === 0 || i === last || (i % every === 0 && last - i >= every / 2),
    );
    if (through.length < 3) continue;
    const path = pathOf(spline(through, closed, undefined, () => 'body'));
    worst = furthestOff(path, centres);
    if (worst.far <= within)
      return pathWith(path, { centres, off: worst.far, within: withinOf(path, worst.far, centres) });
  }
  throw new Complaint(
    words`As a smooth curve it is ${mm(worst?.far ?? 0)} off: allow as much, or bring it in with finer triangles.`,
    'within',
  );
}

/** Centre line of a bar, wire or tube that is known only as a body: read as straights and bends, or as a smooth curve. */
export const centreLine = pathKind({
  kind: 'centre-line',
  title: 'Centre line',
  noun: 'centre line',
  words: [
    'centre line',
    'center line',
    'middle',
    'straighten',
    'unbend',
    'blank',
    'bend table',
    'read',
    'scan',
    'measure',
    'mesh',
    'file',
  ],
  inputs: { body: { takes: 'body' } },
  schema,
  // The run as points and as bend rows follows from the body.
  tables: LEG_TABLES,
  needs: () => false,
  defaults: { as: 'bends', within: '0.1 mm', bent: '1' },
  async evaluate({ as, within, bent }, { body }, { poll }) {
    const centres = await centresIn(body, poll);
    return givingWay(as === 'curve' ? curveIn(centres, within) : bentBy(centres, within, bent), poll);
  },
  fill({ as, within, bent }, { body }): FilledRows {
    const centres = FOUND.get(body);
    if (as === 'curve' || !centres || centres.closed) return {};
    const { vertices = [] } = finished(bentBy(centres, within, bent));
    const { points, bends } = legRows(vertices, 'bent', ANYWHERE);
    return { points, bends };
  },
  figures: (path) => {
    const read = path as CentreLine;
    return [
      ...(path.legs ? runFigures(path) : [lengthFigure(path)]).map((one) =>
        one.quantity === 'length'
          ? { ...one, within: read.within[one.name === 'length' ? 'length' : 'straight'] }
          : one,
      ),
      ...ofSection(read),
    ];
  },
  check: async (path) => ({ findings: [sectionFinding(path as CentreLine)], limits: [] }),
});

/** The developed length of what was read as a smooth curve. */
const lengthFigure = ({ length: value }: Path): Figure => ({
  name: 'length',
  label: 'developed length',
  head: 'Length',
  value,
  quantity: 'length',
});

/**
 * How far lengths may be off. Triangles cut bends short, so that the middle is shorter by about what it is off for each
 * radian it turns by; and the less a bend turns by, the less its radius is known, and where it begins. Where it ends in a
 * bend, its end and that bend are known less well.
 */
function withinOf({ turning, legs, length: whole }: Path, far: number, { thick, closed }: Centres): Within {
  const off = Math.max(far, LEAST * thick);
  const isEnd = (i: number) => !closed && (i === 0 || i === legs!.length - 1);
  const bluntest = Math.min(...(legs ?? []).map(({ angle = Math.PI }, i) => (isEnd(i) ? angle / 2 : angle)));
  const bent = closed ? 0 : legs ? [legs[0], legs.at(-1)].filter((leg) => leg?.shape === 'bend').length : 2;
  return {
    length: 1.5 * off * (2 + turning) + bent * END * thick + ROUNDED * whole,
    straight: (9 * off) / Math.tan(bluntest / 4) + ROUNDED * whole,
  };
}

/** What the middle is off at least, as a part of the thickness: facets may lie on a bend of another radius as well. */
const LEAST = 1 / 3000;
/** How far an end in a bend may be off, as a part of the thickness. */
const END = 0.01;
/** Corners out of a file are rounded by such a part of the size. */
const ROUNDED = 1e-6;

/** Sides of a loop are those of a round where its corners lie as far from its middle, but for this part. */
const ROUND = 0.01;

/**
 * The diameter of a loop that is round, mm: between that of the circle through its corners, which is the round where
 * triangles have theirs on it, and that of the circle of its area, which is the round where they keep that.
 */
function roundOf(loop: Float64Array): { readonly value: number; readonly within: number } | undefined {
  const { area, centroid } = cutFigures([loop]);
  const [x, y] = centroid;
  const far = Array.from({ length: loop.length / 2 }, (_x, i) =>
    Math.hypot(loop[2 * i]! - x, loop[2 * i + 1]! - y),
  );
  const mean = far.reduce((sum, one) => sum + one, 0) / far.length;
  if (far.length < 8 || far.some((one) => Math.abs(one - mean) > ROUND * mean)) return undefined;
  const alike = Math.sqrt((4 * area) / Math.PI);
  return { value: mean + alike / 2, within: Math.abs(mean - alike / 2) };
}

/** A loop the other way round: holes run clockwise. */
const backwards = (loop: Float64Array): Float64Array =>
  loop.map((_x, i) => loop[loop.length - 2 - i + 2 * (i % 2)]!);

function ofSection({ centres: { section }, off }: CentreLine): Figure[] {
  const { outline, holes } = section;
  const outer = roundOf(outline);
  const inner = holes.length === 1 ? roundOf(backwards(holes[0]!)) : undefined;
  return [
    ...(outer === undefined
      ? []
      : [{ name: 'outer', label: 'diameter', head: 'Diameter', ...outer, quantity: 'length' as const }]),
    ...(inner === undefined
      ? []
      : [{ name: 'inner', label: 'inner diameter', ...inner, quantity: 'length' as const }]),
    {
      name: 'sectionArea',
      label: 'area of the section',
      value: cutFigures([outline, ...holes]).area,
      quantity: 'area',
    },
    { name: 'off', label: 'furthest off the middle', value: off, quantity: 'length' },
  ];
}

/** Sections that differ by less than this part are alike: triangles cut bends short. */
const ALIKE = 0.05;

function sectionFinding({ centres: { areas } }: CentreLine): Finding {
  const sorted = areas.toSorted((a, b) => a - b);
  const [least, most] = [sorted[0]!, sorted.at(-1)!];
  const varies = (most - least) / most;
  const round = (area: number) => mm(Math.sqrt((4 * area) / Math.PI));
  return {
    name: 'evenness',
    level: varies > ALIKE ? 'note' : 'good',
    says: varies > ALIKE ? ['Its section changes on the way'] : ['Its section is the same from end to end'],
    ...(varies > ALIKE && { detail: words`as thick as a round of ${round(least)} to one of ${round(most)}` }),
    value: varies,
    limit: ALIKE,
    margin: ALIKE - varies,
    quantity: 'number',
  };
}
