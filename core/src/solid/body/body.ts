/** What bodies are: sections carried along paths or turned about an axis, triangles from a file, such ones placed elsewhere, or combined of others. */
import { Memo } from '../../geometry/memo';
import type { Affine, Motion } from '../../geometry/motion';
import { composed, moved, STILL, stretchOf, turned } from '../../geometry/motion';
import { unit, type Vec3, vec3 } from '../../geometry/vector';
import { planAbout, samplePath } from '../../path/sample';
import type { Poll } from '../../geometry/poll';
import type { Material } from '../../measure/materials';
import type { Bodily } from '../../mesh/data/body';
import type { Extent } from '../../mesh/data/extent';
import type { Mesh } from '../../mesh/data/mesh';
import type { MeshedBody } from '../../mesh/build/mesh-body';
import type { Path } from '../../path/path';
import { sizeAbout as sweptSize, type SweptBody } from '../../sweep/body';
import type { TurnedBody } from '../../turn/body';
import type { Combination } from '../kernel/kernel';
import type { Operation } from '../kernel/volumes';
import type { Hollowing } from './hollowing';
import type { Deformation } from '../../geometry/deformation';

/** What is made of one section, or is no more than its triangles: its figures are exact. */
export type Exact = MeshedBody | SweptBody | TurnedBody;
/** What bodies are made of in the end. */
export type Leaf = Exact | Piece;
/** What is made of other bodies, and known by its triangles. */
export type MadeBody = CombinedBody | OffsetBody | DeformedBody | ShelledBody | FilletedBody;
export type Body = Exact | PlacedBody | MadeBody;

/** What became of a leaf, known by its triangles alone. */
export interface Piece {
  readonly form: 'piece';
  readonly from: Leaf;
  bounds(): readonly RoughBound[];
}

/** Another body seen through a map: moved, turned, drawn out or mirrored. */
export interface PlacedBody extends Bodily {
  readonly form: 'placed';
  readonly source: Exact | MadeBody;
  readonly map: Affine;
  /** How far its figures may be off, where they are estimates; set once they are measured. */
  readonly within: Within | undefined;
}

/** What every body has that is known by its triangles. */
export interface Made extends Bodily {
  /** About its largest extent, mm. */
  readonly size: number;
  /** How far volume (mm³), surface (mm²) and extent (mm) may be off; set once they are measured. */
  readonly within: Within;
  /** How many parts it has that do not hang together; set once it is measured. */
  readonly parts: number;
  /** Chord tolerance of the finer solid it is measured by, mm. */
  readonly checkedAt: number;
  /** Chord tolerance of the solid that is shown and looked over, mm: one that is made soon after those it is measured by. */
  readonly shownAt: number;
  /**
   * Its triangles within `tolerance` (mm); groups say from which of its leaves each comes. Where the bodies are not
   * `trusted` each is looked at first, and made clean where it runs through itself.
   * @throws Complaint where it cannot be made, or nothing is left
   */
  solid(tolerance: number, poll: Poll, trusted?: boolean): Promise<Combination>;
  /**
   * Triangles that look from outside like it within `tolerance` (mm), faster than those of the solid and not closed;
   * undefined where there are none.
   */
  lookalike(tolerance: number, poll: Poll): Promise<Mesh | undefined>;
}

export interface CombinedBody extends Made {
  readonly form: 'combined';
  readonly operation: Operation;
  /** In their order: the first is the one that others are taken from. */
  readonly bodies: readonly Body[];
}

/** A body wrung, tapered, drawn out or bent. */
export interface DeformedBody extends Made {
  readonly form: 'deformed';
  readonly source: Body;
  readonly deformation: Deformation;
  readonly leaves: readonly Placed[];
}

/** How the radius changes from one end of each joint to the other. */
export interface Growth {
  /** What it becomes, mm. */
  readonly to: number;
  /** The axis is z: along it, or away from it, a joint begins and ends. */
  readonly axis: Motion;
  readonly away: boolean;
}

/** A place of a joint, and how a ball that rests there on the planes of both faces moves as it grows: mm for each mm of its radius. */
export interface Resting {
  readonly at: Vec3;
  readonly by: Vec3;
}

