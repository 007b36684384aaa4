/** Splines of DXF drawings: B-splines, rational where they carry weights. */
import type { IEntity } from 'dxf-parser';
import { Complaint } from '../measure/words';

export interface Spline extends IEntity {
  readonly degree: number;
  readonly knots: readonly number[];
  readonly controls: readonly { readonly x: number; readonly y: number; readonly z: number }[];
  /** One a control; none where all weigh the same. */
  readonly weights: readonly number[];
}

interface Scanner {
  next(): Group;
  isEOF(): boolean;
}
interface Group {
  readonly code: number;
  readonly value: unknown;
}

/** Reads the entity with its weights. Group codes as the DXF reference has them. */
export class SplineReader {
  readonly ForEntityName = 'SPLINE' as const;

  parseEntity(scanner: Scanner, first: Group): Spline {
    const controls: { x: number; y: number; z: number }[] = [];
    const [knots, weights]: number[][] = [[], []];
    let degree = 3;
    for (let group = scanner.next(); !scanner.isEOF() && group.code !== 0; group = scanner.next()) {
      const value = Number(group.value);
      switch (group.code) {
        case 10:
          controls.push({ x: value, y: 0, z: 0 });
          break;
        case 20:
          if (controls.length) controls.at(-1)!.y = value;
          break;
        case 30:
          if (controls.length) controls.at(-1)!.z = value;
          break;
        case 40:
          knots!.push(value);
          break;
        case 41:
          weights!.push(value);
          break;
        case 71:
          degree = value;
      }
    }
    return { type: first.value, degree, knots, weights, controls } as unknown as Spline;
  }
}

/** The different parameters at which a spline's pieces begin and end. @throws Complaint where its figures do not go together */
export function knotsOf({ degree, knots, controls, weights }: Spline): number[] {
  if (!controls.length)
    throw new Complaint(
      'This drawing holds a spline that is given only by points it passes: give it control points first.',
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
  let k = degree;
  while (k < last && t >= knots[k + 1]!) k++;
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
