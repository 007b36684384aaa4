import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { checkStep, createCache, evaluate } from '../src/design/evaluate';
import type { Row } from '../src/design/schema';
import { monotone } from '../src/geometry/monotone';
import { integrate } from '../src/geometry/numeric';
import { distance } from '../src/geometry/vector';
import type { Path } from '../src/path/path';
import { complaintsOf, figureOf, run, valueOf, pathDesign } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const coil = (set: Record<string, string>, stations: Row[] = [], without: string[] = []) =>
  pathDesign({ kind: 'stationed', set: { diameter: '20 mm', ...set }, rows: { stations }, without });
const pathOf = async (design: ReturnType<typeof coil>) => (await valueOf(design, 'stationed')) as Path;
const filled = async (design: ReturnType<typeof coil>) =>
  (await run(design)).steps.find(({ id }) => id === 'stationed')!.filled!.stations!;

/** Least distance of samples a coil apart, to the samples' fineness: nothing of the product's own search. */
function nearest(path: Path, from: number, to: number): number {
  let least = Infinity;
  const at = (turn: number) => {
    let rest = 2 * Math.PI * turn;
    for (const piece of path.pieces) {
      if (rest <= piece.span) {
        const d = new Float64Array(6);
        piece.first(rest, d);
        return [d[0]!, d[1]!, d[2]!] as const;
      }
      rest -= piece.span;
    }
    throw new Error('beyond the end');
  };
  for (let a = from; a <= to + 1e-9; a += 0.02)
    for (let b = a + 0.9; b <= a + 1.1; b += 0.0005) least = Math.min(least, distance(at(a), at(b)));
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
