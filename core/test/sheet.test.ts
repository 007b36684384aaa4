import { expect } from 'chai';
import fc from 'fast-check';
import {
  addGiven,
  addStep,
  changeUnit,
  duplicateStep,
  mayTake,
  moveStep,
  removeStep,
  renameGiven,
  setInput,
  swapKind,
} from '../src/design/edit';
import { createCache, evaluate, type Evaluation } from '../src/design/evaluate';
import { beginHistory, edit, undo } from '../src/design/history';
import { kindNamed } from '../src/design/registry';
import type { Design } from '../src/design/schema';
import { readDesign, writeDesign } from '../src/exchange/design-json';
import { springDesign } from './helpers';
import { runs } from './runs';

const SECTIONS = ['round', 'rectangle', 'star', 'tube'];
const KINDS = [...SECTIONS, 'helix', 'loop', 'run', 'spiral', 'part', 'sweep'];
const TEXTS = [
  '3 mm',
  '12 mm',
  '0.4 in',
  '7',
  'a',
  '2 * a',
  'a + b',
  'b / 0',
  '45 deg',
  '',
  '3 mm +',
  '−1 mm',
];

/** Something a user does to a sheet. `pick` chooses one of many, whatever there is of them. */
type Act = (draft: Design, pick: <T>(of: readonly T[]) => T | undefined) => void;
const ACTS: Record<string, Act> = {
  add: (draft, pick) => {
    addStep(draft, pick(KINDS)!, pick([...draft.steps.keys(), draft.steps.length])!);
  },
  figure: (draft, pick) => {
    const step = pick(draft.steps);
    const field = step && pick(Object.keys(step.set));
    if (field) step.set[field] = pick(TEXTS)!;
  },
  cell: (draft, pick) => {
    const row = pick(draft.steps.flatMap(({ rows }) => Object.values(rows ?? {}).flat()));
    const column = row && pick(Object.keys(row));
    if (column) row[column] = pick(TEXTS)!;
  },
  feed: (draft, pick) => {
    const step = pick(draft.steps);
    const slot = step && pick(Object.keys(kindNamed(step.kind)!.inputs));
    const source = slot && pick(draft.steps.filter(({ id }) => mayTake(draft, step.id, id)));
    if (source) setInput(draft, step.id, slot, source.id);
  },
  move: (draft, pick) => {
    const step = pick(draft.steps);
    if (step) moveStep(draft, step.id, pick([...draft.steps.keys()])!);
  },
  copy: (draft, pick) => {
    const step = pick(draft.steps);
    if (step) duplicateStep(draft, step.id);
  },
  remove: (draft, pick) => {
    const step = pick(draft.steps);
    if (step) removeStep(draft, step.id);
  },
  swap: (draft, pick) => {
    const step = pick(draft.steps.filter(({ kind }) => SECTIONS.includes(kind)));
    if (step) swapKind(draft, step.id, pick(SECTIONS)!);
  },
  given: (draft, pick) => {
    const given = draft.givens[addGiven(draft)]!;
    [given.name, given.value] = [pick(['a', 'b', 'wire'])!, pick(TEXTS)!];
  },
  value: (draft, pick) => {
    const given = pick(draft.givens);
    if (given) given.value = pick(TEXTS)!;
  },
};

const doings = fc.array(
  fc.tuple(fc.constantFrom(...Object.keys(ACTS)), fc.array(fc.nat(9999), { minLength: 4, maxLength: 4 })),
  { minLength: 1, maxLength: 20 },
);

function act(name: string, picks: readonly number[]): (draft: Design) => void {
  return (draft) => {
    let next = 0;
    ACTS[name]!(draft, (of) => (of.length ? of[picks[next++ % picks.length]! % of.length] : undefined));
  };
}

/** Two bodies and their paths to begin with, so that much of what is done has something to act on. */
function beginning(): Design {
  const design = springDesign({ wire: 'a', coil: { diameter: '8 * a' } });
  design.givens = [{ name: 'a', value: '2 mm' }];
  addStep(design, 'run', 3);
  addStep(design, 'part', 4);
  addStep(design, 'tube', 5);
  addStep(design, 'sweep', 6);
  return design;
}

const sheetOf = (acts: readonly (readonly [string, number[]])[]): Design => {
  const design = beginning();
  for (const [name, picks] of acts) act(name, picks)(design);
  return design;
};

/** What a reader sees of a result: all but how much of it was made. */
const shown = ({ givens, steps }: Evaluation) => ({
  givens,
  steps: steps.map(({ value, madeFrom: _madeFrom, ...rest }) => ({ ...rest, yields: value?.type })),
});
const fresh = async (design: Design) => shown(await evaluate(design, createCache()));
/** Figures by step, without the names that a change may alter. */
const figures = ({ steps }: Awaited<ReturnType<typeof fresh>>) =>
  steps.map(({ id, state, results: all }) => [id, state, all.map(({ value }) => value)]);

describe('any sheet, whatever is done to it', () => {
  it('comes out as if it had been evaluated afresh, after every edit and every undo', async () => {
    await fc.assert(
      fc.asyncProperty(doings, async (acts) => {
        const cache = createCache();
        let history = beginHistory(beginning());
        await evaluate(history.present, cache);
        for (const [name, picks] of acts) {
          history = edit(history, name, act(name, picks));
          expect(shown(await evaluate(history.present, cache)), name).deep.equal(
            await fresh(history.present),
          );
        }
        while (history.past.length) {
          history = undo(history);
          const again = await evaluate(history.present, cache);
          expect(again.made).equal(0);
          expect(shown(again)).deep.equal(await fresh(history.present));
        }
      }),
      { numRuns: runs(30) },
    );
  });

  it('keeps what feeds a step above it, and every step its own name', () => {
    fc.assert(
      fc.property(doings, (acts) => {
        const { steps } = sheetOf(acts);
        expect(new Set(steps.map(({ id }) => id)).size).equal(steps.length);
        for (const [i, { from }] of steps.entries())
          for (const source of Object.values(from ?? {}))
            expect(steps.findIndex(({ id }) => id === source)).below(i);
      }),
      { numRuns: runs(250) },
    );
  });

  it('is the same sheet when it comes back from its file', () => {
    fc.assert(
      fc.property(doings, (acts) => {
        const design = sheetOf(acts);
        expect(readDesign(writeDesign(design))).deep.equal(design);
      }),
      { numRuns: runs(150) },
    );
  });

  it('keeps every figure when a given gets another name, or the sheet another unit', async () => {
    await fc.assert(
      fc.asyncProperty(doings, async (acts) => {
        const design = sheetOf(acts);
        const before = figures(await fresh(design));
        const [renamed, inches] = [structuredClone(design), structuredClone(design)];
        if (renamed.givens.length) renameGiven(renamed, 0, 'elsewhere');
        // Where two givens share a name neither has a value: a new name for one gives it to the other.
        const names = design.givens.map(({ name }) => name);
        if (new Set(names).size === names.length) expect(figures(await fresh(renamed))).deep.equal(before);
        changeUnit(inches, inches.unit === 'mm' ? 'in' : 'mm');
        expect(figures(await fresh(inches))).deep.equal(before);
      }),
      { numRuns: runs(100) },
    );
  });
});
