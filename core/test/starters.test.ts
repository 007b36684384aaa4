/** Every ready-made beginning makes a sound part, alone and beside another. */
import { expect } from 'chai';
import { stepName } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign } from '../src/design/schema';
import { GROUPS, STARTERS } from '../src/design/starters';
import { bodiesOf } from '../src/kind/value';
import { checkDesign } from '../src/view/check-design';
import { partOf } from '../src/view/part';

const go = async () => undefined;

describe('beginnings', () => {
  for (const { name, id, add } of STARTERS)
    it(`${name}: is made, closed and without a fault`, async () => {
      const design = emptyDesign(name);
      const { first, last } = add(design, 0);
      expect(design.steps[0]!.id).equal(first);
      const cache = createCache();
      const evaluation = await evaluate(design, cache);
      for (const { id: step, state, complaints } of evaluation.steps)
        expect(state, `${step}: ${JSON.stringify(complaints)}`).equal('ready');
      const checked = await checkDesign(design, evaluation, cache, go);
      const findings = Object.values(checked).flatMap((one) => one.findings);
      expect(findings.filter(({ level }) => level === 'fault')).deep.equal([]);
      expect(id).match(/^[a-z-]+$/);
      const made = evaluation.steps.find((step) => step.id === last);
      expect(made!.value!.type).oneOf(['body', 'path', 'duty']);
      const parts = partOf(design.steps);
      if (id === 'straight-axis') return;
      expect(parts.length, 'one part').equal(1);
      const [part] = evaluation.steps.filter((step) => step.id === parts[0]!.id);
      for (const body of bodiesOf(part!.value)) expect(body.volume).above(0);
      expect(findings.some((one) => one.name === 'closed' && one.level === 'good')).equal(true);
    });

  it('stand beside each other under names of their own', async () => {
    const design = emptyDesign('All');
    for (const { add } of STARTERS) add(design, design.steps.length);
    const names = design.steps.map(stepName);
    expect(new Set(names).size).equal(names.length);
    const { steps } = await evaluate(design, createCache(), go, 'shape');
    expect(steps.filter(({ state }) => state !== 'ready')).deep.equal([]);
  });

  it('fill every group', () => {
    for (const group of GROUPS) expect(STARTERS.filter((one) => one.group === group)).not.deep.equal([]);
  });
});
