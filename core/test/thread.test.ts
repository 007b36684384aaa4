import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { cutterOf, facesOfLoops } from '../src/mesh/cut/cut';
import { cutResults } from '../src/mesh/cut/cut-results';
import { inspectMesh } from '../src/mesh/data/topology';
import type { CombinedBody } from '../src/solid/body/body';
import { near } from './bodies';
import { complaintsOf } from './helpers';
import { inLong, LONG } from './runs';

const go = async () => {};

async function threaded(set: Record<string, string>, design: Design = emptyDesign('Thread')) {
  const id = addStep(design, 'thread', design.steps.length, set);
  const cache = createCache();
  const { steps } = await evaluate(design, cache);
  const result = steps.find((step) => step.id === id)!;
  const { findings } = await checkStep(stepOf(design, id), result, cache);
  const figures = Object.fromEntries(result.results.map((one) => [one.name, one]));
  return { figures, findings, body: result.value as CombinedBody };
}

/** A profile: its depth, half the width of its groove at a depth under the crest, mm, and how its flanks lean. */
interface Shape {
  readonly depth: number;
  half(t: number): number;
  readonly lean: number;
}

/** ISO 68-1. */
const vee = (P: number): Shape => ({
  depth: (5 / 16) * Math.sqrt(3) * P,
  half: (t) => (7 / 16) * P - t * Math.tan(Math.PI / 6),
  lean: Math.PI / 6,
});
/** DIN 103-1, with the play of that pitch. */
const trapeze = (P: number, play: number): Shape => ({
  depth: P / 2 + play,
  half: (t) => P / 4 + (P / 4 - t) * Math.tan(Math.PI / 12),
  lean: Math.PI / 12,
});
/** DIN 405-1. */
function knuckle(P: number): Shape {
  const R = 0.238507 * P;
  const arc = R * (1 - Math.sin(Math.PI / 12));
  const off = (t: number) => Math.sqrt(R * R - (R - t) ** 2);
  const half = (t: number) =>
    t < arc
      ? P / 2 - off(t)
      : t > P / 2 - arc
        ? off(P / 2 - t)
        : P / 4 + (P / 4 - t) * Math.tan(Math.PI / 12);
  return { depth: P / 2, half, lean: Math.PI / 12 };
}

/** What grooves take of a length of a rod: at each radius their width of every pitch. */
function grooveVolume(d: number, P: number, L: number, { depth, half }: Shape): number {
  const n = 4000;
  let groove = 0;
  for (let i = 0; i < n; i++) {
    const t = ((i + 0.5) / n) * depth;
    groove += ((2 * Math.PI * (d / 2 - t) * 2 * half(t)) / P) * (depth / n);
  }
  return L * groove;
}
const rodVolume = (d: number, P: number, L: number, shape: Shape): number =>
  (L * Math.PI * d * d) / 4 - grooveVolume(d, P, L, shape);

/** Outline of a cut through the axis: each place of it lies as far from the middle of its groove as the profile says. */
function expectProfile(
  outline: ArrayLike<number>,
  low: number,
  { d, P, L, shape }: { d: number; P: number; L: number; shape: Shape },
): void {
  for (const side of [1, -1]) {
    const places: [t: number, z: number][] = [];
    for (let i = 0; i < outline.length; i += 2) {
      const [r, z] = [side * outline[i]!, outline[i + 1]! + low];
      if (r > d / 4 && z > 1e-6 && z < L - 1e-6) places.push([d / 2 - r, z]);
    }
    expect(Math.max(...places.map(([t]) => t))).closeTo(shape.depth, P / 200);
    expect(Math.min(...places.map(([t]) => t))).closeTo(0, P / 200);
    // Grooves have their middle in the middle of their roots.
    const wrapped = (z: number) => z - P * Math.round(z / P);
    const deep = places.filter(([t]) => t > shape.depth - P / 400).map(([, z]) => z);
    const off = deep.map((z) => wrapped(z - deep[0]!));
    const middle = deep[0]! + (Math.min(...off) + Math.max(...off)) / 2;
    // Places of flats and of the ends may lie anywhere there.
    const flanks = places.filter(([t]) => t > P / 100 && t < shape.depth - P / 100);
    expect(flanks.length).greaterThan((1.6 * L) / P);
    for (const [t, z] of flanks)
      expect(Math.abs(wrapped(z - middle)), `${t} mm under the crest`).closeTo(shape.half(t), P / 100);
  }
}