/** How joints are rounded. */
export interface FilletOptions {
  /** Of the ball that is rolled along them, mm: everywhere, or where a joint begins. */
  readonly radius: number;
  /** How it grows from there. */
  readonly growth?: Growth;
  readonly where: 'hollows' | 'ridges' | 'all';
  /** Whether its face goes straight from where the ball touches one body to where it touches the other. */
  readonly flat: boolean;
  /** Which of the body's leaves meet along the joints that are rounded: some and all others, or some and some; undefined of all joints. */
  readonly between?: readonly [some: ReadonlySet<number>, others: ReadonlySet<number> | undefined];
}

/** A body whose joints are rounded. */
export interface FilletedBody extends Made {
  readonly form: 'filleted';
  readonly source: Body;
  readonly options: FilletOptions;
  /** Those of the body, and the strips laid along the joints as the last. */
  readonly leaves: readonly Placed[];
  /** What is laid on, less what is taken off, mm³, and by how much that may be off; once it is measured. */
  laid(): { readonly volume: number; readonly within: number };
  /** Where a ball rests in a joint that is rounded; where it grows, where it begins and where it ends. None before the joints are found. */
  resting(): readonly Resting[];
}

/** A body of any kind with room all round it. */
export interface OffsetBody extends Made {
  readonly form: 'offset';
  readonly source: Body;
  /** How much room, mm. */
  readonly by: number;
  /** What it is bounded by. */
  readonly leaves: readonly Placed[];
}

/** A body of any kind with a wall all along. */
export interface ShelledBody extends Made {
  readonly form: 'shelled';
  readonly source: Body;
  readonly hollowing: Hollowing;
  /** Those of the body, and what its hollow is bounded by as the last. */
  readonly leaves: readonly Placed[];
}

/** How far figures may be off: mm³, mm² and mm; moments of inertia of unit density, mm⁵. */
export interface Within {
  readonly volume: number;
  readonly surface: number;
  readonly extent: number;
  readonly centre: number;
  readonly inertia: number;
}

/** Of what is exact. */
export const EXACT: Within = { volume: 0, surface: 0, extent: 0, centre: 0, inertia: 0 };

/** How far the figures of a body may be off; undefined where they are exact. */
export const withinOf = (body: Body): Within | undefined =>
  body.form === 'placed' || isMade(body) ? body.within : undefined;

/** Whether a body is known by its triangles, and the kernel may have to make it. */
export const isMade = (body: Body): body is MadeBody => 'solid' in body;

/** One of the bodies that another is made of in the end, and where it stands in it. */
export interface Placed {
  readonly leaf: Leaf;
  readonly map: Affine;
  readonly material: Material;
}

/** The bodies that it is made of in the end, in their order: groups of its mesh are numbered so. */
export function leavesOf(body: Body, map: Affine = STILL): readonly Placed[] {
  switch (body.form) {
    case 'placed':
      return leavesOf(body.source, composed(body.map, map));
    case 'combined':
      return body.bodies.flatMap((one) => leavesOf(one, map));
    case 'offset':
    case 'deformed':
    case 'shelled':
    case 'filleted':
      return body.leaves.map((one) => ({ ...one, map: composed(one.map, map) }));
    default:
      return [{ leaf: body, map, material: body.material }];
  }
}

/** Whether from outside it looks like the bodies it is made of, laid beside each other. */
export function looksLikeParts(body: Body): boolean {
  switch (body.form) {
    case 'placed':
    case 'deformed':
      return looksLikeParts(body.source);
    case 'combined':
      return body.operation === 'add' && body.bodies.every(looksLikeParts);
    case 'offset':
    case 'shelled':
    case 'filleted':
      return false;
    default:
      return true;
  }
}

/** About its largest extent, mm, quickly. */
export function sizeAbout(body: Body): number {
  switch (body.form) {
    case 'swept':
      return sweptSize(body);
    case 'meshed':
    case 'turned': {
      const [least, most] = body.extent;
      return Math.max(...most.map((x, k) => x - least[k]!));
    }
    case 'placed':
      return stretchOf(body.map) * sizeAbout(body.source);
    case 'combined':
    case 'offset':
    case 'deformed':
    case 'shelled':
    case 'filleted':
      return body.size;
  }
}

/** Points of a path that its rough middle is taken from; of each of several fewer, but so many at least. */
const ROUGH_POINTS = 60;
const LEAST_POINTS = 24;

/** A place in a body, and how far about it the body may reach, mm: square to `along`, a unit vector, where that is given. */
export interface RoughBound {
  readonly at: Vec3;
  readonly within: number;
  readonly along?: Vec3;
}

