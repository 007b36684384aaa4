import { expect } from 'chai';
import fc from 'fast-check';
import { setClearance } from '../src/check/between';
import { selfClearance } from '../src/check/clearance';
import { closestNear } from '../src/check/closest';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import { sayWords } from '../src/measure/format';
import { runNow } from '../src/geometry/task';
import { coilNeighbours } from '../src/path/coil';
import { stationLength } from '../src/path/sample';
import { sub } from '../src/geometry/vector';
import type { Path } from '../src/path/path';
import type { Design } from '../src/design/schema';
import { points } from './bodies';
import { laid, pathOf, springDesign, type Laid } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const poll = async () => {};

/**
 * Least distance over all pairs of fine samples, even in angle, more than 0.6 turns apart: no tree, no
 * refinement. Also the longest step between samples.
 */
function bruteForce(path: Path, samples: number): { distance: number; step: number } {
  const points = Array.from(
    { length: samples + 1 },
    (_x, i) => path.at(stationLength(path, [samples], i)).position,
  );
  const apart = Math.ceil((0.6 / path.coil!.shape.turns) * samples);
  let distance = Infinity;
  let step = 0;
  for (let i = 0; i <= samples; i++) {
    if (i > 0) step = Math.max(step, Math.hypot(...sub(points[i]!, points[i - 1]!)));
    for (let j = i + apart; j <= samples; j++)
      distance = Math.min(distance, Math.hypot(...sub(points[i]!, points[j]!)));
  }
  return { distance, step };
}

async function checked(design: Design, id = 'sweep') {
  const cache = createCache();
  const evaluation = await evaluate(design, cache);
  const i = design.steps.findIndex((step) => step.id === id);
  return checkStep(design.steps[i]!, evaluation.steps[i]!, cache);
}

describe('clearance of coils', () => {
  const coils = fc.record({
    diameter: evenly(10, 30),
    end: evenly(10, 30),
    turns: evenly(1.8, 6),
    pitch: evenly(1, 6),
  });

  it('is what brute force finds, also on cones', async () => {
    await fc.assert(
      fc.asyncProperty(coils, async ({ diameter, end, turns, pitch }) => {
        const design = springDesign({
          wire: '0.3 mm',
          without: ['height'],
          coil: {
            diameter: `${diameter} mm`,
            taper: 'diameter',
            endDiameter: `${end} mm`,
            turns: String(turns),
            pitch: `${pitch} mm`,
          },
        });
        const path = await pathOf(design);
        const found = await selfClearance(path, [400], 1000, poll);
        const brute = bruteForce(path, 1500);
        // Sampling can only overestimate, by up to about step²/2d.
        expect(found.distance).below(brute.distance + 1e-9);
        expect(brute.distance - found.distance).below((0.6 * brute.step ** 2) / found.distance + 1e-6);
        expect(coilNeighbours(path.coil!.shape).distance).closeTo(found.distance, 1e-6);
      }),
      { numRuns: runs(40) },
    );
  });

  it('meets the touching condition √((2r sin(δ/2))² + (cδ)²) of a straight coil to 1e-9', async () => {
    const path = await pathOf(springDesign({ coil: { diameter: '20 mm', turns: '6', height: '30 mm' } }));
    const c = 30 / (12 * Math.PI);
    let delta = 2 * Math.PI;
    for (let i = 0; i < 60; i++) {
      // Newton on the derivative of the squared distance: 2r² sin δ + 2c²δ = 0.
      delta -= (200 * Math.sin(delta) + 2 * c * c * delta) / (200 * Math.cos(delta) + 2 * c * c);
    }
    const expected = Math.sqrt(200 * (1 - Math.cos(delta)) + (c * delta) ** 2);
    const found = await selfClearance(path, [300], 1000, poll);
    expect(found.distance).closeTo(expected, 1e-9);
    expect(coilNeighbours(path.coil!.shape).distance).closeTo(expected, 1e-9);
  });

  it('a steep helix, or less than half a turn, has no neighbour', async () => {
    for (const coil of [
      { turns: '3', height: '300 mm' },
      { turns: '0.4', height: '4 mm' },
    ]) {
      const path = await pathOf(springDesign({ wire: '0.5 mm', coil: { diameter: '16 mm', ...coil } }));
      expect((await selfClearance(path, [200], 1000, poll)).distance).equal(Infinity);
    }
  });

  it('gives way when the work is no longer wanted', async () => {
    const path = await pathOf(
      springDesign({ coil: { diameter: '20 mm', turns: '1500', height: '6000 mm' } }),
    );
    const stop = async () => {
      throw new Error('stop');
    };
    let failed = '';
    await selfClearance(path, [60_000], 1000, stop).catch((error: Error) => (failed = error.message));
    expect(failed).equal('stop');
  });
});

