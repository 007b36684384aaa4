import { z } from 'zod';
import { anyBodyResults } from '../../kind/body-results';
import { angle, bodyKind, choice, Detailed, count, length } from '../../kind/kind';
import { lineMark } from '../../kind/mark';
import type { Result, Graph, SetOf } from '../../kind/value';
import { turnedFrame, type Motion } from '../../geometry/motion';
import { add, scale } from '../../geometry/vector';
import { Complaint, mm, words } from '../../measure/words';
import type { Material } from '../../measure/materials';
import { line } from '../../path/curve';
import { pathOf } from '../../path/path';
import { bladeSection, type BladeCut } from '../../section/blade';
import type { Section } from '../../section/section';
import { pairOf } from '../../section/match';
import type { Body } from '../../solid/body/body';
import { combinedBody } from '../../solid/combine/combined';
import { placedBody } from '../../solid/body/placed';
import { sweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import { evenLaw, linearLaw, type Law } from '../../sweep/carry/laws';
import {
  bladeAngle,
  bladeGap,
  developedArea,
  overlapOf,
  rateAt,
  rateOf,
  turnAt,
  type Run,
} from '../../trade/blade/blade';
import { turnAbout } from '../changes/axis';
import { acrossAxis, placedMarks } from '../paths/placed-marks';
import { placedAt, spanned } from '../paths/placing';
import { materialGiven } from './of-material';
import { axisIn, checkSolid, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS } from './on-axis';
import { FACING } from './straight';

const RIGHT = Math.PI / 2;

const BLADE = z.object({
  copies: count({ atLeast: 1, atMost: 60 }),
  hub: length({ above: 0 }),
  tip: length({ above: 0 }),
  sunk: length({ atLeast: 0 }),
  height: length({ above: 0 }),
  slope: choice('pitch', 'angles'),
  pitch: length({ above: 0 }),
  inlet: angle({ above: 0, atMost: RIGHT }),
  outlet: angle({ above: 0, atMost: RIGHT }),
  hand: choice('right', 'left'),
  lean: angle({ above: -RIGHT, below: RIGHT }),
  thickness: length({ above: 0 }),
  tipThickness: length({ above: 0 }),
  side: choice('both', 'above', 'below'),
  ...ON_AXIS,
});

/** Blades round a hub: a line from hub to tip carried along a helix, with a thickness. */
export const blade = bodyKind({
  kind: 'blade',
  title: 'Blades',
  noun: 'blades',
  words: ['vane', 'blade', 'blades', 'impeller', 'pump', 'fan', 'flight', 'helicoid', 'ribbon'],
  inputs: {
    ...ON_AXIS_INPUTS,
    within: { takes: 'body', optional: true },
  },
  schema: BLADE,
  defaults: {
    copies: '6',
    hub: '20 mm',
    tip: '60 mm',
    sunk: '1 mm',
    height: '20 mm',
    slope: 'pitch',
    pitch: '80 mm',
    inlet: '25 deg',
    outlet: '40 deg',
    hand: 'right',
    lean: '0 deg',
    thickness: '2 mm',
    tipThickness: '1.2 mm',
    side: 'both',
    ...ON_AXIS_DEFAULTS,
  },
  evaluate(figures, { place, within }) {
    const { copies, hub, tip, sunk } = figures;
    if (!Number.isInteger(copies)) throw new Complaint('Blades are whole: give a whole number.', 'copies');
    if (!(tip > hub))
      throw new Complaint(words`The tip must lie outside of the hub, which is ${mm(hub)} across.`, 'tip');
    if (!(2 * sunk < hub))
      throw new Complaint(words`They can be sunk less than ${mm(hub / 2)} deep: there is the axis.`, 'sunk');
    const made = madeOf(figures);
    checkThickness(made);
    const at = turnedFrame(placedAt(figures, axisIn(place)), figures.startAngle);
    const first = oneBlade(made, at, materialGiven(figures));
    const members = Array.from({ length: copies }, (_x, i): Body => {
      const mine = placedBody(first, turnAbout(at.origin, at.ez, (2 * Math.PI * i) / copies));
      return within ? combinedBody('common', [mine, within]) : mine;
    });
    if (members.length === 1) return new Detailed(members[0]!, made);
    const set: SetOf<Body> = {
      type: 'set',
      memberType: 'body',
      members,
      results: bladeResults(made),
      graph: angles(made),
    };
    return new Detailed(set, made);
  },
  results: (body, { detail }) => [...bladeResults(detail), ...anyBodyResults(body)],
  graph: (_body, { detail }) => angles(detail),
  measure: (body, poll) => body.measured(poll),
  check: checkSolid,
  // They are alike.
  checkSet: (set, context) => checkSolid(set.members[0]!, context),
  marks: (_body, set, _filled, resolved) =>
    placedMarks(set, resolved, (at) => {
      const of = (field: string) => resolved[field]?.value;
      const [tip, hub, height] = [of('tip'), of('hub'), of('height')];
      if (tip === undefined || hub === undefined || height === undefined) return [];
      return [
        acrossAxis(at, 'tip', tip),
        { ...acrossAxis(at, 'hub', hub, height), outward: 1 },
        lineMark('height', at.origin, add(at.origin, scale(at.ez, height)), at.ez, tip / 2),
      ];
    }),
});

/** A blade as it is cut at its foot and at its top, and how it runs between. */
interface Blade {
  readonly copies: number;
  readonly run: Run;
  readonly cut: Omit<BladeCut, 'rate'>;
}

function madeOf(figures: z.infer<typeof BLADE>): Blade {
  const { copies, hub, tip, sunk, slope, hand, lean, side, thickness, tipThickness } = figures;
  const way = hand === 'right' ? 1 : -1;
  const height = spanned(figures) ?? figures.height;
  const [start, end] =
    slope === 'pitch'
      ? [(2 * Math.PI) / figures.pitch, (2 * Math.PI) / figures.pitch]
      : [rateOf(figures.inlet, tip / 2), rateOf(figures.outlet, tip / 2)];
  return {
    copies,
    run: { start: way * start, end: way * end, height },
    cut: {
      inner: hub / 2 - sunk,
      outer: tip / 2,
      hub: hub / 2,
      slope: Math.tan(lean),
      thickness,
      tipThickness,
      front: side === 'both' ? 1 / 2 : (side === 'above') === way > 0 ? 1 : 0,
    },
  };
}

/** Whether blades have room. @throws Complaint where a blade is too thick for its hub, or for its neighbours */
function checkThickness({ copies, run, cut }: Blade): void {
  if (!(cut.thickness < cut.inner))
    throw new Complaint(
      words`So near to the axis a blade is less than ${mm(cut.inner)} thick: make it thinner, or sink it less.`,
      'thickness',
    );
  const fastest = Math.max(Math.abs(run.start), Math.abs(run.end));
  for (const [radius, thick, field] of [
    [cut.hub, cut.thickness, 'thickness'],
    [cut.outer, cut.tipThickness, 'tipThickness'],
  ] as const)
    if (copies > 1 && !(bladeGap(fastest, radius, copies, thick) > 0))
      throw new Complaint(
        words`${copies} blades leave each other ${mm(bladeGap(fastest, radius, copies, 0))} here: make them thinner, or fewer.`,
        field,
      );
}

/** One blade, from the foot of the axis up. */
function oneBlade({ run, cut }: Blade, at: Motion, material: Material): Body {
  const { height } = run;
  const [foot, top] = [run.start, run.end].map((rate) => bladeSection({ ...cut, rate })) as [
    Section,
    Section,
  ];
  const changes = run.start !== run.end;
  const twist: Law =
    run.start === 0 && !changes
      ? evenLaw(0)
      : { value: (s) => turnAt(run, s), slope: (s) => rateAt(run, s), knots: [] };
  const mix = changes
    ? linearLaw([
        { s: 0, value: 0 },
        { s: height, value: 1 },
      ])
    : evenLaw(0);
  const pairs = foot.contours.map(({ pieces }, i) =>
    pieces.map((piece, k) => pairOf(piece, top.contours[i]!.pieces[k]!)),
  );
  const path = pathOf([line(at.origin, add(at.origin, scale(at.ez, height)))]);
  const swept = sweptAlong(path, foot, {
    ...FACING,
    facing: at.ex,
    laws: () => ({ width: evenLaw(1), height: evenLaw(1), twist, mix }),
    ...(changes && { into: top, pairs }),
  });
  return sweptBody([swept], foot, material);
}

function bladeResults({ copies, run, cut }: Blade): Result[] {
  const { hub, outer, slope, thickness, tipThickness } = cut;
  const angleOf = (name: string, label: string, rate: number, radius: number, head?: string): Result => ({
    name,
    label,
    ...(head !== undefined && { head }),
    value: bladeAngle(rate, radius),
    quantity: 'angle',
  });
  const changes = run.start !== run.end;
  const gapOf = (name: string, label: string, radius: number, thick: number): Result => ({
    name,
    label,
    value: Math.min(...[run.start, run.end].map((rate) => bladeGap(rate, radius, copies, thick))),
    quantity: 'length',
  });
  return [
    angleOf(
      'rootAngle',
      changes ? 'angle at the root, foot' : 'angle at the root',
      run.start,
      hub,
      'Root angle',
    ),
    angleOf(
      'tipAngle',
      changes ? 'angle at the tip, foot' : 'angle at the tip',
      run.start,
      outer,
      'Tip angle',
    ),
    ...(changes
      ? [
          angleOf('rootAngleTop', 'angle at the root, top', run.end, hub),
          angleOf('tipAngleTop', 'angle at the tip, top', run.end, outer),
        ]
      : []),
    { name: 'turned', label: 'turns by', value: Math.abs(turnAt(run, run.height)), quantity: 'angle' },
    {
      name: 'bladeArea',
      label: 'area of a face',
      value: developedArea(run, hub, outer, slope),
      quantity: 'area',
    },
    ...(copies > 1
      ? ([
          gapOf('rootGap', 'gap at the root', hub, thickness),
          gapOf('tipGap', 'gap at the tip', outer, tipThickness),
          {
            name: 'overlap',
            label: 'overlap seen along the axis',
            value: overlapOf(run, copies),
            quantity: 'angle',
          },
        ] as const)
      : []),
  ];
}

const PLACES = 32;

/** The angle from root to tip, at the foot. */
const angles = ({ run, cut: { hub, outer } }: Blade): Graph => ({
  x: { label: 'radius', quantity: 'length' },
  y: { label: 'angle of the blade', quantity: 'angle' },
  points: Array.from({ length: PLACES + 1 }, (_x, i) => {
    const radius = hub + ((outer - hub) * i) / PLACES;
    return [radius, bladeAngle(run.start, radius)] as const;
  }),
});
