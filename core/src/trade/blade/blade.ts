/**
 * Blades: a line from hub to tip carried along a helix. What it makes is a helicoid, of which all this follows (M. P. do
 * Carmo, Differential Geometry of Curves and Surfaces, 1976, 2-5; the gap by S. L. Dixon, Fluid Mechanics and
 * Thermodynamics of Turbomachinery, 1998, 3.2: blade space times the sine of the blade's angle). Lengths in mm, angles in rad.
 */
import { integrate } from '../../geometry/numeric';

/** How a blade runs: its turn a length of the axis at both ends, evenly changing between them, and its height. */
export interface Run {
  /** Right-handed where it is more than 0. */
  readonly start: number;
  readonly end: number;
  readonly height: number;
}

/** How far a blade has turned at a height. */
export const turnAt = ({ start, end, height }: Run, z: number): number =>
  start * z + ((end - start) * z * z) / (2 * height);
/** Its turn a length of the axis there. */
export const rateAt = ({ start, end, height }: Run, z: number): number =>
  start + ((end - start) * z) / height;

/** Angle of the blade from a plane square to its axis, at a radius. */
export const bladeAngle = (rate: number, radius: number): number => Math.atan2(1, Math.abs(rate) * radius);

/** Turn a length of the axis of a blade that has an angle at a radius. */
export const rateOf = (angle: number, radius: number): number => 1 / (radius * Math.tan(angle));

/** Area of one face between two radii, mm²: `slope` is how much the line rises a length outward. */
export const developedArea = (run: Run, inner: number, outer: number, slope: number): number =>
  integrate(
    (z) => integrate((r) => Math.sqrt(1 + (r * rateAt(run, z)) ** 2 * (1 + slope * slope)), inner, outer, 4),
    0,
    run.height,
    run.start === run.end ? 1 : 4,
  );

/** Gap between neighbours of so many blades at a radius, square to them: the space of one, less its thickness. */
export const bladeGap = (rate: number, radius: number, count: number, thickness: number): number =>
  ((2 * Math.PI * radius) / count) * Math.sin(bladeAngle(rate, radius)) - thickness;

/** Angle by which neighbours cover each other, seen along the axis; less than 0 where one sees through between them. */
export const overlapOf = (run: Run, count: number): number =>
  Math.abs(turnAt(run, run.height)) - (2 * Math.PI) / count;
