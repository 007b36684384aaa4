/** Parts of every kind, drawn at random: path, section, hold, size, twist, passage, corners, ends. */
import fc from 'fast-check';
import type { Row } from '../../src/design/schema';
import type { Carried } from '../bodies';
import { SECTIONS } from '../any-body';
import { evenly } from '../numbers';

const num = (min: number, max: number) => evenly(min, max).map((x) => Number(x.toFixed(3)));
const mm = (min: number, max: number) => num(min, max).map((x) => `${x} mm`);
const deg = (min: number, max: number) => num(min, max).map((x) => `${x} deg`);
const plain = (min: number, max: number) => num(min, max).map(String);
const one = fc.constantFrom;
type Path = Carried['path'];
type Set = Record<string, string>;

const rowsOf = (points: readonly (readonly number[])[]): Row[] =>
  points.map(([x, y, z]) => ({ x: `${x} mm`, y: `${y} mm`, z: `${z} mm` }));

/** Points round a circle, in and out and up and down. */
const about = (least: number, most: number, high: number) =>
  fc.array(fc.tuple(num(-12, 12), num(-high, high)), { minLength: least, maxLength: most }).map((offs) =>
    offs.map(([off, z], i) => {
      const angle = (2 * Math.PI * i) / offs.length;
      return [(60 + off) * Math.cos(angle), (60 + off) * Math.sin(angle), z].map((x) => Number(x.toFixed(3)));
    }),
  );

const helix: fc.Arbitrary<Path> = fc
  .record({
    diameter: num(25, 70),
    turns: plain(0.2, 4),
    pitch: mm(14, 40),
    hand: one('right', 'left'),
    taper: fc.option(num(0.6, 1.5)),
  })
  .map(({ diameter, taper, ...set }) => ({
    kind: 'helix',
    set: {
      ...set,
      diameter: `${diameter} mm`,
      ...(taper !== null && { taper: 'diameter', endDiameter: `${diameter * taper} mm` }),
    },
    without: ['height'],
  }));
const spiral: fc.Arbitrary<Path> = fc
  .record({ inner: num(12, 30), wide: num(20, 60), turns: plain(0.5, 2) })
  .map(({ inner, wide, turns }) => ({
    kind: 'spiral',
    set: { inner: `${inner} mm`, outer: `${inner + wide} mm`, turns },
    without: ['pitch'],
  }));
/** Runs of straights, in a plane or in space. */
const run = (closed: boolean): fc.Arbitrary<Path> =>
  fc
    .record({
      high: one(0, 25),
      corners: closed ? one('bent', 'mitred', 'mitred') : one('bent', 'faired', 'mitred', 'mitred'),
    })
    .chain(({ high, corners }) =>
      about(closed ? 3 : 4, 6, high).map((points) => ({
        kind: 'run',
        set: { corners, radius: corners === 'faired' ? '4 mm' : '9 mm', closed: closed ? 'closed' : 'open' },
        rows: { points: rowsOf(closed ? points : points.slice(0, -1)) },
      })),
    );
const smooth = (closed: boolean): fc.Arbitrary<Path> =>
  fc.record({ high: one(0, 15) }).chain(({ high }) =>
    about(4, 7, high).map((points) => ({
      kind: 'smooth',
      set: { closed: closed ? 'closed' : 'open' },
      rows: { points: rowsOf(closed ? points : points.slice(0, -1)) },
    })),
  );
const straight: fc.Arbitrary<Path> = fc
  .tuple(num(-30, 30), num(-30, 30), num(20, 120))
  .map((end) => ({ kind: 'run', rows: { points: rowsOf([[0, 0, 0], end]) } }));
const loop: fc.Arbitrary<Path> = fc
  .record({
    shape: one('circle', 'ellipse', 'polygon'),
    size: mm(45, 90),
    sides: fc.integer({ min: 3, max: 7 }).map(String),
    ratio: plain(0.6, 1.4),
    seam: plain(0, 1),
  })
  .map((set) => ({ kind: 'loop', set: { ...set, radius: '12 mm' } }));