/** Least distance of two paths, from places even in length looked at ever closer about the nearest pair: no slopes. */
function leastApart(one: Path, other: Path): number {
  const each = 200;
  const on = ({ length, closed }: Path, s: number) =>
    closed ? ((s % length) + length) % length : Math.min(length, Math.max(0, s));
  let least = Infinity;
  let [a, b, wideA, wideB] = [one.length / 2, other.length / 2, one.length, other.length];
  for (let round = 0; round < 8; round++) {
    const places = (path: Path, middle: number, wide: number) =>
      Array.from({ length: each + 1 }, (_x, i) => {
        const s = on(path, middle + wide * (i / each - 0.5));
        return { s, at: path.at(s).position };
      });
    const [mine, theirs] = [places(one, a, wideA), places(other, b, wideB)];
    for (const p of mine)
      for (const q of theirs) {
        const apart = Math.hypot(...sub(p.at, q.at));
        if (apart < least) [least, a, b] = [apart, p.s, q.s];
      }
    wideA *= 0.04;
    wideB *= 0.04;
  }
  return least;
}

describe('how near paths of a set come to each other', () => {
  const at = evenly(-20, 20);
  const place = fc.tuple(at, at, at);
  const paths: fc.Arbitrary<Laid> = fc.oneof(
    // With sharp corners, and with bends.
    fc
      .tuple(fc.array(place, { minLength: 2, maxLength: 5 }), fc.constantFrom('0 mm', '0.4 mm'))
      .map(([through, radius]): Laid => ({
        kind: 'run',
        set: { by: 'points', radius },
        rows: { points: points(...through) },
      })),
    fc
      .array(place, { minLength: 3, maxLength: 6 })
      .map((through): Laid => ({ kind: 'smooth', rows: { points: points(...through) } })),
    evenly(10, 60).map((size): Laid => ({ kind: 'loop', set: { size: `${size} mm` } })),
    fc.tuple(evenly(5, 40), evenly(10, 60)).map(([diameter, height]): Laid => ({
      kind: 'helix',
      set: { diameter: `${diameter} mm`, turns: '1.7', height: `${height} mm` },
    })),
  );

  it('is what looking everywhere finds, round corners and from piece to piece too', async () => {
    let met = 0;
    await fc.assert(
      fc.asyncProperty(paths, paths, async (first, second) => {
        const both = await Promise.all([first, second].map((one) => laid(one).catch(() => undefined)));
        fc.pre(both.every((one) => one !== undefined));
        const [one, other] = both as [Path, Path];
        const found = (await setClearance([one, other], 1000, poll))!;
        const least = leastApart(one, other);
        expect(found.distance).closeTo(least, 1e-6);
        met++;
      }),
      { numRuns: runs(40) },
    );
    expect(met).least(runs(10));
  });

  it('is found from any piece of a bow that comes near once, with bends or with sharp corners', async () => {
    const other = await laid({ kind: 'run', rows: { points: points([0, -30, -4], [1, 40, -5]) } });
    for (const radius of ['0 mm', '1 mm'])
      for (const lowest of [-6.3, 0, 2.5, 11]) {
        const through = [-16, -11, -6, -1, 4, 9, 14].map(
          (x) => [x, 0.2 * x, (x - lowest) ** 2 / 20] as const,
        );
        const bow = await laid({
          kind: 'run',
          set: { by: 'points', radius },
          rows: { points: points(...through) },
        });
        const least = leastApart(bow, other);
        for (const [k, { span }] of bow.pieces.entries()) {
          const from = { k, u: 0.3 * span };
          const to = { k: 0, u: other.length * (k % 2) };
          expect(runNow(closestNear(bow, other, from, to)).distance).closeTo(least, 1e-6);
        }
      }
  });
});

