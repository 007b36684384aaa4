import { z } from 'zod';
import { angle, bodyKind, cellField, choice, count, figure, length, table } from '../design/kind';
import { writtenNumber } from '../design/literal';
import type { Figure } from '../design/value';
import { MATERIALS, MATERIAL_IDS } from '../measure/materials';
import { Complaint, told, words } from '../measure/words';
import type { Handle } from '../path/path';
import type { Section } from '../section/section';
import { centreOfMass, inertiaOf, sweptBody, type Body } from './body';
import { checkSweep } from './check';
import { evenLaw, linearLaw, smoothLaw, type Law, type Point } from './laws';
import { springFigures, springOf } from './spring';
import { facingOf, OpenTwist, sweptAlong, type End, type SweepPlan } from './swept';

/** Where a row of a law stands: as a part of the length, or a length. */
const PLACE = {
  part: figure('number', { atLeast: 0, atMost: 1 }).optional(),
  along: length({ atLeast: 0 }).optional(),
};

const SIZES = table({
  noun: 'station',
  least: 2,
  most: 400,
  row: z.object({
    ...PLACE,
    width: length({ above: 0 }).optional(),
    height: length({ above: 0 }).optional(),
  }),
  fresh: { part: '0.5' },
});

const TWISTS = table({
  noun: 'station',
  least: 2,
  most: 400,
  row: z.object({ ...PLACE, angle: angle() }),
  fresh: { part: '0.5', angle: '0 deg' },
});

const END = choice('flat', 'domed', 'chamfered', 'flush');

const schema = z.object({
  hold: choice('free', 'facing', 'seated', 'level', 'guided'),
  facingX: count(),
  facingY: count(),
  facingZ: count(),
  guideSets: choice('turn', 'both'),
  corners: choice('mitred', 'rounded', 'bent'),
  bendRadius: length({ above: 0 }),
  by: choice('centroid', 'origin', 'left', 'right', 'top', 'bottom'),
  right: length(),
  up: length(),
  turned: angle(),
  mirrored: choice('no', 'yes'),
  pathIs: choice('inside', 'middle', 'outside'),
  size: choice('even', 'taper', 'flare', 'stations'),
  endScale: figure('number', { above: 0, atMost: 1000 }),
  flare: angle({ above: -Math.PI / 2, below: Math.PI / 2 }),
  sizeRun: choice('smooth', 'linear'),
  twistBy: choice('none', 'total', 'lay', 'stations'),
  twist: angle(),
  twistLay: length(),
  twistRun: choice('smooth', 'linear'),
  intoFrom: figure('number', { atLeast: 0, atMost: 1 }),
  intoTo: figure('number', { atLeast: 0, atMost: 1 }),
  intoRun: choice('smooth', 'linear'),
  startShape: END,
  endShape: END,
  startSize: length({ above: 0 }),
  endSize: length({ above: 0 }),
  startWall: length({ above: 0 }).optional(),
  endWall: length({ above: 0 }).optional(),
  flushX: count(),
  flushY: count(),
  flushZ: count(),
  startFlush: length(),
  endFlush: length(),
  leastWall: length({ above: 0 }).optional(),
  material: choice(...MATERIAL_IDS),
  ends: choice('none', 'open', 'closed', 'ground'),
  loadedLength: length({ above: 0 }).optional(),
});

export type SweepFigures = z.infer<typeof schema> & {
  readonly sizes: readonly z.infer<typeof SIZES.row>[];
  readonly twists: readonly z.infer<typeof TWISTS.row>[];
};

/** Section carried along a path; on a coil of round wire also the spring that it makes. */
export const sweep = bodyKind({
  kind: 'sweep',
  title: 'Body',
  noun: 'sweep',
  words: [
    'sweep',
    'carry',
    'solid',
    'body',
    'wire',
    'spring',
    'pipe',
    'along',
    'taper',
    'twist',
    'flare',
    'loft',
    'blend',
  ],
  inputs: {
    path: { takes: 'path', sets: true },
    section: { takes: 'section' },
    guide: { takes: 'path', optional: true },
    into: { takes: 'section', optional: true },
  },
  schema,
  tables: { sizes: SIZES, twists: TWISTS },
  needs: ({ size, twistBy }, name) => (name === 'sizes' ? size === 'stations' : twistBy === 'stations'),
  defaults: {
    hold: 'free',
    facingX: '0',
    facingY: '0',
    facingZ: '1',
    guideSets: 'both',
    corners: 'mitred',
    bendRadius: '10 mm',
    by: 'centroid',
    right: '0 mm',
    up: '0 mm',
    turned: '0 deg',
    mirrored: 'no',
    pathIs: 'middle',
    size: 'even',
    endScale: '0.5',
    flare: '5 deg',
    sizeRun: 'smooth',
    twistBy: 'none',
    twist: '180 deg',
    twistLay: '40 mm',
    twistRun: 'smooth',
    intoFrom: '0',
    intoTo: '1',
    intoRun: 'smooth',
    startShape: 'flat',
    endShape: 'flat',
    startSize: '1 mm',
    endSize: '1 mm',
    flushX: '0',
    flushY: '0',
    flushZ: '1',
    startFlush: '0 mm',
    endFlush: '0 mm',
    material: 'spring-steel',
    ends: 'none',
  },
  evaluate(figures, { path: given, section, guide, into }) {
    const paths = given.type === 'paths' ? given.paths : [given];
    const plan = planOf(figures, section);
    try {
      const swept = paths.map((path) =>
        sweptAlong(path, section, { ...plan, ...(guide && { guide }), ...(into && { into }) }),
      );
      return sweptBody(swept, section, figures.material, {
        spring: springOf(figures, paths[0]!, section, swept[0]!.planes),
        leastWall: figures.leastWall,
        handles: handlesOf(figures, swept[0]!.carrier.path.length),
      });
    } catch (error) {
      if (error instanceof OpenTwist) throw withMends(error, figures);
      throw error;
    }
  },
  figures: bodyFigures,
  check: checkSweep,
});

