import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import type { Row } from '../src/design/schema';
import { monotone } from '../src/geometry/monotone';
import { integrate } from '../src/geometry/numeric';
import { distance, type Vec3 } from '../src/geometry/vector';
import type { Stationed } from '../src/path/stations';
import type { Path } from '../src/path/path';
import { complaintsOf, figureOf, run, valueOf, pathDesign } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const coil = (set: Record<string, string>, stations: Row[] = [], without: string[] = []) =>
  pathDesign({ kind: 'stationed', set: { diameter: '20 mm', ...set }, rows: { stations }, without });
const pathOf = async (design: ReturnType<typeof coil>) => (await valueOf(design, 'stationed')) as Path;
const filled = async (design: ReturnType<typeof coil>) =>
  (await run(design)).steps.find(({ id }) => id === 'stationed')!.filled!.stations!;

/** The place of a coil at one of its turns. */
function placeAt(path: Path, turn: number): Vec3 {
  let rest = 2 * Math.PI * turn;
  for (const piece of path.pieces) {
    if (rest <= piece.span * (1 + 1e-12)) {
      const d = new Float64Array(6);
      piece.first(Math.min(rest, piece.span), d);
      return [d[0]!, d[1]!, d[2]!];
    }
    rest -= piece.span;
  }
  throw new Error('beyond the end');
}

/** Least distance of samples a coil apart, to the samples' fineness: nothing of the product's own search. */
function nearest(path: Path, from: number, to: number, last = Infinity, reach = 0.1): number {
  let least = Infinity;
  for (let a = from; a <= to + 1e-9; a += 0.02)
    for (let b = a + 1 - reach; b <= Math.min(last, a + 1 + reach); b += 0.0005)
      least = Math.min(least, distance(placeAt(path, a), placeAt(path, b)));
  return least;
}