const circle = (size: number): Path => ({ kind: 'loop', set: { size: `${size} mm` } });
const stationed: fc.Arbitrary<Path> = fc
  .record({ turns: num(3, 6), height: mm(90, 150), closed: one('0', '1'), waist: num(30, 60) })
  .map(({ turns, height, closed, waist }) => ({
    kind: 'stationed',
    set: { turns: String(turns), height, diameter: '50 mm', closedStart: closed, closedEnd: closed },
    rows: { stations: [{ turn: String(turns / 2), diameter: `${waist} mm` }] },
  }));
const twoView: fc.Arbitrary<Path> = fc.tuple(num(-30, 30), num(-30, 30)).map(([up, back]) => ({
  kind: 'two-view',
  set: { radius: '18 mm' },
  rows: {
    front: [0, up, 0].map((across, i): Row => ({ along: `${80 * i} mm`, across: `${across} mm` })),
    top: [0, back, 0].map((across, i): Row => ({ along: `${[0, 95, 160][i]} mm`, across: `${across} mm` })),
  },
}));
const winding = (isClosed: boolean): fc.Arbitrary<Path> =>
  fc
    .record({
      turns: fc.integer({ min: 1, max: 3 }),
      strands: one('1', '1', '2'),
      offset: mm(9, 14),
      phase: deg(0, 360),
    })
    .map(({ turns, ...set }) => ({
      kind: 'winding',
      set: { ...set, turns: String(turns) },
      on: isClosed
        ? circle(110)
        : {
            kind: 'run',
            rows: {
              points: rowsOf([
                [0, 0, 0],
                [0, 0, 45 * turns],
              ]),
            },
          },
    }));
const wrung: fc.Arbitrary<Path> = fc.record({ angle: deg(-200, 200), ease: plain(0.1, 0.5) }).map((set) => ({
  kind: 'wrung',
  set: { ...set, from: '10 mm', to: '70 mm' },
  on: {
    kind: 'run',
    rows: {
      points: rowsOf([
        [20, 0, 0],
        [20, 0, 90],
      ]),
    },
  },
}));
const wrap: fc.Arbitrary<Path> = fc
  .record({
    shape: one('circle', 'ellipse', 'polygon'),
    size: mm(35, 60),
    host: one('cylinder', 'cone'),
    halfAngle: deg(-15, 15),
  })
  .map(({ shape, size, ...set }) => ({
    kind: 'wrap',
    set: { ...set, diameter: '90 mm' },
    on: { kind: 'loop', set: { shape, size, radius: '10 mm' } },
  }));
const cast: fc.Arbitrary<Path> = fc
  .record({
    shape: one('circle', 'ellipse', 'polygon'),
    size: mm(35, 60),
    host: one('cylinder', 'ball', 'turned'),
    turned: deg(0, 360),
    slope: deg(-15, 15),
  })
  .map(({ shape, size, ...set }) => ({
    kind: 'cast',
    set: { ...set, diameter: '110 mm', up: '3.3 mm' },
    on: { kind: 'loop', set: { shape, size, radius: '10 mm' } },
  }));
const cage: fc.Arbitrary<Path> = fc
  .record({
    shape: one('ball', 'dome', 'turned'),
    opening: mm(20, 40),
    meridians: one('0', '1', '2'),
    parallels: one('1', '2'),
  })
  .map((set) => ({ kind: 'cage', set }));
const part: fc.Arbitrary<Path> = fc
  .record({ from: num(10, 60), long: num(40, 150), way: one('forwards', 'backwards'), extendEnd: mm(0, 30) })
  .map(({ from, long, ...set }) => ({
    kind: 'part',
    set: { ...set, take: 'lengths', from: `${from} mm`, to: `${from + long} mm` },
    on: { kind: 'helix', set: { diameter: '50 mm', turns: '2.5', height: '90 mm' } },
  }));

