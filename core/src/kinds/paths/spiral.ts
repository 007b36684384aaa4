import { z } from 'zod';
import { choice, count, length, pathKind } from '../../kind/kind';
import { Complaint, mm, words } from '../../measure/words';
import { centreRadius, coilAlong, evenCoil, evenCoils, type CoilShape } from '../../path/coil';
import { coilCurve } from '../../path/coil-curve';
import { pathOf } from '../../path/path';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';
import { polarCurve } from '../../path/polar';
import { diameterMarks } from './placed-marks';

const schema = z.object({
  form: choice('archimedean', 'logarithmic'),
  inner: length({ atLeast: 0 }).optional(),
  outer: length({ above: 0 }).optional(),
  turns: count({ above: 0, atMost: 2000 }).optional(),
  pitch: length({ above: 0 }).optional(),
  basis: choice('centres', 'overall'),
  starts: choice('inside', 'outside'),
  hand: choice('right', 'left'),
  ...PLACING,
});
type SpiralFigures = z.infer<typeof schema>;
const LINKED = ['inner', 'outer', 'turns', 'pitch'] as const;

/** Flat spiral: of even pitch (Archimedean), or of a radius that grows by the same part every turn. */
export const spiral = pathKind({
  kind: 'spiral',
  title: 'Spiral',
  noun: 'flat spiral',
  words: ['spiral', 'flat', 'clock', 'archimedean', 'logarithmic', 'scroll', 'hotplate', 'coil'],
  inputs: { section: { takes: 'section', optional: true }, ...PLACING_INPUTS },
  schema,
  defaults: {
    form: 'archimedean',
    inner: '20 mm',
    outer: '80 mm',
    turns: '5',
    basis: 'centres',
    starts: 'inside',
    hand: 'right',
    ...PLACING_DEFAULTS,
  },
  marks: diameterMarks('inner', 'outer'),
  evaluate(figures, { section, place }) {
    if (figures.basis === 'overall' && !section)
      throw new Complaint(
        'Overall diameters need to know the section that will be swept: choose it here.',
        'basis',
      );
    const { inner, outer, turns } = solve(figures, figures.basis === 'overall' ? section!.diameter : 0);
    const at = placedAt(figures, place);
    const [r0, r1] = figures.starts === 'inside' ? [inner, outer] : [outer, inner];
    const hand = figures.hand === 'right' ? 1 : -1;
    if (figures.form === 'archimedean') {
      const shape: CoilShape = { startRadius: r0, endRadius: r1, turns, height: 0 };
      const coil = evenCoil(shape, { hand, foot: at.origin, axis: at.ez, wire: section?.diameter ?? 0 });
      const pitch = Math.abs(outer - inner) / turns;
      return pathOf([coilCurve(shape, hand, figures.startAngle, at)], {
        coil,
        coils: evenCoils(shape, pitch),
        along: { ...coilAlong(coil), pitch: () => pitch },
      });
    }
    const span = 2 * Math.PI * turns;
    const b = Math.log(r1 / r0) / span;
    const radius = (u: number) => {
      const r = r0 * Math.exp(b * u);
      return [r, b * r, b * b * r, b ** 3 * r] as const;
    };
    const curve = polarCurve(
      {
        span,
        radius,
        height: () => [0, 0, 0, 0],
        start: figures.startAngle,
        hand,
        samplingHint: Math.ceil(turns),
        lengthTo: (u) => (b === 0 ? r0 * u : ((radius(u)[0] - r0) * Math.hypot(1, b)) / b),
      },
      at,
    );
    return pathOf([curve], {
      along: {
        diameter: (_piece, u) => 2 * radius(u)[0],
        // From a coil to the next one outwards.
        pitch: (_piece, u) => radius(u)[0] * (Math.exp(2 * Math.PI * Math.abs(b)) - 1),
      },
    });
  },
  results(path) {
    const first = path.pieces[0]!;
    const [a, b] = [0, first.span].map((u) => path.along.diameter!(0, u)) as [number, number];
    const turns = first.span / (2 * Math.PI);
    return [
      { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
      { name: 'inner', label: 'inner diameter', value: Math.min(a, b), quantity: 'length' },
      { name: 'outer', label: 'outer diameter', value: Math.max(a, b), quantity: 'length' },
      { name: 'turns', label: 'turns', value: turns, quantity: 'number' },
      { name: 'pitch', label: 'mean pitch', value: Math.abs(b - a) / 2 / turns, quantity: 'length' },
    ];
  },
});

/** Radii of the centre line and turns, from three of four figures. */
function solve(figures: SpiralFigures, wire: number) {
  const given = LINKED.filter((field) => figures[field] !== undefined);
  const { pitch, turns } = figures;
  if (figures.form === 'logarithmic' && pitch !== undefined)
    throw new Complaint(
      'The pitch of a logarithmic spiral changes along it: give its turns instead.',
      'pitch',
    );
  if (given.length !== 3)
    throw new Complaint(
      given.length > 3
        ? 'Of inner and outer diameter, turns and pitch only three can be given; the fourth follows.'
        : 'Three of inner and outer diameter, turns and pitch are needed; the fourth follows.',
      given.length > 3 ? 'pitch' : LINKED.find((field) => figures[field] === undefined),
    );
  const basis = figures.basis === 'overall';
  const ri =
    figures.inner === undefined
      ? undefined
      : centreRadius(figures.inner, basis ? 'inner' : 'mean', wire, 'inner');
  const ro =
    figures.outer === undefined
      ? undefined
      : centreRadius(figures.outer, basis ? 'outer' : 'mean', wire, 'outer');
  const inner = ri ?? ro! - pitch! * turns!;
  const outer = ro ?? ri! + pitch! * turns!;
  if (figures.form === 'logarithmic' && inner === 0)
    throw new Complaint(
      'A logarithmic spiral winds about its middle for ever: begin it a little outside.',
      'inner',
    );
  if (inner < 0)
    throw new Complaint(
      words`So many turns do not fit inside ${mm(2 * ro!)}: at most ${Math.floor((ro! / pitch!) * 100) / 100} of this pitch.`,
      'turns',
    );
  if (outer <= inner)
    throw new Complaint(
      words`The outer diameter must be more than the inner one, ${mm(2 * inner)}.`,
      'outer',
    );
  return { inner, outer, turns: turns ?? (outer - inner) / pitch! };
}
