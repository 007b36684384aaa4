import { expect } from 'chai';
import { addStep, setInput } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { integrate } from '../src/geometry/numeric';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import type { CombinedBody } from '../src/solid/body/body';
import { complaintsOf } from './helpers';

const go = async () => {};
type Made = readonly [kind: string, set: Record<string, string>];

/** A body, a path on it and a section, in this order; the groove takes them. */
function grooveDesign(made: readonly Made[], set: Record<string, string>): Design {
  const design = emptyDesign('Grooved');
  const ids = made.map(([kind, figures]) => addStep(design, kind, design.steps.length, figures));
  addStep(design, 'groove', design.steps.length, set);
  ['body', 'path', 'section'].forEach((slot, i) => setInput(design, 'groove', slot, ids.at(i - 3)!));
  return design;
}

async function grooved(made: readonly Made[], set: Record<string, string> = {}) {
  const { steps } = await evaluate(grooveDesign(made, set), createCache());
  const { value, results } = steps.at(-1)!;
  if (!value) throw new Error(JSON.stringify(steps.map(({ id, complaints }) => [id, complaints])));
  return { body: value as CombinedBody, figure: (name: string) => results.find((one) => one.name === name)! };
}

const DRUM: Made = ['cylinder', { diameter: '40 mm', height: '50 mm' }];
const COIL: Made = ['helix', { diameter: '40 mm', turns: '3', height: '30 mm', originZ: '10 mm' }];
const rope: Made = ['round', { diameter: '6 mm' }];

/** Half of the angle at which two circles cross, and what they share: of the drum and a groove, near enough for a thin one. */
const lens = (R: number, r: number, d: number): number => {
  const a = Math.acos((d * d + R * R - r * r) / (2 * d * R));
  const b = Math.acos((d * d + r * r - R * R) / (2 * d * r));
  return R * R * (a - Math.sin(2 * a) / 2) + r * r * (b - Math.sin(2 * b) / 2);
};