const OWN = { size: 'own' };

/** What others have, too: another row of sizes, another number of starts. */
const RARER = new Set(['M24 fine', 'a trapezoid one of two starts', 'a round one']);

describe('a thread', () => {
  for (const [name, set, d, P, shape] of [
    ['M12 coarse', { size: 'M12' }, 12, 1.75, vee(1.75)],
    ['M24 fine', { size: 'M24', row: 'fine' }, 24, 2, vee(2)],
    [
      'one of its own, left-handed',
      { ...OWN, diameter: '40 mm', pitch: '6 mm', hand: 'left' },
      40,
      6,
      vee(6),
    ],
    ['one of three starts', { ...OWN, diameter: '30 mm', pitch: '3 mm', starts: '3' }, 30, 3, vee(3)],
    ['Tr20', { size: 'Tr20' }, 20, 4, trapeze(4, 0.25)],
    [
      'a trapezoid one of two starts',
      { ...OWN, profile: 'trapezoid', diameter: '50 mm', pitch: '8 mm', starts: '2' },
      50,
      8,
      trapeze(8, 0.5),
    ],
    ['a round one', { ...OWN, profile: 'round', diameter: '40 mm', pitch: '6 mm' }, 40, 6, knuckle(6)],
  ] as const)
    (RARER.has(name) ? inLong : it)(`has the volume and the profile of the standard: ${name}`, async () => {
      const L = (LONG ? 5.3 : 2.3) * P;
      const { figures, findings, body } = await threaded({ ...set, height: `${L} mm` });
      const want = rodVolume(d, P, L, shape);
      const { value, within } = figures.volume!;
      expect(Math.abs(value - want), `${value} ± ${within} for ${want}`).below(within! + 1e-4 * want);
      expect(findings.map(({ level }) => level)).deep.equal(findings.map(() => 'good'));
      // In a plane through the axis: crests at the outside, roots at the core, and half of each flank at the flank diameter.
      const solid = await body.solid(P / (LONG ? 400 : 150), go);
      expect(inspectMesh(solid)).deep.include({ openEdges: 0, euler: 2 });
      const { loops, frame } = cutterOf(solid)({ point: [0, 0, 0], normal: [0, 1, 0] });
      const [face, ...more] = facesOfLoops(loops);
      expect(more).length(0);
      expectProfile(face!.outline, frame.origin[2], { d, P, L, shape });
      let groove = 0;
      for (let i = 0; i < 400; i++)
        groove += (2 * shape.half(((i + 0.5) / 400) * shape.depth) * shape.depth) / 400;
      expect(cutResults(loops).area).closeTo(L * d - (2 * L * groove) / P, P * P);
    });

  it('tells the diameters and the stress area of the tables', async () => {
    const { figures } = await threaded({ size: 'M12', height: '4 mm' });
    // DIN 13-1 and ISO 898-1 for M12.
    expect(figures.pitchDiameter!.value).closeTo(10.863, 5e-4);
    expect(figures.minorDiameter!.value).closeTo(10.106, 5e-4);
    expect(figures.rootDiameter!.value).closeTo(9.853, 5e-4);
    expect(figures.stressArea!.value).closeTo(84.3, 0.05);
    const { figures: fine } = await threaded({ size: 'M20', row: 'fine', height: '4 mm' });
    expect(fine.pitchDiameter!.value).closeTo(19.026, 5e-4);
    expect(fine.stressArea!.value).closeTo(272, 0.5);
    near(fine.pitch!.value, 1.5);
  });

  it('cuts an inner thread where it is taken away, larger by its clearance', async () => {
    const design = emptyDesign('Nut');
    addStep(design, 'block', 0, { width: '24 mm', depth: '24 mm', height: '8 mm' });
    const id = addStep(design, 'thread', 1, {
      size: 'own',
      diameter: '14 mm',
      pitch: '2.5 mm',
      height: '12 mm',
      originZ: '-2 mm',
      clearance: '0.4 mm',
    });
    const nut = addStep(design, 'subtract', 2);
    setInput(design, nut, 'body', 'block');
    stepOf(design, nut).from = { body: 'block', taken: [id] };
    const { steps } = await evaluate(design, createCache());
    const { value, within } = steps.at(-1)!.results.find(({ name }) => name === 'volume')!;
    // The grooves are as deep as before in a shank that is larger.
    const want = 24 * 24 * 8 - (8 * Math.PI * 7.2 ** 2 - grooveVolume(14.4, 2.5, 8, vee(2.5)));
    expect(Math.abs(value - want)).below(within! + 1e-4 * want);
  });

  it('tells the diameters of trapezoid threads', async () => {
    const { figures } = await threaded({ size: 'Tr20', height: '9 mm' });
    // DIN 103-1 for Tr 20 × 4.
    near(figures.pitchDiameter!.value, 18);
    near(figures.rootDiameter!.value, 15.5);
    near(figures.minorDiameter!.value, 16);
    expect(figures.stressArea).equal(undefined);
    expect((await threaded({ size: 'Tr60', height: '9 mm' })).figures.rootDiameter!.value).closeTo(50, 1e-9);
  });

  it('grows from nothing and runs out', async () => {
    const [d, P, L] = [20, 4, 40];
    const shape = trapeze(P, 0.25);
    const set = { size: 'Tr20', height: `${L} mm`, runIn: '6 mm', runOut: '10 mm' };
    const { figures, body } = await threaded(set);
    // At each height the groove is drawn smaller towards the crest by the part it has grown to.
    let groove = 0;
    const n = 400;
    for (let i = 0; i < n; i++) {
      const z = ((i + 0.5) / n) * L;
      const size = Math.min(1, 0.02 + (0.98 * z) / 6, 0.02 + (0.98 * (L - z)) / 10);
      for (let j = 0; j < n; j++) {
        const t = ((j + 0.5) / n) * shape.depth;
        groove +=
          ((2 * Math.PI * (d / 2 - size * t) * 2 * size * shape.half(t) * size) / P) *
          (shape.depth / n) *
          (L / n);
      }
    }
    const want = L * Math.PI * 100 - groove;
    const { value, within } = figures.volume!;
    expect(Math.abs(value - want), `${value} ± ${within} for ${want}`).below(within! + 3e-4 * want);
    // Both ends are whole rounds.
    const solid = await body.solid(0.02, go);
    for (const z of [0.02, L - 0.02]) {
      const { loops } = cutterOf(solid)({ point: [0, 0, z], normal: [0, 0, 1] });
      expect(cutResults(loops).area / (Math.PI * 100)).within(0.998, 1);
    }
    const { figures: through } = await threaded({ size: 'Tr20', height: `${L} mm` });
    expect(through.volume!.value).lessThan(value - 100);
  });

  it('says where its pitch leaves no core, and where it is too short to run out', async () => {
    const design = emptyDesign('Thread');
    const id = addStep(design, 'thread', 0, { size: 'own', diameter: '5 mm', pitch: '4 mm' });
    expect((await complaintsOf(design, id)).pitch).match(/leave no core/);
    const short = emptyDesign('Thread');
    const brief = addStep(short, 'thread', 0, { size: 'Tr8', height: '5 mm', runIn: '2 mm', runOut: '3 mm' });
    expect((await complaintsOf(short, brief)).runOut).match(/must stay under 5 mm/);
  });
});
