/** The section of a blade square to its axis: what is left of a helicoid with a thickness in a plane. */
import {
  constant,
  cos,
  minus,
  over,
  plus,
  scaled,
  sin,
  sqrt,
  times,
  readJets,
  writeJets,
  type Jet3,
} from '../geometry/jet';
import { root } from '../geometry/numeric';
import type { Vec3 } from '../geometry/vector';
import { arc, line, type Curve } from '../path/curve';
import { backwards, partOf } from '../path/wrap';
import { mappedCurve } from '../path/mapped';
import { pathOf, pointOn } from '../path/path';
import { sectionOf, type Section } from './section';

/** A blade where it is cut; lengths in mm. */
export interface BladeCut {
  readonly inner: number;
  readonly outer: number;
  /** Turn a length of the axis, rad/mm. */
  readonly rate: number;
  /** How much the line rises a length outward, and the radius at which it stands in the plane. */
  readonly slope: number;
  readonly hub: number;
  /** Thickness, square to the blade, at the hub and at the tip, and how much of it lies in front: 1 all, a half, or nothing. */
  readonly thickness: number;
  readonly tipThickness: number;
  readonly front: number;
}

/**
 * A face of the blade in the plane z = 0. A line (r, 0, slope · (r − hub)) that turns as it rises makes a helicoid; its faces
 * stand off it by a part of the thickness along its normal. A screw of the same rate moves each into itself, so that every
 * place of a face can be moved along it until it lies in the plane.
 */
function faceOf(cut: BladeCut, side: 1 | -1): Curve {
  const { rate: k, slope: m, hub, outer, thickness, tipThickness, front } = cut;
  const share = side > 0 ? front : front - 1;
  const from = 0.5 * cut.inner;
  const jets = ([r]: Jet3): Jet3 => {
    const t = scaled(plus(r, constant(-hub)), 1 / (outer - hub));
    const off = scaled(plus(constant(thickness), scaled(t, tipThickness - thickness)), share);
    const w = sqrt(plus(constant(1), scaled(times(r, r), k * k * (1 + m * m))));
    const along = over(off, w);
    const x = minus(r, scaled(times(along, r), m * k));
    const y = scaled(along, -1);
    const z = plus(scaled(plus(r, constant(-hub)), m), scaled(times(along, r), k));
    const turned = scaled(z, -k);
    const [c, s] = [cos(turned), sin(turned)];
    return [minus(times(c, x), times(s, y)), plus(times(s, x), times(c, y)), constant(0)];
  };
  const d = new Float64Array(12);
  return mappedCurve(line([from, 0, 0], [1.5 * outer, 0, 0]), {
    first(out) {
      d.fill(0);
      d.set(out.subarray(0, 6));
      writeJets(jets(readJets(d)), d);
      out.set(d.subarray(0, 6));
    },
    jets,
  });
}

/** The part of a face between two radii. */
function trimmed(face: Curve, inner: number, outer: number): Curve {
  const far = (u: number) => {
    const [x, y] = pointOn(face, u).position;
    return Math.hypot(x, y);
  };
  const at = (radius: number) => root((u) => far(u) - radius, 0, face.span);
  return partOf(face, at(inner), at(outer));
}

/** The section, its origin on the axis: four sides, the inner and the outer round about it. */
export function bladeSection(cut: BladeCut): Section {
  const { inner, outer } = cut;
  const [front, back] = [faceOf(cut, 1), faceOf(cut, -1)].map((face) => trimmed(face, inner, outer)) as [
    Curve,
    Curve,
  ];
  const ends = (curve: Curve) => [0, curve.span].map((u) => pointOn(curve, u).position) as [Vec3, Vec3];
  const [frontIn, frontOut] = ends(front);
  const [backIn, backOut] = ends(back);
  const contour = pathOf([
    front,
    roundFrom(frontOut, backOut, outer),
    backwards(back),
    roundFrom(backIn, frontIn, inner),
  ]);
  return sectionOf('blade', [contour], { symmetry: 1, diameter: 2 * outer });
}

/** The round about the origin from one place to another, the shorter way. */
function roundFrom(a: Vec3, b: Vec3, radius: number): Curve {
  const [from, to] = [Math.atan2(a[1], a[0]), Math.atan2(b[1], b[0])];
  const by = Math.atan2(Math.sin(to - from), Math.cos(to - from));
  const way = by > 0 ? 1 : -1;
  const out: Vec3 = [a[0] / radius, a[1] / radius, 0];
  return arc([0, 0, 0], out, [-way * out[1], way * out[0], 0], radius, Math.abs(by));
}