/** Of bodies: they are asked for theirs by everything that is made of them. */
const BOUNDS = new Memo<Body, readonly RoughBound[]>();

/** Where a body is, quickly: places along the paths of swept ones, and corners of the box of turned ones. */
export const roughBounds = (body: Body): readonly RoughBound[] =>
  BOUNDS.value(body, () => leavesOf(body).flatMap(boundsOfLeaf));

/** The same of a leaf, where it is placed. */
export function boundsOfLeaf({ leaf, map }: Placed): RoughBound[] {
  if (leaf.form === 'meshed') return cornersOf(leaf.extent).map((at) => ({ at: moved(map, at), within: 0 }));
  if (leaf.form === 'turned') return turnedBounds(leaf).map((at) => ({ at: moved(map, at), within: 0 }));
  if (leaf.form === 'piece')
    return leaf.bounds().map(({ at, within }) => ({ at: moved(map, at), within: stretchOf(map) * within }));
  const within = leaf.section.reach * stretchOf(map);
  const many = Math.max(LEAST_POINTS, ROUGH_POINTS / Math.sqrt(leaf.paths.length));
  return leaf.paths.flatMap((path) =>
    stationsAbout(path, many).map(({ at, along }) =>
      map === STILL ? { at, within, along } : { at: moved(map, at), within, along: unit(turned(map, along)) },
    ),
  );
}

/** Corners that a turned body stands between: of eight sides where it goes once round its axis, of a box where not. */
function turnedBounds({ turned, extent }: TurnedBody): Vec3[] {
  if (!isRound(turned)) return cornersOf(extent);
  const [low, high] = extent;
  return [low[2], high[2]].flatMap((z) => cornersRound(high[0]).map(([x, y]): Vec3 => [x, y, z]));
}

/** Whether it goes once round its axis, on a circle. */
export const isRound = ({ arc, round }: TurnedBody['turned']): boolean => arc !== undefined && round.closed;

/** Corners of the eight sides about a circle, of which four touch it where the axes do. */
export function cornersRound(radius: number): [x: number, y: number][] {
  const half = radius * Math.tan(Math.PI / 8);
  return [1, -1].flatMap((a): [number, number][] =>
    [half, -half].flatMap((b): [number, number][] => [
      [a * radius, b],
      [b, a * radius],
    ]),
  );
}

interface Station {
  readonly at: Vec3;
  readonly along: Vec3;
}
/** Of paths: copies are asked for theirs many times. */
const STATIONS = new Memo<Path, readonly Station[]>();

const stationsAbout = (path: Path, many: number): readonly Station[] =>
  STATIONS.value(path, () => placesAbout(path, many));

function placesAbout(path: Path, many: number): Station[] {
  const { positions: p, tangents: t } = samplePath(path, planAbout(path, many));
  return Array.from({ length: p.length / 3 }, (_x, i): Station => ({
    at: [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!],
    along: [t[3 * i]!, t[3 * i + 1]!, t[3 * i + 2]!],
  }));
}

/** The eight corners of a box. */
export const cornersOf = ([low, high]: Extent): Vec3[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map((corner) => vec3(low.map((x, k) => ((corner >> k) & 1 ? high[k]! : x))));

/** The box that bounds lie in. */
export function boxAbout(bounds: readonly RoughBound[]): Extent {
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (const { at, within, along } of bounds)
    for (let k = 0; k < 3; k++) {
      const reach = along ? within * Math.sqrt(Math.max(0, 1 - along[k]! ** 2)) : within;
      low[k] = Math.min(low[k]!, at[k]! - reach);
      high[k] = Math.max(high[k]!, at[k]! + reach);
    }
  return [low, high];
}

/** About the middle of the room a body takes, quickly. */
export function middleAbout(body: Body): Vec3 {
  const [low, high] = boxAbout(roughBounds(body));
  return vec3([0, 1, 2].map((k) => (low[k]! + high[k]!) / 2));
}

/** The size of bodies that are combined: what is taken away, or only shared, may be far larger. */
export function sizeCombined(operation: Operation, bodies: readonly Body[]): number {
  const sizes = bodies.map(sizeAbout);
  return { add: Math.max(...sizes), subtract: sizes[0]!, common: Math.min(...sizes) }[operation];
}
