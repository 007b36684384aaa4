import { z } from 'zod';
import { angle, choice, count, length, pathKind } from '../design/kind';
import { Complaint, mm, words } from '../measure/words';
import {
  centreRadius,
  coilAlong,
  coilLength,
  coilNeighbours,
  endReach,
  heightForOverall,
  leadAngle,
  nearestLengths,
  type Coil,
  type Coils,
  type CoilShape,
} from './coil';
import type { Curve, Motion } from './curve';
import { seatRound } from './seat';
import { pathOf } from './path';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt, spanned } from './placing';

const MOST_TURNS = 2000;
/** Between exact sines the direction is turned on step by step: so few that it stays right to 1e-14. */
const EXACT_EVERY = 32;

const schema = z.object({
  diameter: length({ above: 0 }),
  basis: choice('mean', 'outer', 'inner'),
  taper: choice('none', 'diameter', 'angle'),
  endDiameter: length({ atLeast: 0 }).optional(),
  halfAngle: angle({ above: -Math.PI / 2, below: Math.PI / 2 }).optional(),
  turns: count({ above: 0, atMost: MOST_TURNS }).optional(),
  pitch: length({ atLeast: 0 }).optional(),
  height: length({ atLeast: 0 }).optional(),
  heightBasis: choice('overall', 'centres'),
  hand: choice('right', 'left'),
  ...PLACING,
});
type HelixFigures = z.infer<typeof schema>;

/** Helix of constant pitch, straight or conical, by any two of pitch, turns and height. */
export const helix = pathKind({
  kind: 'helix',
  title: 'Coil',
  noun: 'helix',
  words: ['coil', 'spring', 'helix', 'thread', 'spiral', 'screw', 'cone', 'conical', 'taper', 'winding'],
  inputs: { section: { takes: 'section', optional: true }, ...PLACING_INPUTS },
  schema,
  defaults: {
    diameter: '16 mm',
    basis: 'mean',
    taper: 'none',
    turns: '6',
    height: '32 mm',
    heightBasis: 'centres',
    hand: 'right',
    ...PLACING_DEFAULTS,
  },
  evaluate(given, { section, place }) {
    const between = spanned(given);
    if (between !== undefined && given.height !== undefined)
      throw new Complaint('The two points give the height: leave it out here.', 'height');
    const figures: HelixFigures =
      between === undefined ? given : { ...given, height: between, heightBasis: 'centres' };
    const refersToSection =
      figures.basis !== 'mean' || (figures.heightBasis === 'overall' && figures.height !== undefined);
    if (refersToSection && !section)
      throw new Complaint(
        'Outer, inner and overall figures need to know the section that will be swept: choose it here.',
        figures.basis !== 'mean' ? 'basis' : 'heightBasis',
      );
    const wire = section?.diameter ?? 0;
    const shape = coilShape(figures, wire);
    const at = placedAt(figures, place);
    const coil: Coil = {
      shape,
      wire,
      hand: figures.hand === 'right' ? 1 : -1,
      foot: at.origin,
      axis: at.ez,
    };
    const coils: Coils = {
      pitch: shape.height / shape.turns,
      given: pickGiven(given, wire),
      nearest: () => nearestLengths(shape),
      distanceWith: ({ wire: otherWire = wire, diameter = figures.diameter, ...change }) =>
        coilNeighbours(coilShape({ ...figures, diameter, ...change }, refersToSection ? otherWire : wire))
          .distance,
    };
    const curve = coilCurve(shape, coil.hand, figures.startAngle, at);
    const rise = shape.height > 0 ? (shape.endRadius - shape.startRadius) / shape.height : 0;
    return pathOf([curve], {
      seat: seatRound([curve], at, rise),
      coil,
      coils,
      along: coilAlong(coil),
    });
  },
  figures(path) {
    const { shape, wire } = path.coil!;
    return [
      { name: 'length', label: 'length', value: path.length, quantity: 'length' },
      { name: 'pitch', label: 'pitch', value: shape.height / shape.turns, quantity: 'length' },
      { name: 'turns', label: 'turns', value: shape.turns, quantity: 'number' },
      { name: 'height', label: 'height of the centre line', value: shape.height, quantity: 'length' },
      {
        name: 'overallHeight',
        label: 'overall height',
        value: shape.height + endReach(shape, wire),
        quantity: 'length',
      },
      { name: 'meanDiameter', label: 'mean diameter', value: 2 * shape.startRadius, quantity: 'length' },
      {
        name: 'endMeanDiameter',
        label: 'mean diameter at the end',
        value: 2 * shape.endRadius,
        quantity: 'length',
      },
      {
        name: 'halfAngle',
        label: 'half-angle of the cone',
        value: Math.atan2(shape.startRadius - shape.endRadius, shape.height),
        quantity: 'angle',
      },
      { name: 'leadAngle', label: 'lead angle', value: leadAngle(shape), quantity: 'angle' },
      {
        name: 'curvature',
        label: 'greatest curvature',
        value: path.tightest.curvature,
        quantity: 'curvature',
      },
      { name: 'torsion', label: 'torsion at the start', value: path.at(0).torsion, quantity: 'curvature' },
    ];
  },
});