function planOf(figures: SweepFigures, section: Section): SweepPlan {
  const end = (which: 'start' | 'end'): End => ({
    shape: figures[`${which}Shape`],
    size: figures[`${which}Shape`] === 'flush' ? figures[`${which}Flush`] : figures[`${which}Size`],
    wall: figures[`${which}Wall`] ?? 0,
  });
  const { facingX, facingY, facingZ } = figures;
  return {
    hold: figures.hold,
    facing: figures.hold === 'facing' ? facingOf(facingX, facingY, facingZ) : [0, 0, 1],
    guideSizes: figures.guideSets === 'both',
    corners: figures.corners,
    bendRadius: figures.bendRadius,
    placement: {
      by: figures.by,
      right: figures.right,
      up: figures.up,
      mirrored: figures.mirrored === 'yes',
    },
    pathIs: figures.pathIs,
    turned: figures.turned,
    laws(long, closed) {
      const round = closed ? long : undefined;
      const [width, height] = sizeLaws(figures, section, long, round);
      return { width, height, twist: twistLaw(figures, long, round), mix: mixLaw(figures, long) };
    },
    ends: [end('start'), end('end')],
    flush:
      figures.startShape === 'flush' || figures.endShape === 'flush'
        ? facingOf(figures.flushX, figures.flushY, figures.flushZ, 'flushX')
        : [0, 0, 1],
  };
}

const along = (run: 'smooth' | 'linear', points: readonly Point[], closed: number | undefined): Law =>
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

function sizeLaws(
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

function twistLaw(figures: SweepFigures, long: number, closed: number | undefined): Law {
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
function handlesOf(figures: SweepFigures, long: number): Handle[] {
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

function mixLaw({ intoFrom, intoTo, intoRun }: SweepFigures, long: number): Law {
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

/** Offers the two nearest twists that close, the way the twist was given. */
function withMends(open: OpenTwist, figures: SweepFigures): Complaint {
  const { twistBy } = figures;
  const now = twistBy === 'total' ? figures.twist : 0;
  if (twistBy === 'stations') return new Complaint(open.says, 'twists');
  const mends = [open.less, open.more].map((change) => {
    const total = now + change;
    return {
      says: words`Twist by ${told(total, 'angle')}`,
      set: { twistBy: 'total', twist: `${writtenNumber((total * 180) / Math.PI, 9)} deg` },
    };
  });
  if (twistBy === 'lay') return new Complaint(open.says, 'twistLay');
  return new Complaint(open.says, twistBy === 'none' ? 'twistBy' : 'twist', ...mends);
}

function bodyFigures(body: Body): Figure[] {
  const { length: long, volume, surface, extent, material, spring, mass } = body;
  const [least, most] = extent;
  const { density } = MATERIALS[material];
  const size = Math.max(...most.map((x, k) => x - least[k]!));
  // What is nothing but rounding is nothing.
  const [x, y, z] = centreOfMass(mass).map((at) => (Math.abs(at) < 1e-9 * size ? 0 : at)) as [
    number,
    number,
    number,
  ];
  const [ix, iy, iz] = inertiaOf(mass);
  const figures: Figure[] = [
    { name: 'wireLength', label: 'length', value: long, quantity: 'length' },
    { name: 'volume', label: 'volume', value: volume, quantity: 'volume' },
    { name: 'surface', label: 'surface', value: surface, quantity: 'area' },
    { name: 'mass', label: 'mass', value: (volume * density) / 1000, quantity: 'mass' },
    { name: 'extentX', label: 'extent, x', value: most[0] - least[0], quantity: 'length' },
    { name: 'extentY', label: 'extent, y', value: most[1] - least[1], quantity: 'length' },
    { name: 'extentZ', label: 'extent, z', value: most[2] - least[2], quantity: 'length' },
    { name: 'centreX', label: 'centre of mass, x', value: x, quantity: 'length' },
    { name: 'centreY', label: 'centre of mass, y', value: y, quantity: 'length' },
    { name: 'centreZ', label: 'centre of mass, z', value: z, quantity: 'length' },
    {
      name: 'inertiaX',
      label: 'moment of inertia about x through it',
      value: (ix * density) / 1000,
      quantity: 'inertia',
    },
    { name: 'inertiaY', label: 'about y', value: (iy * density) / 1000, quantity: 'inertia' },
    { name: 'inertiaZ', label: 'about z', value: (iz * density) / 1000, quantity: 'inertia' },
  ];
  if (spring) figures.push(...springFigures(spring));
  return figures;
}
