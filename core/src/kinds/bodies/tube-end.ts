import { z } from 'zod';
import { bodyKind, choice, Detailed, count, length } from '../../kind/kind';
import { lineMark, type Mark } from '../../kind/mark';
import type { Result } from '../../kind/value';
import { add, cross, scale, squareTo } from '../../geometry/vector';
import type { Motion } from '../../geometry/motion';
import { Complaint, mm, words } from '../../measure/words';
import { cornered } from '../../section/contour';
import { isRound, sectionOf } from '../../section/section';
import type { Body, CombinedBody } from '../../solid/body/body';
import { combinedBody } from '../../solid/combine/combined';
import { placedBody } from '../../solid/body/placed';
import {
  ClosedBore,
  depthIn,
  mouthsOf,
  oneWall,
  tubesOf,
  type Mouth,
  type Tube,
  type TubeEnd,
} from '../../solid/tubes/tubes';
import { turnedBody } from '../../turn/body';
import { turnedBy } from '../../turn/turned';
import { acrossAxis } from '../paths/placed-marks';
import { COMBINING } from './combining';

const SCHEMA = z.object({
  form: choice('flange', 'socket', 'spigot', 'reducer'),
  at: choice('end', 'start'),
  of: count({ atLeast: 1 }),
  diameter: length({ above: 0 }),
  thickness: length({ above: 0 }),
  holes: count({ atLeast: 0, atMost: 48 }),
  circle: length({ above: 0 }),
  hole: length({ above: 0 }),
  long: length({ above: 0 }),
  straight: length({ above: 0 }),
  wall: length({ above: 0 }),
  play: length({ atLeast: 0 }),
});
type Figures = z.infer<typeof SCHEMA>;

/** Outline of something round about the axis of a mouth: distance from it, and height along it from the tube's end out, mm. */
type Outline = readonly (readonly [radius: number, height: number])[];

/** What an end is: its outside, its bore where that differs from the tube's, holes along its axis, and its own mouth. */
interface Form {
  readonly outside: Outline;
  readonly bore?: Outline;
  readonly holes?: readonly Hole[];
  /** How far out its mouth lies, and how far its bore and its outside reach there; the tube's own where it is none. */
  readonly mouth?: Pick<Mouth, 'reach' | 'outer'> & { readonly height: number };
}

/** A round hole along the axis: where it lies beside it, and its outline. */
interface Hole {
  readonly x: number;
  readonly y: number;
  readonly outline: Outline;
}

/** Radii of the outside and of the bore at an end that was made, mm; and where the tube's own mouth was, its axis out. */
interface EndMade {
  readonly outer: number;
  readonly bore: number;
  readonly at: Motion;
}

/** An end of a round tube: a flange with its holes, a socket, a spigot or a reducer, of one wall with it and its bore clean. */
export const tubeEnd = bodyKind({
  ...COMBINING,
  kind: 'tube-end',
  title: 'Tube end',
  noun: 'tube with its end',
  words: [
    'flange',
    'socket',
    'spigot',
    'reducer',
    'fitting',
    'tube end',
    'pipe end',
    'bolt circle',
    'muff',
    'neck',
  ],
  inputs: { tube: { takes: 'body' } },
  schema: SCHEMA,
  defaults: {
    form: 'flange',
    at: 'end',
    of: '1',
    diameter: '60 mm',
    thickness: '6 mm',
    holes: '4',
    circle: '46 mm',
    hole: '6 mm',
    long: '20 mm',
    straight: '8 mm',
    wall: '2 mm',
    play: '0.2 mm',
  },
  // Of joined tubes the first end that is not inside another.
  otherwise: [1, 2, 3, 4, 5, 6].flatMap((of) => [
    { of: String(of), at: 'end' },
    { of: String(of), at: 'start' },
  ]),
  evaluate(figures, { tube: given }) {
    const end = figures.at === 'start' ? 0 : 1;
    const { tubes, tube, mouth } = openTube(given, figures.of, end);
    const { outside, bore, holes = [], mouth: own } = FORMS[figures.form](figures, mouth);
    const at = frameAt(mouth);
    const round = (outline: Outline, x = 0, y = 0): Body => {
      const origin = add(at.origin, add(scale(at.ex, x), scale(at.ey, y)));
      const turned = turnedBody(turnedBy(outlined(outline), 0, 2 * Math.PI), given.material);
      return placedBody(turned, { ...at, origin });
    };
    const made: Mouth = own
      ? { ...own, out: mouth.out, at: add(mouth.at, scale(mouth.out, own.height)) }
      : mouth;
    const ends: [TubeEnd | undefined, TubeEnd | undefined] = [tube.ends?.[0], tube.ends?.[1]];
    ends[end] = { mouth: made, bore: [...(ends[end]?.bore ?? []), ...(own ? [own.reach] : [])] };
    const ended: Tube = {
      ...tube,
      outside: addedTo(tube.outside, round(outside)),
      bores: [...tube.bores, ...(bore ? [round(bore)] : [])],
      holes: [...(tube.holes ?? []), ...holes.map(({ x, y, outline }) => round(outline, x, y))],
      ends,
    };
    const body = oneWall(tubes.map((one) => (one === tube ? ended : one)));
    return new Detailed(body, { outer: outside.at(-1)![0], bore: made.reach, at } satisfies EndMade);
  },
  marks: (_body, { form = 'flange' }, _filled, resolved, { detail }) => endMarks(detail, form, resolved),
  results: (body: CombinedBody, { detail: { outer, bore } }): Result[] => {
    return [
      { name: 'endDiameter', label: 'its end, across', value: 2 * outer, quantity: 'length' },
      { name: 'endBore', label: 'bore at its end', head: 'Bore there', value: 2 * bore, quantity: 'length' },
      ...COMBINING.results(body),
    ];
  },
});

