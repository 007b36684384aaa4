/** A combination whose joints are rounded by a ball that is rolled along them: laid in hollows, taken off ridges. */
import { GeometryError } from '../../geometry/error';
import { moved, STILL, type Motion } from '../../geometry/motion';
import { addMass, mappedMass, type Mass } from '../../geometry/mass';
import type { Poll } from '../../geometry/poll';
import { runPolling } from '../../geometry/task';
import { scale, type Vec3 } from '../../geometry/vector';
import { ownExtent } from '../../mesh/data/extent';
import { surfaceOf, type Surface } from '../../mesh/query/nearest';
import { boxOf, joinMeshes, mappedMesh, type GroupedMesh, type Mesh } from '../../mesh/data/mesh';
import {
  EXACT,
  leavesOf,
  roughBounds,
  sizeAbout,
  withinOf,
  type Body,
  type Placed,
  type Resting,
  type FilletedBody,
  type FilletOptions,
} from '../body/body';
import { fitsThere, likenesses } from './alike';
import type { Rolling } from './ball';
import { endsOf, evenBall, growingBall } from './ball-size';
import { withoutSpecks } from '../../mesh/repair/tiny-shells';
import { cleaned } from '../combine/clean';
import { inWords, solidOf } from '../combine/combined';
import { hullMeshes } from '../kernel/hulls';
import { jointError, levelError } from './joint-error';
import { jointsOf, type Joint } from './joints';
import { combine, type Combination } from '../kernel/kernel';
import { cornersReaching, madeBody, type Measured } from '../body/estimated';
import { restingIn, Unrolled, type Faces } from './rolling';
import { rolledStrip, stripFigures } from './strip';

/** What is rounded is as fine as this part of the radius at least, and the strips reach so many times that into it. */
const FINE = 1 / 40;
/** As fine as this part of the radius is what is only to be seen. */
const SEEN = 1 / 12;
const PUSH = 1.5;
/** Joints shorter than this part of the radius are none, but what rounding left. */
const SHORT = 1 / 20;
/** And shells thinner than this part of the tolerance. */
const SPECK = 1 / 5;

/** The body with its joints rounded. */
export function filletedBody(of: Body, options: FilletOptions): FilletedBody {
  const before = leavesOf(of);
  const strip: Placed = {
    map: STILL,
    material: before[0]!.material,
    leaf: { form: 'piece', from: before[0]!.leaf, bounds: () => roughBounds(of) },
  };
  let laid = { volume: NaN, within: NaN };
  const more = {
    form: 'filleted',
    source: of,
    options,
    leaves: [...before, strip],
    laid: () => laid,
    resting: () => restingAt(of, options),
  } as const;
  return madeBody(more, {
    material: of.material,
    size: sizeAbout(of),
    // What comes out with crossing faces is made again, finer than this.
    fineness: (tolerance) => Math.min(tolerance, FINE * leastRadius(options)),
    solid: (tolerance, poll, trusted) =>
      cleaned(
        (finer) => filletedSolid(of, options, before.length, finer * tolerance, poll, trusted),
        trusted,
        poll,
      ),
    meshing: (...wanted) => of.meshing(...wanted),
    lookalike: (tolerance, poll) => lookalike(of, options, before.length, tolerance, poll),
    async measured(finest, solid, poll) {
      await of.measured(poll);
      await ownExtent(of).known(poll);
      const found = await measuredWith(of, options, finest, () => solid(finest, false), poll);
      laid = found.laid;
      return found;
    },
  });
}

/** Where strips are only laid on, it is seen as the body and the strips are, though nothing is joined. */
async function lookalike(of: Body, options: FilletOptions, number: number, tolerance: number, poll: Poll) {
  const site = await jointsAt(of, options, tolerance, poll, true, SEEN);
  if (!site.joints.every(({ hollow }) => hollow)) return undefined;
  const strips = await stripsAlong(site, number, poll);
  const { whole } = site;
  const mesh = joinMeshes([whole, ...strips.flatMap(({ meshes }) => meshes)]);
  const first = whole.triangles.length / 3;
  const laid = { leaf: number, first, count: mesh.triangles.length / 3 - first };
  return { ...mesh, groups: [...whole.groups, laid] };
}

/** Half of what the faces at a joint may be off: their corners stand as far outside as their middles inside. */
const OFF = 1 / 2;

