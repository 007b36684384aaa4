import { expect } from 'chai';
import fc from 'fast-check';
import { createCache, evaluate } from '../src/design/evaluate';
import type { Design } from '../src/design/schema';
import { solidsToSend } from '../src/exchange/solid';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshMass } from '../src/mesh/data/mass';
import { demo } from './demo';
import { faultsOf, NO_FAULTS } from './independent/triangles';
import { inLong, runs } from './runs';

const go = async () => {};

async function sentWithin(design: Design, tolerance: number) {
  const cache = createCache();
  const evaluation = await evaluate(design, cache, go);
  return solidsToSend({ ...design, tolerance: `${tolerance} mm` }, evaluation, cache, go);
}

describe('solids that are sent', () => {
  it('are of copies what is sent of the body itself, where its coils lie on each other, at any tolerance', async () => {
    const row = demo('lid-springs.json');
    const one = { ...row, steps: row.steps.filter(({ kind }) => kind !== 'repeat') };
    await fc.assert(
      fc.asyncProperty(fc.double({ min: 0.015, max: 0.085, noNaN: true }), async (tolerance) => {
        const [alone] = await sentWithin(one, tolerance);
        expect(faultsOf(alone!.mesh)).deep.equal(NO_FAULTS);
        const copies = await sentWithin(row, tolerance);
        expect(copies).lengthOf(5);
        const { mass } = meshMass(alone!.mesh);
        for (const { mesh } of copies) {
          expect([...mesh.triangles]).deep.equal([...alone!.mesh.triangles]);
          expect(meshMass(mesh).mass.volume / mass.volume).closeTo(1, 1e-6);
        }
      }),
      { numRuns: runs(6), examples: [[0.026]] },
    );
  });

  it('are free of themselves where copies stand, too: their places are rounded anew', async () => {
    const row = demo('lid-springs.json');
    row.givens[0]!.value = '0.99031 mm';
    row.givens[1]!.value = '11.556 mm';
    row.steps.find(({ kind }) => kind === 'helix')!.set.diameter = '9.0928 mm';
    const copies = await sentWithin(row, 0.221945);
    expect(copies).lengthOf(5);
    for (const { mesh } of copies) expect(faultsOf(mesh)).deep.equal(NO_FAULTS);
  });

  inLong('are one part where rounding keeps apart what is flush, and free of themselves', async () => {
    const plug = demo('filler-plug.json');
    // The thread, which is put together itself, ends half a millionth below the collar.
    plug.givens[2]!.value = '17.001 mm';
    plug.givens[1]!.value = '39.477 mm';
    plug.steps.find(({ kind }) => kind === 'polygon')!.set.radius = '0.73633 mm';
    for (const tolerance of [0.0239, 0.1]) {
      const [sent] = await sentWithin(plug, tolerance);
      expect(faultsOf(sent!.mesh)).deep.equal(NO_FAULTS);
      expect(inspectMesh(sent!.mesh)).deep.include({ openEdges: 0, euler: 2 });
    }
  });

  inLong('are free of themselves where a groove runs out in a shaft with a blade', async () => {
    const auger = demo('press-auger.json');
    const set = (kind: string, figures: Record<string, string>) =>
      Object.assign(auger.steps.find((step) => step.kind === kind)!.set, figures);
    ['21.774 mm', '58.603 mm', '29.887 mm'].forEach((value, i) => (auger.givens[i]!.value = value));
    set('blade', { thickness: '3.8121 mm', tipThickness: '2.5682 mm', originZ: '7.5333 mm' });
    set('thread', { originZ: '149 mm' });
    set('helix', { pitch: '10.645 mm', originZ: '112 mm' });
    set('round', { diameter: '4.1262 mm' });
    set('groove', { depth: '1.1615 mm' });
    const [sent] = await sentWithin(auger, 0.0773);
    expect(faultsOf(sent!.mesh)).deep.equal(NO_FAULTS);
  });

  it('are free of themselves where what was joined crosses by rounding at first', async () => {
    const [nest] = await sentWithin(demo('nest-spring.json'), 0.09433469);
    expect(faultsOf(nest!.mesh)).deep.equal(NO_FAULTS);
  });
});