/** What the end measures across and along, as far as its form has it so. */
function endMarks(
  { at, outer }: EndMade,
  form: string,
  resolved: Readonly<Record<string, { readonly value: number }>>,
): Mark[] {
  const of = (field: string) => resolved[field]?.value ?? 0;
  const place = (height: number) => add(at.origin, scale(at.ez, height));
  const along = (field: string, from: number, to: number) =>
    lineMark(field, place(from), place(to), at.ez, outer);
  const across = (field: string, height: number): Mark => ({
    ...acrossAxis(at, field, of(field), height),
    outward: 1,
  });
  switch (form) {
    case 'flange':
      return [across('diameter', 0), along('thickness', -of('thickness'), 0)];
    case 'spigot':
      return [across('diameter', of('long')), along('long', 0, of('long'))];
    case 'reducer':
      return [
        across('diameter', 2 * of('straight') + of('long')),
        along('long', of('straight'), of('straight') + of('long')),
      ];
    default:
      return [];
  }
}

/**
 * All tubes of a body, the tube of a number (from 1), and its mouth at one end. @throws Complaint at "tube" if the body has no
 * tube, at "of" if the number does not exist, at "at" if that end is inside another tube
 */
function openTube(
  body: Body,
  of: number,
  end: 0 | 1,
): { readonly tubes: readonly Tube[]; readonly tube: Tube; readonly mouth: Mouth } {
  try {
    const tubes = tubesOf([body]);
    const tube = tubes[of - 1];
    if (!tube)
      throw new Complaint(
        tubes.length === 1
          ? 'This is one tube: its number is 1.'
          : `Of these tubes, choose one by a whole number from 1 to ${tubes.length}.`,
        'of',
      );
    const mouths = mouthsOf(tube);
    if (tube.swept && mouths && tube.swept.section.contours.length === 2) {
      if (!isRound(tube.swept.section))
        throw new Complaint(
          'Ends are made of round tubes, and this section is none: take a round tube as its section.',
          'tube',
        );
      const mouth = mouths[end];
      const within = tubes.findIndex((one) => one !== tube && depthIn(one, mouth.at, 'outside') > 0);
      if (within >= 0)
        throw new Complaint(
          `This end of tube ${of} is inside tube ${within + 1}. Choose the other end, or another tube.`,
          'at',
        );
      return { tubes, tube, mouth };
    }
  } catch (error) {
    if (!(error instanceof ClosedBore)) throw error;
    throw new Complaint('This tube is closed at an end: leave it open in its own step.', 'tube');
  }
  throw new Complaint(
    'This is no tube with open ends. Choose a body that is swept with a tube as its section, or joined of such.',
    'tube',
  );
}

function frameAt({ at, out }: Mouth): Motion {
  const ex = squareTo(out);
  return { origin: at, ex, ey: cross(out, ex), ez: out };
}

const outlined = (outline: Outline) => {
  const [first, last] = [outline[0]!, outline.at(-1)!];
  const corners = [[0, first[1]] as const, ...outline, [0, last[1]] as const].map(([x, y]) => ({ x, y }));
  return sectionOf('end', [cornered(corners, { field: () => 'form' })], { symmetry: 1 });
};

const addedTo = (outside: Body, more: Body): Body =>
  combinedBody('add', [
    ...(outside.form === 'combined' && outside.operation === 'add' ? outside.bodies : [outside]),
    more,
  ]);

/** What is put on a tube begins so far within it, as a part of sizes there: no faces of theirs lie in one plane, or coincide. */
const LEAD = 0.1;