describe('a groove', () => {
  it('in the face of a plate takes what the section holds under it, by Pappus', async () => {
    const plate: Made = ['block', { width: '80 mm', depth: '80 mm', height: '20 mm' }];
    const ring: Made = ['loop', { shape: 'circle', size: '40 mm', originZ: '20 mm' }];
    const { body, figure } = await grooved([plate, ring, ['rectangle', { width: '6 mm', height: '4 mm' }]], {
      depth: '2.5 mm',
    });
    const taken = 2 * Math.PI * 20 * 4 * 2.5;
    const volume = figure('volume');
    expect(Math.abs(volume.value - (80 * 80 * 20 - taken))).lessThan(volume.within!);
    expect(volume.within! / taken).lessThan(0.01);
    expect(figure('grooveLength').value).closeTo(2 * Math.PI * 20, 1e-9);
    const made = await body.solid(0.05, go);
    expect(inspectMesh(made)).deep.include({ openEdges: 0, degenerate: 0 });
    expect(await meshCrossing(made, go)).equal(undefined);
  });

  it('round a drum goes in towards the axis, whatever the path is that runs round it', async () => {
    const section: Made = ['rectangle', { width: '6 mm', height: '4 mm' }];
    // A ring 4 mm wide between radii of 17.5 and 20 mm.
    const taken = Math.PI * (20 ** 2 - 17.5 ** 2) * 4;
    for (const path of [
      ['loop', { shape: 'circle', size: '40 mm', originZ: '20 mm' }],
      ['loop', { shape: 'circle', size: '40 mm', originZ: '20 mm', hand: 'left' }],
      ['helix', { diameter: '40 mm', turns: '1', height: '0 mm', pitch: '', originZ: '20 mm' }],
    ] as Made[]) {
      const set = Object.fromEntries(Object.entries(path[1]).filter(([, text]) => text));
      const { figure } = await grooved([DRUM, [path[0], set], section], { depth: '2.5 mm' });
      const volume = figure('volume');
      expect(Math.abs(volume.value - (Math.PI * 20 ** 2 * 50 - taken)), path[0]).lessThan(
        volume.within! + 0.5,
      );
      expect(volume.within!, path[0]).lessThan(0.02 * taken);
      expect(figure('grooveWidth').value).closeTo(4, 1e-9);
    }
  });

  it('on a cone goes in square to its side', async () => {
    const section: Made = ['rectangle', { width: '6 mm', height: '4 mm' }];
    const cone: Made = ['cone', { diameter: '60 mm', top: '20 mm', height: '40 mm' }];
    const ring: Made = ['loop', { shape: 'circle', size: '40 mm', originZ: '20 mm' }];
    const { figure } = await grooved([cone, ring, section], { depth: '2.5 mm' });
    // Pappus: 10 mm² whose centroid lies 1.25 mm under the side, which comes in by 20 mm over its height of 40.
    const lean = Math.atan2(20, 40);
    const radius = 20 - 1.25 * Math.cos(lean);
    const whole = (Math.PI * 40 * (30 ** 2 + 30 * 10 + 10 ** 2)) / 3;
    expect(figure('volume').value).closeTo(
      whole - 2 * Math.PI * radius * 10,
      0.01 * 2 * Math.PI * radius * 10,
    );
  });

  it('that is straight goes in square to the face it lies on, flat or round', async () => {
    const section: Made = ['rectangle', { width: '6 mm', height: '4 mm' }];
    const line: Made = ['run', { by: 'points' }];
    const design = (body: Made, x: string, z: string, ends: readonly [string, string], along: 'y' | 'z') => {
      const made = grooveDesign([body, line, section], { depth: '2.5 mm' });
      const run = made.steps.find(({ kind }) => kind === 'run')!;
      run.rows = {
        points: ends.map((end) => ({ x, y: along === 'y' ? end : '0 mm', z: along === 'y' ? z : end })),
      };
      return made;
    };
    const volumeOf = async (made: Design) => {
      const { steps } = await evaluate(made, createCache());
      return steps.at(-1)!.results.find(({ name }) => name === 'volume')!.value;
    };
    const plate: Made = ['block', { width: '80 mm', depth: '60 mm', height: '20 mm' }];
    expect(await volumeOf(design(plate, '5 mm', '20 mm', ['-35 mm', '35 mm'], 'y'))).closeTo(
      80 * 60 * 20 - 60 * 4 * 2.5,
      0.5,
    );
    // A keyway in a shaft: under the chord of 4 mm a little less than its depth is taken.
    const R = 20;
    const half = Math.asin(2 / R);
    const bow = R * R * (half - Math.sin(half) * Math.cos(half));
    const taken = (4 * (R * Math.cos(half) - (R - 2.5)) + bow) * 50;
    expect(await volumeOf(design(DRUM, '20 mm', '', ['-5 mm', '55 mm'], 'z'))).closeTo(
      Math.PI * R * R * 50 - taken,
      0.5,
    );
  });

  it('too deep for its section says which side is which, and offers to turn it', async () => {
    const flat: Made = ['rectangle', { width: '2 mm', height: '6 mm' }];
    const deep = (set: Record<string, string>) =>
      grooveDesign([DRUM, ['loop', { shape: 'circle', size: '40 mm', originZ: '20 mm' }], flat], set);
    const told = await complaintsOf(deep({ depth: '3 mm' }), 'groove');
    expect(told.depth).match(/2 mm deep and 6 mm wide; at a depth of 3 mm all of it is below the surface/);
    const { steps } = await evaluate(deep({ depth: '3 mm' }), createCache());
    const [mend] = steps.at(-1)!.complaints[0]!.mends!;
    const { steps: turned } = await evaluate(deep({ depth: '3 mm', ...mend!.set }), createCache());
    expect(turned.at(-1)!.results.find(({ name }) => name === 'grooveWidth')!.value).closeTo(2, 1e-9);
    const taken = Math.PI * (20 ** 2 - 17 ** 2) * 2;
    expect(turned.at(-1)!.results.find(({ name }) => name === 'volume')!.value).closeTo(
      Math.PI * 20 ** 2 * 50 - taken,
      0.01 * taken,
    );
  });

  it('along a coil is as deep as it is said to be, and laid on it stands as high as it is', async () => {
    const { body } = await grooved([DRUM, COIL, rope], { depth: '2 mm' });
    const made = await body.solid(0.02, go);
    const groove = made.groups.filter(({ leaf }) => leaf === 1);
    let least = Infinity;
    for (const { first, count } of groove)
      for (let i = 3 * first; i < 3 * (first + count); i++) {
        const v = 3 * made.triangles[i]!;
        least = Math.min(least, Math.hypot(made.positions[v]!, made.positions[v + 1]!));
      }
    expect(least).closeTo(18, 0.02);
    expect(inspectMesh(made)).deep.include({ openEdges: 0 });
    const laid = await grooved([DRUM, COIL, rope], { what: 'laid' });
    const high = laid.body.extent[1][0];
    expect(high).closeTo(20 + 6 * 0.85, 0.02);
    expect(laid.figure('volume').value).greaterThan(Math.PI * 400 * 50);
  });

  it('runs in and out: its depth grows along its length', async () => {
    const { body, figure } = await grooved([DRUM, COIL, rope], {
      depth: '2 mm',
      runIn: '40 mm',
      runOut: '60 mm',
    });
    const made = await body.solid(0.02, go);
    // Of a coil that rises 10 mm a turn: the length of a place follows from its height.
    const long = Math.hypot(2 * Math.PI * 20, 10) / 10;
    const deepest = (s: number) => {
      const z = 10 + s / long;
      const about = (2 * Math.PI * (z - 10)) / 10;
      let least = 20;
      for (let i = 0; i < made.positions.length; i += 3) {
        const [x, y, h] = [made.positions[i]!, made.positions[i + 1]!, made.positions[i + 2]!];
        const off = Math.atan2(Math.sin(Math.atan2(y, x) - about), Math.cos(Math.atan2(y, x) - about));
        if (Math.abs(off) < 0.06 && Math.abs(h - z) < 0.5) least = Math.min(least, Math.hypot(x, y));
      }
      return 20 - least;
    };
    expect(deepest(20)).closeTo(1, 0.12);
    expect(deepest(190)).closeTo(2, 0.05);
    const end = figure('grooveLength').value;
    expect(deepest(end - 30)).closeTo(1, 0.12);
    // About what a lens of that depth takes, summed along it.
    const size = (s: number) => Math.min(1, 0.02 + (0.98 * s) / 40, 0.02 + (0.98 * (end - s)) / 60);
    const taken = [0, 40, end - 60].reduce(
      (sum, from, i, all) =>
        sum +
        integrate((s) => lens(1e4, 3 * size(s), 1e4 + 3 * size(s) - 2 * size(s)), from, all[i + 1] ?? end, 4),
      0,
    );
    const got = Math.PI * 400 * 50 - figure('volume').value;
    expect(got / taken).within(0.93, 1.03);
  });

  it('says what cannot be', async () => {
    const says = (made: readonly Made[], set: Record<string, string>) =>
      complaintsOf(grooveDesign(made, set), 'groove');
    expect((await says([DRUM, COIL, rope], { depth: '7 mm' })).depth).match(/section is 6 mm deep/);
    expect((await says([DRUM, COIL, rope], { runIn: '300 mm', runOut: '200 mm' })).runOut).match(
      /must stay under 378/,
    );
    const space: Made = ['run', {}];
    const design = grooveDesign([DRUM, space, rope], {});
    design.steps.find(({ kind }) => kind === 'run')!.rows = {
      points: [
        ['0', '0', '0'],
        ['10', '0', '0'],
        ['10', '10', '0'],
        ['10', '10', '10'],
      ].map(([x, y, z]) => ({ x: `${x} mm`, y: `${y} mm`, z: `${z} mm`, radius: '2 mm' })),
    };
    expect((await complaintsOf(design, 'groove')).path).match(/^The surface this path lies on is not known/);
  });
});
