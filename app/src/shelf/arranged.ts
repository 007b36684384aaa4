/** Which designs of the shelf are shown, and in which order. */
import { kindNamed } from '@nematos/core/design/registry';
import { stepName } from '@nematos/core/design/edit';
import type { Kept } from '../data/record';

export type Order = 'changed' | 'name';

/** Letters as they are compared: small, and without accents. */
const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLowerCase();

/** What a design can be found by: its name, its note, and its steps by name and kind. */
const wordsOf = ({ history: { present: design } }: Kept): string =>
  plain(
    [
      design.name,
      design.note ?? '',
      ...design.steps.flatMap((step) => [stepName(step), kindNamed(step.kind)?.noun ?? '']),
    ].join(' '),
  );

/** The designs in which every word that is looked for begins a word, in order. */
export function arranged(all: readonly Kept[], search: string, order: Order): Kept[] {
  const words = plain(search).split(/\s+/).filter(Boolean);
  const found = all.filter((kept) => {
    const text = ` ${wordsOf(kept).replace(/[^\p{L}\p{N}]+/gu, ' ')}`;
    return words.every((word) => text.includes(` ${word}`));
  });
  const byName = (a: Kept, b: Kept) =>
    a.history.present.name.localeCompare(b.history.present.name, 'en', { numeric: true });
  return found.sort(order === 'name' ? byName : (a, b) => b.changed - a.changed);
}
