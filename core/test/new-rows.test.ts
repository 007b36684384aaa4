/** A row that is added to a table is valid as it is, in every design that we ship. */
import { expect } from 'chai';
import { createCache, evaluate } from '../src/design/evaluate';
import { nextRow } from '../src/design/literal';
import { kindNamed } from '../src/design/registry';
import { emptyDesign, type Design } from '../src/design/schema';
import { STARTERS } from '../src/design/starters';
import { sayWords } from '../src/measure/format';
import { DEMO, demo } from './demo';

const begun = STARTERS.map(({ name, add }): Design => {
  const design = emptyDesign(name);
  add(design, 0);
  return design;
});

describe('a new row', () => {
  for (const design of [...DEMO.map(demo), ...begun])
    for (const [i, step] of design.steps.entries())
      for (const [table, known] of Object.entries(kindNamed(step.kind)!.tables ?? {})) {
        if (!step.rows?.[table]?.length || known.along) continue;
        it(`is valid in ${table} of ${design.name}, ${step.id}`, async () => {
          const changed = structuredClone({ ...design, steps: design.steps.slice(0, i + 1) });
          const rows = changed.steps[i]!.rows![table]!;
          for (let n = 0; n < 2; n++) {
            const { row, at } = nextRow(known, rows, step.set.closed === 'closed');
            rows.splice(at, 0, row);
          }
          const { steps } = await evaluate(changed, createCache(), async () => undefined, 'shape');
          const said = steps[i]!.complaints.map(({ field, says }) => `${field}: ${sayWords(says, 'mm')}`);
          expect(said).deep.equal([]);
        });
      }
});
