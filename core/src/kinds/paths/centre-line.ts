import { Memo } from '../../geometry/memo';
import { z } from 'zod';
import { choice, Detailed, figure, type FilledRows, length, pathKind } from '../../kind/kind';
import type { Result, Finding } from '../../kind/value';
import { determinant, moved, scaleOf, STILL, type Affine } from '../../geometry/motion';
import type { Poll } from '../../geometry/poll';
import { runPolling, type Task } from '../../geometry/task';
import { sub } from '../../geometry/vector';
import { Complaint, mm, words, unlessRefused } from '../../measure/words';
import { centresOf, type Centres } from '../../mesh/cut/centre-line';
import { cutResults } from '../../mesh/cut/cut-results';
import { bendPoints, bendRows, bendsThrough, type At, type Vertex } from '../../path/bends';
import { cornersThrough, furthestOff } from '../../path/fitted';
import { pathOf, type Path } from '../../path/path';
import { spline } from '../../path/spline';
import { leavesOf, sizeAbout, type Body, type Placed } from '../../solid/body/body';
import { solidOf } from '../../solid/combine/combined';
import { LEG_TABLES, legRows, runResults, withLengths } from './legs';

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
interface CentreLine {
  readonly path: Path;
  readonly middle: Middle;
  /** How far the furthest place of the middle is off it, mm. */
  readonly off: number;
  /** How far its length and the lengths of its straights may be off, mm. */
  readonly within: Within;
  /** The corners of what was read as straights and bends. */
  readonly vertices?: readonly Vertex[];
}

/** The middle of a body before it was moved or made larger. */
interface Followed {
  readonly centres: Centres;
  /** Ways of reading it that were tried, and those that are left: another nearness may ask for one of them. */
  readonly tried: Way[];
  readonly left: Iterator<Vertex[], void>;
}

/** The middle of a body: what was followed, moved and made so many times as large. */
interface Middle {
  readonly centres: Centres;
  readonly own: Followed;
  readonly by: Affine;
  readonly scale: number;
}

/** Middles of bodies, kept while other figures of the step change. */
const FOUND = new Memo<Body, Middle>();
/** The same before they were moved or made larger, by what stays the same then. */
const FOLLOWED = new Memo<object, Followed>();

/** A way of reading a middle as straights and bends, and how far off it is. */
interface Way {
  readonly vertices: readonly Vertex[];
  readonly off: ReturnType<typeof furthestOff>;
}

/**
 * Chord tolerance of what is followed, as a part of the size of the body; and once it is known how thick that is, as a part of
 * its thickness.
 */
const FINE = 1 / 200;

const middleIn = (body: Body, poll: Poll): Promise<Middle> =>
  FOUND.later(body, async () => {
    const { of, by, scale } = unmoved(body);
    const [{ leaf }] = leavesOf(of) as [Placed];
    const same = of.form === 'meshed' && leaf.form === 'meshed' ? leaf.surfaces : of;
    const own = await FOLLOWED.later(same, () => followed(of, poll));
    return { centres: mappedCentres(own.centres, by, scale), own, by, scale };
  });

/** A body before it was moved and made larger all round. */
function unmoved(body: Body): { readonly of: Body; readonly by: Affine; readonly scale: number } {
  const scale = body.form === 'placed' && determinant(body.map) > 0 ? scaleOf(body.map) : undefined;
  return body.form === 'placed' && scale !== undefined
    ? { of: body.source, by: body.map, scale }
    : { of: body, by: STILL, scale: 1 };
}

async function followed(body: Body, poll: Poll): Promise<Followed> {
  const centres = await centresIn(body, poll);
  return { centres, tried: [], left: cornersThrough(centres, centres.thick) };
}

async function centresIn(body: Body, poll: Poll): Promise<Centres> {
  // A body that is made need not be measured yet: the picture does not wait for that.
  const found = await runPolling(centresOf(await solidOf(body, sizeAbout(body) * FINE, poll)), poll);
  // Triangles out of a file are no finer than they are.
  if (leavesOf(body).every(({ leaf }) => leaf.form === 'meshed')) return found;
  return runPolling(centresOf(await solidOf(body, found.thick * FINE, poll)), poll);
}

function mappedCentres(
  { places, closed, areas, section, thick }: Centres,
  by: Affine,
  scale: number,
): Centres {
  const larger = (loop: Float64Array) => loop.map((x) => scale * x);
  return {
    places: places.map((place) => moved(by, place)),
    closed,
    areas: areas.map((area) => scale * scale * area),
    section: { outline: larger(section.outline), holes: section.holes.map(larger) },
    thick: scale * thick,
  };
}

const ANYWHERE: At = { radius: () => 'body', point: () => 'body' };

