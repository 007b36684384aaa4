/** What is to be said of a section carried along a path: findings and limits. */
import { inspectMesh } from '../check/closed';
import { meshCrossing } from '../check/crossing';
import { searchSteps, selfClearance, setClearance, type Clearance } from '../check/clearance';
import type { CheckContext, Checked } from '../design/kind';
import type { Finding } from '../design/value';
import { mm, told, words } from '../measure/words';
import { coilLimits } from '../spring/limits';
import type { SpringFigures } from '../spring/compression';
import { cross, dot, norm, type Vec3 } from '../geometry/vector';
import { polygonOf } from '../section/polygon-of';
import type { Body } from './body';
import { standing, type Standing } from './carrier';
import type { Swept } from './swept';

/** Chord tolerance in mm and limit on triangles of the mesh that the closure check looks at. */
const CHECKED_TOLERANCE = 0.05;
const CHECKED_TRIANGLES = 400_000;
const CROSSED_TRIANGLES = 60_000;
/** Neighbours further off than this many wire diameters are no neighbours. */
const FAR = 20;
/** An index outside this range is hard to coil (EN 13906-1: 4 ≤ w ≤ 20). */
const INDEX_RANGE = [4, 20] as const;

export async function checkSweep(body: Body, { from, poll }: CheckContext): Promise<Checked> {
  const { section, spring, paths } = body;
  const fold = folds(body);
  const findings = [
    await clearance(body, poll),
    ...(await crossing(body, poll)),
    ...fold,
    ...bend(body),
    ...(spring ? springFindings(spring, section.diameter) : []),
    ...walls(body),
    ...twist(body),
    ...kinks(body),
    closure(body),
  ];
  const coils = paths.length === 1 ? body.swept[0]!.given.coils : undefined;
  const limits =
    coils && section.name === 'round'
      ? coilLimits(coils, section.diameter, { path: from.path!, section: from.section! })
      : [];
  return { findings, limits };
}

/** Greatest thickness of the body: of what stands about the path at its widest place. */
const thickness = ({ swept }: Body): number =>
  2 * Math.max(...swept.map((one) => Math.max(one.section.reach, one.into?.reach ?? 0) * one.scale));

/** Whether it is a wire of one thickness, whose clearance is that of its centre line. */
const isWire = ({ swept }: Body): boolean =>
  swept.every(({ round, carrier, scale }) => round && (carrier.plain || scale === 1));

/** A coil knows its own neighbours; any other path is searched. */
async function nearestApproach(
  { given, carrier: { path } }: Swept,
  wire: number,
  poll: CheckContext['poll'],
): Promise<Clearance> {
  if (given.coils) return given.coils.nearest();
  return selfClearance(path, searchSteps(path), FAR * wire, poll);
}

async function clearance(body: Body, poll: CheckContext['poll']): Promise<Finding> {
  const wire = thickness(body);
  let path = body.swept[0]!.given;
  let nearest: Clearance = { distance: Infinity, at: [0, 0] };
  for (const one of body.swept) {
    const found = await nearestApproach(one, wire, poll);
    if (found.distance < nearest.distance) {
      path = one.given.coils ? one.given : one.carrier.path;
      nearest = found;
    }
  }
  const { distance, at } = nearest;
  const coils = path.coil !== undefined || path.along.pitch !== undefined;
  const gap = distance - wire;
  const base = { name: 'clearance', limit: wire, quantity: 'length' } as const;
  if (distance >= FAR * wire)
    return {
      ...base,
      level: 'good',
      says: [coils ? 'No coil comes near another' : 'It comes nowhere near itself'],
      value: FAR * wire,
      margin: (FAR - 1) * wire,
    };
  const [a, b] = [path.at(at[0]).position, path.at(at[1]).position];
  const place = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2] as const;
  const found = { ...base, value: distance, margin: gap, place };
  if (gap <= 0 && !isWire(body)) return cutsItself(body, base, gap, poll);
  const turn = path.coil
    ? words` at turn ${told(Math.round((at[0] / path.length) * path.coil.shape.turns * 10) / 10, 'number')}`
    : words` at ${mm(at[0])} along`;
  // Coils closed by the touching condition do so to 1e-11; the search knows it to about 1e-8.
  if (gap < -(path.coils?.lie ? 1e-6 : 1e-9) * wire)
    return {
      ...found,
      level: 'fault',
      overlaps: true,
      says: coils
        ? words`Coils cut into each other by ${mm(-gap)}`
        : words`It cuts into itself by ${mm(-gap)}`,
      detail: [...words`worst`, ...turn],
    };
  if (gap < 1e-3 * wire)
    return {
      ...found,
      level: path.coils?.lie ? 'note' : 'fault',
      overlaps: true,
      says: [
        path.coils?.lie
          ? 'Closed coils lie on their neighbours'
          : coils
            ? 'Coils touch'
            : 'It touches itself',
      ],
      detail: path.coils?.lie
        ? ['a print would fuse them']
        : [...words`first`, ...turn, ...words`; a print would fuse them`],
    };
  return {
    ...found,
    level: 'good',
    says: coils ? words`Coils clear by ${mm(gap)}` : words`It clears itself by ${mm(gap)}`,
  };
}

