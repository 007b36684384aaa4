import { expect } from 'chai';
import { fieldMeta, isOptional, typesAt } from '../src/kind/kind';
import { KINDS, kindNamed, yieldsOf } from '../src/design/registry';
import { emptyDesign } from '../src/design/schema';
import { addStep, removeStep, setInput, stepOf } from '../src/design/edit';
import { MATERIALS, MATERIAL_IDS } from '../src/measure/materials';
import { packed } from '../src/mesh/packed';
import { QUANTITIES } from '../src/measure/quantity';
import { report } from '../src/exchange/report';
import { typeOf } from '../src/kind/value';
import { run, springDesign } from './helpers';

describe('kinds', () => {
  for (const [name, kind] of Object.entries(KINDS)) {
    it(`${name} is written down whole`, () => {
      expect(kind.kind).equal(name);
      expect(kindNamed(name)).equal(kind);
      expect(kind.words.length).above(2);
      for (const word of kind.words) expect(word).equal(word.toLowerCase());
      for (const field of Object.keys(kind.schema.shape)) {
        const meta = fieldMeta(kind, field);
        expect(
          meta?.quantity ?? meta?.choices ?? meta?.text,
          `${field} has a quantity or choices, or is text`,
        ).not.equal(undefined);
        // What is left out of a document must be optional or have a default.
        expect(isOptional(kind, field) || kind.defaults[field] !== undefined, field).equal(true);
      }
      for (const field of Object.keys(kind.defaults)) expect(kind.schema.shape).to.have.property(field);
    });

    it(`${name} is ready as it is added, after what it needs`, async () => {
      const design = emptyDesign('New');
      // Every path kind can follow a loop of 60 mm; what takes two, a helix before it too.
      for (const needed of ['round', 'helix', 'loop'].filter((other) => other !== name))
        addStep(design, needed, design.steps.length);
      if (kind.yields === 'duty') {
        removeStep(design, 'loop');
        addStep(design, 'sweep', design.steps.length);
      }
      // Ends are made of what is open.
      if (name === 'tube-end') removeStep(design, 'loop');
      if (name === 'chain') for (const open of ['run', 'smooth']) addStep(design, open, design.steps.length);
      // Bodies are made of two: a wire, and a thinner one within it.
      if (Object.values(kind.inputs).some((input) => typesAt(input).includes('body')))
        for (const [needed, set] of [
          ['sweep', {}],
          // What is joined, or gets an end, has a bore, and what is hollowed has room for one.
          name === 'join' || name === 'tube-end'
            ? ['tube', { outer: '1 mm', wall: '0.2 mm' }]
            : ['round', { diameter: name === 'hollow' ? '8 mm' : '1 mm' }],
          ['sweep', {}],
        ] as readonly (readonly [string, Record<string, string>])[])
          if (kind.yields === 'body' || kind.yields === 'measure')
            addStep(design, needed, design.steps.length, set);
      // Both along one path.
      const [along] = design.steps.filter(({ kind: one }) => one === 'loop' || one === 'helix').toReversed();
      for (const { id: sweep, kind: one } of [...design.steps])
        if (one === 'sweep' && along) setInput(design, sweep, 'path', along.id);
      // A bar is read as straights and bends.
      if (name === 'centre-line')
        addStep(design, 'block', design.steps.length, { width: '60 mm', depth: '10 mm', height: '8 mm' });
      // A body with faces.
      if (name === 'face-axis') addStep(design, 'cylinder', design.steps.length);
      // Round a coil no even clearance is known.
      if (name === 'set-in') {
        addStep(design, 'block', design.steps.length, { width: '40 mm', depth: '40 mm', height: '30 mm' });
        addStep(design, 'cylinder', design.steps.length);
      }
      // Joints are where two bodies meet that were added; a groove needs a path on a body, and a section deeper than it.
      if (name === 'weld' || name === 'groove') {
        addStep(design, 'block', design.steps.length, { width: '40 mm', depth: '40 mm', height: '5 mm' });
        addStep(design, 'cylinder', design.steps.length, { diameter: '16 mm', height: '60 mm' });
      }
      if (name === 'weld') addStep(design, 'add', design.steps.length);
      if (name === 'groove') {
        addStep(design, 'helix', design.steps.length, { diameter: '16 mm' });
        addStep(design, 'round', design.steps.length, { diameter: '5 mm' });
      }
      // A part is ready once its file is there.
      const triangles = packed({
        positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1),
        triangles: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2),
      });
      const set: Record<string, string> = name === 'part-from-file' ? { triangles } : {};
      const id = addStep(design, name, design.steps.length, set);
      const result = (await run(design)).steps.find((step) => step.id === id)!;
      expect(result.state, JSON.stringify(result.complaints)).equal('ready');
      expect(result.value && typeOf(result.value)).equal(yieldsOf(stepOf(design, id), design.steps));
      const names = result.figures.map((figure) => figure.name);
      expect(new Set(names).size, 'figures have names of their own').equal(names.length);
      for (const figure of result.figures) expect(QUANTITIES).to.have.property(figure.quantity);
    });
  }

  it('Object’s own names are no kinds', () => expect(kindNamed('toString')).equal(undefined));
});

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
