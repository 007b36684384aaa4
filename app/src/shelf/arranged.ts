/** Which designs of the shelf are shown, and in which order. */
import { kindNamed } from '@nematos/core/design/registry';
import { stepName } from '@nematos/core/design/edit';
import type { Kept } from '../data/record';

export type Order = 'tag' | 'changed' | 'name';

/** Letters as they are compared: small, and without accents. */
const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLowerCase();

/** What a design can be found by: its name, its note, its tags, and its steps by name and kind. */
const wordsOf = ({ history: { present: design } }: Kept): string =>
  plain(
    [
      design.name,
      design.note ?? '',
      ...(design.tags ?? []),
      ...design.steps.flatMap((step) => [stepName(step), kindNamed(step.kind)?.noun ?? '']),
    ].join(' '),
  );

const tagsOf = ({ history }: Kept): readonly string[] => history.present.tags ?? [];

/** All tags of designs, in the order in which the designs have them. */
export const allTags = (all: readonly Kept[]): string[] => [...new Set(all.flatMap(tagsOf))];

/** Designs under a heading; undefined above those without one. */
export interface Shelved {
  readonly heading: string | undefined;
  readonly designs: readonly Kept[];
}

export interface Arranging {
  readonly search: string;
  readonly tag: string;
  readonly order: Order;
}

/**
 * The designs that have a tag, '' being any, and in which every word that is looked for begins a word; in order. By tag they
 * stand under their first one, those without any before all others.
 */
export function arranged(all: readonly Kept[], { search, tag, order }: Arranging): Shelved[] {
  const words = plain(search).split(/\s+/).filter(Boolean);
  const found = all.filter((kept) => {
    const text = ` ${wordsOf(kept).replace(/[^\p{L}\p{N}]+/gu, ' ')}`;
    return (!tag || tagsOf(kept).includes(tag)) && words.every((word) => text.includes(` ${word}`));
  });
  const byName = (a: Kept, b: Kept) =>
    a.history.present.name.localeCompare(b.history.present.name, 'en', { numeric: true });
  const sorted = found.sort(order === 'name' ? byName : (a, b) => b.changed - a.changed);
  if (order !== 'tag' || tag) return [{ heading: undefined, designs: sorted }];
  const headings = [undefined, ...allTags(all)];
  return headings
    .map((heading) => ({ heading, designs: sorted.filter((kept) => tagsOf(kept)[0] === heading) }))
    .filter(({ designs }) => designs.length);
}

/** Tags as they are typed: parted by commas, each once. */
export const readTags = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((tag) => tag.trim())
      .filter(Boolean),
  ),
];