/** Of a section that is not round: its mesh against itself. */
async function cutsItself(
  body: Body,
  base: Pick<Finding, 'name' | 'limit' | 'quantity'>,
  gap: number,
  poll: CheckContext['poll'],
): Promise<Finding> {
  const mesh = body.mesh(CHECKED_TOLERANCE * 2, CROSSED_TRIANGLES);
  const place = await meshCrossing(mesh, poll);
  return place
    ? {
        ...base,
        level: 'fault',
        overlaps: true,
        says: ['It cuts into itself'],
        value: gap,
        margin: gap,
        place,
      }
    : { ...base, level: 'good', says: ['It does not cut into itself'], value: 0, margin: 0 };
}

/** Whether the wires of a set run into one another; their extents first, then their stations. */
async function crossing(body: Body, poll: CheckContext['poll']): Promise<Finding[]> {
  const { paths } = body;
  if (paths.length < 2) return [];
  const wire = thickness(body);
  const found = await setClearance(paths, wire, poll);
  if (!found) return [];
  const gap = found.distance - wire;
  return [
    {
      name: 'between',
      level: gap > 1e-3 * wire ? 'good' : 'note',
      ...(gap <= 1e-3 * wire && {
        overlaps: true as const,
        detail: words`wires ${found.pair[0] + 1} and ${found.pair[1] + 1}; they become one solid when sent out`,
      }),
      says:
        gap > 1e-3 * wire
          ? words`The wires clear each other by ${mm(gap)}`
          : ['The wires run into each other'],
      value: found.distance,
      limit: wire,
      margin: gap,
      quantity: 'length',
      place: found.place,
    },
  ];
}

/** Stations a piece at which the body is looked at. */
const LOOKS = 24;

/** Walks along all pieces of all paths. */
function walk(body: Body, see: (here: Standing, one: Swept, piece: number, u: number) => void): void {
  const here = standing();
  for (const one of body.swept)
    one.carrier.path.pieces.forEach((piece, k) => {
      const count = piece.even && one.carrier.plain ? 2 : LOOKS * Math.max(1, Math.min(40, piece.lobes ?? 1));
      for (let i = 0; i <= count; i++) {
        const u = (piece.span * i) / count;
        one.carrier.stand(k, u, here);
        see(here, one, k, u);
      }
    });
}

/**
 * Whether the section folds over itself: a slice of it must stay thicker than nothing everywhere, cₙ + aₓx + a_y y > 0
 * over the section; on one square to the path this says that it ends before the centre of the bend.
 */
