import { z } from 'zod';
import { angle, choice, Detailed, length, pathKind } from '../../kind/kind';
import { plus, scaled, type Jet, type Jet3 } from '../../geometry/jet';
import { root } from '../../geometry/numeric';
import { add, dot, norm, scale, sub, type Vec3 } from '../../geometry/vector';
import type { Mark } from '../../kind/mark';
import type { Result } from '../../kind/value';
import type { Poll } from '../../geometry/poll';
import { runPolling } from '../../geometry/task';
import { Complaint, mm, words } from '../../measure/words';
import type { Curve } from '../../path/curve';
import { movedCurve, partOf } from '../../path/wrap';
import { composed, type Motion } from '../../geometry/motion';
import { acrossAxis, placedMarks, profileMarks } from './placed-marks';
import { ball, cylinder, meetJets, profileOf, rings, turned, type Host } from '../../path/host';
import { sizeAbout, type Body } from '../../solid/body/body';
import { castFromRims, endsOnRim, startsOnRim, type CastCurve, type CastOn } from '../../path/from-rim';
import { castOnBody } from './cast-on-body';
import { meshToRead } from './mesh-to-read';
import { PROFILE } from './profile';
import { mappedCurve, type SmoothMap } from '../../path/mapped';
import { outlineOf } from '../../path/outline';
import { pathOf, type Path } from '../../path/path';
import { seatTurned } from '../../path/seat';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';

const schema = z.object({
  host: choice('cylinder', 'ball', 'turned', 'body'),
  diameter: length({ above: 0 }),
  side: choice('near', 'far'),
  turned: angle(),
  slope: angle({ atLeast: -Math.PI / 2, atMost: Math.PI / 2 }),
  right: length(),
  up: length(),
  /** How far a line on a body may leave it, so that it bends less on what is uneven. */
  fairing: length({ atLeast: 0 }),
  ...PLACING,
});