describe('findings and limits of a spring', () => {
  const clear = { diameter: '16 mm', turns: '8', height: '32 mm' };

  it('says that coils cut into each other, by how much, where, and what would clear', async () => {
    const { findings } = await checked(springDesign({ wire: '2 mm', coil: { ...clear, height: '12 mm' } }));
    const found = findings.find(({ name }) => name === 'clearance')!;
    expect(found.level).equal('fault');
    expect(found.overlaps).equal(true);
    expect(found.margin).below(-0.5);
    expect(found.place).to.have.length(3);
    expect(sayWords(found.says, 'mm')).match(/cut into each other by 0\.50\d\d mm/);
    expect(sayWords(found.detail!, 'mm')).match(/worst at turn \d/);
  });

  it('gives limits at which the coils just touch', async () => {
    const design = springDesign({ wire: '2 mm', coil: clear });
    const { limits } = await checked(design);
    expect(limits.map(({ field }) => field)).to.have.members(['pitch', 'height', 'turns', 'diameter']);
    for (const { step, field, value, side } of limits) {
      const unit = field === 'turns' ? '' : ' mm';
      for (const [by, level] of [
        [side === 'most' ? 0.999 : 1.001, 'good'],
        [side === 'most' ? 1.001 : 0.999, 'fault'],
      ] as const) {
        const changed = structuredClone(design);
        const { set } = changed.steps.find(({ id }) => id === step)!;
        if (field === 'pitch') delete set.height;
        set[field] = `${value * by}${unit}`;
        const finding = (await checked(changed)).findings.find(({ name }) => name === 'clearance')!;
        // A thousandth beyond the limit is within the band called touching; both are faults.
        expect(finding.level, `${field} × ${by}`).equal(
          level === 'good' && Math.abs(finding.margin) < 0.002 ? 'fault' : level,
        );
      }
    }
  });

  it('limits hold on a cone given by its outside, where the wire changes the mean diameter too', async () => {
    const design = springDesign({
      wire: '2 mm',
      coil: {
        diameter: '30 mm',
        basis: 'outer',
        taper: 'diameter',
        endDiameter: '18 mm',
        turns: '6',
        height: '30 mm',
        heightBasis: 'overall',
      },
    });
    const { limits } = await checked(design);
    const wire = limits.find(({ field }) => field === 'diameter')!;
    const thick = structuredClone(design);
    thick.steps[0]!.set.diameter = `${wire.value} mm`;
    const path = await pathOf(thick);
    expect((await selfClearance(path, [600], 1000, poll)).distance).closeTo(wire.value, 1e-5);
  });

  it('a wire as thick as its bend folds over itself, and is told so with the radius it bends to', async () => {
    const { findings } = await checked(
      springDesign({ wire: '8 mm', coil: { diameter: '7 mm', turns: '2', height: '10 mm' } }),
    );
    const fold = findings.find(({ name }) => name === 'fold')!;
    expect(fold).include({ level: 'fault', overlaps: true });
    // A helix of radius 3.5 and pitch 5 bends to r + c²/r, c being the rise a radian.
    expect(fold.value).closeTo(3.5 + (5 / 2 / Math.PI) ** 2 / 3.5, 1e-9);
    expect(fold.limit).closeTo(4, 1e-6);
    expect(sayWords(fold.says, 'mm')).match(/folds over itself at/);
  });

  it('notes an index that is hard to coil, and a load beyond solid', async () => {
    const { findings } = await checked(
      springDesign({
        wire: '0.5 mm',
        coil: { ...clear, diameter: '16 mm' },
        duty: { ends: 'closed', loadedLength: '4 mm' },
      }),
      'compression',
    );
    expect(findings.find(({ name }) => name === 'index')!.level).equal('note');
    expect(findings.find(({ name }) => name === 'solid')!.level).equal('fault');
  });
});
