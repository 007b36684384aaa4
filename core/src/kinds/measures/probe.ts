/** What is at a place of the part: the centre line or the axis there, exact where the part is; and what lies between two. */
import { moved, scaleOf, STILL, turned } from '../../geometry/motion';
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { bodiesOf, membersOf, pathsOf, type Value } from '../../kind/value';
import { Complaint, mm, words } from '../../measure/words';
import type { Path } from '../../path/path';
import { leavesOf, type Placed } from '../../solid/body/body';
import { standing } from '../../sweep/carry/carrier';
import type { Swept } from '../../sweep/carry/swept';
import { edgeNear, edgesOf, type OnEdge } from './edges';
import { nearestOn, type Mapped } from '../../path/nearest';

/** A place on a line that something was made along. */
export interface OnLine {
  /** Which of the lines of its step, and how far along it, of how much, mm. */
  readonly line: number;
  readonly s: number;
  readonly length: number;
  readonly closed: boolean;
  readonly place: Vec3;
  /** Unit tangent. */
  readonly way: Vec3;
  /** Of the bend there, mm; undefined where it is straight. */
  readonly bend?: number;
  /** Set where it is an end, or a joint of two pieces; of a joint which of them, from 1. */
  readonly at?: 'start' | 'end' | 'joint';
  readonly joint?: number;
  /** Of the section there, mm: its sides, or its diameter where it is round, and its wall where it has one. */
  readonly section?: {
    readonly width: number;
    readonly height: number;
    readonly round: boolean;
    readonly wall?: number;
  };
}

/** A place on the outline of something turned, about its axis: exact, as the outline is. */
export interface AboutAxis {
  /** Foot of the place on the axis, and the way of the axis, a unit vector. */
  readonly foot: Vec3;
  readonly way: Vec3;
  /** Distance of the outline from the axis there, mm. */
  readonly radius: number;
  /** Set where it is a corner of the outline. */
  readonly edge?: true;
}

/** Where on a step something is measured, in words that stay true as the step changes. */
export type Spot =
  | { readonly at: 'start' | 'middle' | 'end'; readonly line: number }
  /** So far along its line, mm. */
  | { readonly at: 'along'; readonly line: number; readonly s: number }
  /** The joint of that number, from 1. */
  | { readonly at: 'joint'; readonly line: number; readonly joint: number }
  /** The sharp corner of that number, from 1. */
  | { readonly at: 'corner'; readonly corner: number }
  /** What is nearest to a place in space. */
  | { readonly at: 'point'; readonly point: Vec3 };

/** What was found at a place. */
export interface Probed {
  /** The place pointed at: on the triangles, where it is on a body. */
  readonly point: Vec3;
  readonly on?: OnLine;
  readonly about?: AboutAxis;
  /** Set, alone, where a sharp edge or a corner is meant. */
  readonly edge?: OnEdge;
}

/** Places nearer to an end or a joint than this part of the section's reach, or of the length of a bare line, are meant to be there. */
const SNAP = 1;
const SNAP_BARE = 0.01;
/** Curvatures below this part of one over the length are straight. */
const STRAIGHT = 1e-6;

/** What a step's value is at a place. */
export function probe(value: Value, point: Vec3): Probed {
  const lines = linesOf(value);
  const on = nearestLine(lines, point);
  const leaves = leavesIn(value);
  const edge = edgeNear(edgesOf(leaves), point);
  if (edge) return { point: edge.place, edge };
  const about = nearestAxis(leaves, point);
  // What was pointed at is what the place lies on the outside of.
  if (on && about) return on.off <= about.off ? { point, on } : { point, about };
  return { point, ...(on && { on }), ...(about && { about }) };
}

const leavesIn = (value: Value) => bodiesOf(value).flatMap((body) => leavesOf(body));

/** The lines of a value: its paths, or those its bodies were swept along. */
export function linesOf(value: Value): Line[] {
  const bodies = bodiesOf(value);
  if (!bodies.length) return pathsOf(value).map((path) => ({ path, map: STILL }));
  return bodies
    .flatMap((body) => leavesOf(body))
    .flatMap(({ leaf, map }): Line[] =>
      leaf.form === 'swept' && scaleOf(map) !== undefined
        ? leaf.swept.map((swept) => ({ path: swept.carrier.path, map, swept }))
        : [],
    );
}

/** The edge of a value by its number, as `OnEdge` has it. */
export const edgeLine = (value: Value, edge: number): Mapped => edgesOf(leavesIn(value)).edges[edge]!;

