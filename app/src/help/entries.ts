/** What the help page says, from the program's own data as far as it has them. */
import { FORMATS } from '@nematos/core/exchange/formats';
import { KINDS } from '@nematos/core/design/registry';
import { OFFERS, STEP_GROUPS, type Offer } from '@nematos/core/design/offers';
import { fieldMeta, isOptional, wantedAt } from '@nematos/core/kind/kind';
import { fieldInWords } from '@nematos/core/measure/field';
import { FUNCTIONS } from '@nematos/core/measure/functions';
import { GAUGES } from '@nematos/core/measure/gauges';
import { quantityOf, QUANTITIES } from '@nematos/core/measure/quantity';
import { unitNamed, unitNames } from '@nematos/core/measure/units';

export interface Entry {
  readonly title: string;
  readonly text: string;
  /** An offer with its picture beside it. */
  readonly offer?: Offer;
  /** Smaller facts below the text. */
  readonly facts?: readonly string[];
}

export interface Section {
  readonly title: string;
  readonly entries: readonly Entry[];
}

const TERMS: readonly (readonly [string, string])[] = [
  [
    'Design',
    'One part or assembly with its worksheet. Designs stand on the shelf and are saved in this browser.',
  ],
  ['Shelf', 'The first page: all designs of this browser, by tag, with search and sorting.'],
  ['Note', 'A remark on the design, a step or a place of the part, also from someone with the review link.'],
  [
    'Stock sizes',
    'Standard sizes next to a wire, a wall or a ring: the small arrow beside the figure lists them.',
  ],
  ['Workbench', 'The page of one design: worksheet on the left, stage in the middle, results on the right.'],
  [
    'Worksheet',
    'The list of steps that make the part, as sentences. Click any underlined word or figure to change it.',
  ],
  ['Step', 'One sentence of the worksheet. It makes a path, a section, a body, or checks something.'],
  ['Given', 'A named figure at the top of the worksheet. Use its name in any other figure.'],
  ['Thread', 'The line that joins the steps. Drag a step by its number to move it.'],
  ['Needle', 'The mark on the thread. Drag it up to see the part as it was after an earlier step.'],
  [
    'Stage',
    'The view of the part. Drag to turn it, use the wheel to zoom, and drag a grip to change a figure.',
  ],
  ['Path', 'A line in space that a section can be carried along, for example a helix, a run or a spiral.'],
  ['Section', 'A flat outline, for example a wire, a tube or a custom profile.'],
  ['Sweep', 'The body that a section leaves behind while it is carried along a path.'],
  [
    'Hold',
    'How a section turns along its path: free, facing a direction, seated on a surface, level, or guided by another path.',
  ],
  ['Run', 'A path of straights and bends, or of points.'],
  ['Winding', 'One or more strands laid about another path.'],
  ['Wrap and cast', 'Wrap rolls a flat outline round a cylinder or cone. Cast projects it on a surface.'],
  [
    'Findings',
    'What the program checked: a green dot is good, an orange triangle is a note, a red diamond is a fault.',
  ],
  ['Limit', 'Blue words below a step: how far a figure can go before something touches.'],
  ['Kept measure', 'A measure that stays on the worksheet, with a wanted value and a tolerance.'],
  ['Variant', 'A copy of all figures under a name, to compare with others.'],
  ['Family', 'A table of sizes that are made from one design.'],
];

const KEYS: readonly (readonly [string, string])[] = [
  ['1 to 5', 'Front, top, side, space, all four views'],
  ['0 and 9', 'Fit the part, zoom to the selection'],
  ['6', 'Cut open'],
  ['7 and 8', 'Show the export mesh, orthographic view'],
  ['d', 'All dimensions and the overall size'],
  ['m', 'Measure'],
  ['n', 'Notes'],
  ['Ctrl P', 'Print the sentences, results, findings and a picture'],
  ['Arrow keys, + and −', 'Turn and zoom, while a view has the focus'],
  ['Arrow up and down', 'Step a figure up and down, while it is edited; Shift for larger steps'],
  ['Tab and Enter', 'Go to the next figure'],
  ['Ctrl Z, Ctrl Y', 'Undo, redo'],
  ['Esc', 'Close, or clear the selection'],
  ['?', 'This page'],
];