function pickGiven(figures: HelixFigures, wire: number): Coils['given'] {
  const { diameter, turns, pitch, height } = figures;
  return {
    diameter,
    wire,
    ...(turns !== undefined && { turns }),
    ...(pitch !== undefined && { pitch }),
    ...(height !== undefined && { height }),
  };
}

/** From the figures as given to the centre line. `wire` in mm. @throws Complaint at the figure in fault. */
function coilShape(figures: HelixFigures, wire: number): CoilShape {
  const { turns, pitch, height, basis, taper } = figures;
  const given = [turns, pitch, height].filter((figure) => figure !== undefined).length;
  if (given !== 2)
    throw new Complaint(
      given > 2
        ? 'Of pitch, turns and height only two can be given; the third follows.'
        : 'Two of pitch, turns and height are needed; the third follows.',
      turns === undefined ? 'turns' : 'height',
    );
  const startRadius = centreRadius(figures.diameter, basis, wire, 'diameter');
  const angled = taper === 'angle';
  const slope = angled ? Math.tan(need(figures.halfAngle, 'halfAngle')) : 0;
  const fixedEnd =
    taper === 'diameter'
      ? centreRadius(need(figures.endDiameter, 'endDiameter'), basis, wire, 'endDiameter')
      : startRadius;
  const withHeight = (centre: number, n: number): CoilShape => ({
    startRadius,
    endRadius: angled ? startRadius - centre * slope : fixedEnd,
    turns: n,
    height: centre,
  });

  const shape = solve();
  if (shape.endRadius < 0)
    throw new Complaint(
      words`The cone closes at ${mm(startRadius / slope)}, before the coil ends: it wants a smaller angle or less height.`,
      'halfAngle',
    );
  if (shape.turns > MOST_TURNS)
    throw new Complaint(
      words`This makes ${Math.round(shape.turns)} turns; up to ${MOST_TURNS} can be laid.`,
      'pitch',
    );
  return shape;

  function solve(): CoilShape {
    if (height === undefined) return withHeight(pitch! * turns!, turns!);
    const overall = figures.heightBasis === 'overall' && wire > 0;
    if (turns !== undefined) {
      if (!overall) return withHeight(height, turns);
      return withHeight(
        centreHeight((h) => withHeight(h, turns)),
        turns,
      );
    }
    if (pitch! <= 0) throw new Complaint('The pitch must be more than 0 where the height is given.', 'pitch');
    if (!overall) return withHeight(height, height / pitch!);
    const centre = centreHeight((h) => withHeight(h, Math.max(h, 1e-9) / pitch!));
    return withHeight(centre, centre / pitch!);
  }

  function centreHeight(shapeAt: (height: number) => CoilShape): number {
    if (height! < wire)
      throw new Complaint(words`Overall the coil is at least as tall as its wire, ${mm(wire)}.`, 'height');
    const centre = heightForOverall(shapeAt, height!, wire);
    if (Number.isNaN(centre))
      throw new Complaint(words`This is too low for a wire of ${mm(wire)}.`, 'height');
    return centre;
  }
}

