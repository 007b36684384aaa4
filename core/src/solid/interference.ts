/** How bodies that are made by themselves stand to each other: whether two overlap, touch, or what room they leave. */
import type { Poll } from '../geometry/poll';
import { runPolling } from '../geometry/task';
import type { Vec3 } from '../geometry/vector';
import { crossingBetween } from '../mesh/verify/crossing-between';
import type { Extent } from '../mesh/data/extent';
import { facing, gapSteps, isWithin, nearOf, type Near } from '../mesh/query/distance';
import { meshMassSteps } from '../mesh/data/mass';
import { boxOf, type Mesh } from '../mesh/data/mesh';
import { isMade, sizeAbout, type Body } from './body/body';
import { combine } from './kernel/kernel';
import { KernelError } from './kernel/error';

/** How two groups of bodies stand to each other. */
export interface Standing {
  /** Which two groups, from 0. */
  readonly pair: readonly [number, number];
  readonly how: 'overlap' | 'touch' | 'apart';
  /** Least distance, mm; 0 where they touch or overlap. */
  readonly gap: number;
  /** How far the distance may be off, mm: it is measured of triangles. */
  readonly within: number;
  /** What they share, mm³, and about how deep one is in the other, mm; of what cannot be combined neither is known. */
  readonly shared?: { readonly volume: number; readonly deep: number };
  readonly place: Vec3;
}

export interface Standings {
  /** Pairs that overlap or touch, or leave less room than is wanted. */
  readonly close: readonly Standing[];
  /** The two that leave the least room; undefined where nothing stands apart. */
  readonly least?: Standing;
}

/** Chord tolerances that bodies are looked at with, as parts of their size: all of them, and those that gaps are told of. */
const ROUGH = 1 / 300;
const FINE = 1 / 1500;
/** What is shared is looked at so many times as fine before two are said to overlap by little. */
const CLOSER = 16;
const MOST = 300_000;

interface Looked {
  readonly near: Near;
  readonly box: Extent;
  readonly tolerance: number;
}

/** Bodies as they were looked at, roughly. */
const LOOKED = new WeakMap<Body, Looked>();

async function lookedAt(body: Body, poll: Poll): Promise<Looked> {
  const known = LOOKED.get(body);
  if (known) return known;
  const mesh = await meshAt(body, ROUGH, poll);
  const near = await runPolling(nearOf(mesh), poll);
  const made = { near, box: boxOf(mesh), tolerance: toleranceOf(body, ROUGH) };
  LOOKED.set(body, made);
  return made;
}

/** What is made of others is looked at as it is checked, which is fine; finer it takes long to be made. */
const toleranceOf = (body: Body, part: number): number =>
  isMade(body) ? (part < FINE ? body.checkedAt / 2 : body.checkedAt) : part * sizeAbout(body);

function meshAt(body: Body, part: number, poll: Poll): Promise<Mesh> {
  const tolerance = toleranceOf(body, part);
  return isMade(body) ? body.solid(tolerance, poll) : runPolling(body.meshing(tolerance, MOST), poll);
}

/** Makes bodies ready to be looked at. @throws Complaint where one cannot be meshed */
export async function lookAt(bodies: readonly Body[], poll: Poll): Promise<void> {
  for (const body of bodies) await lookedAt(body, poll);
}

/** How groups of bodies stand to each other, those of one group not looked at; `wanted` is the room they shall leave, mm. */
export async function standingsOf(
  groups: readonly (readonly Body[])[],
  wanted: number,
  poll: Poll,
): Promise<Standings> {
  const looked: Looked[][] = [];
  for (const bodies of groups) {
    const mine: Looked[] = [];
    for (const body of bodies) mine.push(await lookedAt(body, poll));
    looked.push(mine);
  }
  const pairs = groups
    .flatMap((_one, i) =>
      groups.slice(i + 1).map((_other, k) => {
        const j = i + 1 + k;
        return {
          i,
          j,
          far: Math.min(...looked[i]!.flatMap((a) => looked[j]!.map((b) => apart(a.box, b.box)))),
        };
      }),
    )
    .sort((a, b) => a.far - b.far);
  const close: Standing[] = [];
  const roughly: Found[] = [];
  let nearest = Infinity;
  for (const [done, { i, j, far }] of pairs.entries()) {
    await poll((0.8 * done) / pairs.length);
    if (far > Math.max(wanted, nearest)) break;
    for (const a of groups[i]!)
      for (const b of groups[j]!) {
        const found = await roughStanding(a, b, Math.max(wanted, nearest), poll);
        if (!found) continue;
        roughly.push({ ...found, pair: [i, j], bodies: [a, b] });
        if (found.how === 'apart') nearest = Math.min(nearest, found.gap + found.within);
      }
  }
  // Of two groups the worst is told.
  const told = new Set<string>();
  let least: Standing | undefined;
  for (const found of roughly.sort((a, b) => RANK[a.how] - RANK[b.how] || a.gap - b.gap)) {
    const key = found.pair.join(' ');
    if (told.has(key)) continue;
    const limit = Math.max(wanted, least?.gap ?? Infinity);
    if (found.how === 'apart' && found.gap - found.within > limit) break;
    const closer = found.how === 'apart' ? await closerStanding(found, limit, poll) : found;
    if (!closer) continue;
    const { bodies: _bodies, ...standing } = closer;
    // A gap as wide as wanted is not refused for what triangles are off.
    if (standing.how !== 'apart' || standing.gap + standing.within < wanted) {
      close.push(standing);
      told.add(key);
    }
    if (standing.how === 'apart' && (!least || standing.gap < least.gap)) least = standing;
  }
  return { close, ...(least && { least }) };
}