const open = fc.oneof(
  { weight: 2, arbitrary: helix },
  spiral,
  { weight: 3, arbitrary: run(false) },
  { weight: 2, arbitrary: smooth(false) },
  straight,
  stationed,
  twoView,
  winding(false),
  wrung,
  cage,
  part,
);
const closed = fc.oneof(
  { weight: 2, arbitrary: loop },
  { weight: 3, arbitrary: run(true) },
  { weight: 2, arbitrary: smooth(true) },
  winding(true),
  wrap,
  cast,
);

const hold: fc.Arbitrary<Set> = fc.oneof(
  { weight: 4, arbitrary: fc.constant<Set>({}) },
  {
    weight: 2,
    arbitrary: fc
      .tuple(plain(-1, 1), plain(-1, 1), plain(0.5, 1))
      .map(([facingX, facingY, facingZ]): Set => ({ hold: 'facing', facingX, facingY, facingZ })),
  },
  { weight: 1, arbitrary: fc.constant<Set>({ hold: 'seated' }) },
  { weight: 1, arbitrary: fc.constant<Set>({ hold: 'level' }) },
);

const placement: fc.Arbitrary<Set> = fc.oneof(
  { weight: 3, arbitrary: fc.constant<Set>({}) },
  {
    weight: 2,
    arbitrary: fc.record<Set>({
      by: one('centroid', 'left', 'right', 'top', 'bottom'),
      right: mm(-2, 2),
      up: mm(-2, 2),
      turned: deg(-90, 90),
      mirrored: one('no', 'yes'),
    } as never),
  },
  { weight: 1, arbitrary: one<Set>({ pathIs: 'inside' }, { pathIs: 'outside' }) },
);

const station = (part: number) =>
  fc.record({ part: fc.constant(String(part)), width: mm(2, 7), height: mm(2, 7) });
interface Law {
  readonly set: Set;
  readonly rows?: Record<string, Row[]>;
}
const size = (isClosed: boolean): fc.Arbitrary<Law> =>
  fc.oneof(
    { weight: 3, arbitrary: fc.constant<Law>({ set: {} }) },
    ...(isClosed
      ? []
      : [
          {
            weight: 1,
            arbitrary: fc
              .tuple(plain(0.3, 1.3), one('linear', 'smooth'))
              .map(([endScale, sizeRun]): Law => ({ set: { size: 'taper', endScale, sizeRun } })),
          },
          { weight: 1, arbitrary: deg(-0.8, 1.2).map((flare): Law => ({ set: { size: 'flare', flare } })) },
        ]),
    {
      weight: 1,
      arbitrary: fc
        .tuple(station(0), station(0.4), station(isClosed ? 0.8 : 1), one('linear', 'smooth'))
        .map(([a, b, c, sizeRun]): Law => ({
          set: { size: 'stations', sizeRun },
          rows: { sizes: [a, b, c] as Row[] },
        })),
    },
  );
const twist = (isClosed: boolean): fc.Arbitrary<Law> =>
  fc.oneof(
    { weight: 3, arbitrary: fc.constant<Law>({ set: {} }) },
    {
      weight: 2,
      arbitrary: deg(-500, 500).map((angle): Law => ({ set: { twistBy: 'total', twist: angle } })),
    },
    ...(isClosed
      ? []
      : [
          {
            weight: 1,
            arbitrary: fc
              .tuple(deg(-200, 200), deg(-200, 200), one('linear', 'smooth'))
              .map(([mid, end, twistRun]): Law => ({
                set: { twistBy: 'stations', twistRun },
                rows: {
                  twists: [
                    { part: '0', angle: '0 deg' },
                    { part: '0.6', angle: mid },
                    { part: '1', angle: end },
                  ],
                },
              })),
          },
        ]),
  );
