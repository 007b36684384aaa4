/** Edits of the demo designs, as they are typed: the first plain figure in mm made a little larger each time. */
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { createCache, evaluate } from '@nematos/core/design/evaluate';
import type { Design } from '@nematos/core/design/schema';
import { readDesign } from '@nematos/core/exchange/design-json';
import { bodiesOf } from '@nematos/core/kind/value';
import { isMade } from '@nematos/core/solid/body/body';

const DEMO = join(import.meta.dirname, '../../demo');

export interface Edited {
  readonly name: string;
  /** The design after each edit. */
  readonly edits: Design[];
  /** Set where bodies are combined by the mesh kernel. */
  readonly combined?: boolean;
}

/** Of designs of which the name is like that, one after the other: all edits of all of them at once would keep the collector of garbage busy. */
export async function* demoEdits(count: number, like: RegExp): AsyncGenerator<Edited> {
  for (const file of readdirSync(DEMO)) {
    const design = readDesign(readFileSync(join(DEMO, file), 'utf8'));
    if (!like.test(design.name)) continue;
    yield {
      name: design.name,
      combined: await needsKernel(design),
      edits: Array.from({ length: count }, (_x, i) => edited(design, i)),
    };
  }
}

/** Whether one of its bodies is made by the kernel. */
async function needsKernel(design: Design): Promise<boolean> {
  const { steps } = await evaluate(design, createCache(), async () => {}, 'shape');
  return steps.some(({ value }) => value && bodiesOf(value).some(isMade));
}

/** The pot of the honey house, led round a little further each time. */
export function wrungPot(count: number): Edited {
  const design = readDesign(readFileSync(join(DEMO, 'honey-pot.json'), 'utf8'));
  const edits = Array.from({ length: count }, (_x, i) => {
    const next = structuredClone(design);
    next.givens.find(({ name }) => name === 'wring')!.value = `${60 + i / 4} deg`;
    return next;
  });
  return { name: `${design.name}, its angle of wringing`, edits, combined: true };
}

function edited(design: Design, i: number): Design {
  const next = structuredClone(design);
  for (const step of next.steps)
    for (const [field, text] of Object.entries(step.set)) {
      const plain = /^(\d+(?:\.\d+)?) mm$/.exec(text);
      if (!plain || Number(plain[1]) === 0) continue;
      step.set[field] = `${Number(plain[1]) * (1 + 1e-5 * (i + 1))} mm`;
      return next;
    }
  const given = next.givens[0]!;
  given.value = `(${given.value}) * ${1 + 1e-5 * (i + 1)}`;
  return next;
}
