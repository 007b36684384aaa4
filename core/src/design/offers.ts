/** All that a sheet can be given next: beginnings and kinds of step, found by what the trade calls them. */
import { typesAt, wantedAt, type AnyKind } from '../kind/kind';
import type { SingleType } from '../kind/value';
import { addStep } from './edit';
import { KINDS, yieldsOf } from './registry';
import type { Design, Step } from './schema';
import { STARTERS } from './starters';

export interface Offer {
  readonly name: string;
  readonly says: string;
  readonly words: readonly string[];
  /** Where it stands among others. */
  readonly group: string;
  /** Name of its picture; it may have none. */
  readonly picture: string;
  /** Of a single step: its kind. */
  readonly kind?: string;
  readonly add: (draft: Design, at: number) => { first: string; last: string };
}

export const OFFERS: readonly Offer[] = [
  ...STARTERS.map(({ id, ...starter }) => ({
    ...starter,
    picture: id,
    words: [starter.name.toLowerCase(), ...starter.words],
  })),
  ...Object.values(KINDS).map((kind): Offer => ({
    name: kind.noun.replace(/^./, (letter) => letter.toUpperCase()),
    says: saysOf(kind),
    kind: kind.kind,
    picture: `step-${kind.kind}`,
    group: groupOf(kind),
    words: [kind.title.toLowerCase(), ...kind.words],
    add: (draft, at) => {
      const id = addStep(draft, kind.kind, at);
      return { first: id, last: id };
    },
  })),
];

/** Groups of single steps, by what they make. */
export const STEP_GROUPS = ['Paths', 'Sections', 'Bodies', 'Changes', 'Checks and measures'] as const;

function groupOf({ yields, inputs }: AnyKind): (typeof STEP_GROUPS)[number] {
  if (typeof yields !== 'string') return 'Changes';
  if (yields === 'path') return 'Paths';
  if (yields === 'section') return 'Sections';
  if (yields !== 'body') return 'Checks and measures';
  const changes = Object.values(inputs).some(
    (input) => !input.optional && !input.beside && wantedAt(input) === 'body',
  );
  return changes ? 'Changes' : 'Bodies';
}

/** What it makes, and of what. */
function saysOf({ kind, yields, inputs }: AnyKind): string {
  const takes = (type: string) =>
    Object.values(inputs).some((input) => !input.optional && wantedAt(input) === type);
  if (typeof yields !== 'string') return 'a path or body, changed';
  switch (yields) {
    case 'path':
      return takes('path') ? 'a path from a path' : 'a path';
    case 'section':
      return 'a section';
    case 'body':
      if (kind === 'part-from-file') return 'a body from a mesh file';
      return takes('body')
        ? 'a body of bodies'
        : takes('path')
          ? 'a section carried along a path'
          : takes('section')
            ? 'a body of a section'
            : 'a body';
    case 'duty':
      return 'what a body has to do';
    case 'measure':
      return 'kept, compared with a wanted value';
  }
}

/** Words that do not narrow a search. */
const SMALL = new Set(['a', 'an', 'the', 'with', 'of', 'and', 'to', 'in', 'for']);
/** The words of a text, but for small ones. */
const wordsIn = (text: string): string[] =>
  (text.toLowerCase().match(/[\p{L}\d]+/gu) ?? []).filter((word) => !SMALL.has(word));

/**
 * How well an offer answers what is asked for: 0 not at all, 1 best. Its name counts more than its words, a whole word or
 * phrase more than the beginning of one.
 */
function answers({ name, words }: Pick<Offer, 'name' | 'words'>, search: string): number {
  const asked = wordsIn(search);
  if (!asked.length) return 0.1;
  const phrase = asked.join(' ');
  const said = words.map((word) => wordsIn(word).join(' '));
  const called = wordsIn(name).join(' ');
  if (called === phrase) return 1;
  if (said[0] === phrase) return 0.95;
  if (called.startsWith(`${phrase} `)) return 0.9;
  const at = said.indexOf(phrase);
  // The words stand in the order in which they are likely.
  if (at >= 0) return 0.85 - 0.01 * Math.min(20, at);
  const all = [called, ...said].flatMap((one) => one.split(' '));
  if (asked.every((part) => all.includes(part))) return 0.6;
  return asked.every((part) => all.some((word) => word.startsWith(part))) ? 0.4 : 0;
}

/** The offers that answer what is typed, the best first. */
export const answering = (typed: string): Offer[] =>
  OFFERS.map((offer) => ({ offer, how: answers(offer, typed) }))
    .filter(({ how }) => how > 0)
    .toSorted((a, b) => b.how - a.how)
    .map(({ offer }) => offer);

/** What may well come next on a sheet: steps that take what the last one makes, and find all else that they need. */
export function nextOffers(
  steps: readonly Step[],
): { readonly from: Step; readonly offers: readonly Offer[] } | undefined {
  const made = new Set(steps.map((step) => yieldsOf(step, steps)));
  const last = steps.findLast((step) => PARTS.some((type) => type === yieldsOf(step, steps)));
  const makes = last && yieldsOf(last, steps);
  if (!makes) return undefined;
  const offers = OFFERS.filter(({ kind }) => {
    const inputs = Object.values((kind && KINDS[kind]?.inputs) || {}).filter(({ optional }) => !optional);
    return (
      inputs.some((input) => typesAt(input).includes(makes)) &&
      inputs.every((input) => typesAt(input).some((type) => made.has(type)))
    );
  });
  return { from: last, offers };
}

const PARTS: readonly SingleType[] = ['path', 'section', 'body'];
