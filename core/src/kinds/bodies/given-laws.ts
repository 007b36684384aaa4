/** Sizes, twists and passages along a path, out of the figures of a sweep. */
import { cellField } from '../../measure/field';
import { Complaint, told, words } from '../../measure/words';
import type { Handle } from '../../path/path';
import type { Section } from '../../section/section';
import { type Law, type Point, evenLaw, linearLaw, smoothLaw } from '../../sweep/carry/laws';
import type { SweepFigures } from './sweep-schema';

/** The law through points (length, value); `closed` is the length round of a closed path. */
export const along = (run: 'smooth' | 'linear', points: readonly Point[], closed: number | undefined): Law =>
  run === 'smooth'
    ? smoothLaw(points, closed)
    : linearLaw(closed === undefined ? points : roundAgain(points, closed));

/** A linear law on a closed path comes back to its first point at the end. */
function roundAgain(points: readonly Point[], closed: number): Point[] {
  const list = [...points];
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || last.s >= closed * (1 - 1e-9)) return list;
  // Between the last and the first point, over the seam.
  const gap = closed - last.s + first.s;
  const seam = last.value + ((first.value - last.value) * (closed - last.s)) / gap;
  if (first.s > 0) list.unshift({ s: 0, value: seam });
  list.push({ s: closed, value: first.s > 0 ? seam : first.value });
  return list;
}

/** Scales of width and height along a path `long` mm long. @throws Complaint at the cell in fault */
export function sizeLaws(
  figures: SweepFigures,
  { box, reach }: Section,
  long: number,
  closed: number | undefined,
): readonly [Law, Law] {
  const one = evenLaw(1);
  switch (figures.size) {
    case 'even':
      return [one, one];
    case 'taper': {
      if (closed !== undefined)
        throw new Complaint(
          'A closed path comes back to its start: give the size by stations there.',
          'size',
        );
      const law = along(
        figures.sizeRun,
        [
          { s: 0, value: 1 },
          { s: long, value: figures.endScale },
        ],
        undefined,
      );
      return [law, law];
    }
    case 'flare': {
      if (closed !== undefined)
        throw new Complaint('A closed path comes back to its start: it cannot flare.', 'size');
      const last = 1 + (long * Math.tan(figures.flare)) / reach;
      if (last <= 0)
        throw new Complaint(
          words`At ${told(figures.flare, 'angle')} the section shrinks to nothing before the end of the path.`,
          'flare',
        );
      const law = linearLaw([
        { s: 0, value: 1 },
        { s: long, value: last },
      ]);
      return [law, law];
    }
    case 'stations': {
      const places = placesOf('sizes', figures.sizes, long);
      const [wide, high] = [box.right - box.left, box.high - box.low];
      const column = (name: 'width' | 'height', own: number): Point[] =>
        figures.sizes.flatMap((row, i) => {
          const value = row[name];
          return value === undefined ? [] : [{ s: places[i]!, value: value / own }];
        });
      const [widths, heights] = [column('width', wide), column('height', high)];
      if (!widths.length && !heights.length)
        throw new Complaint(
          'The stations give no size yet: a width or a height.',
          cellField('sizes', 0, 'width'),
        );
      // What is left blank altogether follows the other, in proportion.
      if (!heights.length || !widths.length) {
        const law = along(figures.sizeRun, widths.length ? widths : heights, closed);
        return [law, law];
      }
      return [along(figures.sizeRun, widths, closed), along(figures.sizeRun, heights, closed)];
    }
  }
}

/** Lengths at which the rows of a law stand. @throws Complaint at a cell */
function placesOf(
  name: string,
  rows: readonly { readonly part?: number | undefined; readonly along?: number | undefined }[],
  long: number,
): number[] {
  const places = rows.map(({ part, along: at }, i) => {
    if (part !== undefined && at !== undefined)
      throw new Complaint('Part and length are given: leave one of them out.', cellField(name, i, 'along'));
    if (part === undefined && at === undefined)
      throw new Complaint('Say where: as a part of the length, or as a length.', cellField(name, i, 'part'));
    const s = part === undefined ? at! : part * long;
    if (s > long * (1 + 1e-9))
      throw new Complaint(words`The path is only ${told(long, 'length')} long.`, cellField(name, i, 'along'));
    return Math.min(s, long);
  });
  places.forEach((s, i) => {
    if (i && s <= places[i - 1]!)
      throw new Complaint(
        'Stations follow one another along the path.',
        cellField(name, i, rows[i]!.part === undefined ? 'along' : 'part'),
      );
  });
  return places;
}

/** Twist along the path, rad. @throws Complaint at the cell in fault */
export function twistLaw(figures: SweepFigures, long: number, closed: number | undefined): Law {
  const even = (total: number): Law =>
    total === 0 ? evenLaw(0) : { value: (s) => (total * s) / long, slope: () => total / long, knots: [] };
  switch (figures.twistBy) {
    case 'none':
      return evenLaw(0);
    case 'total':
      return even(figures.twist);
    case 'lay':
      if (figures.twistLay === 0) throw new Complaint('A turn takes some length.', 'twistLay');
      return even((2 * Math.PI * long) / figures.twistLay);
    case 'stations': {
      const places = placesOf('twists', figures.twists, long);
      const points = figures.twists.map(({ angle: value }, i) => ({ s: places[i]!, value }));
      if (closed === undefined || figures.twistRun === 'linear')
        return figures.twistRun === 'smooth' ? smoothLaw(points) : linearLaw(points);
      // Over the seam it turns on from its end to its start, by the whole of it.
      const whole = points.at(-1)!.value - points[0]!.value;
      const list = [-1, 0, 1].flatMap((k) =>
        points.slice(0, -1).map(({ s, value }) => ({ s: s + k * closed, value: value + k * whole })),
      );
      const law = smoothLaw(list);
      return { ...law, knots: law.knots.filter((s) => s >= 0 && s <= closed) };
    }
  }
}

/** Stations of the laws as points of their charts. */
export function handlesOf(figures: SweepFigures, long: number): Handle[] {
  const handles: Handle[] = [];
  const put = (channel: Handle['channel'], field: string, s: number, value: number | undefined) => {
    if (value !== undefined) handles.push({ channel, field, s, value, offset: 0 });
  };
  if (figures.size === 'stations') {
    const places = placesOf('sizes', figures.sizes, long);
    figures.sizes.forEach(({ width, height }, i) => {
      put('sectionWidth', cellField('sizes', i, 'width'), places[i]!, width);
      put('sectionHeight', cellField('sizes', i, 'height'), places[i]!, height);
    });
  }
  if (figures.twistBy === 'stations') {
    const places = placesOf('twists', figures.twists, long);
    figures.twists.forEach((row, i) => put('twist', cellField('twists', i, 'angle'), places[i]!, row.angle));
  }
  return handles;
}

/** How far the section has passed into the other, from 0 to 1. */
export function mixLaw({ intoFrom, intoTo, intoRun }: SweepFigures, long: number): Law {
  if (intoFrom >= intoTo) throw new Complaint('The passage ends after it begins.', 'intoTo');
  const [a, b] = [intoFrom * long, intoTo * long];
  const points = [
    { s: a, value: 0 },
    { s: b, value: 1 },
  ];
  if (intoRun === 'linear') return linearLaw(points);
  // Level where it begins and ends: 3t² − 2t³.
  const part = (s: number) => Math.min(1, Math.max(0, (s - a) / (b - a)));
  return {
    value: (s) => part(s) ** 2 * (3 - 2 * part(s)),
    slope: (s) => (6 * part(s) * (1 - part(s))) / (b - a),
    knots: [a, b],
  };
}
