import { z } from 'zod';
import { bodyKind, choice, Detailed, length } from '../../kind/kind';
import { lineMark } from '../../kind/mark';
import { membersOf, type Result } from '../../kind/value';
import { Complaint, mm, words } from '../../measure/words';
import type { Path } from '../../path/path';
import { movedSection, quarterTurned } from '../../section/place';
import type { Section } from '../../section/section';
import { middleAbout, type Body, type CombinedBody } from '../../solid/body/body';
import { combinedBody } from '../../solid/combine/combined';
import { add, dot, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { planeOf } from '../../sweep/carry/hold';
import { sweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import { sectionStands } from '../../sweep/carry/stands';
import { evenLaw, fadingLaw } from '../../sweep/carry/laws';
import { COMBINING } from './combining';
import { seatedOn } from './groove-seat';
import { FACING } from './straight';

/** What is known of a grooved body: the length of the paths, mm; a place on the first, and which way it goes in there. */
interface Grooved {
  readonly long: number;
  /** How wide the section lies on the surface, mm. */
  readonly wide: number;
  readonly at: Vec3;
  readonly inward: Vec3;
}

/** A section cut along a path that lies on a body, or laid on it: a thread in a shank, a slot in a neck, a bead round a drum. */
export const groove = bodyKind({
  ...COMBINING,
  kind: 'groove',
  title: 'Grooved',
  noun: 'grooved body',
  words: ['engrave', 'groove', 'slot', 'thread', 'channel', 'flute', 'keyway', 'rib', 'bead', 'cut', 'carve'],
  inputs: {
    body: { takes: 'body' },
    path: { takes: 'path', sets: true },
    section: { takes: 'section' },
  },
  schema: z.object({
    what: choice('cut', 'laid'),
    depth: length({ above: 0 }),
    side: choice('out', 'in'),
    /** Whether the section is turned by a quarter turn: then its height goes in, and its width lies along the surface. */
    turned: choice('no', 'yes'),
    runIn: length({ atLeast: 0 }),
    runOut: length({ atLeast: 0 }),
  }),
  defaults: { what: 'cut', depth: '2 mm', side: 'out', turned: 'no', runIn: '0 mm', runOut: '0 mm' },
  async evaluate(figures, { body, path, section: asDrawn }, { poll }) {
    const { what, depth, side } = figures;
    const section = figures.turned === 'yes' ? quarterTurned(asDrawn) : asDrawn;
    const { box } = section;
    const wide = box.right - box.left;
    const high = box.high - box.low;
    if (what === 'cut' && !(depth < wide))
      throw new Complaint(
        words`The section is ${mm(wide)} deep and ${mm(high)} wide; at a depth of ${mm(depth)} all of it is below the surface. Use less than ${mm(wide)}, or turn the section.`,
        'depth',
        ...(depth < high
          ? [
              {
                says: ['turn the section by a quarter turn'],
                set: { turned: figures.turned === 'yes' ? 'no' : 'yes' },
              },
            ]
          : []),
      );
    // Its left looks into the body.
    const inside = movedSection(section, what === 'cut' ? -depth - box.left : -OVERLAP * wide - box.left, 0);
    const over = movedSection(inside, 0, 0, true);
    const paths: Path[] = [];
    for (const one of membersOf(path) as readonly Path[]) paths.push(await seatedOn(one, body, poll));
    const all = paths.map((one) => {
      const turned = (side === 'in') === looksOut(one, body);
      const laid = turned ? over : inside;
      return { turned, body: sweptBody([grooveAlong(one, laid, figures)], laid, body.material) };
    });
    const bodies = all.map((one) => one.body);
    const made = combinedBody(what === 'cut' ? 'subtract' : 'add', [body, ...bodies]);
    // In the middle, where it is as deep as it gets.
    const { origin: at, ex } = sectionStands(bodies[0]!.swept[0]!, paths[0]!.length / 2);
    return new Detailed(made, {
      long: paths.reduce((sum, { length }) => sum + length, 0),
      wide: high,
      at,
      inward: scale(unit(ex), all[0]!.turned ? 1 : -1),
    } satisfies Grooved);
  },
  marks(_body, { what = 'cut' }, _filled, resolved, { detail }) {
    const depth = resolved.depth?.value;
    if (what !== 'cut' || depth === undefined) return [];
    const { at, inward } = detail;
    return [lineMark('depth', at, add(at, scale(inward, depth)), inward, 0)];
  },
  results: (body: CombinedBody, { detail }): Result[] => [
    { name: 'grooveLength', label: 'length of the groove', value: detail.long, quantity: 'length' },
    { name: 'grooveWidth', label: 'width of the section', value: detail.wide, quantity: 'length' },
    ...COMBINING.results(body),
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
        'The surface this path lies on is not known. Use a straight or plane path, or one that is coiled, wound, wrapped or cast.',
        'path',
      );
    throw error;
  }
}
