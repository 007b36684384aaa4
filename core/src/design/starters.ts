/** Beginnings: a few steps put down together, as the trade asks for them. */
import { addStep, setInput, stepOf } from './edit';
import type { Design, Row } from './schema';

export interface Starter {
  readonly name: string;
  readonly says: string;
  readonly words: readonly string[];
  /** Adds its steps at `at`; returns the id of the first and the last. */
  add(design: Design, at: number): { first: string; last: string };
}

/** Wire, coil, body and duty of a compression spring, closed and ground at both ends, its diameter outside. */
function addSpring(
  design: Design,
  at: number,
  coil: Record<string, string>,
): { first: string; last: string } {
  const first = addStep(design, 'round', at, { diameter: '2 mm' });
  const path = addStep(design, 'helix', at + 1, {
    diameter: '20 mm',
    basis: 'outer',
    turns: '8',
    // Ground down to its centre line at both ends, that is how long it is.
    height: '50 mm',
    heightBasis: 'centres',
    closedStart: '1',
    closedEnd: '1',
    ...coil,
  });
  setInput(design, path, 'section', first);
  const body = addStep(design, 'sweep', at + 2, { startShape: 'flush', endShape: 'flush' });
  setInput(design, body, 'path', path);
  setInput(design, body, 'section', first);
  stepOf(design, body).name = 'Spring';
  const last = addStep(design, 'compression', at + 3);
  setInput(design, last, 'body', body);
  return { first, last };
}

/** A path, a section carried along it, and the body they make. */
function addBody(
  design: Design,
  at: number,
  path: { kind: string; name: string; set?: Record<string, string>; points?: readonly Row[] },
  section: { kind: string; set?: Record<string, string> },
  sweep: Record<string, string>,
): { first: string; last: string } {
  const first = addStep(design, path.kind, at, path.set);
  const laid = stepOf(design, first);
  laid.name = path.name;
  if (path.points) laid.rows = { points: structuredClone(path.points) as Row[] };
  const drawn = addStep(design, section.kind, at + 1, section.set);
  const last = addStep(design, 'sweep', at + 2, sweep);
  setInput(design, last, 'path', first);
  setInput(design, last, 'section', drawn);
  return { first, last };
}

/** Straight up from the origin. */
const upright = (height: string): readonly Row[] => [
  { x: '0 mm', y: '0 mm', z: '0 mm' },
  { x: '0 mm', y: '0 mm', z: height },
];

export const STARTERS: readonly Starter[] = [
  {
    name: 'Compression spring',
    says: 'wire, coil, body and duty',
    words: ['spring', 'compression', 'pressure', 'coil'],
    add: (design, at) => addSpring(design, at, {}),
  },
  {
    name: 'Conical spring',
    says: 'the same, narrowing',
    words: ['spring', 'cone', 'conical', 'taper', 'bumper'],
    add: (design, at) =>
      addSpring(design, at, { taper: 'diameter', diameter: '30 mm', endDiameter: '16 mm' }),
  },
  {
    name: 'Bent tube',
    says: 'run, tube and body',
    words: ['tube', 'pipe', 'bent', 'fitter', 'stand'],
    add: (design, at) =>
      addBody(
        design,
        at,
        { kind: 'run', name: 'Run', set: { radius: '30 mm' } },
        { kind: 'tube', set: { outer: '16 mm', wall: '1.5 mm' } },
        { material: 'mild-steel' },
      ),
  },
  {
    name: 'Twisted column',
    says: 'axis, star and body',
    words: ['twisted', 'taper', 'candle', 'column', 'bar', 'vessel', 'jar'],
    add: (design, at) =>
      addBody(
        design,
        at,
        { kind: 'run', name: 'Axis', points: upright('120 mm') },
        { kind: 'star', set: { size: '24 mm', valley: '0.78', radius: '0.8 mm', valleyRadius: '1 mm' } },
        { twistBy: 'total', twist: '180 deg', material: 'beeswax' },
      ),
  },
  {
    name: 'Endless band',
    says: 'ring, strip and body',
    words: ['endless', 'band', 'ribbon', 'half turn', 'twisted ring'],
    add: (design, at) =>
      addBody(
        design,
        at,
        { kind: 'loop', name: 'Ring' },
        { kind: 'strip', set: { width: '12 mm', thickness: '1.2 mm' } },
        { twistBy: 'total', twist: '180 deg', material: 'brass' },
      ),
  },
  {
    name: 'Straight axis',
    says: 'a path',
    words: ['axis', 'straight', 'line', 'upright'],
    add: (design, at) => {
      const id = addStep(design, 'run', at);
      stepOf(design, id).name = 'Axis';
      stepOf(design, id).rows = { points: structuredClone(upright('100 mm')) as Row[] };
      return { first: id, last: id };
    },
  },
];
