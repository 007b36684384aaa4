/** An example of every registered kind: a new step of it, after the steps that it needs. */
import { addStep, removeStep, setInput } from '../src/design/edit';
import { KINDS } from '../src/design/registry';
import { emptyDesign, type Design } from '../src/design/schema';
import { typesAt } from '../src/kind/kind';
import { packed } from '../src/mesh/data/packed';

type Before = readonly (readonly [kind: string, set?: Record<string, string>])[];

const PLATE = { width: '40 mm', depth: '40 mm', height: '5 mm' };
const POST = { diameter: '16 mm', height: '60 mm' };

/** Steps that some kinds need after the usual ones. */
const BEFORE: Readonly<Record<string, Before>> = {
  chain: [['run'], ['smooth']],
  'centre-line': [['block', { width: '60 mm', depth: '10 mm', height: '8 mm' }]],
  'face-axis': [['cylinder']],
  'set-in': [['block', { width: '40 mm', depth: '40 mm', height: '30 mm' }], ['cylinder']],
  // Joints are where two bodies meet that were added.
  weld: [['block', PLATE], ['cylinder', POST], ['add']],
  // A path on a body, and a section deeper than the groove.
  groove: [
    ['block', PLATE],
    ['cylinder', POST],
    ['helix', { diameter: '16 mm' }],
    ['round', { diameter: '5 mm' }],
  ],
};

/** The section of the second body where it is not a thin rod within the first. */
const SECOND: Readonly<Record<string, readonly [kind: string, set: Record<string, string>]>> = {
  join: ['tube', { outer: '1 mm', wall: '0.2 mm' }],
  'tube-end': ['tube', { outer: '1 mm', wall: '0.2 mm' }],
  hollow: ['round', { diameter: '8 mm' }],
};

const TETRAHEDRON = packed({
  positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1),
  triangles: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2),
});

/** A design whose last step is a new one of that kind, and the id of that step. */
export function exampleOf(name: string): readonly [Design, string] {
  const kind = KINDS[name]!;
  const design = emptyDesign('Example');
  const put = (one: string, set?: Record<string, string>) => addStep(design, one, design.steps.length, set);
  // Every path kind can follow a loop of 60 mm; a kind that takes two, a helix before it too.
  for (const needed of ['round', 'helix', 'loop']) if (needed !== name) put(needed);
  if (kind.yields === 'duty') {
    removeStep(design, 'loop');
    put('sweep');
  }
  // Ends are made of an open tube.
  if (name === 'tube-end') removeStep(design, 'loop');
  const takesBodies = Object.values(kind.inputs).some((input) => typesAt(input).includes('body'));
  if (takesBodies && (kind.yields === 'body' || kind.yields === 'measure')) {
    const [section, set] = SECOND[name] ?? ['round', { diameter: '1 mm' }];
    put('sweep');
    put(section, set);
    put('sweep');
  }
  // Both along one path.
  const along = design.steps.findLast((step) => step.kind === 'loop' || step.kind === 'helix');
  for (const step of design.steps)
    if (step.kind === 'sweep' && along) setInput(design, step.id, 'path', along.id);
  for (const [needed, set] of BEFORE[name] ?? []) put(needed, set);
  // A part is ready once its file is there.
  return [design, put(name, name === 'part-from-file' ? { triangles: TETRAHEDRON } : undefined)];
}
