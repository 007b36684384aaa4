import { expect } from 'chai';
import { MATERIALS, MATERIAL_IDS } from '../src/measure/materials';
import { report } from '../src/exchange/report';
import { springDesign } from './helpers';

describe('materials', () => {
  it('have densities of the world, and sources', () => {
    for (const id of MATERIAL_IDS) {
      const { density, source, look } = MATERIALS[id];
      expect(density).within(0.5, 23);
      expect(source).not.equal('');
      expect(look[0]).match(/^#[0-9a-f]{6}$/);
    }
  });

  it('of springs obey G = E / 2(1 + ν) with a Poisson ratio that metals have', () => {
    for (const id of MATERIAL_IDS) {
      const stuff = MATERIALS[id];
      if (!('shear' in stuff)) continue;
      expect(stuff.youngs / (2 * stuff.shear) - 1, stuff.name).within(0.24, 0.45);
    }
  });
});

describe('report', () => {
  it('names every figure by step, with its unit, and tells faults in words', async () => {
    const told = await report(springDesign({ duty: { ends: 'closed', loadedLength: '20 mm' } }));
    for (const { value, unit, step } of told.figures) {
      expect(value).to.satisfy(Number.isFinite);
      expect(unit).not.equal('');
      expect(told.steps).to.have.property(step);
    }
    expect(told.limits.find(({ field }) => field === 'pitch')!.says).match(
      /^down to 1\.\d+ mm of pitch before the coils touch$/,
    );
    const faulty = await report({ ...springDesign({ wire: 'w' }), givens: [{ name: 'w', value: '1/0' }] });
    expect(faulty.complaints).deep.equal([
      { step: null, field: 'w', says: 'This divides by zero.' },
      { step: 'round', field: 'diameter', says: '“w” has no value yet: see the givens.' },
    ]);
  });

  it('tells givens of every unit, those too that no figure has', async () => {
    const told = await report({
      ...springDesign(),
      givens: [
        { name: 'torque', value: '1 N m' },
        { name: 'pull', value: '2 N' },
      ],
    });
    // 1 N m = 1e9 g mm²/s²
    expect(told.givens).deep.equal([
      { name: 'torque', value: 1e9, unit: 'mm2 g/s2' },
      { name: 'pull', value: 2, unit: 'N' },
    ]);
  });

  it('is the same for a design in inches, figure for figure', async () => {
    const inch = springDesign({
      wire: '0.1 in',
      coil: { diameter: '1 in', turns: '6', height: '2 in' },
      duty: { ends: 'open' },
    });
    const metric = springDesign({
      wire: '2.54 mm',
      coil: { diameter: '25.4 mm', turns: '6', height: '50.8 mm' },
      duty: { ends: 'open' },
    });
    const [a, b] = [await report({ ...inch, unit: 'in' }), await report(metric)];
    a.figures.forEach((figure, i) =>
      expect(figure.value).closeTo(b.figures[i]!.value, 1e-9 * Math.abs(figure.value) + 1e-12),
    );
  });
});
