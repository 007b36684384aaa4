/** Beginnings: a few steps put down together, as the trade asks for them. */
import { addStep, setInput, stepOf } from './edit';
import type { Design } from './schema';

export interface Starter {
  readonly name: string;
  readonly says: string;
  readonly words: readonly string[];
  /** Adds its steps at `at`; returns the id of the first and the last. */
  add(design: Design, at: number): { first: string; last: string };
}

/** Wire, coil and body of a compression spring, its diameter outside and its height overall. */
function addSpring(
  design: Design,
  at: number,
  coil: Record<string, string>,
): { first: string; last: string } {
  const first = addStep(design, 'round', at, { diameter: '2 mm' });
  const path = addStep(design, 'helix', at + 1, {
    diameter: '20 mm',
    basis: 'outer',
    turns: '8',
    height: '50 mm',
    heightBasis: 'overall',
    ...coil,
  });
  setInput(design, path, 'section', first);
  const last = addStep(design, 'sweep', at + 2, { ends: 'open' });
  setInput(design, last, 'path', path);
  setInput(design, last, 'section', first);
  stepOf(design, last).name = 'Spring';
  return { first, last };
}

export const STARTERS: readonly Starter[] = [
  {
    name: 'Compression spring',
    says: 'wire, coil and body',
    words: ['spring', 'compression', 'pressure', 'coil'],
    add: (design, at) => addSpring(design, at, {}),
  },
  {
    name: 'Conical spring',
    says: 'the same, narrowing',
    words: ['spring', 'cone', 'conical', 'taper', 'bumper'],
    add: (design, at) =>
      addSpring(design, at, { taper: 'diameter', diameter: '30 mm', endDiameter: '16 mm' }),
  },
];