/** What is at a spot of a value. @throws Complaint where there is no such spot */
export function stand(value: Value, spot: Spot): Probed {
  if (spot.at === 'point') return probe(value, spot.point);
  if (spot.at === 'corner') {
    const { corners } = edgesOf(leavesIn(value));
    const edge = corners[spot.corner - 1];
    if (!edge)
      throw new Complaint(
        corners.length
          ? `It has ${corners.length} sharp corners: there is no corner ${spot.corner}.`
          : 'It has no sharp corners: choose another place.',
      );
    return { point: edge.place, edge };
  }
  const lines = linesOf(value);
  const found = lines[spot.line - 1];
  if (!found)
    throw new Complaint(
      lines.length
        ? `It has ${lines.length} lines: there is no line ${spot.line}.`
        : 'This was made along no line: choose a point of it.',
    );
  const { path, map, swept } = found;
  const on = onLineAt(found, spot.line - 1, lengthOf(spot, path, jointsOf(path, swept), scaleOf(map)!));
  return { point: on.place, on };
}

/** Places of a line that are shown of it. */
const SHOWN = 48;

/** Places along a line of a value between two of it, the shorter way where it closes. */
export function placesAlong(value: Value, a: OnLine, b: OnLine): Vec3[] {
  const { path, map } = linesOf(value)[a.line]!;
  const by = scaleOf(map)!;
  const [low, high] = [Math.min(a.s, b.s) / by, Math.max(a.s, b.s) / by];
  const over = path.closed && high - low > path.length / 2;
  const [from, to] = over ? [high, low + path.length] : [low, high];
  return Array.from({ length: SHOWN + 1 }, (_x, i) => {
    const s = from + ((to - from) * i) / SHOWN;
    return moved(map, path.at(s > path.length ? s - path.length : s).position);
  });
}

/** Length along a path, in its own measure, at a spot of it. */
function lengthOf(
  spot: Exclude<Spot, { at: 'point' | 'corner' }>,
  path: Path,
  joints: readonly number[],
  by: number,
): number {
  if (spot.at === 'joint') {
    const found = joints[spot.joint - 1];
    if (found === undefined)
      throw new Complaint(`It has ${joints.length} joints: there is no joint ${spot.joint}.`);
    return found;
  }
  if (spot.at === 'along') {
    const length = by * path.length;
    if (spot.s > length * (1 + 1e-9))
      throw new Complaint(words`It is only ${mm(length)} long: choose a place within that.`);
    return Math.min(path.length, spot.s / by);
  }
  return { start: 0, middle: path.length / 2, end: path.length }[spot.at];
}

/** The place at a part of a step's first line; undefined where it has none. */
export function placeAlong(value: Value, part: number): Vec3 | undefined {
  const [first] = membersOf(value);
  if (first?.type === 'path') return first.at(part * first.length).position;
  if (first?.type !== 'body') return undefined;
  for (const { leaf, map } of leavesOf(first))
    if (leaf.form === 'swept') {
      const { path } = leaf.swept[0]!.carrier;
      return moved(map, path.at(part * path.length).position);
    }
  return undefined;
}

export interface Line extends Mapped {
  readonly swept?: Swept;
}

/** How far a place is off the outside of what was found. */
interface Off {
  readonly off: number;
}

function nearestLine(lines: readonly Line[], point: Vec3): (OnLine & Off) | undefined {
  let best: { line: number; s: number; off: number } | undefined;
  for (const [i, { path, map, swept }] of lines.entries()) {
    const { s, far } = nearestOn({ path, map }, point);
    const off = Math.abs(far - (swept ? swept.reach * swept.scale * scaleOf(map)! : 0));
    if (!best || off < best.off) best = { line: i, s, off };
  }
  if (!best) return undefined;
  const { line, off } = best;
  return { ...onLine(lines[line]!, line, best.s), off };
}

function onLine(line: Line, index: number, found: number): OnLine {
  const { path, swept } = line;
  const near = swept ? SNAP * swept.reach * swept.scale : SNAP_BARE * path.length;
  const joints = jointsOf(path, swept);
  const marks = path.closed ? joints : [0, path.length, ...joints];
  const mark = marks.toSorted((a, b) => Math.abs(a - found) - Math.abs(b - found))[0];
  return onLineAt(line, index, mark !== undefined && Math.abs(mark - found) <= near ? mark : found);
}

