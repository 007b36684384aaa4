import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { inLong } from './runs';

/** A block 40 × 40 × 20 on the ground, and a body set into it with a clearance. */
async function seated(
  kind: string,
  set: Record<string, string>,
  clearance: string,
  before?: (design: Design) => void,
): Promise<{ design: Design; id: string; taken: number; within: number }> {
  const design = emptyDesign('Seat');
  before?.(design);
  const block = addStep(design, 'block', design.steps.length, {
    width: '40 mm',
    depth: '40 mm',
    height: '20 mm',
  });
  const inner = addStep(design, kind, design.steps.length, set);
  // What is added together is what was there before.
  if (kind === 'add') stepOf(design, inner).from = { bodies: ['cylinder', 'cylinder-2'] };
  const id = addStep(design, 'set-in', design.steps.length, { clearance });
  setInput(design, id, 'body', block);
  stepOf(design, id).from = { body: block, taken: [inner] };
  const { steps } = await evaluate(design, createCache());
  const volume = steps.find((step) => step.id === id)!.results.find(({ name }) => name === 'volume');
  return { design, id, taken: 40 * 40 * 20 - (volume?.value ?? NaN), within: volume?.within ?? 0 };
}

describe('a body that is set in', () => {
  it('leaves a seat as much larger as its clearance: a nut, a pin, a stone, a cone', async () => {
    const c = 0.3;
    const nut = await seated(
      'extrude',
      { height: '10 mm', originZ: '12 mm' },
      `${c} mm`,
      (design) =>
        void addStep(design, 'polygon', 0, { sides: '6', size: '18 mm', across: 'flats', radius: '0 mm' }),
    );
    // A hexagon across its flats 18 + 2c, from c under it up to the top of the block.
    expect(Math.abs(nut.taken - 2 * Math.sqrt(3) * (9 + c) ** 2 * (8 + c))).below(nut.within + 1e-6);
    const pin = await seated('cylinder', { diameter: '10 mm', height: '10 mm', originZ: '5 mm' }, `${c} mm`);
    expect(Math.abs(pin.taken - Math.PI * (5 + c) ** 2 * (10 + 2 * c))).below(pin.within);
    const stone = await seated('ball', { diameter: '12 mm', originZ: '20 mm' }, `${c} mm`);
    expect(Math.abs(stone.taken - (2 / 3) * Math.PI * (6 + c) ** 3)).below(stone.within);
    // A cone 10 high from 6 to 3: its side stands off by c, square to it, and its ends by c.
    const cone = await seated(
      'cone',
      { diameter: '12 mm', top: '6 mm', height: '10 mm', originZ: '5 mm' },
      `${c} mm`,
    );
    const side = c * Math.hypot(1, 0.3);
    const [a, b] = [6 + side + 0.3 * c, 3 + side - 0.3 * c];
    expect(Math.abs(cone.taken - ((Math.PI * (10 + 2 * c)) / 3) * (a * a + a * b + b * b))).below(
      cone.within,
    );
  });

  it('without clearance is only taken away', async () => {
    const pin = await seated('cylinder', { diameter: '10 mm', height: '10 mm', originZ: '5 mm' }, '0 mm');
    expect(Math.abs(pin.taken - Math.PI * 250)).below(pin.within);
  });

  inLong('is a seat for any body: what was put together, bent or twisted', async () => {
    const c = 0.5;
    // Two lengths of one pin are a pin, which is convex (J. Steiner: V + S r + M r² + 4/3 π r³).
    const pin = await seated('add', {}, `${c} mm`, (design) => {
      addStep(design, 'cylinder', 0, { diameter: '12 mm', height: '6 mm', originZ: '4 mm' });
      addStep(design, 'cylinder', 1, { diameter: '12 mm', height: '8 mm', originZ: '8 mm' });
    });
    const [R, h] = [6, 12];
    const [V, S, M] = [Math.PI * R * R * h, 2 * Math.PI * R * (R + h), Math.PI * (h + Math.PI * R)];
    const want = V + S * c + M * c * c + (4 / 3) * Math.PI * c ** 3;
    expect(Math.abs(pin.taken - want), `${pin.taken} ± ${pin.within} for ${want}`).below(pin.within);
    expect(pin.taken / want).closeTo(1, 3e-3);
    // Round a wire along an arc: a tube of the larger radius (Pappus), its ends rounded over.
    const bow = await seated('sweep', {}, `${c} mm`, (design) => {
      addStep(design, 'arc', 0, { radius: '9 mm', angle: '120 deg' });
      addStep(design, 'round', 1, { diameter: '4 mm' });
      addStep(design, 'place', 2, { moveZ: '10 mm' });
      setInput(design, 'place', 'of', 'arc');
    });
    const along = Math.PI * (2 + c) ** 2 * ((9 * 2 * Math.PI) / 3);
    expect(bow.taken).within(along - bow.within, along + 2 * Math.PI * (2 + c) ** 2 * c + bow.within);
    expect(bow.within / along).lessThan(0.05);
    // Twisted, a square: as far from each face.
    const screw = await seated(
      'extrude',
      { height: '10 mm', twist: '30 deg', originZ: '5 mm' },
      `${c} mm`,
      (design) =>
        void addStep(design, 'polygon', 0, { sides: '4', size: '10 mm', across: 'flats', radius: '0 mm' }),
    );
    const square = 10 ** 3 + 600 * c + Math.PI * 30 * c * c + (4 / 3) * Math.PI * c ** 3;
    expect(screw.taken / square).closeTo(1, 0.03);
  });
});