/** The beginning of a bore of that radius, or of an outside, from something round of its own: within it, and through its end face. */
function leadIn(radius: number, own: number): Outline {
  if (radius < (1 - LEAD / 2) * own) return [[radius, -LEAD * own]];
  if (radius > (1 + LEAD / 2) * own) return [[radius, -shoulder(radius, own)]];
  const even = Math.abs(radius - own) < ALIKE * own;
  return [[(1 - LEAD) * own, -LEAD * own], [own, 0], ...(even ? [] : ([[radius, LEAD * own]] as const))];
}

/** How deep the shoulder of a wider bore is cut into the tube's end. */
const shoulder = (radius: number, own: number): number => LEAD * (radius - own);

/** Radii are told apart by this part. */
const ALIKE = 1e-9;

type Maker = (figures: Figures, mouth: Mouth) => Form;

const FORMS: Readonly<Record<Figures['form'], Maker>> = {
  flange({ diameter, thickness, holes, circle, hole }, { outer }) {
    if (!(diameter > 2 * outer))
      throw new Complaint(
        words`A flange must be wider than its tube, which is ${mm(2 * outer)} across: give it more.`,
        'diameter',
      );
    const rim = diameter / 2;
    return {
      outside: [
        [rim, -thickness],
        [rim, 0],
      ],
      holes: boltHoles({ holes, circle, hole }, outer, rim, thickness),
    };
  },
  socket({ long, wall, play }, { reach, outer }) {
    const bore = outer + play / 2;
    const height = long - shoulder(bore, reach);
    if (!(height > 0))
      throw new Complaint(
        words`A socket must be deeper than its shoulder: give more than ${mm(shoulder(bore, reach))}.`,
        'long',
      );
    return {
      outside: [
        [bore + wall, -wall],
        [bore + wall, height],
      ],
      bore: [
        [bore, height - long],
        [bore, height],
      ],
      mouth: { height, reach: bore, outer: bore + wall },
    };
  },
  spigot({ diameter, long, wall }, { reach, outer }) {
    const radius = diameter / 2;
    if (!(radius < outer * (1 - ALIKE)) || !(radius > reach * (1 + ALIKE)))
      throw new Complaint(
        words`A spigot is narrower than its tube and wider than its bore: between ${mm(2 * reach)} and ${mm(2 * outer)} across. Choose a reducer for more.`,
        'diameter',
      );
    const bore = boreWithin(radius, wall);
    return {
      outside: [
        [radius, -LEAD * outer],
        [radius, long],
      ],
      bore: [...leadIn(bore, reach), [bore, long]],
      mouth: { height: long, reach: bore, outer: radius },
    };
  },
  reducer({ diameter, long, straight, wall }, { reach, outer }) {
    const radius = diameter / 2;
    const bore = boreWithin(radius, wall);
    const height = 2 * straight + long;
    const cone = (from: number, to: number): Outline => [
      ...leadIn(from, from),
      [from, straight],
      [to, straight + long],
      [to, height],
    ];
    return {
      outside: cone(outer, radius),
      bore: cone(reach, bore),
      mouth: { height, reach: bore, outer: radius },
    };
  },
};

function boreWithin(radius: number, wall: number): number {
  if (!(wall < radius))
    throw new Complaint(words`This wall leaves no bore: it must stay under ${mm(radius)}.`, 'wall');
  return radius - wall;
}

/** Holes of a flange go so far beyond it, as a part of its thickness. */
const THROUGH = 0.5;

function boltHoles(
  { holes, circle, hole }: Pick<Figures, 'holes' | 'circle' | 'hole'>,
  outer: number,
  rim: number,
  thickness: number,
): Hole[] {
  if (!Number.isInteger(holes)) throw new Complaint('Holes are whole: give a whole number of them.', 'holes');
  if (!holes) return [];
  const [away, radius] = [circle / 2, hole / 2];
  if (!(away - radius > outer) || !(away + radius < rim))
    throw new Complaint(
      words`Holes must lie between the tube and the rim: with this size their circle is between ${mm(2 * (outer + radius))} and ${mm(2 * (rim - radius))} across.`,
      'circle',
    );
  if (holes > 1 && !(2 * away * Math.sin(Math.PI / holes) > hole))
    throw new Complaint(
      words`${holes} holes of this size run into one another: make them fewer, or smaller.`,
      'holes',
    );
  const outline: Outline = [
    [radius, -(1 + THROUGH) * thickness],
    [radius, THROUGH * thickness],
  ];
  return Array.from({ length: holes }, (_x, i): Hole => {
    const a = (2 * Math.PI * (i + 1 / 2)) / holes;
    return { x: away * Math.cos(a), y: away * Math.sin(a), outline };
  });
}