const FILES: readonly (readonly [string, string])[] = [
  ...FORMATS.map(({ name, help, read, write }) => {
    const ways = [write && 'export', read && 'import'].filter(Boolean).join(' and ');
    return [name, `${ways.replace(/^./, (letter) => letter.toUpperCase())}. ${help}`] as const;
  }),
  ['PNG and GIF', 'Export. Pictures and turntables.'],
];

const EXACT: readonly (readonly [string, string])[] = [
  [
    'Exact',
    'Lengths, volumes, surfaces and masses of sweeps, turned, extruded and basic bodies are calculated from closed formulas or to at least six digits. They do not depend on the mesh.',
  ],
  [
    'Estimated',
    'Results with ± are measured on ever finer meshes until they settle. The true value lies within the ± figure. This applies to combined, hollowed and imported bodies.',
  ],
  ['Read off', 'Measures with ≈ depend on where you pointed, or are read off triangles.'],
  [
    'Meshes',
    'Exported meshes keep the chord tolerance of the design. They are closed and do not intersect themselves, or the export says why not.',
  ],
  [
    'Springs',
    'Compression springs are calculated by EN 13906-1. The source of each formula stands with the result.',
  ],
];

const listed = (pairs: readonly (readonly [string, string])[]): Entry[] =>
  pairs.map(([title, text]) => ({ title, text }));

/** Units by what they measure. */
function unitEntries(): Entry[] {
  const by = new Map<string, string[]>();
  for (const name of unitNames()) {
    const quantity = quantityOf(unitNamed(name)!.dimension);
    const noun = quantity ? QUANTITIES[quantity].noun : 'other';
    by.set(noun, [...(by.get(noun) ?? []), name]);
  }
  return [...by].map(([noun, names]) => ({
    title: `Units of ${noun.replace(/^an? /, '')}`,
    text: names.join(', '),
  }));
}

const WRITING: readonly Entry[] = [
  {
    title: 'Figures',
    text: 'Write a number with its unit: 12 mm, 1/2 in, 3 1/4 in, 90 deg. A length without a unit is in the unit of the worksheet. A decimal comma is read too, where it is clear: 1,5 mm.',
  },
  {
    title: 'Formulas',
    text: 'Write any formula with + − × / and ^, brackets, given names and functions: 2 * wire + 0.5 mm.',
  },
  {
    title: 'Functions',
    text: Object.keys(FUNCTIONS)
      .filter((name) => !Object.hasOwn(GAUGES, name))
      .map((name) => `${name}()`)
      .join(', '),
  },
  ...Object.entries(GAUGES).map(([title, { name, knows }]) => ({
    title: `${title}()`,
    text: `${name}: ${knows}.`,
  })),
];

/** The inputs and figures of a kind of step. */
function kindEntry(offer: Offer): Entry {
  const kind = KINDS[offer.kind!]!;
  const inputs = Object.values(kind.inputs)
    .filter(({ optional }) => !optional)
    .map(wantedAt);
  const figures = Object.keys(kind.schema.shape).map((field) => {
    const isFigure = fieldMeta(kind, field)?.quantity !== undefined;
    return `${fieldInWords(field)}${isFigure && isOptional(kind, field) ? ' (optional)' : ''}`;
  });
  return {
    title: offer.name,
    text: inputs.length ? `Needs ${inputs.join(', ')}.` : 'Needs nothing before it.',
    offer,
    facts: [`Makes ${offer.says}`, `Figures and choices: ${figures.join(', ')}`],
  };
}

export const HELP: readonly Section[] = [
  { title: 'Terms', entries: listed(TERMS) },
  { title: 'How to write figures', entries: [...WRITING, ...unitEntries()] },
  ...STEP_GROUPS.map((group) => ({
    title: `Steps: ${group.toLowerCase()}`,
    entries: OFFERS.filter((offer) => offer.group === group && offer.kind).map(kindEntry),
  })),
  { title: 'Keys', entries: listed(KEYS) },
  { title: 'Files', entries: listed(FILES) },
  { title: 'What is exact, and what is estimated', entries: listed(EXACT) },
];

/** The entries that have all words asked for. */
export function found(asked: string): Section[] {
  const words = asked.toLowerCase().split(/\s+/).filter(Boolean);
  const has = ({ title, text, facts = [], offer }: Entry) => {
    const said = [title, text, ...facts, ...(offer?.words ?? [])].join(' ').toLowerCase();
    return words.every((word) => said.includes(word));
  };
  return HELP.map(({ title, entries }) => ({ title, entries: entries.filter(has) })).filter(
    ({ entries }) => entries.length > 0,
  );
}