/** The body it was, with what is laid along its joints or taken off, each by itself. */
async function measuredWith(
  of: Body,
  options: FilletOptions,
  finest: number,
  solid: () => Promise<Combination>,
  poll: Poll,
): Promise<Measured & { readonly laid: ReturnType<FilletedBody['laid']> }> {
  const site = await jointsAt(of, options, finest, poll, false);
  const off = withinOf(of) ?? EXACT;
  let { surface } = of;
  let within = 0;
  const masses: Mass[] = [of.mass];
  const strips = await alongEach(
    site,
    (joint, faces, rolling) => runPolling(stripFigures(joint, faces, rolling), poll),
    (strip, motion) => ({ ...strip, mass: mappedMass(strip.mass, motion) }),
    poll,
  );
  strips.forEach((strip, i) => {
    masses.push(site.joints[i]!.hollow ? strip.mass : scaledMass(strip.mass, -1));
    surface += strip.surface - strip.covered;
    within += strip.within + (OFF * strip.mass.volume * site.fine) / leastRadius(options);
  });
  const mass = addMass(masses);
  const { within: far, ...reach } = await reachOf(of, site, off.extent, solid);
  return {
    mass,
    laid: { volume: mass.volume - of.volume, within },
    surface,
    within: {
      volume: off.volume + within,
      surface: off.surface + (OFF * Math.abs(surface - of.surface) * site.fine) / leastRadius(options),
      extent: far,
      // What is laid on may be off by that much, as far from the middle as the body reaches.
      centre: off.centre + (within * sizeAbout(of)) / mass.volume,
      inertia: off.inertia + within * sizeAbout(of) ** 2,
    },
    ...reach,
  };
}

/**
 * How far it reaches, and its parts. What a ball leaves in a hollow lies between the places where it touches, and hangs
 * together with both: body and strips reach as far as the body.
 */
async function reachOf(of: Body, { joints, whole }: Site, off: number, solid: () => Promise<Combination>) {
  if (joints.every(({ hollow }) => hollow))
    return {
      extent: of.extent,
      reaching: (motion: Motion) => of.reaching(motion),
      within: off,
      parts: whole.parts ?? 1,
    };
  const made = await solid();
  return {
    extent: boxOf(made),
    reaching: cornersReaching(made),
    within: 2 * made.tolerance,
    parts: made.parts,
  };
}

const scaledMass = ({ volume, first, second }: Mass, by: number): Mass => ({
  volume: by * volume,
  first: scale(first, by),
  second: second.map((one) => by * one) as unknown as Mass['second'],
});

/** A body whose joints are to be rounded, and how a ball is rolled along them. */
type Site = Awaited<ReturnType<typeof jointsAt>>;

/** The body within a tolerance or within that `part` of the radius, and its joints that are to be rounded. @throws Complaint where there are none */
async function jointsAt(
  of: Body,
  options: FilletOptions,
  tolerance: number,
  poll: Poll,
  trusted: boolean,
  part = FINE,
) {
  const { radius, growth, where, flat, between } = options;
  const least = leastRadius(options);
  const fine = Math.min(tolerance, least * part);
  const made = await solidOf(of, fine, poll, trusted);
  if (!made.groups) throw new GeometryError('no-joint', ALONE);
  const whole: GroupedMesh & typeof made = { ...made, groups: made.groups };
  const all = await runPolling(jointsOf(whole), poll);
  if (!FOUND.has(of)) FOUND.set(of, all);
  const joints = all.filter((joint) => joint.length > SHORT * least && isChosen(joint, options));
  if (!joints.length)
    throw between
      ? new GeometryError('joint-not-there', NOT_THERE)
      : new GeometryError('no-joint', where === 'ridges' ? NO_RIDGE : NO_HOLLOW);
  const alike = await runPolling(likenesses(joints, leavesOf(of), fine), poll);
  /** How a ball is rolled along a joint; one that is a part of the size that is wanted, where it is to be tried. */
  const rollingAlong = (joint: Joint, share = 1): Rolling => {
    const ball = growth
      ? growingBall(joint, share * radius, { ...growth, to: share * growth.to })
      : evenBall(share * radius);
    if (!ball) throw levelError(joint);
    return { ball, flat, tolerance: fine, push: PUSH * fine };
  };
  return { whole, joints, alike, facesFor: facesOf(whole), rollingAlong, fine };
}

/** The radius where it is least, mm. */
const leastRadius = ({ radius, growth }: FilletOptions): number => Math.min(radius, growth?.to ?? radius);

/** Joints of bodies as they were found first, so that what is shown at them stays where it is while the radius changes. */
const FOUND = new WeakMap<Body, readonly Joint[]>();

/** Where a ball rests in the longest of the joints that are to be rounded, at both its ends where it grows; none before they are found. */
function restingAt(of: Body, options: FilletOptions): Resting[] {
  const [longest] = (FOUND.get(of) ?? [])
    .filter((joint) => isChosen(joint, options))
    .toSorted((a, b) => b.length - a.length);
  if (!longest) return [];
  const at = options.growth ? endsOf(longest, options.growth) : [undefined];
  return at.flatMap((edge) => restingIn(longest, edge) ?? []);
}

/** Whether a joint is one of those that are to be rounded. */
const isChosen = (joint: Joint, { where, between }: FilletOptions): boolean =>
  (where === 'all' || joint.hollow === (where === 'hollows')) && isBetween(joint, between);

function isBetween({ bodies: [left, right] }: Joint, between: FilletOptions['between']): boolean {
  if (!between) return true;
  const [some, others] = between;
  const meets = (a: number, b: number) => some.has(a) && (others ? others.has(b) : !some.has(b));
  return meets(left, right) || meets(right, left);
}