interface Found extends Standing {
  readonly bodies: readonly [Body, Body];
}

const RANK = { overlap: 0, touch: 1, apart: 2 } as const;
const TWO = [0, 1] as const;
/** Faces that are as near as this part of the size lie on each other: corners stand in single precision. */
const ROUNDED = 1e-6;

type Known = WeakMap<Body, WeakMap<Body, { readonly found: Standing | undefined; readonly limit: number }>>;
const know = (known: Known, a: Body, b: Body, found: Standing | undefined, limit: number): void =>
  void known.set(a, (known.get(a) ?? new WeakMap()).set(b, { found, limit }));

/** Of two bodies that did not change, how they stand, and how far was looked for that. */
const ROUGHLY: Known = new WeakMap();
const CLOSELY: Known = new WeakMap();

/** How two bodies stand to each other, gaps roughly; undefined where they leave more room than `limit`. */
async function roughStanding(a: Body, b: Body, limit: number, poll: Poll): Promise<Standing | undefined> {
  const known = ROUGHLY.get(a)?.get(b);
  if (known && (known.found || known.limit >= limit)) return known.found;
  const found = await lookedFor(a, b, limit, poll);
  know(ROUGHLY, a, b, found, limit);
  return found;
}

async function lookedFor(a: Body, b: Body, limit: number, poll: Poll): Promise<Standing | undefined> {
  const [mine, theirs] = [await lookedAt(a, poll), await lookedAt(b, poll)];
  const within = mine.tolerance + theirs.tolerance;
  const crossing = await runPolling(crossingBetween(mine.near, theirs.near), poll);
  const inside = crossing ?? (await holds(mine, theirs, poll)) ?? (await holds(theirs, mine, poll));
  if (inside) {
    const shared = await sharedBy(a, b, within, poll);
    const how = crossing && shared === 'nothing' ? 'touch' : 'overlap';
    return { pair: TWO, how, gap: 0, within, ...(typeof shared === 'object' && { shared }), place: inside };
  }
  const found = await runPolling(gapSteps(mine.near, theirs.near, limit + within), poll);
  return found && { pair: TWO, how: 'apart', gap: found.distance, within, place: found.place };
}

/** The gap between two bodies that stand apart, of finer triangles that face each other; undefined where it is not under `limit`. */
async function closerStanding(found: Found, limit: number, poll: Poll): Promise<Found | undefined> {
  const [a, b] = found.bodies;
  const known = CLOSELY.get(a)?.get(b);
  if (known?.found) return { ...found, ...known.found, pair: found.pair };
  if (known && known.limit >= limit) return undefined;
  const meshes = [await meshAt(a, FINE, poll), await meshAt(b, FINE, poll)] as const;
  const [mine, theirs] = await runPolling(facing(...meshes, [boxOf(meshes[0]), boxOf(meshes[1])]), poll);
  const near = [await runPolling(nearOf(mine), poll), await runPolling(nearOf(theirs), poll)] as const;
  const gap = await runPolling(gapSteps(...near, limit), poll);
  const touch = gap && gap.distance < ROUNDED * Math.max(sizeAbout(a), sizeAbout(b));
  const closer: Standing | undefined = gap && {
    pair: TWO,
    how: touch ? 'touch' : 'apart',
    gap: touch ? 0 : gap.distance,
    within: toleranceOf(a, FINE) + toleranceOf(b, FINE),
    place: gap.place,
  };
  know(CLOSELY, a, b, closer, limit);
  return closer && { ...found, ...closer, pair: found.pair };
}

/** A place of the second, where it lies within the first. */
async function holds(one: Looked, { near }: Looked, poll: Poll): Promise<Vec3 | undefined> {
  const at = 3 * near.triangles[0]!;
  const corner: Vec3 = [near.positions[at]!, near.positions[at + 1]!, near.positions[at + 2]!];
  if (apart(one.box, [corner, corner]) > 0) return undefined;
  return (await runPolling(isWithin(one.near, corner), poll)) ? corner : undefined;
}

type Shared = NonNullable<Standing['shared']> | 'nothing' | 'unknown';

/** What two bodies that meet have in common; nothing where it is no thicker than triangles may be off. */
async function sharedBy(a: Body, b: Body, within: number, poll: Poll): Promise<Shared> {
  const shared = await commonTo(a, b, ROUGH, poll);
  if (typeof shared !== 'object' || shared.deep > within) return shared;
  const part = ROUGH / CLOSER;
  const closer = await commonTo(a, b, part, poll);
  const off = toleranceOf(a, part) + toleranceOf(b, part);
  return typeof closer === 'object' && closer.deep < off ? 'nothing' : closer;
}

async function commonTo(a: Body, b: Body, part: number, poll: Poll): Promise<Shared> {
  const meshes = [await meshAt(a, part, poll), await meshAt(b, part, poll)];
  try {
    const common = await combine(
      'common',
      meshes.map((mesh) => [mesh]),
      toleranceOf(a, part),
      poll,
    );
    if (!common) return 'nothing';
    // A plate has two sides: this is how thick it is.
    const { surface } = await runPolling(meshMassSteps(common), poll);
    return { volume: common.volume, deep: (2 * common.volume) / surface };
  } catch (error) {
    // Parts from files may be such that they cannot be combined.
    if (error instanceof KernelError) return 'unknown';
    throw error;
  }
}

/** How far two boxes stand apart, mm. */
const apart = ([low, high]: Extent, [least, most]: Extent): number =>
  Math.hypot(...[0, 1, 2].map((k) => Math.max(0, low[k]! - most[k]!, least[k]! - high[k]!)));
