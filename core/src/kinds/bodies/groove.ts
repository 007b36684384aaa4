import { z } from 'zod';
import { bodyKind, choice, length } from '../../kind/kind';
import { membersOf, type Figure } from '../../kind/value';
import { Complaint, mm, words } from '../../measure/words';
import type { Path } from '../../path/path';
import { movedSection } from '../../section/place';
import type { Section } from '../../section/section';
import { middleAbout, type Body, type CombinedBody } from '../../solid/body';
import { combinedBody } from '../../solid/combined';
import { dot, sub } from '../../geometry/vector';
import { planeOf } from '../../sweep/carry/hold';
import { sweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import { evenLaw, fadingLaw } from '../../sweep/carry/laws';
import { COMBINING } from './combining';
import { FACING } from './straight';

/** Length of the paths that a groove runs along, mm. */
const LONG = new WeakMap<CombinedBody, number>();

/** A section cut along a path that lies on a body, or laid on it: a thread in a shank, a slot in a neck, a bead round a drum. */
export const groove = bodyKind({
  ...COMBINING,
  kind: 'groove',
  title: 'Grooved',
  noun: 'grooved body',
  words: [
    'groove',
    'slot',
    'thread',
    'channel',
    'flute',
    'keyway',
    'rib',
    'bead',
    'cut',
    'carve',
    'engrave',
    'drum',
    'worm',
  ],
  inputs: {
    body: { takes: 'body' },
    path: { takes: 'path', sets: true },
    section: { takes: 'section' },
  },
  schema: z.object({
    what: choice('cut', 'laid'),
    depth: length({ above: 0 }),
    side: choice('out', 'in'),
    runIn: length({ atLeast: 0 }),
    runOut: length({ atLeast: 0 }),
  }),
  defaults: { what: 'cut', depth: '2 mm', side: 'out', runIn: '0 mm', runOut: '0 mm' },
  evaluate(figures, { body, path, section }) {
    const { what, depth, side } = figures;
    const { box } = section;
    const wide = box.right - box.left;
    if (what === 'cut' && !(depth < wide))
      throw new Complaint(
        words`It goes under the surface as a whole: this section is ${mm(wide)} deep, and a part of it must stay outside.`,
        'depth',
      );
    // Its left looks into the body.
    const inside = movedSection(section, what === 'cut' ? -depth - box.left : -OVERLAP * wide - box.left, 0);
    const over = movedSection(inside, 0, 0, true);
    const paths = membersOf(path) as readonly Path[];
    const all = paths.map((one) => {
      const laid = (side === 'in') === looksOut(one, body) ? over : inside;
      return sweptBody([grooveAlong(one, laid, figures)], laid, body.material);
    });
    const made = combinedBody(what === 'cut' ? 'subtract' : 'add', [body, ...all]);
    LONG.set(
      made,
      paths.reduce((sum, { length }) => sum + length, 0),
    );
    return made;
  },
  figures: (body: CombinedBody): Figure[] => [
    { name: 'grooveLength', label: 'length of the groove', value: LONG.get(body)!, quantity: 'length' },
    ...COMBINING.figures(body),
  ],
});

/** What is laid on a body reaches so far into it, as a part of its depth: faces that only touch are no joint. */
const OVERLAP = 0.15;

/** Whether the surface that a path lies on looks out of the body: of a plane path it may be either side. */
function looksOut(path: Path, body: Body): boolean {
  const normal = path.seat ? undefined : planeOf(path);
  return !normal || dot(normal, sub(path.at(0).position, middleAbout(body))) >= 0;
}

/** The section seated on the surface of the path, growing over the run-in and shrinking over the run-out. */
function grooveAlong(path: Path, section: Section, { runIn, runOut }: { runIn: number; runOut: number }) {
  const { length, closed } = path;
  if (!closed && !(runIn + runOut < length))
    throw new Complaint(
      words`Run-in and run-out together must stay under ${mm(length)}, the length of the path.`,
      'runOut',
    );
  const size = closed ? evenLaw(1) : fadingLaw(length, runIn, runOut);
  try {
    return sweptAlong(path, section, {
      ...FACING,
      hold: 'seated',
      facing: [0, 0, 1],
      laws: () => ({ width: size, height: size, twist: evenLaw(0), mix: evenLaw(0) }),
    });
  } catch (error) {
    if (error instanceof Complaint && error.field === 'hold')
      throw new Complaint(
        'This path lies on no surface that is known here: take one that is coiled, wound, wrapped or cast, or that lies in a plane.',
        'path',
      );
    throw error;
  }
}
