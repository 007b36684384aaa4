import { expect } from 'chai';
import { addStep } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { toleranceTrouble } from '../src/design/tolerance';
import { report } from '../src/exchange/report';
import { sayWords } from '../src/measure/format';

describe('the chord tolerance of a design', () => {
  const told = async (tolerance: string) => {
    const design = { ...emptyDesign('Ball'), tolerance };
    addStep(design, 'ball', 0, { diameter: '10 mm' });
    const { complaints, figures } = await report(design);
    expect(figures.some(({ name }) => name === 'volume')).equal(true);
    const says = toleranceTrouble(design);
    expect(complaints.map(({ field, says }) => [field, says])).deep.equal(
      says ? [['tolerance', sayWords(says, 'mm')]] : [],
    );
    return says && sayWords(says, 'mm');
  };

  for (const wrong of ['', ' ', '-1', '0', 'NaN', 'Infinity', '1e-9', '101 mm', '3 deg', 'fine', '1 mm +'])
    it(`“${wrong}” is refused in words, and the design is evaluated all the same`, async () => {
      expect(await told(wrong)).match(/^The chord tolerance (cannot be read\. .|is .*must be between)/);
    });

  for (const right of ['0.05 mm', '0.002 in', '1/20'])
    it(`“${right}” is taken`, async () => {
      expect(await told(right)).equal(undefined);
    });
});