function folds(body: Body): Finding[] {
  const outlines = new Map<Swept, Float64Array[]>();
  for (const one of body.swept)
    outlines.set(
      one,
      [one.section, ...(one.into ? [one.into] : [])].map((section) =>
        polygonOf(section.contours[0]!, section.reach * 1e-4),
      ),
    );
  let worst = { thin: Infinity, s: 0, reach: 0, bend: 0 };
  walk(body, (here, one, k, u) => {
    const bends = Math.hypot(here.jx + here.dlx, here.jy + here.dly);
    if (bends === 0) return;
    const [ax, ay] = [here.sx * (here.jx + here.dlx), here.sy * (here.jy + here.dly)];
    let least = Infinity;
    for (const points of outlines.get(one)!)
      for (let i = 0; i < points.length; i += 2)
        least = Math.min(least, points[i]! * ax + points[i + 1]! * ay);
    const thin = (here.cn + least) / here.cn;
    if (thin >= worst.thin) return;
    const piece = one.carrier.path.pieces[k]!;
    worst = { thin, s: piece.start + piece.lengthTo(u), reach: -least / bends, bend: here.cn / bends };
  });
  if (worst.thin > 0 || !Number.isFinite(worst.thin)) return [];
  const { s, reach, bend: radius } = worst;
  return [
    {
      name: 'fold',
      level: 'fault',
      blocks: true,
      says: words`It folds over itself at ${mm(s)} along`,
      detail: words`a bend of ${mm(radius)} there; this section needs more than ${mm(reach)}, or may reach ${mm(radius)} at most`,
      value: radius,
      limit: reach,
      margin: radius - reach,
      quantity: 'length',
      place: body.paths[0]!.at(s).position,
    },
  ];
}

function bend({ swept }: Body): Finding[] {
  const tight = (one: Swept) => one.carrier.path.tightest.curvature;
  const worst = swept.reduce((a, b) => (tight(b) > tight(a) ? b : a));
  const { path } = worst.carrier;
  if (path.tightest.curvature === 0) return [];
  const radius = 1 / path.tightest.curvature;
  const limit = worst.section.reach * worst.scale;
  return [
    {
      name: 'bend',
      level: 'good',
      says: words`Bends to ${mm(radius)} at the tightest`,
      value: radius,
      limit,
      margin: radius - limit,
      quantity: 'length',
      place: path.at(path.tightest.at).position,
    },
  ];
}

/** The wall of a hollow body, thinnest where the section is smallest. */
function walls(body: Body): Finding[] {
  const [first] = body.swept;
  const wall = first!.section.wall;
  if (wall === undefined) return [];
  let least = { size: Infinity, place: undefined as Vec3 | undefined };
  walk(body, (here) => {
    const size = Math.min(here.sx, here.sy);
    if (size < least.size) least = { size, place: [here.c[0]!, here.c[1]!, here.c[2]!] };
  });
  const value = wall * least.size;
  const { leastWall } = body;
  if (leastWall === undefined && least.size === 1) return [];
  const limit = leastWall ?? 0;
  const thin = value < limit;
  return [
    {
      name: 'wall',
      level: thin ? 'fault' : 'good',
      says: thin
        ? words`The wall is only ${mm(value)} at its thinnest`
        : words`The wall is ${mm(value)} at its thinnest`,
      value,
      limit,
      margin: value - limit,
      quantity: 'length',
      ...(least.place && { place: least.place }),
    },
  ];
}

/** Beyond this lean of the outermost fibre (rad) a twisted body is more thread than body. */
const STEEP = (75 * Math.PI) / 180;

function twist(body: Body): Finding[] {
  let most = { lean: 0, place: undefined as Vec3 | undefined };
  walk(body, (here, one) => {
    if (one.round) return;
    const lean = Math.atan(Math.abs(here.turn) * one.section.reach * Math.max(here.sx, here.sy));
    if (lean > most.lean) most = { lean, place: [here.c[0]!, here.c[1]!, here.c[2]!] };
  });
  if (most.lean < 1e-6) return [];
  const steep = most.lean > STEEP;
  return [
    {
      name: 'twist',
      level: steep ? 'fault' : 'good',
      says: steep
        ? words`It twists too fast: its edges lie ${told(most.lean, 'angle')} from the path`
        : words`Its edges lie up to ${told(most.lean, 'angle')} from the path`,
      value: most.lean,
      limit: STEEP,
      margin: STEEP - most.lean,
      quantity: 'angle',
      ...(most.place && { place: most.place }),
    },
  ];
}

