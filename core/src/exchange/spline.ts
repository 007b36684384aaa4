/** Splines of DXF drawings: B-splines, rational where they carry weights. */
import { lastAtMost } from '../geometry/search';
import { Complaint } from '../measure/words';
import { figureAt, type Entity } from './dxf-groups';

export interface Spline {
  readonly degree: number;
  readonly knots: readonly number[];
  readonly controls: readonly { readonly x: number; readonly y: number; readonly z: number }[];
  /** One a control; none where all weigh the same. */
  readonly weights: readonly number[];
}

/** Nothing draws with a higher degree, and each point of the curve takes its square of steps. */
const HIGHEST_DEGREE = 25;

/** A spline with its weights. Group codes as the DXF reference has them. */
export function splineIn(entity: Entity): Spline {
  const controls: { x: number; y: number; z: number }[] = [];
  const [knots, weights]: [number[], number[]] = [[], []];
  const degree = figureAt(entity, 71) ?? 3;
  for (const { code, value } of entity.groups) {
    const last = controls.at(-1);
    if (code === 10) controls.push({ x: Number(value), y: 0, z: 0 });
    if (last && code === 20) last.y = Number(value);
    if (last && code === 30) last.z = Number(value);
    if (code === 40) knots.push(Number(value));
    if (code === 41) weights.push(Number(value));
  }
  return { degree, knots, weights, controls };
}

/** The different parameters at which a spline's pieces begin and end. @throws Complaint where its figures do not go together */
export function knotsOf({ degree, knots, controls, weights }: Spline): number[] {
  if (!controls.length)
    throw new Complaint(
      'This drawing holds a spline that is given only by points it passes: give it control points first.',
    );
  if (!(degree <= HIGHEST_DEGREE))
    throw new Complaint(
      `This drawing holds a spline of degree ${degree}; at most ${HIGHEST_DEGREE} is possible. Convert it to arcs.`,
    );
  const counts = knots.length === controls.length + degree + 1 && degree >= 1 && controls.length > degree;
  if (!counts || (weights.length && weights.length !== controls.length))
    throw new Complaint('This drawing holds a spline whose knots and control points do not go together.');
  const inside = knots.slice(degree, knots.length - degree);
  return inside.filter((knot, i) => i === 0 || knot > inside[i - 1]!);
}

/** Point of a spline at a parameter, times `scale`, by de Boor's algorithm (C. de Boor, 1972). */
export function pointOf(
  { degree, knots, controls, weights }: Spline,
  t: number,
  scale: number,
): [number, number] {
  const last = controls.length - 1;
  // The last span that begins at or before t.
  const k = lastAtMost(knots, t, degree, last);
  const d = Array.from({ length: degree + 1 }, (_x, j) => {
    const i = k - degree + j;
    const w = weights[i] ?? 1;
    return [controls[i]!.x * w, controls[i]!.y * w, w] as [number, number, number];
  });
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const i = k - degree + j;
      const span = knots[i + degree - r + 1]! - knots[i]!;
      const part = span > 0 ? (t - knots[i]!) / span : 0;
      for (let c = 0; c < 3; c++) d[j]![c] = d[j - 1]![c]! + part * (d[j]![c]! - d[j - 1]![c]!);
    }
  const [x, y, w] = d[degree]!;
  return [(x / w) * scale, (y / w) * scale];
}