/** Outline projected along a direction on a cylinder, a ball, a turned surface or any body. */
export const cast = pathKind({
  kind: 'cast',
  title: 'Cast',
  noun: 'cast outline',
  words: [
    'cast',
    'project',
    'projection',
    'outline',
    'shadow',
    'cylinder',
    'ball',
    'sphere',
    'turned',
    'surface',
  ],
  inputs: {
    path: { takes: 'path' },
    // It stays a part of its own.
    body: { takes: 'body', optional: true, beside: true },
    ...PLACING_INPUTS,
  },
  schema,
  tables: { profile: PROFILE },
  needs: ({ host }) => host === 'turned',
  defaults: {
    host: 'cylinder',
    diameter: '120 mm',
    side: 'near',
    turned: '0 deg',
    slope: '0 deg',
    right: '0 mm',
    up: '0 mm',
    fairing: '0 mm',
    ...PLACING_DEFAULTS,
  },
  rows: {
    profile: [
      { height: '-60 mm', diameter: '110 mm' },
      { height: '0 mm', diameter: '130 mm' },
      { height: '60 mm', diameter: '90 mm' },
    ],
  },
  onto: { kind: 'part-from-file', slot: 'body', set: { host: 'body' } },
  evaluate(figures, { path, body, place }, { poll }) {
    if (figures.host === 'body') return onBody(figures, path, body, placedAt(figures, place), poll);
    const R = figures.diameter / 2;
    const host =
      figures.host === 'cylinder'
        ? cylinder(R)
        : figures.host === 'ball'
          ? ball(R)
          : turned(profileOf(figures.profile));
    const { slope, right, up } = figures;
    const at = placedAt(figures, place);
    const done = castPath(
      path,
      host,
      { turned: figures.turned, slope, right, up, far: figures.side === 'far' },
      at,
    );
    return new Detailed(done, undefined);
  },
  marks: (path, set, _filled, resolved) =>
    placedMarks(set, resolved, (at) => castMarks(path, set, resolved, at)),
  results: (path, { inputs: { path: outline }, detail: off }) => [
    { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
    {
      name: 'outlineLength',
      label: 'length of the outline',
      head: 'Outline',
      value: outline.length,
      quantity: 'length',
    },
    {
      name: 'stretch',
      label: 'stretched to, in the mean',
      value: path.length / outline.length,
      quantity: 'number',
    },
    ...(off === undefined ? [] : [offResult(off)]),
  ],
});

/** How far it is off the surface between the places it goes through. */
const offResult = (value: number): Result => ({
  name: 'off',
  label: 'off the surface',
  value,
  quantity: 'length',
});

/** The surface; from where the outline is cast, led round the axis and up and down; and where it lies. */
function castMarks(
  path: Path,
  { host = 'cylinder' }: Readonly<Record<string, string>>,
  resolved: Readonly<Record<string, { readonly value: number }>>,
  at: Motion,
): Mark[] {
  const of = (field: string) => resolved[field]?.value ?? 0;
  const { ex, ey, look } = planeOf(of('turned'), of('slope'));
  const plane: Motion = composed({ origin: [0, 0, 0], ex, ey, ez: look }, at);
  const [first, middle] = [path.at(0).position, path.at(path.length / 2).position];
  const height = dot(sub(middle, at.origin), at.ez);
  return [
    ...(host === 'turned' ? profileMarks(at, resolved) : []),
    ...(host === 'cylinder' || host === 'ball' ? [acrossAxis(at, 'diameter', of('diameter'))] : []),
    { type: 'turn', field: 'turned', centre: add(at.origin, scale(at.ez, height)), axis: at.ez, at: middle },
    {
      type: 'point',
      led: [
        { field: 'right', way: 0 },
        { field: 'up', way: 1 },
      ],
      name: 'Where it is cast',
      at: first,
      moved: plane,
    },
  ];
}

type CastFigures = z.infer<typeof schema>;

/** The outline cast on a body. @throws Complaint where there is none, or it misses */
async function onBody(
  figures: CastFigures,
  path: Path,
  body: Body | undefined,
  at: Motion,
  poll: Poll,
): Promise<Detailed<Path, number | undefined>> {
  if (!body) throw new Complaint('Choose the body that this is cast on.', 'body');
  const { turned: by, slope, right, up, side } = figures;
  const outline = outlineOf(path, 'path').map((curve) => shifted(curve, right, up));
  const mesh = await meshToRead(body, poll);
  const from = { ...planeOf(by, slope), far: side === 'far', at };
  const cast = castOnBody(outline, mesh, sizeAbout(body), from, figures.fairing);
  const { path: done, off } = await runPolling(cast, poll);
  return new Detailed(done, off);
}

interface Direction {
  /** Where the reader stands: turned about the axis from the front, and looking down by the slope. */
  readonly turned: number;
  readonly slope: number;
  /** How far the outline is shifted in its plane, which stands square to the look. */
  readonly right: number;
  readonly up: number;
  readonly far: boolean;
}

/** The plane that an outline is cast from, and which way, of where the reader stands. */
function planeOf(turned: number, slope: number): Readonly<Record<'ex' | 'ey' | 'look', Vec3>> {
  const [c, s] = [Math.cos(turned), Math.sin(turned)];
  const [cs, ss] = [Math.cos(slope), Math.sin(slope)];
  return { ex: [c, s, 0], ey: [-s * ss, c * ss, cs], look: [-s * cs, c * cs, -ss] };
}

/** Outline cast on a host. @throws Complaint naming the parts that miss. */
export function castPath(
  path: Path,
  host: Host,
  { turned: by, slope, right, up, far }: Direction,
  at: Motion,
): Path {
  const { ex, ey, look } = planeOf(by, slope);
  const outline = outlineOf(path, 'path').map((curve) => shifted(curve, right, up));
  const jetSpot = (x: Jet, y: Jet) =>
    [0, 1, 2].map((k): Jet => plus(scaled(x, ex[k]!), scaled(y, ey[k]!))) as unknown as Jet3;
  const onRims: CastOn = { host, look, far, spot: jetSpot };
  nameMisses(path, outline, onRims, (x, y) => {
    const p = spot(ex, ey, x, y);
    const t = host.meet(p, look, far);
    if (!Number.isFinite(t)) return false;
    // Where the look only grazes the surface, what is cast there has no direction.
    const out: Vec3 = [p[0] + t * look[0], p[1] + t * look[1], -host.slope(p[2] + t * look[2]) / 2];
    return Math.abs(dot(out, look)) > GRAZING * norm(out);
  });
  const map: SmoothMap = {
    first(d) {
      const p = spot(ex, ey, d[0]!, d[1]!);
      const v = spot(ex, ey, d[3]!, d[4]!);
      const t = host.meet(p, look, far);
      const x = p[0] + t * look[0];
      const y = p[1] + t * look[1];
      const z = p[2] + t * look[2];
      // The meeting stays on the surface: its gradient times its derivative is nothing.
      const gz = -host.slope(z);
      const along = 2 * x * look[0] + 2 * y * look[1] + gz * look[2];
      const by = -(2 * x * v[0] + 2 * y * v[1] + gz * v[2]) / along;
      d[0] = x;
      d[1] = y;
      d[2] = z;
      d[3] = v[0] + by * look[0];
      d[4] = v[1] + by * look[1];
      d[5] = v[2] + by * look[2];
    },
    jets([x, y]) {
      const t = host.meet(spot(ex, ey, x[0], y[0]), look, far);
      return meetJets(host, jetSpot(x, y), look, t);
    },
  };
  const cast = outline.flatMap(
    (curve): CastCurve[] =>
      castFromRims(curve, onRims) ??
      cutAtRims(curve, mappedCurve(curve, map, 3), host.rims).map((flat) => ({
        flat,
        onHost: mappedCurve(flat, map, 3),
      })),
  );
  const onHost = cast.map((piece) => piece.onHost);
  const curves = onHost.map((curve) => movedCurve(curve, at));
  const d = new Float64Array(6);
  const speed = (curve: Curve, u: number) => {
    curve.first(u, d);
    return Math.hypot(d[3]!, d[4]!, d[5]!);
  };
  return pathOf(curves, {
    seat: seatTurned(curves, at, host.slope),
    aside: () => rings(pathOf(onHost), (height) => Math.sqrt(Math.max(0, host.square(height)[0])), at),
    along: {
      stretch(piece, u) {
        const { flat } = cast[piece]!;
        // On a rim itself it has no end.
        const v = speed(flat, u) > 0 ? u : Math.min(0.99 * flat.span, Math.max(0.01 * flat.span, u));
        return speed(curves[piece]!, v) / speed(flat, v);
      },
    },
  });
}

const spot = (ex: Vec3, ey: Vec3, x: number, y: number): Vec3 => [
  x * ex[0] + y * ey[0],
  x * ex[1] + y * ey[1],
  x * ex[2] + y * ey[2],
];

const shifted = (curve: Curve, x: number, y: number): Curve =>
  movedCurve(curve, { origin: [x, y, 0], ex: [1, 0, 0], ey: [0, 1, 0], ez: [0, 0, 1] });

/** Sine of the least angle at which the surface is looked at. */
const GRAZING = 1e-3;

const RIM_LOOKS = 64;
/** Cuts nearer to an end than this part of a curve are none. */
const NEAR = 1e-7;

/** Cuts an outline where what is cast of it crosses a rim of the surface: its curvature jumps there. */
function cutAtRims(curve: Curve, onHost: Curve, rims: readonly number[]): Curve[] {
  if (!rims.length) return [curve];
  const { span } = curve;
  const d = new Float64Array(6);
  const height = (u: number) => {
    onHost.first(u, d);
    return d[2]!;
  };
  const heights = Array.from({ length: RIM_LOOKS + 1 }, (_x, i) => height((span * i) / RIM_LOOKS));
  const cuts: number[] = [];
  for (let i = 0; i < RIM_LOOKS; i++) {
    const [a, b] = [heights[i]!, heights[i + 1]!];
    const here = rims.filter((rim) => (a - rim) * (b - rim) < 0);
    for (const rim of a < b ? here : here.reverse())
      cuts.push(root((u) => height(u) - rim, (span * i) / RIM_LOOKS, (span * (i + 1)) / RIM_LOOKS));
  }
  // A rim that it begins or ends on, but for rounding, cuts nothing off.
  const within = cuts.filter((u) => u > NEAR * span && u < span * (1 - NEAR));
  const places = [0, ...within, span];
  return places.slice(1).map((to, i) => partOf(curve, places[i]!, to));
}

const LOOKS = 96;

function nameMisses(
  path: Path,
  outline: readonly Curve[],
  rims: CastOn,
  hits: (x: number, y: number) => boolean,
): void {
  const d = new Float64Array(6);
  const misses: [number, number][] = [];
  outline.forEach((curve, k) => {
    const piece = path.pieces[k]!;
    const count = Math.max(4, Math.ceil((LOOKS * piece.length) / path.length));
    for (let i = 0; i <= count; i++) {
      const u = (curve.span * i) / count;
      curve.first(u, d);
      if (hits(d[0]!, d[1]!)) continue;
      if ((i === 0 && startsOnRim(curve, rims)) || (i === count && endsOnRim(curve, rims))) continue;
      const s = piece.start + piece.lengthTo(u);
      const before = misses.at(-1);
      if (before && s - before[1] < (2.5 * path.length) / LOOKS) before[1] = s;
      else misses.push([s, s]);
    }
  });
  if (!misses.length) return;
  const [from, to] = misses[0]!;
  const all = to - from > 0.95 * path.length;
  if (misses.length === 1 && to - from < 1e-9 * path.length)
    throw new Complaint(
      words`The outline only grazes the surface ${mm(from)} along it, of ${mm(path.length)}. Move it further onto the surface.`,
    );
  throw new Complaint(
    all
      ? 'The outline misses the surface altogether.'
      : words`The outline misses the surface from ${mm(from)} to ${mm(to)} along it${misses.length > 1 ? ` and in ${misses.length - 1} other part${misses.length > 2 ? 's' : ''}` : ''}.`,
    'path',
  );
}
