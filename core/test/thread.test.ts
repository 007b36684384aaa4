import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { checkStep, createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { cutterOf, facesOfLoops } from '../src/mesh/cut';
import { cutFigures } from '../src/mesh/cut-figures';
import { inspectMesh } from '../src/mesh/closed';
import type { CombinedBody } from '../src/solid/body';
import { near } from './bodies';
import { complaintsOf } from './helpers';

const go = async () => {};

async function threaded(set: Record<string, string>, design: Design = emptyDesign('Thread')) {
  const id = addStep(design, 'thread', design.steps.length, set);
  const cache = createCache();
  const { steps } = await evaluate(design, cache);
  const result = steps.find((step) => step.id === id)!;
  const { findings } = await checkStep(stepOf(design, id), result, cache);
  const figures = Object.fromEntries(result.figures.map((one) => [one.name, one]));
  return { figures, findings, body: result.value as CombinedBody };
}

/** Depth of the basic profile and half the width of its groove at a depth under the crest, mm (ISO 68-1). */
const depth = (P: number) => (5 / 16) * Math.sqrt(3) * P;
const halfWidth = (P: number, t: number) => (7 / 16) * P - t * Math.tan(Math.PI / 6);

/** Volume between two planes: at each radius the groove takes its width of every pitch. */
function rodVolume(d: number, P: number, L: number): number {
  const n = 4000;
  let groove = 0;
  for (let i = 0; i < n; i++) {
    const t = ((i + 0.5) / n) * depth(P);
    groove += ((2 * Math.PI * (d / 2 - t) * 2 * halfWidth(P, t)) / P) * (depth(P) / n);
  }
  return L * ((Math.PI * d * d) / 4 - groove);
}

describe('a thread', () => {
  for (const [name, set, d, P] of [
    ['M12 coarse', { size: 'M12' }, 12, 1.75],
    ['M24 fine', { size: 'M24', row: 'fine' }, 24, 2],
    ['one of its own, left-handed', { size: 'own', diameter: '40 mm', pitch: '6 mm', hand: 'left' }, 40, 6],
    ['one of three starts', { size: 'own', diameter: '30 mm', pitch: '3 mm', starts: '3' }, 30, 3],
  ] as const)
    it(`has the volume and the profile of the standard: ${name}`, async () => {
      const L = 5.3 * P;
      const { figures, findings, body } = await threaded({ ...set, height: `${L} mm` });
      const want = rodVolume(d, P, L);
      const { value, within } = figures.volume!;
      expect(Math.abs(value - want), `${value} ± ${within} for ${want}`).below(within! + 1e-4 * want);
      expect(findings.map(({ level }) => level)).deep.equal(findings.map(() => 'good'));
      // In a plane through the axis: crests at the outside, roots at the core, and half of each flank at the flank diameter.
      const solid = await body.solid(P / 400, go);
      expect(inspectMesh(solid)).deep.include({ openEdges: 0, euler: 2 });
      const { loops, frame } = cutterOf(solid)({ point: [0, 0, 0], normal: [0, 1, 0] });
      const [face, ...more] = facesOfLoops(loops);
      expect(more).length(0);
      const sides = new Map<string, number>();
      const loop = face!.outline;
      for (let i = 0; i < loop.length; i += 2) {
        const r = Math.abs(loop[i]!);
        if (loop[i + 1]! + frame.origin[2] < 1e-6 || loop[i + 1]! > L - 1e-6) continue;
        const k = (i + 2) % loop.length;
        const [dr, dz] = [Math.abs(loop[k]!) - r, loop[k + 1]! - loop[i + 1]!];
        if (Math.hypot(dr, dz) < P / 50) continue;
        const side = Math.abs(dr) < P / 200 ? (r > d / 2 - depth(P) / 2 ? 'crest' : 'root') : 'flank';
        if (side === 'flank') expect(Math.abs(dz / dr)).closeTo(Math.tan(Math.PI / 6), 0.02);
        if (side === 'crest') expect(r).closeTo(d / 2, P / 200);
        if (side === 'root') expect(r).closeTo(d / 2 - depth(P), P / 200);
        sides.set(side, (sides.get(side) ?? 0) + Math.hypot(dr, dz));
      }
      expect([...sides.keys()].toSorted()).deep.equal(['crest', 'flank', 'root']);
      expect(cutFigures(loops).area).closeTo(
        L * d - (2 * L * (depth(P) * (halfWidth(P, 0) + halfWidth(P, depth(P))))) / P,
        P * P,
      );
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
    const { value, within } = steps.at(-1)!.figures.find(({ name }) => name === 'volume')!;
    // The grooves are as deep as before in a shank that is larger.
    const n = 4000;
    let groove = 0;
    for (let i = 0; i < n; i++) {
      const t = ((i + 0.5) / n) * depth(2.5);
      groove += ((2 * Math.PI * (7.2 - t) * 2 * halfWidth(2.5, t)) / 2.5) * (depth(2.5) / n);
    }
    const want = 24 * 24 * 8 - 8 * (Math.PI * 7.2 ** 2 - groove);
    expect(Math.abs(value - want)).below(within! + 1e-4 * want);
  });

  it('says where its pitch leaves no core', async () => {
    const design = emptyDesign('Thread');
    const id = addStep(design, 'thread', 0, { size: 'own', diameter: '5 mm', pitch: '4 mm' });
    expect((await complaintsOf(design, id)).pitch).match(/leave no core/);
  });
});