/** A line at a length along its path. */
function onLineAt(line: Line, index: number, s: number): OnLine {
  const { path, map, swept } = line;
  const by = scaleOf(map)!;
  const { position, tangent, curvature } = path.at(s);
  const joint = jointsOf(path, swept).indexOf(s) + 1;
  const end = path.closed ? undefined : s === 0 ? 'start' : s === path.length ? 'end' : undefined;
  const at = end ?? (joint ? 'joint' : undefined);
  const section = swept && sectionAt(swept, path, s, by);
  return {
    line: index,
    s: by * s,
    length: by * path.length,
    closed: path.closed,
    place: moved(map, position),
    way: unit(turned(map, tangent)),
    ...(curvature * path.length > STRAIGHT && { bend: by / curvature }),
    ...(at && { at }),
    ...(at === 'joint' && { joint }),
    ...(section && { section }),
  };
}

/** Lengths at which straights and bends meet, and corners: what a path was only cut into is no joint. */
function jointsOf(path: Path, swept: Swept | undefined): number[] {
  const given = swept?.original;
  const legs = path.legs ?? (given?.length === path.length ? given.legs : undefined) ?? [];
  return [...path.corners, ...legs.slice(1).map(({ from }) => from)].toSorted((a, b) => a - b);
}

function sectionAt({ carrier, section, into }: Swept, path: Path, s: number, by: number): OnLine['section'] {
  if (into) return undefined;
  const { piece, u } = path.locate(s);
  const here = standing();
  carrier.stand(piece, u, here);
  const { box, wall, symmetry } = section;
  return {
    width: by * here.sx * (box.right - box.left),
    height: by * here.sy * (box.high - box.low),
    round: symmetry === Infinity && here.sx === here.sy,
    ...(wall !== undefined && here.sx === here.sy && { wall: by * here.sx * wall }),
  };
}

/** The axis of the turned body whose outside a place is nearest to. */
function nearestAxis(leaves: readonly Placed[], point: Vec3): (AboutAxis & Off) | undefined {
  let best: (AboutAxis & Off) | undefined;
  for (const { leaf, map } of leaves) {
    if (leaf.form !== 'turned' || !leaf.turned.arc || scaleOf(map) === undefined) continue;
    const [origin, way] = [moved(map, [0, 0, 0]), unit(turned(map, [0, 0, 1]))];
    const arm = sub(point, origin);
    const by = scaleOf(map)!;
    const [r, h] = [norm(cross(arm, way)) / by, dot(arm, way) / by];
    const outlines = leaf.turned.section.contours.map((path) => ({ path, map: STILL }));
    const found = nearestLine(outlines, [r, h, 0])!;
    const [radius, high] = found.place;
    const off = by * found.off;
    if (best && off >= best.off) continue;
    const foot = add(origin, scale(way, by * high));
    best = { foot, way, radius: by * radius, off, ...(found.at && { edge: true }) };
  }
  return best;
}

/** What lies between two places, lengths in mm, angles in rad. */
export interface BetweenTwo {
  readonly straight: number;
  readonly apart: Vec3;
  /** Between the centre lines, the axes or the edges, at both places. */
  readonly centres?: number;
  /** Along the line from one to the other, the shorter way where it closes: where both are on one line. */
  readonly along?: number;
  /** Between the ways of the lines, axes or edges, 0 to a right angle. */
  readonly angle?: number;
}

/** The place that is meant: on the edge, the centre line or the axis, else on the outside. */
export const meantOf = ({ on, about, edge, point }: Probed): Vec3 =>
  edge?.place ?? on?.place ?? about?.foot ?? point;

/** Whether a place is one that has a name: an end, a joint or a corner, not just where somebody pointed. */
export const isNamed = ({ on, edge }: Probed): boolean => on?.at !== undefined || edge?.corner !== undefined;

/** What lies between two places; `same` tells that both places are on one step. */
export function betweenTwo(a: Probed, b: Probed, same: boolean): BetweenTwo {
  const [p, q] = [a, b].map((one) => one.on ?? one.about ?? one.edge);
  const [from, to] = [a, b].map(meantOf) as [Vec3, Vec3];
  const [v, w] = [p?.way, q?.way];
  const turn = v && w && Math.abs(dot(v, w));
  const arc = a.on && b.on && Math.abs(a.on.s - b.on.s);
  const onOne = same && arc !== undefined && a.on!.line === b.on!.line;
  return {
    straight: distance(a.point, b.point),
    apart: sub(b.point, a.point),
    ...(p && q && { centres: distance(from, to) }),
    ...(onOne && { along: a.on!.closed ? Math.min(arc, a.on!.length - arc) : arc }),
    ...(turn !== undefined && { angle: Math.atan2(norm(cross(v!, w!)), turn) }),
  };
}