function need(value: number | undefined, field: string): number {
  if (value === undefined) throw new Complaint('A figure is missing here.', field);
  return value;
}

/** A coil as a curve by its angle θ, from the angle `start` on, its axis the z of the frame. */
export function coilCurve(
  shape: CoilShape,
  hand: 1 | -1,
  start: number,
  { origin, ex, ey, ez }: Motion,
): Curve {
  const span = 2 * Math.PI * shape.turns;
  const rise = shape.height / span;
  const spread = (shape.endRadius - shape.startRadius) / span;
  const r0 = shape.startRadius;

  const speed = Math.hypot(r0, rise);
  const [ox, oy, oz] = origin;
  const [xx, xy, xz] = ex;
  const [yx, yy, yz] = ey;
  const [zx, zy, zz] = ez;
  // The same as typed arrays: they are read at every station of a mesh.
  const from = Float64Array.from(origin);
  const axes = Float64Array.from([...ex, ...ey, ...ez]);
  /** Of P = re + cz, with e radial and t round, derivatives are ke + rt + cz, 2kt − re and −3ke − rt. */
  const write = (u: number, out: Float64Array, third: boolean) => {
    const c = Math.cos(start + hand * u);
    const s = Math.sin(start + hand * u);
    const r = r0 + spread * u;
    for (let k = 0; k < 3; k++) {
      const e = c * axes[k]! + s * axes[3 + k]!;
      const t = hand * (c * axes[3 + k]! - s * axes[k]!);
      const up = rise * axes[6 + k]!;
      out[k] = from[k]! + r * e + u * up;
      out[3 + k] = spread * e + r * t + up;
      if (!third) continue;
      out[6 + k] = 2 * spread * t - r * e;
      out[9 + k] = -3 * spread * e - r * t;
    }
  };
  return {
    span,
    lobes: Math.max(1, Math.min(40, Math.ceil(shape.turns))),
    ...(spread === 0 && { even: true as const }),
    lengthTo: spread === 0 ? (u) => speed * u : (u) => coilLength(shape, u),
    first: (u, out) => write(u, out, false),
    derive: (u, out) => write(u, out, true),
    lay(count: number, positions: Float64Array, tangents: Float64Array, at: number) {
      const step = span / count;
      const [stepC, stepS] = [Math.cos(hand * step), Math.sin(hand * step)];
      let c = 1;
      let s = 0;
      for (let i = 0, o = 3 * at; i <= count; i++, o += 3) {
        const u = i === count ? span : i * step;
        if (i % EXACT_EVERY === 0 || i === count) {
          c = Math.cos(start + hand * u);
          s = Math.sin(start + hand * u);
        }
        const r = r0 + spread * u;
        const k = 1 / Math.sqrt(r * r + spread * spread + rise * rise);
        const a = r * c;
        const b = r * s;
        const w = rise * u;
        positions[o] = ox + a * xx + b * yx + w * zx;
        positions[o + 1] = oy + a * xy + b * yy + w * zy;
        positions[o + 2] = oz + a * xz + b * yz + w * zz;
        const da = k * (spread * c - hand * b);
        const db = k * (spread * s + hand * a);
        const dw = k * rise;
        tangents[o] = da * xx + db * yx + dw * zx;
        tangents[o + 1] = da * xy + db * yy + dw * zy;
        tangents[o + 2] = da * xz + db * yz + dw * zz;
        const turned = c * stepC - s * stepS;
        s = s * stepC + c * stepS;
        c = turned;
      }
    },
  };
}
