/** Edits of the demo designs, as they are typed: the first plain figure in mm made a little larger each time. */
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Design } from '@nematos/core/design/schema';
import { readDesign } from '@nematos/core/exchange/design-json';

const DEMO = join(import.meta.dirname, '../../demo');

export interface Edited {
  readonly name: string;
  /** The design after each edit. */
  readonly edits: Design[];
  /** Set where bodies are combined by the mesh kernel. */
  readonly combined?: boolean;
}

export const demoEdits = (count: number): Edited[] =>
  readdirSync(DEMO).map((file) => {
    const design = readDesign(readFileSync(join(DEMO, file), 'utf8'));
    const combined = design.steps.some(({ kind }) =>
      [
        'add',
        'subtract',
        'common',
        'join',
        'tube-end',
        'thread',
        'set-in',
        'weld',
        'groove',
        'reshape',
      ].includes(kind),
    );
    return {
      name: design.name,
      combined,
      edits: Array.from({ length: count }, (_x, i) => edited(design, i)),
    };
  });

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