describe('helix with stations', () => {
  it('without any is the even helix', async () => {
    const path = await pathOf(coil({ turns: '6', height: '32 mm' }));
    expect(path.length).closeTo(Math.hypot(120 * Math.PI, 32), 1e-9 * path.length);
    expect(path.at(50).curvature).closeTo(10 / (100 + (32 / 12 / Math.PI) ** 2), 1e-9);
  });

  it('meets heights and pitches where they are given, and the pitch never runs backwards', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(evenly(0.6, 2), evenly(0.5, 20)), {
          minLength: 1,
          maxLength: 5,
        }),
        async (steps) => {
          let [turn, height] = [0, 0];
          const rows = steps.map(([dt, dz]): Row => {
            turn += dt;
            height += dz;
            return { turn: String(turn), height: `${height} mm` };
          });
          const design = coil({ turns: String(turn + 1), height: `${height + 5} mm` }, rows);
          const path = await pathOf(design);
          (await filled(design)).forEach((row, i) =>
            expect(`${row.height!.toFixed(6)}`).equal(Number(rows[i]!.height!.split(' ')[0]).toFixed(6)),
          );
          let last = -Infinity;
          for (let s = 0; s <= path.length; s += path.length / 300) {
            const z = path.at(s).position[2];
            expect(z).least(last - 1e-9);
            last = z;
          }
          expect(path.at(path.length).position[2]).closeTo(height + 5, 1e-6);
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('pitches given at stations hold there, and the height is their integral', async () => {
    const rows = [
      { turn: '0', pitch: '3 mm' },
      { turn: '4', pitch: '6 mm' },
      { turn: '8', pitch: '9 mm' },
    ];
    const design = coil({ turns: '8' }, rows, ['height']);
    const path = await pathOf(design);
    // Three pitches in line are interpolated in line.
    expect(await figureOf(design, 'stationed', 'height')).closeTo(48, 1e-9);
    expect(path.along.pitch!(0, 0)).closeTo(3, 1e-12);
    expect((await filled(design))[1]!.height).closeTo((3 + 6) * 2, 1e-9);
  });

  for (const [closed, diameter] of [
    ['1', undefined],
    ['2', undefined],
    ['2.5', undefined],
    ['2', '30 mm'],
  ] as const)
    it(`${closed} closed coils lie on their neighbours and do not cut them${diameter ? ', on a cone' : ''}`, async () => {
      const rows: Row[] = diameter
        ? [
            { turn: '0', diameter },
            { turn: '10', diameter: '20 mm' },
          ]
        : [];
      const path = await pathOf(
        coil({ turns: '10', height: '60 mm', closedStart: closed, closedEnd: '1' }, rows),
      );
      const found = nearest(path, 0, Number(closed) - 1);
      // Sampling can only find too much, by less than its step squared over twice the distance.
      expect(found).least(1 - 1e-9);
      expect(found).below(1 + 2e-3);
      expect(nearest(path, Number(closed) + 0.5, 7)).above(1.5);
    });

  it('turns follow from pitch and height', async () => {
    const design = coil({ pitch: '6 mm', height: '50 mm', closedStart: '1', closedEnd: '1' }, [], ['turns']);
    expect(await figureOf(design, 'stationed', 'height')).closeTo(50, 1e-6);
    expect(await figureOf(design, 'stationed', 'pitch')).closeTo(6, 1e-12);
  });

  it('given by its half it mirrors itself', async () => {
    const design = coil(
      { turns: '8', height: '48 mm', diameter: '30 mm', described: 'half', closedStart: '1', closedEnd: '1' },
      [{ turn: '4', diameter: '18 mm' }],
    );
    const path = await pathOf(design);
    for (const s of [5, 80, 170]) {
      const [a, b] = [path.at(s).position, path.at(path.length - s).position];
      expect(Math.hypot(a[0], a[1])).closeTo(Math.hypot(b[0], b[1]), 1e-8);
      expect(a[2] + b[2]).closeTo(48, 1e-8);
    }
    expect(Math.hypot(...path.at(path.length / 2).position.slice(0, 2))).closeTo(9, 1e-6);
  });

  it('says how many turns still fit, and no more do', async () => {
    const design = coil({ turns: '8', height: '50 mm', closedStart: '1', closedEnd: '1' });
    const body = addStep(design, 'sweep', design.steps.length);
    setInput(design, body, 'path', 'stationed');
    setInput(design, body, 'section', 'round');
    const cache = createCache();
    const limitsOf = async () => {
      const evaluation = await evaluate(design, cache);
      const i = design.steps.findIndex(({ id }) => id === body);
      return (await checkStep(design.steps[i]!, evaluation.steps[i]!, cache)).limits;
    };
    const most = (await limitsOf()).find(({ field }) => field === 'turns')!.value;
    for (const [by, clear] of [
      [0.995, true],
      [1.005, false],
    ] as const) {
      stepOf(design, 'stationed').set.turns = String(most * by);
      const gap = nearest(await pathOf(design), 2, most / 2);
      expect(gap > 1, `${by} of the turns`).equal(clear);
    }
  });

  const mistakes: [string, Record<string, string>, Row[], string, RegExp][] = [
    ['turns out of order', {}, [{ turn: '3' }, { turn: '2' }], 'stations.1.turn', /must rise/],
    ['a turn beyond the last', {}, [{ turn: '9', pitch: '3 mm' }], 'stations.0.turn', /only 8 turns/],
    ['a station that stands nowhere', {}, [{ pitch: '3 mm' }], 'stations.0.turn', /at which turn/],
    ['a pitch without a turn', {}, [{ height: '9 mm', pitch: '3 mm' }], 'stations.0.turn', /needs the turn/],
    [
      'pitches that climb too far',
      {},
      [
        { turn: '3', pitch: '30 mm' },
        { turn: '5', pitch: '30 mm' },
      ],
      'height',
      /climb .* by themselves/,
    ],
    [
      'contradicting heights',
      {},
      [
        { turn: '2', pitch: '9 mm' },
        { turn: '3', pitch: '9 mm' },
        { turn: '4', height: '2 mm' },
      ],
      'stations.2.height',
      /climb .* by themselves/,
    ],
    [
      'a station in a closed coil',
      { closedStart: '2' },
      [{ turn: '1', pitch: '5 mm' }],
      'stations.0.turn',
      /closed coils/,
    ],
    [
      'pitches that climb less than the height, with closed ends',
      { closedStart: '1', closedEnd: '1' },
      [
        { turn: '1.5', pitch: '3 mm' },
        { turn: '6.5', pitch: '9 mm' },
      ],
      'height',
      /pitches add up to 38\.82 mm, and the height asks for 50 mm\. Clear the height or one pitch/,
    ],
    [
      'a pitch at the foot of a closed coil',
      { closedStart: '1' },
      [{ turn: '0', pitch: '5 mm' }],
      'stations.0.turn',
      /closed coils/,
    ],
    [
      'no turns to pass on from closed coils',
      { closedStart: '1', transition: '0' },
      [],
      'transition',
      /transition is 0 turns.*Use at least 0.1/,
    ],
    ['too few turns to close', { closedStart: '5', closedEnd: '5' }, [], 'closedStart', /too few/],
    ['all three of pitch, turns and height', { pitch: '5 mm' }, [], 'height', /only two/],
  ];
  for (const [what, set, rows, field, says] of mistakes)
    it(`${what}: told at its place`, async () => {
      const told = await complaintsOf(coil({ turns: '8', height: '50 mm', ...set }, rows), 'stationed');
      expect(told[field]).match(says);
    });
});

describe('monotone interpolation', () => {
  it('goes through its data, keeps their order, and its integral is that of a quadrature', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(evenly(0.1, 3), evenly(0, 5)), { minLength: 2, maxLength: 8 }),
        (steps) => {
          let [x, y] = [0, 0];
          const xs: number[] = [];
          const ys: number[] = [];
          for (const [dx, dy] of steps) {
            xs.push((x += dx));
            ys.push((y += dy));
          }
          const f = monotone(xs, ys);
          xs.forEach((at, i) => expect(f.at(at)[0]).closeTo(ys[i]!, 1e-12));
          for (let i = 0; i < 200; i++) {
            const at = xs[0]! + ((xs.at(-1)! - xs[0]!) * i) / 200;
            expect(f.at(at)[1]).least(-1e-9);
          }
          const area = xs
            .slice(1)
            .reduce((sum, to, i) => sum + integrate((at) => f.at(at)[0], xs[i]!, to), 0);
          expect(f.integral(xs.at(-1)!)).closeTo(area, 1e-9 * Math.max(1, area));
        },
      ),
    );
  });
});

