/** What changes along a path, for charts: every figure at even lengths, and the points of charts that can be dragged. */
import type { SweptBody } from '../sweep/body';
import { samplePath, planAbout } from '../path/sample';
import { pointOn, type Along, type Handle, type Path, type SectionAlong } from '../path/path';
import { standing } from '../sweep/carry/carrier';
import type { Vec3 } from '../geometry/vector';
import { distancesTo } from '../check/between';
import { isWire, thickness } from '../kinds/bodies/strands';
import type { Quantity } from '../measure/quantity';

export type Channel = 'curvature' | 'torsion' | 'height' | 'clearance' | 'strandGap' | Along | SectionAlong;

export interface Lengthwise {
  /** Lengths along the path, mm. */
  readonly s: Float32Array<ArrayBuffer>;
  /** xyz at each. */
  readonly positions: Float32Array<ArrayBuffer>;
  readonly channels: readonly ChannelData[];
  readonly handles: readonly Handle[];
}

interface ChannelData {
  readonly name: Channel;
  readonly label: string;
  readonly quantity: Quantity;
  readonly values: Float32Array<ArrayBuffer>;
}

const SAMPLES = 480;
const LABELS: Record<Along, { label: string; quantity: Quantity }> = {
  pitch: { label: 'Pitch', quantity: 'length' },
  diameter: { label: 'Diameter', quantity: 'length' },
  stretch: { label: 'Stretch', quantity: 'number' },
};

/** Charts of a path. The samples are even along it, with one on each side of every joint. */
export function lengthwise(path: Path): Lengthwise {
  const places: { s: number; piece: number; u: number }[] = [];
  path.pieces.forEach((piece, k) => {
    const count = Math.max(2, Math.round((SAMPLES * piece.length) / path.length));
    for (let i = 0; i <= count; i++) {
      const s = piece.start + (piece.length * i) / count;
      const u = i === 0 ? 0 : i === count ? piece.span : path.locate(s).u;
      places.push({ s, piece: k, u });
    }
  });
  const points = places.map(({ piece, u }) => pointOn(path.pieces[piece]!, u));
  const channel = (
    name: Channel,
    label: string,
    quantity: Quantity,
    of: (i: number) => number,
  ): ChannelData => ({
    name,
    label,
    quantity,
    values: Float32Array.from(places, (_place, i) => of(i)),
  });
  const own = (Object.keys(path.along) as Along[]).map((name) =>
    channel(name, LABELS[name].label, LABELS[name].quantity, (i) =>
      path.along[name]!(places[i]!.piece, places[i]!.u),
    ),
  );
  const clear = clearances(
    path,
    points.map(({ position }) => position),
  );
  return {
    s: Float32Array.from(places, ({ s }) => s),
    positions: Float32Array.from(points.flatMap(({ position }) => position)),
    channels: [
      ...own,
      channel('height', 'Height', 'length', (i) => points[i]!.position[2]),
      channel('curvature', 'Curvature', 'curvature', (i) => points[i]!.curvature),
      channel('torsion', 'Torsion', 'curvature', (i) => points[i]!.torsion),
      ...(clear ? [channel('clearance', 'Clearance', 'length', (i) => clear[i]!)] : []),
    ],
    handles: path.handles ?? [],
  };
}

/** Charts of a body whose section changes along its path: how wide and high it is, and how far it has turned. */
export function bodyLengthwise(body: SweptBody): Lengthwise {
  const [swept] = body.swept;
  const { carrier, section, twist } = swept!;
  const { path } = carrier;
  const base = lengthwise(path);
  const here = standing();
  const wide = section.box.right - section.box.left;
  const high = section.box.high - section.box.low;
  const { s } = base;
  const [widths, heights, turns] = [s, s, s].map(({ length }) => new Float32Array(length)) as [
    Float32Array<ArrayBuffer>,
    Float32Array<ArrayBuffer>,
    Float32Array<ArrayBuffer>,
  ];
  s.forEach((at, i) => {
    const { piece, u } = path.locate(at);
    carrier.stand(piece, u, here);
    widths[i] = here.sx * wide;
    heights[i] = here.sy * high;
    turns[i] = twist.value(at);
  });
  const changes = (values: Float32Array) => values.some((x) => Math.abs(x - values[0]!) > 1e-6 * Math.abs(x));
  const own: ChannelData[] = [
    { name: 'sectionWidth', label: 'Section, width', quantity: 'length', values: widths },
    { name: 'sectionHeight', label: 'Section, height', quantity: 'length', values: heights },
    { name: 'twist', label: 'Twist', quantity: 'angle', values: turns },
  ];
  const kept = own.filter(
    ({ name, values }) => changes(values) || body.handles.some(({ channel }) => channel === name),
  );
  return { ...base, channels: [...kept, ...strandGap(body, base), ...base.channels], handles: body.handles };
}

/** What the first wire of a set leaves to the nearest of the others, at every length; less than 0 where they overlap. */
function strandGap(body: SweptBody, { s }: Pick<Lengthwise, 's'>): ChannelData[] {
  const [first, ...others] = body.paths;
  if (!others.length || !isWire(body)) return [];
  const points = Array.from(s, (at) => first!.at(at).position);
  const wire = thickness(body);
  const values = Float32Array.from(distancesTo(others, points), (apart) => apart - wire);
  return [{ name: 'strandGap', label: 'Strand gap', quantity: 'length', values }];
}

const NEIGHBOURS = 2400;
/** What lies within this part of a turn belongs to the same stretch. */
const SAME = 0.9 * Math.PI;

/**
 * Distance of each point to the nearest stretch of the path that is not its own, to about the chord height of
 * its stations; undefined for a path that turns too little to come back to itself.
 */
function clearances(path: Path, points: readonly Vec3[]): number[] | undefined {
  if (path.turning < SAME) return undefined;
  const { positions: p, tangents: t } = samplePath(path, planAbout(path, NEIGHBOURS));
  const n = p.length / 3;
  const turned = new Float64Array(n);
  for (let i = 1; i < n; i++) {
    const o = 3 * i;
    const d = Math.hypot(t[o]! - t[o - 3]!, t[o + 1]! - t[o - 2]!, t[o + 2]! - t[o - 1]!);
    turned[i] = turned[i - 1]! + 2 * Math.asin(Math.min(1, d / 2));
  }
  const round = path.closed ? turned[n - 1]! : Infinity;
  return points.map(([x, y, z]) => {
    let here = 0;
    let nearest = Infinity;
    for (let i = 0; i < n; i++) {
      const d = (p[3 * i]! - x) ** 2 + (p[3 * i + 1]! - y) ** 2 + (p[3 * i + 2]! - z) ** 2;
      if (d < nearest) [here, nearest] = [i, d];
    }
    let best = Infinity;
    for (let i = 0; i < n; i++) {
      const between = Math.abs(turned[i]! - turned[here]!);
      if (between < SAME || round - between < SAME) continue;
      const d = (p[3 * i]! - x) ** 2 + (p[3 * i + 1]! - y) ** 2 + (p[3 * i + 2]! - z) ** 2;
      if (d < best) best = d;
    }
    return Math.sqrt(best);
  });
}
