/** Any section on any path under any law: what property tests of bodies draw from. */
import fc from 'fast-check';
import { evenly } from './numbers';

const num = (min: number, max: number) => evenly(min, max).map((x) => Number(x.toFixed(3)));
const mm = (min: number, max: number) => num(min, max).map((x) => `${x} mm`);
const plain = (min: number, max: number) => num(min, max).map(String);

/** Sections that reach no further than 4 mm. */
export const SECTIONS = fc.oneof(
  fc.record({ kind: fc.constant('round'), set: fc.record({ diameter: mm(0.5, 7) }) }),
  fc.record({ kind: fc.constant('tube'), set: fc.record({ outer: mm(3, 7), wall: mm(0.2, 1.4) }) }),
  fc.record({ kind: fc.constant('ellipse'), set: fc.record({ width: mm(0.5, 7), height: mm(0.5, 5) }) }),
  fc.record({
    kind: fc.constant('rectangle'),
    set: fc.record({ width: mm(1, 6), height: mm(1, 5), radius: mm(0, 0.45) }),
  }),
  fc.record({ kind: fc.constant('obround'), set: fc.record({ width: mm(4, 7), height: mm(0.5, 3.5) }) }),
  fc.record({
    kind: fc.constant('polygon'),
    set: fc.record({
      sides: fc.integer({ min: 3, max: 12 }).map(String),
      size: mm(1, 3.9),
      radius: mm(0, 0.15),
    }),
  }),
  fc.record({
    kind: fc.constant('star'),
    set: fc.record({
      tips: fc.integer({ min: 3, max: 12 }).map(String),
      size: mm(3, 7.5),
      valley: plain(0.5, 0.9),
    }),
  }),
  fc.record({ kind: fc.constant('strip'), set: fc.record({ width: mm(2, 7), thickness: mm(0.3, 1.5) }) }),
  fc.record({ kind: fc.constant('vee'), set: fc.record({ depth: mm(1, 3), root: mm(0, 1) }) }),
  fc.record({ kind: fc.constant('outline'), set: fc.constant({}) }),
);

/** Open paths that bend to no less than 16 mm, and stay clear of themselves. */
export const OPEN = fc.oneof(
  fc.record({
    kind: fc.constant('helix'),
    set: fc.record({
      diameter: mm(40, 80),
      turns: plain(0.3, 4),
      pitch: mm(18, 40),
      hand: fc.constantFrom('right', 'left'),
    }),
    without: fc.constant(['height']),
  }),
  fc.record({ kind: fc.constant('run'), set: fc.constant({ radius: '20 mm' }) }),
  fc.constant({
    kind: 'run',
    set: { corners: 'mitred' },
    rows: {
      points: [
        { x: '0 mm', y: '0 mm', z: '0 mm' },
        { x: '60 mm', y: '0 mm', z: '0 mm' },
        { x: '90 mm', y: '50 mm', z: '0 mm' },
        { x: '90 mm', y: '70 mm', z: '60 mm' },
      ],
    },
  }),
  fc.record({
    kind: fc.constant('spiral'),
    set: fc.constant({ inner: '40 mm', outer: '90 mm', turns: '2' }),
    without: fc.constant(['pitch']),
  }),
);
export const CLOSED = fc.oneof(
  fc.record({ kind: fc.constant('loop'), set: fc.record({ size: mm(45, 90) }) }),
  fc.record({
    kind: fc.constant('loop'),
    set: fc.constant({ shape: 'polygon', sides: '5', size: '90 mm', radius: '20 mm' }),
  }),
);

export const LAWS = fc.oneof(
  fc.constant({}),
  fc.record({
    size: fc.constant('taper'),
    endScale: plain(0.3, 1.1),
    sizeRun: fc.constantFrom('linear', 'smooth'),
  }),
  fc.record({ twistBy: fc.constant('total'), twist: num(-700, 700).map((x) => `${x} deg`) }),
  fc.record({
    twistBy: fc.constant('total'),
    twist: num(-300, 300).map((x) => `${x} deg`),
    size: fc.constant('taper'),
    endScale: plain(0.3, 1.1),
    sizeRun: fc.constant('linear'),
  }),
);
export const END = (which: 'start' | 'end') =>
  fc.oneof(
    fc.constant({}),
    fc.record({ [`${which}Shape`]: fc.constant('domed'), [`${which}Size`]: mm(0.3, 3) }),
    fc.record({ [`${which}Shape`]: fc.constant('chamfered'), [`${which}Size`]: mm(0.05, 0.14) }),
    fc.record({ [`${which}Wall`]: mm(0.5, 2) }),
  );
