import { expect } from 'chai';
import { compressionSpring, shearStress, type SpringGiven } from '../src/trade/spring/compression';
import { complaintsOf, figureOf, springDesign } from './helpers';

const straight: SpringGiven = {
  shape: { startRadius: 7.2, endRadius: 7.2, turns: 7.5, height: 30.2 },
  wire: 1.8,
  ends: 'ground',
  shear: 81500,
  loadedLength: 20,
};

/** Rate of a conical spring by summing the yield of many thin slices of wire. */
function slicedRate({ shape, wire, shear }: SpringGiven, from: number, to: number): number {
  const slices = 100_000;
  let yields = 0;
  for (let i = 0; i < slices; i++) {
    const turn = from + ((to - from) * (i + 0.5)) / slices;
    const D = 2 * (shape.startRadius + ((shape.endRadius - shape.startRadius) * turn) / shape.turns);
    yields += (8 * D ** 3 * ((to - from) / slices)) / (shear * wire ** 4);
  }
  return 1 / yields;
}

describe('compression springs', () => {
  it('rate, load and corrected stress of a straight spring, worked by hand', () => {
    const spring = compressionSpring(straight);
    const rate = (81500 * 1.8 ** 4) / (8 * 14.4 ** 3 * 5.5);
    expect(spring.rate).closeTo(rate, 1e-9);
    expect(spring.index).closeTo(8, 1e-12);
    expect(spring.activeCoils).closeTo(5.5, 1e-12);
    expect(spring.solidLength).closeTo(13.5, 1e-12);
    const load = rate * (spring.freeLength - 20);
    expect(spring.loaded!.force).closeTo(load, 1e-9);
    // k = (8 + 0.5)/(8 − 0.75) = 1.17241; τ = k·8FD/(πd³)
    expect(spring.loaded!.stress).closeTo((8.5 / 7.25) * ((8 * load * 14.4) / (Math.PI * 1.8 ** 3)), 1e-9);
  });

  it('counts working coils by the ends', () => {
    const active = (ends: SpringGiven['ends']) => compressionSpring({ ...straight, ends }).activeCoils;
    expect(active('open')).equal(7.5);
    expect(active('closed')).equal(5.5);
    expect(active('ground')).equal(5.5);
    expect(compressionSpring({ ...straight, ends: 'closed' }).solidLength).closeTo(15.3, 1e-12);
  });

  it('rate of a cone is that of its slices', () => {
    for (const ends of ['open', 'closed'] as const) {
      const cone: SpringGiven = {
        ...straight,
        ends,
        shape: { startRadius: 15.9, endRadius: 7.1, turns: 5, height: 26 },
      };
      const dead = ends === 'open' ? 0 : 1;
      expect(compressionSpring(cone).rate).closeTo(slicedRate(cone, dead, 5 - dead), 1e-6);
    }
  });

  it('the rate of a cone holds until its widest coil closes; of a straight spring to the end', () => {
    const spring = compressionSpring({ ...straight, ends: 'open' });
    expect(spring.linearTravel).closeTo(spring.freeLength - spring.solidLength, 1e-9);
    const cone = compressionSpring({
      ...straight,
      ends: 'open',
      shape: { startRadius: 16, endRadius: 8, turns: 5, height: 30 },
    });
    expect(cone.linearTravel).below(cone.freeLength - cone.solidLength);
    expect(shearStress(10, 32, 1.8)).above(shearStress(10, 16, 1.8));
  });

  it('coils of a cone that lie within each other take no height', () => {
    const nested = compressionSpring({
      ...straight,
      ends: 'ground',
      shape: { startRadius: 20, endRadius: 8, turns: 5, height: 30 },
    });
    expect(nested.solidLength).closeTo(1.8, 1e-12);
  });

  it('tells the length over its ends, and beside it the one that springs are ordered by', async () => {
    const design = springDesign({
      sweep: { ends: 'open' },
      coil: { diameter: '16 mm', turns: '6', height: '30 mm' },
    });
    const lead = Math.atan2(30, 6 * Math.PI * 16);
    expect(await figureOf(design, 'sweep', 'freeLength')).closeTo(30 + 1.8 * Math.cos(lead), 1e-9);
    expect(await figureOf(design, 'sweep', 'orderedLength')).closeTo((30 / 6) * 6 + 1.8, 1e-9);
  });

  it('asks for coils that work, for a length within the free one, and for a material with a modulus', async () => {
    const sweep = { ends: 'closed' };
    expect(await complaintsOf(springDesign({ coil: { turns: '2' }, sweep }), 'sweep'))
      .to.have.property('ends')
      .match(/more than 2 turns/);
    expect(await complaintsOf(springDesign({ sweep: { ...sweep, loadedLength: '90 mm' } }), 'sweep'))
      .to.have.property('loadedLength')
      .match(/only 33\.\d+ mm long/);
    expect(await complaintsOf(springDesign({ sweep: { ...sweep, material: 'beeswax' } }), 'sweep'))
      .to.have.property('material')
      .match(/No shear modulus/);
    expect(await figureOf(springDesign({ sweep }), 'sweep', 'activeCoils')).equal(4);
  });
});
