import { Memo } from '../../geometry/memo';
import { z } from 'zod';
import { angle, choice, count, Detailed, length, likeKind, table } from '../../kind/kind';
import { setOf } from '../../kind/sets';
import { ledAlong } from '../../kind/mark';
import { membersOf, type Result } from '../../kind/value';
import { composed, inverse, moved, STILL, type Affine, type Motion } from '../../geometry/motion';
import { cross, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { cellField } from '../../measure/field';
import { Complaint } from '../../measure/words';
import { axisFrom, firstAxis, freeFrame, type FreeFrame } from '../../path/frame';
import { sum } from '../../path/sample';
import type { Path } from '../../path/path';
import type { Body } from '../../solid/body/body';
import { gapResults, gapFindings } from './between';
import { ABOUT_AXIS, ABOUT_AXIS_DEFAULTS, axisOf, turnAbout } from './axis';
import { throughMap } from './placed';
import { repeatMarks } from './repeat-marks';

const WHOLE = 2 * Math.PI;
const MOST = 400;

const ROWS = table({
  noun: 'copy',
  least: 1,
  most: MOST,
  row: z.object({ x: length(), y: length(), z: length(), turn: angle().optional() }),
  carriedOn: ['x', 'y', 'z', 'turn'],
  fresh: { x: '10 mm', y: '0 mm', z: '0 mm' },
});
const LEFT = table({
  noun: 'left-out copy',
  most: MOST,
  row: z.object({ number: count({ atLeast: 1, atMost: MOST }) }),
  carriedOn: ['number'],
  fresh: { number: '2' },
});

const REPEAT = z.object({
  way: choice('round', 'screw', 'row', 'along', 'rows', 'mirror'),
  copies: count({ atLeast: 1, atMost: MOST }).optional(),
  span: angle().optional(),
  step: angle().optional(),
  long: length().optional(),
  apart: length().optional(),
  pitch: length(),
  ...ABOUT_AXIS,
  turning: choice('turning', 'upright'),
  across: choice('x', 'y', 'z'),
});
type Figures = z.infer<typeof REPEAT> & {
  readonly places: readonly z.infer<typeof ROWS.row>[];
  readonly left: readonly z.infer<typeof LEFT.row>[];
};

/** Copies of paths or bodies: round an axis, as a screw, in a row, along a path, at rows of a table, or a mirrored pair. */
export const repeat = likeKind({
  kind: 'repeat',
  title: 'Repeated',
  noun: 'repeated copies',
  words: [
    'repeat',
    'repeated',
    'pattern',
    'array',
    'copies',
    'round',
    'row',
    'circular',
    'pair',
    'mirrored',
    'several',
  ],
  inputs: { of: { takes: ['body', 'path'], sets: true }, along: { takes: 'path', optional: true } },
  schema: REPEAT,
  tables: { places: ROWS, left: LEFT },
  needs: ({ way }, name) => name === 'places' && way === 'rows',
  defaults: {
    way: 'round',
    copies: '6',
    span: '360 deg',
    pitch: '10 mm',
    ...ABOUT_AXIS_DEFAULTS,
    turning: 'turning',
    across: 'x',
  },
  evaluate(figures, { of, along }) {
    const maps = mapsOf(figures, along);
    const out = new Set(figures.left.map(({ number }) => number));
    figures.left.forEach(({ number }, i) => {
      if (!Number.isInteger(number) || number > maps.length)
        throw new Complaint(`Copies are numbered from 1 to ${maps.length}.`, cellField('left', i, 'number'));
    });
    const kept = maps.filter((_map, i) => !out.has(i + 1));
    if (!kept.length)
      throw new Complaint('Every copy is left out: one must stay.', cellField('left', 0, 'number'));
    const members = membersOf(of) as readonly (Path | Body)[];
    const set = setOf(kept.flatMap((map) => members.map((one) => throughMap(one, map))));
    const { way, apart } = figures;
    /** Where the second of those along a path stands. */
    const second =
      way === 'along' && along && apart !== undefined && apart <= along.length ? along.at(apart) : undefined;
    return new Detailed(
      set.type === 'set' ? { ...set, results: followed(figures, maps.length) } : set,
      second,
    );
  },
  marks(first, _set, _filled, resolved, { figures, detail: second }) {
    const { way } = figures;
    if (way === 'along')
      return second ? [ledAlong('apart', 'From one to the next', second.position, second.tangent)] : [];
    const axis: Vec3 = [figures.axisX, figures.axisY, figures.axisZ];
    const point: Vec3 = [figures.aboutX, figures.aboutY, figures.aboutZ];
    const maps = mapsOf(figures, undefined);
    return repeatMarks(first, way, resolved, { axis: norm(axis) > 0 ? unit(axis) : axis, point, maps });
  },
  results: (): Result[] => [],
  whole: gapResults,
  checkSet: (set, { poll }) => gapFindings(set, poll),
  measure: async (value, poll) => {
    if (value.type === 'body') await value.measured(poll);
  },
});

/** Copies, span and step, all three: the one that is not given follows. */
function followed(figures: Figures, copies: number): Result[] {
  const fields = { round: ['span', 'step'], screw: ['span', 'step'], row: ['long', 'apart'] } as const;
  const names = figures.way in fields ? fields[figures.way as keyof typeof fields] : undefined;
  const count: Result = { name: 'copies', label: 'copies', value: copies, quantity: 'number' };
  if (!names) return [count];
  const [spanField, stepField] = names;
  const turns = figures.way !== 'row';
  const { step } = evenly(figures, spanField, stepField, turns ? WHOLE : Infinity);
  const quantity = turns ? 'angle' : 'length';
  const span = figures[spanField] ?? step * (copies - 1);
  return [
    count,
    { name: spanField, label: 'in all', value: span, quantity },
    { name: stepField, label: 'from one to the next', value: step, quantity },
  ];
}

function mapsOf(figures: Figures, along: Path | undefined): Affine[] {
  const point: Vec3 = [figures.aboutX, figures.aboutY, figures.aboutZ];
  const axis = () => axisOf(figures.axisX, figures.axisY, figures.axisZ, 'axisZ');
  switch (figures.way) {
    case 'round':
    case 'screw': {
      const { copies, step } = evenly(figures, 'span', 'step', WHOLE);
      const way = axis();
      const rise = figures.way === 'screw' ? figures.pitch / WHOLE : 0;
      return Array.from({ length: copies }, (_x, i) => {
        const turn = turnAbout(point, way, i * step);
        return i ? { ...turn, origin: shifted(turn.origin, way, rise * i * step) } : STILL;
      });
    }
    case 'row': {
      const { copies, step } = evenly(figures, 'long', 'apart');
      const way = axis();
      return Array.from({ length: copies }, (_x, i) => ({ ...STILL, origin: scale(way, i * step) }));
    }
    case 'along':
      return alongPath(figures, along);
    case 'rows':
      return figures.places.map(({ x, y, z, turn = 0 }) => {
        const spun = turn ? turnAbout(point, axis(), turn) : STILL;
        return composed(spun, { ...STILL, origin: [x, y, z] });
      });
    case 'mirror': {
      const k = { x: 0, y: 1, z: 2 }[figures.across];
      const column = (i: number, unit: Vec3): Vec3 => (i === k ? scale(unit, -1) : unit);
      const over = { ...STILL, ex: column(0, STILL.ex), ey: column(1, STILL.ey), ez: column(2, STILL.ez) };
      return [STILL, { ...over, origin: sub(point, moved(over, point)) }];
    }
  }
}

const shifted = (origin: Vec3, way: Vec3, by: number): Vec3 => [
  origin[0] + by * way[0],
  origin[1] + by * way[1],
  origin[2] + by * way[2],
];

/**
 * How many, and how far from one to the next: of copies, span and step two are given. Round a whole turn the last would
 * stand on the first, and is not made again.
 */
function evenly<Span extends 'span' | 'long', Step extends 'step' | 'apart'>(
  figures: Figures,
  spanField: Span,
  stepField: Step,
  whole = Infinity,
): { copies: number; step: number } {
  const { copies } = figures;
  const [span, step] = [figures[spanField], figures[stepField]];
  if (copies !== undefined && !Number.isInteger(copies))
    throw new Complaint('Copies are whole: give a whole number.', 'copies');
  const given = [copies, span, step].filter((one) => one !== undefined).length;
  if (given !== 2)
    throw new Complaint(
      given < 2
        ? 'Of copies, span and step two are needed.'
        : 'Copies, span and step are given: leave one out, it follows.',
      copies === undefined ? 'copies' : span === undefined ? spanField : stepField,
    );
  const closes = (length: number) => Math.abs(Math.abs(length) - whole) < 1e-9;
  if (copies !== undefined && step !== undefined) return { copies, step };
  if (copies !== undefined)
    return { copies, step: copies > 1 ? span! / (closes(span!) ? copies : copies - 1) : 0 };
  if (!step) throw new Complaint('This must be other than 0.', stepField);
  const gaps = Math.floor(Math.abs(span! / step) + 1e-9);
  const many = closes(span!) && Math.abs(gaps * Math.abs(step) - whole) < 1e-9 ? gaps : gaps + 1;
  if (many > MOST)
    throw new Complaint(`This makes ${many} copies; up to ${MOST} can be made at once.`, stepField);
  return { copies: many, step: Math.sign(span!) * Math.abs(step) };
}

/** Evenly along a path, the first at its start; on an open one the last at its end. */
function alongPath(figures: Figures, path: Path | undefined): Affine[] {
  if (!path) throw new Complaint('Choose the path along which copies stand.', 'along');
  const { copies = 0, apart } = figures;
  if (!copies && !apart) throw new Complaint('Say how many copies, or how far apart.', 'copies');
  const many = copies || Math.floor(path.length / apart! + 1e-9) + (path.closed ? 0 : 1);
  if (!Number.isInteger(many)) throw new Complaint('Copies are whole: give a whole number.', 'copies');
  if (many > MOST)
    throw new Complaint(`This makes ${many} copies; up to ${MOST} can be made at once.`, 'apart');
  const step = apart ?? path.length / (path.closed ? many : Math.max(1, many - 1));
  if (step * (many - 1) > path.length * (1 + 1e-9))
    throw new Complaint('The path is not long enough for so many.', 'copies');
  const frames = Array.from({ length: many }, (_x, i) => frameAt(path, Math.min(i * step, path.length)));
  const [first] = frames as [Motion];
  return frames.map((here) =>
    figures.turning === 'upright'
      ? { ...STILL, origin: sub(here.origin, first.origin) }
      : composed(inverse(first), here),
  );
}

/** The frame that turns no more than it must, at a length. */
function frameAt(path: Path, s: number): Motion {
  const frame = FRAMES.value(path, () => freeFrame(path, firstAxis(path)));
  const { piece, u } = path.locate(s);
  const { position, tangent } = path.at(s);
  const before = sum(frame.intervals.slice(0, piece));
  const n = frame.intervals[piece]!;
  const station = Math.min(n - 1, Math.floor((u * n) / path.pieces[piece]!.span));
  const axis = new Float64Array(3);
  axisFrom(frame, before + station, Float64Array.from([...position, ...tangent]), axis);
  const ex: Vec3 = [axis[0]!, axis[1]!, axis[2]!];
  return { origin: position, ex, ey: cross(tangent, ex), ez: tangent };
}

const FRAMES = new Memo<Path, FreeFrame>();
