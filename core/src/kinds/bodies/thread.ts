import { z } from 'zod';
import { bodyKind, choice, Detailed, count, length } from '../../kind/kind';
import { lineMark } from '../../kind/mark';
import type { Result } from '../../kind/value';
import { add, dot, scale, sub } from '../../geometry/vector';
import { turnedFrame, type Motion } from '../../geometry/motion';
import { Complaint, mm, words } from '../../measure/words';
import type { Material } from '../../measure/materials';
import { coilCurve } from '../../path/coil-curve';
import { pathOf } from '../../path/path';
import { cornered } from '../../section/contour';
import { sectionOf, type Section } from '../../section/section';
import type { CombinedBody } from '../../solid/body/body';
import { combinedBody } from '../../solid/combine/combined';
import { placedBody } from '../../solid/body/placed';
import { sweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import { sectionStands } from '../../sweep/carry/stands';
import { evenLaw, fadingLaw, type Law } from '../../sweep/carry/laws';
import type { SweepPlan } from '../../sweep/carry/swept';
import { turnedBody } from '../../turn/body';
import { turnedBy } from '../../turn/turned';
import { METRIC, METRIC_SIZES } from '../../trade/thread/metric';
import { PROFILES, TRAPEZOID_SIZES, TRAPEZOIDS, type ProfileName } from '../../trade/thread/profile';
import { acrossAxis, placedMarks } from '../paths/placed-marks';
import { placedAt, spanned } from '../paths/placing';
import { wallOf } from './basic';
import { COMBINING } from './combining';
import { materialGiven } from './of-material';
import { FACING } from './straight';
import { axisIn, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS } from './on-axis';

/** How a thread is cut, mm; `starts` grooves beside each other. */
interface Cut {
  readonly profile: ProfileName;
  readonly diameter: number;
  readonly pitch: number;
  readonly starts: number;
  readonly way: 1 | -1;
  /** How much larger than its size it is drawn, on the diameter: what an inner thread needs. */
  readonly clearance: number;
  /** Over which it grows from nothing at its foot and fades at its top; 0 where it goes through. */
  readonly runIn: number;
  readonly runOut: number;
}

/** A threaded rod: grooves cut along helices into a shank, of a metric size, a trapezoid one, or of one's own. Taken away from a body it cuts an inner thread. */
export const thread = bodyKind({
  ...COMBINING,
  kind: 'thread',
  title: 'Thread',
  noun: 'threaded rod',
  words: [
    'stud',
    'thread',
    'threaded',
    'screw',
    'metric',
    'tap',
    'plug',
    'groove',
    'pitch',
    'm8',
    'tr16',
    'trapezoid',
    'spindle',
    'round',
  ],
  inputs: ON_AXIS_INPUTS,
  schema: z.object({
    size: choice('own', ...METRIC_SIZES, ...TRAPEZOID_SIZES),
    profile: choice('metric', 'trapezoid', 'round'),
    row: choice('coarse', 'fine'),
    diameter: length({ above: 0 }),
    pitch: length({ above: 0 }),
    height: length({ above: 0 }),
    starts: count({ atLeast: 1, atMost: 12 }),
    hand: choice('right', 'left'),
    clearance: length({ atLeast: 0 }),
    runIn: length({ atLeast: 0 }),
    runOut: length({ atLeast: 0 }),
    ...ON_AXIS,
  }),
  defaults: {
    size: 'M12',
    row: 'coarse',
    profile: 'metric',
    diameter: '12 mm',
    pitch: '1.75 mm',
    height: '16 mm',
    starts: '1',
    hand: 'right',
    clearance: '0 mm',
    runIn: '0 mm',
    runOut: '0 mm',
    ...ON_AXIS_DEFAULTS,
  },
  evaluate(figures, { place }) {
    const { starts, clearance, runIn, runOut, hand } = figures;
    if (!Number.isInteger(starts)) throw new Complaint('The number of starts is a whole number.', 'starts');
    const height = spanned(figures) ?? figures.height;
    const { profile, diameter, pitch } = sizeOf(figures);
    const [depth, most] = [PROFILES[profile].depth(pitch), ((1 - LEAST_CORE) * diameter) / 2];
    if (!(depth < most))
      throw new Complaint(
        words`Grooves of this pitch leave no core: they are ${mm(depth)} deep, and at this diameter they must stay under ${mm(most)}.`,
        'pitch',
      );
    if (!(runIn + runOut < height))
      throw new Complaint(
        words`Run-in and run-out together must stay under ${mm(height)}, the length of the thread.`,
        'runOut',
      );
    const way = hand === 'right' ? 1 : -1;
    const cut: Cut = { profile, diameter, pitch, starts, clearance, way, runIn, runOut };
    const at = turnedFrame(placedAt(figures, axisIn(place)), figures.startAngle);
    return new Detailed(threaded(cut, height, at, materialGiven(figures)), cut);
  },
  marks: (_body, set, _filled, resolved) =>
    placedMarks(set, resolved, (at) => {
      const [diameter, height] = [resolved.diameter?.value ?? 0, resolved.height?.value ?? 0];
      const up = add(at.origin, scale(at.ez, height));
      return [
        ...(set.size === 'own' ? [acrossAxis(at, 'diameter', diameter)] : []),
        ...(set.placing === 'points' ? [] : [lineMark('height', at.origin, up, at.ez, diameter / 2)]),
      ];
    }),
  results: (body: CombinedBody, { detail }) => [
    ...threadResults(detail),
    ...COMBINING.results(body).filter(({ name }) => name !== 'parts'),
  ],
});

interface Size {
  readonly profile: ProfileName;
  readonly diameter: number;
  readonly pitch: number;
}

/** A size of a table by its name, or the figures of one's own. */
function sizeOf({
  size,
  row,
  ...own
}: Size & {
  readonly size: 'own' | keyof typeof METRIC | keyof typeof TRAPEZOIDS;
  readonly row: 'coarse' | 'fine';
}): Size {
  if (size === 'own') return own;
  if (size in TRAPEZOIDS) {
    const [diameter, pitch] = TRAPEZOIDS[size as keyof typeof TRAPEZOIDS];
    return { profile: 'trapezoid', diameter, pitch };
  }
  const [diameter, coarse, fine] = METRIC[size as keyof typeof METRIC];
  return { profile: 'metric', diameter, pitch: row === 'coarse' ? coarse : fine };
}

function threadResults({ profile, diameter, pitch, starts }: Cut): Result[] {
  const { middle, minor, root, stressArea } = PROFILES[profile].diameters(diameter, pitch);
  return [
    { name: 'majorDiameter', label: 'outer diameter', value: diameter, quantity: 'length' },
    { name: 'pitchDiameter', label: 'flank diameter', value: middle, quantity: 'length' },
    { name: 'minorDiameter', label: 'core diameter', head: 'Core hole', value: minor, quantity: 'length' },
    { name: 'rootDiameter', label: 'root of a bolt', value: root, quantity: 'length' },
    { name: 'pitch', label: 'pitch', head: 'Pitch', value: pitch, quantity: 'length' },
    ...(starts > 1
      ? ([{ name: 'lead', label: 'lead', value: starts * pitch, quantity: 'length' }] as const)
      : []),
    ...(stressArea
      ? ([{ name: 'stressArea', label: 'stress area', value: stressArea, quantity: 'area' }] as const)
      : []),
  ];
}

/** What is cut reaches so far out of the shank, as a part of the pitch: neighbouring grooves do not touch there. */
const OUT = 0.08;
/** A core thinner than this part of the diameter is none. */
const LEAST_CORE = 0.3;
/** Pitches that a groove goes on beyond both ends of the shank. */
const BEYOND = 1.25;

function threaded(cut: Cut, height: number, at: Motion, material: Material) {
  const { diameter, pitch, starts, way, clearance, runIn, runOut } = cut;
  const radius = (diameter + clearance) / 2;
  const shank = placedBody(
    turnedBody(turnedBy(wallOf(0, radius, radius, height), 0, 2 * Math.PI), material),
    at,
  );
  const lead = starts * pitch;
  const foot = runIn > 0 ? 0 : -BEYOND * pitch;
  const high = (runOut > 0 ? height : height + BEYOND * pitch) - foot;
  const shape = { startRadius: radius, endRadius: radius, turns: high / lead, height: high };
  const below: Motion = { ...at, origin: add(at.origin, scale(at.ez, foot)) };
  const grooves = Array.from({ length: starts }, (_x, i) => {
    const path = pathOf([coilCurve(shape, way, (2 * Math.PI * i) / starts, below)], { open: true });
    const plan = grooveAlong(
      at,
      fadingLaw(path.length, (runIn / high) * path.length, (runOut / high) * path.length),
    );
    // The direction of the section's own y axis follows from the frame.
    const probe = sectionStands(sweptAlong(path, grooveSection(cut, radius, 1), plan), 0);
    const from = sub(probe.origin, at.origin);
    const out = dot(probe.ey, sub(from, scale(at.ez, dot(from, at.ez)))) > 0 ? 1 : -1;
    const section = grooveSection(cut, radius, out);
    return sweptBody([sweptAlong(path, section, plan)], section, material);
  });
  return combinedBody('subtract', [shank, ...grooves]);
}

/** Square to the helix, its x axis as far along the thread's axis as that goes. */
const grooveAlong = ({ ez }: Motion, size: Law): SweepPlan => ({
  ...FACING,
  facing: ez,
  laws: () => ({ width: size, height: size, twist: evenLaw(0), mix: evenLaw(0) }),
});

/**
 * A groove as it is seen square to its helix of that radius, so that its profile in a plane through the axis is the one of
 * the standard: x along the thread, y out of the shank (`out` −1: the other way).
 */
function grooveSection({ profile, pitch, starts }: Cut, radius: number, out: 1 | -1): Section {
  const slope = (starts * pitch) / (2 * Math.PI * radius);
  const lean = Math.atan(slope);
  /** Half of a width in the plane of the axis, at a height over the shank. */
  const square = (half: number, y: number) =>
    half / (Math.cos(lean) + Math.sin(lean) * slope * (radius / (radius + y)));
  const right = PROFILES[profile]
    .groove(pitch, OUT * pitch)
    .map(([y, half]) => ({ x: square(half, y), y: out * y }));
  const left = right.filter(({ x }) => x > 0).map(({ x, y }) => ({ x: -x, y }));
  const corners = [...right, ...left.toReversed()];
  const around = out > 0 ? corners : corners.toReversed();
  return sectionOf('groove', [cornered(around, { field: () => 'pitch' })], { symmetry: 1 });
}