/** Straights and bends through the middle: the first way of reading it that comes near enough. @throws Complaint */
function* bendsIn(middle: Middle, within: number): Task<CentreLine> {
  const { centres, own, by, scale } = middle;
  let nearest: Way['off'] | undefined;
  for (let i = 0; ; i++) {
    const way = yield* wayOf(own, i);
    if (!way) break;
    const off = { far: scale * way.off.far, at: scale * way.off.at };
    if (off.far <= within) {
      const vertices = way.vertices.map(({ point, radius }) => ({
        point: moved(by, point),
        radius: scale * radius,
      }));
      const path = runThrough(vertices, centres.closed)!;
      return { path, middle, vertices, off: off.far, within: withinOf(path, off.far, centres) };
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

/** One of the ways of reading a middle, the surest first; undefined after the last. */
function* wayOf({ centres, tried, left }: Followed, i: number): Task<Way | undefined> {
  while (i >= tried.length) {
    yield;
    const { value: vertices } = left.next();
    if (!vertices) return undefined;
    const path = runThrough(vertices, centres.closed);
    if (path) tried.push({ vertices, off: furthestOff(path, centres) });
  }
  return tried[i];
}

/** Undefined where bends do not fit between each other. */
const runThrough = (vertices: readonly Vertex[], closed: boolean): Path | undefined =>
  unlessRefused(() => {
    const { curves, legs } = bendsThrough(vertices, 'bent', closed, ANYWHERE);
    return withLengths(pathOf(curves), legs);
  }, undefined);

/** Straights and bends through the middle, bent by a part of their angles. */
function* bentBy(middle: Middle, within: number, part: number): Task<CentreLine> {
  const read = yield* bendsIn(middle, within);
  return part < 1 ? unbent(read, part) : read;
}

/**
 * The same with its bends bent only by a part of their angles, 0 to 1: the middle of each stays as long as it is, and its
 * beginning where it is. @throws Complaint where it has no ends
 */
function unbent(
  { vertices = [], path: { length: whole }, middle, off, within }: CentreLine,
  part: number,
): CentreLine {
  if (middle.centres.closed)
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
  return { path, middle, vertices: laid, off, within };
}

/** Places of a smooth curve: one of so many. */
const SPARSE = [8, 4, 2, 1] as const;

/** A smooth curve through as few places as come near enough. @throws Complaint */
function* curveIn(middle: Middle, within: number): Task<CentreLine> {
  const { centres } = middle;
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
      return { path, middle, off: worst.far, within: withinOf(path, worst.far, centres) };
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
    'read a mesh',
    'centre line',
    'center line',
    'middle',
    'straighten',
    'unbend',
    'blank',
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
  faults: { 'no-bar': 'body', 'not-one-bar': 'body', 'no-end': 'body' },
  defaults: { as: 'bends', within: '0.1 mm', bent: '1' },
  async evaluate({ as, within, bent }, { body }, { poll }) {
    const middle = await middleIn(body, poll);
    const read = await runPolling(
      as === 'curve' ? curveIn(middle, within) : bentBy(middle, within, bent),
      poll,
    );
    return new Detailed(read.path, read);
  },
  fill({ as }, _inputs, { middle, vertices = [] }): FilledRows {
    if (as === 'curve' || middle.centres.closed) return {};
    const { points, bends } = legRows(vertices, 'bent', ANYWHERE);
    return { points, bends };
  },
  results: (path, { detail: read }) => {
    return [
      ...(path.legs ? runResults(path) : [lengthResult(path)]).map((one) =>
        one.quantity === 'length'
          ? { ...one, within: read.within[one.name === 'length' ? 'length' : 'straight'] }
          : one,
      ),
      ...ofSection(read),
    ];
  },
  check: async (_path, _context, { detail }) => ({ findings: [sectionFinding(detail)], limits: [] }),
});

/** The developed length of what was read as a smooth curve. */
const lengthResult = ({ length: value }: Path): Result => ({
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
  const bent = closed ? 0 : legs ? [legs[0], legs.at(-1)].filter((leg) => leg?.type === 'bend').length : 2;
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
  const { area, centroid } = cutResults([loop]);
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

function ofSection({ middle: { centres }, off }: CentreLine): Result[] {
  const { section } = centres;
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
      value: cutResults([outline, ...holes]).area,
      quantity: 'area',
    },
    { name: 'off', label: 'furthest off the middle', value: off, quantity: 'length' },
  ];
}

/** Sections that differ by less than this part are alike: triangles cut bends short. */
const ALIKE = 0.05;

function sectionFinding({ middle: { centres } }: CentreLine): Finding {
  const sorted = centres.areas.toSorted((a, b) => a - b);
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
