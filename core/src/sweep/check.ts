/** What is to be said of a section carried along a path: findings and limits. */
import { inspectMesh } from '../check/closed';
import { searchSteps, selfClearance, setClearance, type Clearance } from '../check/clearance';
import type { CheckContext, Checked } from '../design/kind';
import type { Finding } from '../design/value';
import { mm, told, words } from '../measure/words';
import { coilLimits } from '../spring/limits';
import type { SpringFigures } from '../spring/compression';
import type { Path } from '../path/path';
import type { Body } from './body';

/** Chord tolerance in mm and limit on triangles of the mesh that the closure check looks at. */
const CHECKED_TOLERANCE = 0.05;
const CHECKED_TRIANGLES = 400_000;
/** Neighbours further off than this many wire diameters are no neighbours. */
const FAR = 20;
/** An index outside this range is hard to coil (EN 13906-1: 4 ≤ w ≤ 20). */
const INDEX_RANGE = [4, 20] as const;

export async function checkSweep(body: Body, { from, poll }: CheckContext): Promise<Checked> {
  const { paths, section, spring } = body;
  const findings = [
    await clearance(body, poll),
    ...(await crossing(body, poll)),
    ...bend(body),
    ...(spring ? springFindings(spring, section.diameter) : []),
    closure(body),
  ];
  const coils = paths.length === 1 ? paths[0]!.coils : undefined;
  const limits = coils
    ? coilLimits(coils, section.diameter, { path: from.path!, section: from.section! })
    : [];
  return { findings, limits };
}

/** A coil knows its own neighbours; any other path is searched. */
async function nearestApproach(path: Path, wire: number, poll: CheckContext['poll']): Promise<Clearance> {
  if (path.coils) return path.coils.nearest();
  return selfClearance(path, searchSteps(path), FAR * wire, poll);
}

async function clearance({ paths, section }: Body, poll: CheckContext['poll']): Promise<Finding> {
  const wire = section.diameter;
  let path = paths[0]!;
  let nearest: Clearance = { distance: Infinity, at: [0, 0] };
  for (const one of paths) {
    const found = await nearestApproach(one, wire, poll);
    if (found.distance < nearest.distance) [path, nearest] = [one, found];
  }
  const { distance, at } = nearest;
  const coils = (path.coil ?? path.along.pitch) ? 'Coils' : undefined;
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
  const turn = path.coil
    ? words` at turn ${told(Math.round((at[0] / path.length) * path.coil.shape.turns * 10) / 10, 'number')}`
    : words` at ${mm(at[0])} along`;
  // Coils closed by the touching condition do so to 1e-11; the search knows it to about 1e-8.
  if (gap < -(path.coils?.lie ? 1e-6 : 1e-9) * wire)
    return {
      ...found,
      level: 'fault',
      blocks: true,
      says: coils
        ? words`Coils cut into each other by ${mm(-gap)}`
        : words`It cuts into itself by ${mm(-gap)}`,
      detail: [...words`worst`, ...turn],
    };
  if (gap < 1e-3 * wire)
    return {
      ...found,
      level: path.coils?.lie ? 'note' : 'fault',
      blocks: true,
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

/** Whether the wires of a set run into one another; their extents first, then their stations. */
async function crossing({ paths, section }: Body, poll: CheckContext['poll']): Promise<Finding[]> {
  if (paths.length < 2) return [];
  const wire = section.diameter;
  const found = await setClearance(paths, wire, poll);
  if (!found) return [];
  const gap = found.distance - wire;
  return [
    {
      name: 'between',
      level: gap > 1e-3 * wire ? 'good' : 'note',
      ...(gap <= 1e-3 * wire && {
        blocks: true as const,
        detail: words`wires ${found.pair[0] + 1} and ${found.pair[1] + 1}; they are not one clean solid yet`,
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

function bend({ paths, section }: Body): Finding[] {
  const path = paths.reduce((a, b) => (b.tightest.curvature > a.tightest.curvature ? b : a));
  if (path.tightest.curvature === 0) return [];
  const radius = 1 / path.tightest.curvature;
  return [
    {
      name: 'bend',
      level: 'good',
      says: words`Bends to ${mm(radius)} at the tightest`,
      value: radius,
      limit: section.reach,
      margin: radius - section.reach,
      quantity: 'length',
      place: path.at(path.tightest.at).position,
    },
  ];
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
