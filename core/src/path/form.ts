/** What a curve is in exact terms, for files and tables that name it. Lengths in mm, angles in rad. */
import { add, scale, type Vec3, vec3 } from '../geometry/vector';
import { moved, turned, type Motion } from '../geometry/motion';

/** A shape by a parameter t. */
export type Shape =
  /** origin + t · along, a unit vector. */
  | { readonly shape: 'line'; readonly origin: Vec3; readonly along: Vec3 }
  /** centre + radius · (cos t · ex + sin t · ey), unit vectors. */
  | {
      readonly shape: 'arc';
      readonly centre: Vec3;
      readonly ex: Vec3;
      readonly ey: Vec3;
      readonly radius: number;
    }
  /** centre + cos t · a + sin t · b, its half axes. */
  | { readonly shape: 'ellipse'; readonly centre: Vec3; readonly a: Vec3; readonly b: Vec3 }
  /** In its frame (radius · cos φ, radius · sin φ, rise · t) with φ = start + hand · t. */
  | {
      readonly shape: 'helix';
      readonly frame: Motion;
      readonly radius: number;
      readonly rise: number;
      readonly start: number;
      readonly hand: 1 | -1;
    }
  /** Coefficients of x, y and z from the constant up. */
  | { readonly shape: 'polynomial'; readonly coefficients: readonly [Series, Series, Series] };
type Series = readonly number[];

/** A curve is a shape from one parameter to another; its own parameter runs evenly between them. */
export interface Form {
  readonly curve: Shape;
  readonly from: number;
  readonly to: number;
}

/** Place on a shape. */
export function placeOn(of: Shape, t: number): Vec3 {
  const [c, s] = [Math.cos(t), Math.sin(t)];
  switch (of.shape) {
    case 'line':
      return add(of.origin, scale(of.along, t));
    case 'arc':
      return add(of.centre, add(scale(of.ex, of.radius * c), scale(of.ey, of.radius * s)));
    case 'ellipse':
      return add(of.centre, add(scale(of.a, c), scale(of.b, s)));
    case 'helix': {
      const angle = of.start + of.hand * t;
      return moved(of.frame, [of.radius * Math.cos(angle), of.radius * Math.sin(angle), of.rise * t]);
    }
    case 'polynomial':
      return vec3(of.coefficients.map((series) => series.reduceRight((sum, x) => sum * t + x, 0)));
  }
}

/** The form of a part, from one share of a curve to another; backwards where they fall. */
export const partOfForm = (form: Form, a: number, b: number): Form => {
  const at = (share: number) => form.from + share * (form.to - form.from);
  return { curve: form.curve, from: at(a), to: at(b) };
};

/** The form moved rigidly. */
export const movedForm = ({ curve, ...range }: Form, motion: Motion): Form => ({
  curve: movedShape(curve, motion),
  ...range,
});

function movedShape(of: Shape, motion: Motion): Shape {
  const [place, way] = [(p: Vec3) => moved(motion, p), (d: Vec3) => turned(motion, d)];
  switch (of.shape) {
    case 'line':
      return { ...of, origin: place(of.origin), along: way(of.along) };
    case 'arc':
      return { ...of, centre: place(of.centre), ex: way(of.ex), ey: way(of.ey) };
    case 'ellipse':
      return { ...of, centre: place(of.centre), a: way(of.a), b: way(of.b) };
    case 'helix': {
      const { origin, ex, ey, ez } = of.frame;
      return { ...of, frame: { origin: place(origin), ex: way(ex), ey: way(ey), ez: way(ez) } };
    }
    case 'polynomial': {
      const { ex, ey, ez, origin } = motion;
      const [x, y, z] = of.coefficients;
      const mixed = (k: 0 | 1 | 2): number[] =>
        Array.from(
          { length: Math.max(x.length, y.length, z.length, 1) },
          (_x, i) =>
            ex[k] * (x[i] ?? 0) + ey[k] * (y[i] ?? 0) + ez[k] * (z[i] ?? 0) + (i === 0 ? origin[k] : 0),
        );
      return { ...of, coefficients: [mixed(0), mixed(1), mixed(2)] };
    }
  }
}
