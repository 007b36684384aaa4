import { z } from 'zod';
import { choice, count, length, pathKind } from '../../kind/kind';
import { setOf } from '../../kind/sets';
import { cos, linear, scaled, sin, writeJets, constant } from '../../geometry/jet';
import { root } from '../../geometry/numeric';
import { add, scale, type Vec3 } from '../../geometry/vector';
import { lineMark, type Mark } from '../../kind/mark';
import { Complaint, mm, words } from '../../measure/words';
import { arc, type Curve } from '../../path/curve';
import { movedCurve, backwards, partOf } from '../../path/wrap';

import { PROFILE } from './profile';
import { seatMeridian, seatRound } from '../../path/seat';
import { pathOf, type Path } from '../../path/path';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';
import { spline } from '../../path/spline';
import { STILL, turnedFrame, type Motion } from '../../geometry/motion';
import { acrossAxis, placedMarks, profileMarks } from './placed-marks';

const schema = z.object({
  shape: choice('dome', 'ball', 'turned'),
  diameter: length({ above: 0 }),
  height: length({ above: 0 }),
  opening: length({ atLeast: 0 }),
  meridians: count({ atLeast: 0, atMost: 120 }),
  parallels: count({ atLeast: 0, atMost: 120 }),
  ...PLACING,
});

/** Meridians and parallels of a ball, a dome or a turned surface, as a set of paths. */
export const cage = pathKind({
  kind: 'cage',
  title: 'Cage',
  noun: 'cage',
  words: [
    'lattice',
    'cage',
    'basket',
    'meridians',
    'parallels',
    'dome',
    'ball',
    'sphere',
    'skep',
    'grid',
    'wires',
  ],
  inputs: PLACING_INPUTS,
  schema,
  tables: { profile: PROFILE },
  needs: ({ shape }) => shape === 'turned',
  defaults: {
    shape: 'dome',
    diameter: '120 mm',
    height: '90 mm',
    opening: '20 mm',
    meridians: '8',
    parallels: '4',
    ...PLACING_DEFAULTS,
  },
  rows: {
    profile: [
      { height: '0 mm', diameter: '80 mm' },
      { height: '40 mm', diameter: '120 mm' },
      { height: '100 mm', diameter: '40 mm' },
    ],
  },
  marks: (_path, set, _filled, resolved) =>
    placedMarks(set, resolved, (at) => cageMarks(set.shape ?? 'dome', resolved, at)),
  evaluate(figures, { place }) {
    const { meridians, parallels } = figures;
    for (const field of ['meridians', 'parallels'] as const)
      if (!Number.isInteger(figures[field])) throw new Complaint('This is a whole number.', field);
    if (meridians + parallels === 0)
      throw new Complaint('A cage needs a meridian or a parallel.', 'meridians');
    const at = turnedFrame(placedAt(figures, place), figures.startAngle);
    const profile = profilePath(figures);
    const [foot, top] = [0, profile.length].map((s) => profile.at(s).position[0] > 1e-9 * profile.length);
    const paths: Path[] = [];
    // Opposite meridians that meet on the axis are one wire over the top.
    const arched = !top && meridians % 2 === 0;
    const beyond = turnedFrame(STILL, Math.PI);
    const down = profile.pieces.map((piece) => backwards(movedCurve(piece, beyond))).reverse();
    const meridian = [...profile.pieces, ...(arched ? down : [])];
    for (let i = 0; i < (arched ? meridians / 2 : meridians); i++) {
      const round = turnedFrame(at, (2 * Math.PI * i) / meridians);
      const curves = meridian.map((curve) => movedCurve(curve, round));
      paths.push(pathOf(curves, { seat: seatMeridian(curves, round.ey) }));
    }
    // Parallels stand evenly along the meridian; where it ends on the axis there is none.
    const gaps = parallels - 1 + (foot ? 0 : 1) + (top ? 0 : 1);
    for (let i = 0; i < parallels; i++) {
      const part = gaps === 0 ? 0.5 : (i + (foot ? 0 : 1)) / gaps;
      const { position, tangent } = profile.at(part * profile.length);
      const [r, , height] = position;
      const curve = movedCurve(arc([0, 0, height], [1, 0, 0], [0, 1, 0], r, 2 * Math.PI), at);
      // Square to the meridian there: the surface grows wider by the tangent's slope.
      paths.push(pathOf([curve], { seat: seatRound([curve], at, tangent[0] / tangent[2]) }));
    }
    return setOf(paths);
  },
  results: () => [],
});

/** What it measures across at its foot or middle, and at its opening, and how high it is; or the rows of its outline. */
function cageMarks(
  shape: string,
  resolved: Readonly<Record<string, { readonly value: number }>>,
  at: Motion,
): Mark[] {
  if (shape === 'turned') return profileMarks(turnedFrame(at, resolved.startAngle?.value ?? 0), resolved);
  const of = (field: string) => resolved[field]?.value ?? 0;
  const [diameter, opening] = [of('diameter'), of('opening')];
  const top = shape === 'ball' ? diameter / 2 : of('height');
  const crown = top * Math.sqrt(Math.max(0, 1 - (opening / diameter) ** 2));
  const up = add(at.origin, scale(at.ez, top));
  return [
    acrossAxis(at, 'diameter', diameter),
    ...(shape === 'dome' ? [lineMark('height', at.origin, up, at.ez, diameter / 2)] : []),
    ...(opening > 0 ? [{ ...acrossAxis(at, 'opening', opening, crown), outward: 1 } as const] : []),
  ];
}

type CageFigures = z.infer<typeof schema> & { readonly profile: readonly z.infer<typeof PROFILE.row>[] };

/** The meridian in the plane y = 0, from the foot up, as far as the opening at the top. */
function profilePath(figures: CageFigures): Path {
  const path = pathOf(profileCurves(figures));
  const half = figures.opening / 2;
  if (half === 0) return path;
  const radius = (s: number) => path.at(s).position[0];
  if (radius(path.length) >= half) return path;
  let from = path.length;
  while (from > 0 && radius(from) < half) from -= path.length / 200;
  if (from <= 0)
    throw new Complaint(
      words`The opening is wider than the cage: less than ${mm(figures.diameter)}.`,
      'opening',
    );
  const end = root((s) => radius(s) - half, from, path.length, 1e-14);
  const { piece, u } = path.locate(end);
  return pathOf([...path.pieces.slice(0, piece), partOf(path.pieces[piece]!, 0, u)]);
}

function profileCurves({ shape, diameter, height, profile }: CageFigures): Curve[] {
  const r = diameter / 2;
  if (shape === 'ball') return [arc([0, 0, 0], [0, 0, -1], [1, 0, 0], r, Math.PI)];
  if (shape === 'dome') return [quarter(r, height)];
  const points = profile.map((row): Vec3 => [row.diameter / 2, 0, row.height]);
  return spline(points, false, undefined, (i) => `profile.${i}.height`);
}

/** Quarter of an ellipse from (r, 0) to (0, height). */
function quarter(r: number, height: number): Curve {
  return {
    span: Math.PI / 2,
    first(u, out) {
      out[0] = r * Math.cos(u);
      out[1] = 0;
      out[2] = height * Math.sin(u);
      out[3] = -r * Math.sin(u);
      out[4] = 0;
      out[5] = height * Math.cos(u);
    },
    derive(u, out) {
      const angle = linear(1, 0, u);
      writeJets([scaled(cos(angle), r), constant(0), scaled(sin(angle), height)], out);
    },
  };
}
