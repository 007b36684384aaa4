import { z } from 'zod';
import { bodyKind, choice, count, length } from '../../kind/kind';
import type { Figure } from '../../kind/value';
import { add, dot, scale, sub } from '../../geometry/vector';
import { turnedFrame, type Motion } from '../../geometry/motion';
import { Complaint, mm, words } from '../../measure/words';
import type { Material } from '../../measure/materials';
import { coilCurve } from '../../path/coil-curve';
import { pathOf } from '../../path/path';
import { cornered } from '../../section/contour';
import { sectionOf, type Section } from '../../section/section';
import type { Body, CombinedBody } from '../../solid/body';
import { combinedBody } from '../../solid/combined';
import { placedBody } from '../../solid/placed';
import { sweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import { sectionStands } from '../../sweep/carry/stands';
import { evenLaw } from '../../sweep/carry/laws';
import type { SweepPlan } from '../../sweep/carry/swept';
import { turnedBody } from '../../turn/body';
import { turnedBy } from '../../turn/turned';
import { METRIC, METRIC_SIZES, metricFigures, type MetricSize } from '../../trade/thread/metric';
import { placedAt, spanned } from '../paths/placing';
import { wallOf } from './basic';
import { COMBINING } from './combining';
import { materialGiven } from './of-material';
import { FACING } from './straight';
import { axisIn, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS } from './on-axis';

/** How a thread is cut, mm; `starts` grooves beside each other. */
interface Cut {
  readonly diameter: number;
  readonly pitch: number;
  readonly starts: number;
  readonly way: 1 | -1;
  /** How much larger than its size it is drawn, on the diameter: what an inner thread needs. */
  readonly clearance: number;
}
const CUTS = new WeakMap<Body, Cut>();

/** A threaded rod: V grooves of 60° cut along helices into a shank, of a metric size or of one's own. Taken away from a body it cuts an inner thread. */
export const thread = bodyKind({
  ...COMBINING,
  kind: 'thread',
  title: 'Thread',
  noun: 'threaded rod',
  words: [
    'thread',
    'threaded',
    'screw',
    'bolt',
    'metric',
    'tap',
    'nut',
    'stud',
    'plug',
    'groove',
    'pitch',
    'm8',
  ],
  inputs: ON_AXIS_INPUTS,
  schema: z.object({
    size: choice('own', ...METRIC_SIZES),
    row: choice('coarse', 'fine'),
    diameter: length({ above: 0 }),
    pitch: length({ above: 0 }),
    height: length({ above: 0 }),
    starts: count({ atLeast: 1, atMost: 12 }),
    hand: choice('right', 'left'),
    clearance: length({ atLeast: 0 }),
    ...ON_AXIS,
  }),
  defaults: {
    size: 'M12',
    row: 'coarse',
    diameter: '12 mm',
    pitch: '1.75 mm',
    height: '16 mm',
    starts: '1',
    hand: 'right',
    clearance: '0 mm',
    ...ON_AXIS_DEFAULTS,
  },
  evaluate(figures, { place }) {
    const { size, row, starts, clearance } = figures;
    if (!Number.isInteger(starts)) throw new Complaint('The number of starts is a whole number.', 'starts');
    const height = spanned(figures) ?? figures.height;
    const [diameter, pitch] = size === 'own' ? [figures.diameter, figures.pitch] : metricSize(size, row);
    const { minor } = metricFigures(diameter, pitch);
    if (minor < LEAST_CORE * diameter)
      throw new Complaint(
        words`Grooves of this pitch leave no core: at this diameter it must stay under ${mm(((1 - LEAST_CORE) * diameter) / (DEPTH * 2))}.`,
        'pitch',
      );
    const cut: Cut = { diameter, pitch, starts, clearance, way: figures.hand === 'right' ? 1 : -1 };
    const at = turnedFrame(placedAt(figures, axisIn(place)), figures.startAngle);
    const body = threaded(cut, height, at, materialGiven(figures));
    CUTS.set(body, cut);
    return body;
  },
  figures: (body: CombinedBody) => [
    ...threadFigures(CUTS.get(body)!),
    ...COMBINING.figures(body).filter(({ name }) => name !== 'parts'),
  ],
});

const metricSize = (size: MetricSize, row: 'coarse' | 'fine'): [diameter: number, pitch: number] => {
  const [diameter, coarse, fine] = METRIC[size];
  return [diameter, row === 'coarse' ? coarse : fine];
};

function threadFigures({ diameter, pitch, starts }: Cut): Figure[] {
  const { middle, minor, root, stressArea } = metricFigures(diameter, pitch);
  return [
    { name: 'majorDiameter', label: 'outer diameter', value: diameter, quantity: 'length' },
    { name: 'pitchDiameter', label: 'flank diameter', value: middle, quantity: 'length' },
    { name: 'minorDiameter', label: 'core diameter', head: 'Core hole', value: minor, quantity: 'length' },
    { name: 'rootDiameter', label: 'root of a bolt', value: root, quantity: 'length' },
    { name: 'pitch', label: 'pitch', head: 'Pitch', value: pitch, quantity: 'length' },
    ...(starts > 1
      ? ([{ name: 'lead', label: 'lead', value: starts * pitch, quantity: 'length' }] as const)
      : []),
    { name: 'stressArea', label: 'stress area', value: stressArea, quantity: 'area' },
  ];
}

/** The basic profile of ISO 68-1, as parts of the pitch: depth, and what its crest and its root are flat. */
const DEPTH = ((5 / 8) * Math.sqrt(3)) / 2;
const CREST = 1 / 8;
const ROOT = 1 / 4;
/** What is cut reaches so far out of the shank, as a part of the pitch: neighbouring grooves do not touch there. */
const OUT = 0.08;
/** A core thinner than this part of the diameter is none. */
const LEAST_CORE = 0.3;
/** Pitches that a groove goes on beyond both ends of the shank. */
const BEYOND = 1.25;

function threaded(
  { diameter, pitch, starts, way, clearance }: Cut,
  height: number,
  at: Motion,
  material: Material,
) {
  const radius = (diameter + clearance) / 2;
  const shank = placedBody(
    turnedBody(turnedBy(wallOf(0, radius, radius, height), 0, 2 * Math.PI), material),
    at,
  );
  const lead = starts * pitch;
  const turns = (height + 2 * BEYOND * pitch) / lead;
  const shape = { startRadius: radius, endRadius: radius, turns, height: turns * lead };
  const foot: Motion = { ...at, origin: add(at.origin, scale(at.ez, -BEYOND * pitch)) };
  const grooves = Array.from({ length: starts }, (_x, i) => {
    const path = pathOf([coilCurve(shape, way, (2 * Math.PI * i) / starts, foot)], { open: true });
    const plan = grooveAlong(at);
    // Which way the section's own y axis looks is told by how it stands.
    const probe = sectionStands(sweptAlong(path, grooveSection(radius, pitch, lead, 1), plan), 0);
    const from = sub(probe.origin, at.origin);
    const out = dot(probe.ey, sub(from, scale(at.ez, dot(from, at.ez)))) > 0 ? 1 : -1;
    const section = grooveSection(radius, pitch, lead, out);
    return sweptBody([sweptAlong(path, section, plan)], section, material);
  });
  return combinedBody('subtract', [shank, ...grooves]);
}

/** Square to the helix, its x axis as far along the thread's axis as that goes. */
const grooveAlong = ({ ez }: Motion): SweepPlan => ({
  ...FACING,
  facing: ez,
  laws: () => ({ width: evenLaw(1), height: evenLaw(1), twist: evenLaw(0), mix: evenLaw(0) }),
});

/**
 * A groove as it is seen square to its helix of that radius and lead, so that its profile in a plane through the axis is the
 * basic one: x along the thread, y out of the shank (`out` −1: the other way).
 */
function grooveSection(radius: number, pitch: number, lead: number, out: 1 | -1): Section {
  const slope = lead / (2 * Math.PI * radius);
  const lean = Math.atan(slope);
  /** Half of a width in the plane of the axis, at a height over the shank. */
  const square = (half: number, y: number) =>
    half / (Math.cos(lean) + Math.sin(lean) * slope * (radius / (radius + y)));
  const flank = Math.tan(Math.PI / 6);
  const [deep, high] = [-DEPTH * pitch, OUT * pitch];
  const top = square(((1 - CREST) * pitch) / 2 + high * flank, high);
  const foot = square((ROOT * pitch) / 2, deep);
  const corners = [
    { x: -foot, y: deep },
    { x: foot, y: deep },
    { x: top, y: high },
    { x: -top, y: high },
  ].map(({ x, y }) => ({ x, y: out * y }));
  const around = out > 0 ? corners : corners.toReversed();
  return sectionOf('groove', [cornered(around, { field: () => 'pitch' })], { symmetry: 1 });
}