describe('closed coils', () => {
  it('whatever is asked: they are closed, and figures that are given hold, or it says why not', async () => {
    const closed = fc.constantFrom(0, 0, 0.75, 1, 1.5, 2);
    const station = fc.record({
      part: fc.double({ min: 0, max: 1, noNaN: true }),
      pitch: fc.double({ min: 0, max: 12, noNaN: true }),
    });
    let made = 0;
    await fc.assert(
      fc.asyncProperty(
        closed,
        closed,
        fc.constantFrom(0, 0.1, 0.5, 1),
        fc.integer({ min: 3, max: 14 }),
        fc.option(fc.double({ min: 2, max: 120, noNaN: true }), { nil: undefined }),
        fc.option(fc.double({ min: 0.5, max: 12, noNaN: true }), { nil: undefined }),
        fc.array(station, { maxLength: 3 }),
        async (closedStart, closedEnd, transition, turns, height, pitch, stations) => {
          const rows = stations
            .map(({ part, pitch: own }) => ({ turn: Number((part * turns).toFixed(2)), pitch: own }))
            .sort((a, b) => a.turn - b.turn);
          const set: Record<string, string> = {
            turns: String(turns),
            closedStart: String(closedStart),
            closedEnd: String(closedEnd),
            transition: String(transition),
            ...(height !== undefined && { height: `${height} mm` }),
            ...(pitch !== undefined && height === undefined && { pitch: `${pitch} mm` }),
          };
          const design = coil(
            set,
            rows.map((one) => ({ turn: String(one.turn), pitch: `${one.pitch} mm` })),
            height === undefined ? ['height'] : [],
          );
          const complaints = Object.values(await complaintsOf(design, 'stationed'));
          if (complaints.length) return void expect(complaints[0]).match(/\S.*\.$/);
          made++;
          const { value, madeFrom } = (await run(design)).steps.find(({ id }) => id === 'stationed')!;
          const path = value as Path;
          const { closedPitch, pitch: along } = madeFrom![0]!.detail as Stationed;
          const rise = (from: number, to: number) => placeAt(path, to)[2] - placeAt(path, from)[2];
          // Without pitch it is as closed as it gets: what comes after it climbs away.
          const most = (k: 0 | 1) => (closedPitch[k] ? 1 + 2e-3 : Infinity);
          if (closedStart) {
            expect(rise(0, closedStart)).closeTo(closedStart * closedPitch[0], 1e-9 * turns);
            // Looked at place by place, it can only be found too far.
            expect(nearest(path, 0, Math.max(0, closedStart - 1), turns, 0.28)).within(1 - 1e-4, most(0));
          }
          if (closedEnd) {
            expect(rise(turns - closedEnd, turns)).closeTo(closedEnd * closedPitch[1], 1e-9 * turns);
            const from = turns - Math.max(1, closedEnd);
            expect(nearest(path, from, turns - 1, turns, 0.28)).within(1 - 1e-4, most(1));
          }
          if (height !== undefined) expect(rise(0, turns)).closeTo(height, 1e-6 * height);
          for (const row of rows) expect(along.at(row.turn)[0]).closeTo(row.pitch, 1e-9);
          const free = closedStart + closedEnd + 2 * transition < turns - 0.2;
          if (pitch !== undefined && height === undefined && !rows.length && free)
            expect(along.at(turns / 2 + (closedStart - closedEnd) / 2)[0]).closeTo(pitch, 1e-9);
        },
      ),
      { numRuns: runs(400) },
    );
    expect(made, 'not all refused').above(runs(400) / 20);
  });
});