/** Corners as slight as this (rad) are rather mistakes than mitres. */
const SLIGHT = (3 * Math.PI) / 180;

function kinks({ paths }: Body): Finding[] {
  for (const path of paths)
    for (const s of path.corners) {
      const step = 1e-6 * path.length;
      const [a, b] = [
        path.at(Math.max(0, s - step)).tangent,
        path.at(Math.min(path.length, s + step)).tangent,
      ];
      const angle = Math.atan2(norm(cross(a, b)), dot(a, b));
      if (angle === 0 || angle > SLIGHT) continue;
      return [
        {
          name: 'kink',
          level: 'note',
          says: words`A kink of ${told(angle, 'angle')} at ${mm(s)} along`,
          value: angle,
          limit: 0,
          margin: -angle,
          quantity: 'angle',
          place: path.at(s).position,
        },
      ];
    }
  return [];
}

function springFindings(spring: SpringFigures, wire: number): Finding[] {
  const findings: Finding[] = [];
  const [low, high] = INDEX_RANGE;
  const { index, loaded, solidLength, linearTravel, axialGap } = spring;
  const nearer = index - low < high - index ? low : high;
  const margin = Math.min(index - low, high - index);
  findings.push({
    name: 'index',
    level: margin >= 0 ? 'good' : 'note',
    says:
      margin >= 0
        ? words`Index ${told(index, 'number')} can be coiled`
        : words`Index ${told(index, 'number')} is hard to coil`,
    ...(margin < 0 && { detail: words`between ${low} and ${high} is usual` }),
    value: index,
    limit: nearer,
    margin,
    quantity: 'number',
  });
  if (axialGap > wire)
    findings.push({
      name: 'tangling',
      level: 'note',
      says: ['Tangles when loose'],
      detail: words`a gap of ${mm(axialGap)} lets the wire of another in`,
      value: axialGap,
      limit: wire,
      margin: wire - axialGap,
      quantity: 'length',
    });
  if (!loaded) return findings;
  const room = loaded.length - solidLength;
  findings.push({
    name: 'solid',
    level: room >= 0 ? 'good' : 'fault',
    says:
      room >= 0
        ? words`${mm(room)} left before it is solid`
        : words`Cannot be pressed to ${mm(loaded.length)}: solid at ${mm(solidLength)}`,
    value: loaded.length,
    limit: solidLength,
    margin: room,
    quantity: 'length',
  });
  if (room >= 0 && loaded.travel > linearTravel * (1 + 1e-9))
    findings.push({
      name: 'linear',
      level: 'note',
      says: ['Load is higher than reckoned'],
      detail: words`the widest coil closes after ${mm(linearTravel)}, and the spring grows stiffer`,
      value: loaded.travel,
      limit: linearTravel,
      margin: linearTravel - loaded.travel,
      quantity: 'length',
    });
  return findings;
}

/** Looks at the triangles themselves: closed, oriented, and bounding the volume that the figures say. */
function closure(body: Body): Finding {
  const mesh = body.mesh(CHECKED_TOLERANCE, CHECKED_TRIANGLES);
  const report = inspectMesh(mesh);
  const off = Math.abs(report.volume - body.volume);
  const allowed = body.surface * mesh.tolerance;
  const faults = report.openEdges + report.degenerate + (report.volume > 0 && off <= allowed ? 0 : 1);
  const good = faults === 0;
  return {
    name: 'closed',
    level: good ? 'good' : 'fault',
    says: [good ? 'Surface is closed' : 'Surface is not closed'],
    ...(!good && {
      blocks: true as const,
      detail: words`${report.openEdges} open edges, ${report.degenerate} collapsed triangles, volume off by ${told(off, 'volume')}`,
    }),
    value: faults,
    limit: 0,
    margin: -faults,
    quantity: 'number',
  };
}