const end = (which: 'start' | 'end'): fc.Arbitrary<Set> =>
  fc.oneof(
    { weight: 3, arbitrary: fc.constant<Set>({}) },
    {
      weight: 1,
      arbitrary: mm(0.3, 3).map((by): Set => ({ [`${which}Shape`]: 'domed', [`${which}Size`]: by })),
    },
    {
      weight: 1,
      arbitrary: mm(0.05, 0.14).map((by): Set => ({ [`${which}Shape`]: 'chamfered', [`${which}Size`]: by })),
    },
    { weight: 1, arbitrary: mm(0.5, 2).map((by): Set => ({ [`${which}Wall`]: by })) },
    {
      weight: 1,
      arbitrary: mm(0, 2).map((by): Set => ({ [`${which}Shape`]: 'flush', [`${which}Flush`]: by })),
    },
  );

/** Outlines with bores: what SECTIONS has not. */
const bored = fc.tuple(num(3.5, 4.5), num(0.5, 0.9)).map(([half, bore]) => ({
  kind: 'outline',
  set: {},
  rows: {
    points: [
      [half, -half / 2],
      [half, half / 2],
      [-half, half / 2],
      [-half, -half / 2],
    ].map(([x, y]): Row => ({ x: `${x} mm`, y: `${y} mm` })),
    bores: [half / 2, -half / 2].map((x): Row => ({ x: `${x} mm`, y: '0 mm', diameter: `${2 * bore} mm` })),
  },
}));
const section = fc.oneof({ weight: 9, arbitrary: SECTIONS }, { weight: 1, arbitrary: bored }) as fc.Arbitrary<
  Carried['section']
>;

/** A straight axis and a guide that runs round it. */
const guided: fc.Arbitrary<Carried> = fc
  .record({
    high: num(40, 120),
    turns: plain(0.2, 1.5),
    wide: num(12, 30),
    end: num(0.6, 1.5),
    section,
    guideSets: one('both', 'turn'),
    hand: one('right', 'left'),
  })
  .map(({ high, turns, wide, end: grows, section: carried, guideSets, hand }) => ({
    path: {
      kind: 'run',
      rows: {
        points: rowsOf([
          [0, 0, 0],
          [0, 0, high],
        ]),
      },
    },
    guide: {
      kind: 'helix',
      set: {
        diameter: `${wide} mm`,
        turns,
        height: `${high} mm`,
        hand,
        taper: 'diameter',
        endDiameter: `${wide * grows} mm`,
      },
    },
    section: carried,
    sweep: { hold: 'guided', guideSets },
  }));

const unguided: fc.Arbitrary<Carried> = fc.boolean().chain((isClosed) =>
  fc
    .record({
      path: isClosed ? closed : open,
      section,
      into: isClosed ? fc.constant(null) : fc.option(section, { freq: 3 }),
      hold,
      placement,
      corners: one<Set>({}, {}, { corners: 'rounded' }, { corners: 'bent', bendRadius: '9 mm' }),
      size: size(isClosed),
      twist: twist(isClosed),
      start: isClosed ? fc.constant<Set>({}) : end('start'),
      end: isClosed ? fc.constant<Set>({}) : end('end'),
      intoRun: one('linear', 'smooth'),
    })
    .map((part): Carried => ({
      path: part.path,
      section: part.section,
      ...(part.into && { into: part.into }),
      sweep: {
        ...part.hold,
        ...part.placement,
        ...part.corners,
        ...part.size.set,
        ...part.twist.set,
        ...part.start,
        ...part.end,
        ...(part.into && { intoRun: part.intoRun }),
      },
      rows: { ...part.size.rows, ...part.twist.rows },
    })),
);

export const anyPart: fc.Arbitrary<Carried> = fc.oneof(
  { weight: 19, arbitrary: unguided },
  { weight: 1, arbitrary: guided },
);