/** What is made along each joint; where one is like another, what was made there is moved to it. @throws Complaint where a ball has no room */
async function alongEach<T extends { readonly centres: readonly Vec3[] }>(
  { joints, alike, facesFor, rollingAlong }: Site,
  make: (joint: Joint, faces: Faces, rolling: Rolling) => Promise<T | Unrolled>,
  movedBy: (made: T, motion: Motion) => T,
  poll: Poll,
): Promise<T[]> {
  const found: T[] = [];
  for (const [i, joint] of joints.entries()) {
    await poll(0.3 + (0.4 * i) / joints.length);
    const faces = await facesFor(joint, poll);
    const rolling = rollingAlong(joint);
    const like = alike[i];
    if (like) {
      const { of, motion } = like;
      const before = found[of]!;
      if (await runPolling(fitsThere(before.centres, motion, joint, faces, rolling), poll)) {
        found.push(movedBy(before, motion));
        continue;
      }
    }
    const made = await make(joint, faces, rolling);
    if (made instanceof Unrolled)
      throw await jointError(made, joint, faces, (share) => rollingAlong(joint, share), poll);
    found.push(made);
  }
  return found;
}

/** Strips along all joints as closed meshes, triangles of the leaf of that number. */
function stripsAlong(site: Site, number: number, poll: Poll) {
  const grouped = (mesh: Mesh): Mesh => ({
    ...mesh,
    groups: [{ leaf: number, first: 0, count: mesh.triangles.length / 3 }],
  });
  const tolerance = site.fine;
  return alongEach(
    site,
    async (joint, faces, rolling) => {
      const strip = await runPolling(rolledStrip(joint, faces, rolling), poll);
      if (strip instanceof Unrolled) return strip;
      const pieces = [...strip.meshes, ...(await hullMeshes(strip.hulls, tolerance, poll))].map(grouped);
      const whole =
        pieces.length > 1 ? await joined(() => combine('add', [pieces], tolerance, poll)) : undefined;
      return { centres: strip.centres, meshes: whole ? [whole] : pieces };
    },
    ({ centres, meshes }, motion) => ({
      centres: centres.map((centre) => moved(motion, centre)),
      meshes: meshes.map((mesh) => mappedMesh(mesh, motion)),
    }),
    poll,
  );
}

const joined = <T>(work: () => Promise<T>): Promise<T> => inWords('These joints could not be rounded', work);

async function filletedSolid(
  of: Body,
  options: FilletOptions,
  number: number,
  tolerance: number,
  poll: Poll,
  trusted: boolean,
): Promise<Combination> {
  const site = await jointsAt(of, options, tolerance, poll, trusted);
  const { whole, joints, fine } = site;
  const strips = await stripsAlong(site, number, poll);
  const laid = (hollow: boolean) =>
    strips.filter((_one, i) => joints[i]!.hollow === hollow).map(({ meshes }) => meshes);
  return joined(async () => {
    let now: Combination | GroupedMesh = whole;
    for (const operation of ['add', 'subtract'] as const) {
      const mine = laid(operation === 'add');
      await poll(0.7);
      if (mine.length) now = (await combine(operation, [[now], ...mine], fine, () => poll(0.7))) ?? now;
    }
    // There was a joint, so that one of the two was done. Specks that rounding left are no part of it.
    const clean = await runPolling(withoutSpecks(now as Combination, SPECK * fine), () => poll(0.9));
    return { ...clean, ...(clean !== now && { skins: 0 }), mended: whole.mended };
  });
}

const ALONE =
  'This is one body by itself: joints are where bodies that are added, or taken from one another, meet. Choose the step that did that.';
const NO_HOLLOW = 'Its bodies meet in no hollow: choose ridges, or move them into each other.';
const NOT_THERE = 'These bodies meet in no such joint: choose others, or the joints wherever they are.';
const NO_RIDGE = 'Its bodies meet in no ridge: choose hollows.';

/** Faces of the bodies at a joint, each made ready once. */
function facesOf(whole: GroupedMesh): (joint: Joint, poll: Poll) => Promise<Faces> {
  const known = new Map<number, Surface>();
  const surface = async (leaf: number, poll: Poll): Promise<Surface> => {
    const earlier = known.get(leaf);
    if (earlier) return earlier;
    const mine = whole.groups.filter((group) => leaf < 0 || group.leaf === leaf);
    const triangles = new Uint32Array(3 * mine.reduce((sum, { count }) => sum + count, 0));
    let at = 0;
    for (const { first, count } of mine) {
      triangles.set(whole.triangles.subarray(3 * first, 3 * (first + count)), at);
      at += 3 * count;
    }
    const { positions, normals } = whole;
    const made = await runPolling(surfaceOf({ positions, normals, triangles }), poll);
    known.set(leaf, made);
    return made;
  };
  return async ({ bodies: [left, right] }, poll) => ({
    left: await surface(left, poll),
    right: await surface(right, poll),
    whole: await surface(EVERY, poll),
  });
}
const EVERY = -1;
