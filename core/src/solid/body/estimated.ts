/** Bodies known by their triangles: solids kept by their tolerance, and figures estimated of four of them. */
import { centreOfMass, inertiaOf, type Mass } from '../../geometry/mass';
import type { Poll } from '../../geometry/poll';
import { STILL } from '../../geometry/motion';
import { runNow, type Task } from '../../geometry/task';
import type { Material } from '../../measure/materials';
import { boxReaching, type Bounded, type Extent } from '../../mesh/data/extent';
import type { MeshMemory } from '../../mesh/data/memory';
import { boxOf, mappedPlaces, type Mesh } from '../../mesh/data/mesh';
import type { Made, Within } from './body';
import { estimated, furtherMass, ROUNDED } from './extrapolate';
import type { Combination } from '../kernel/kernel';

/** Chord tolerance such a body is measured at, as a part of its size; and at twice, four and eight times it. */
export const MEASURED = 1 / 2000;
/** So many solids are kept, those asked for last: four it is measured by, as many for a body made of it, two to be seen. */
const KEPT = 10;

/** What was found of a body. */
export interface Measured extends Bounded {
  readonly mass: Mass;
  readonly surface: number;
  readonly extent: Extent;
  readonly within: Within;
  readonly parts: number;
}

/** How a body is made. */
export interface Making {
  readonly material: Material;
  /** About its size, mm; asked for once it is needed. */
  readonly size: number;
  /** Chord tolerance at which it is shown, mm, where that is not the one it is measured at; asked for once it is needed. */
  readonly shownAt?: number;
  solid(tolerance: number, poll: Poll, trusted: boolean): Promise<Combination>;
  /** How finely it is made where a tolerance is asked for, mm, if finer than that: one solid serves for all for which it is the same. */
  fineness?(tolerance: number): number;
  /** What is shown of it until it is made. */
  meshing(tolerance: number, most: number, memory?: MeshMemory): Task<Mesh>;
  /** A mesh that looks the same from outside within a tolerance: faster to make, not closed. Some bodies have none. */
  lookalike?(tolerance: number, poll: Poll): Promise<Mesh | undefined>;
  /** Its measures, from solids of a tolerance and coarser. */
  measured(finest: number, solid: Solid, poll: Poll): Promise<Measured>;
}

/** Gives a body's triangles within a tolerance, mm. */
export type Solid = (tolerance: number, trusted: boolean) => Promise<Combination>;

/** Gives solids of a body: those asked for last are kept, and each is made once for all who ask for it. */
function keptSolids(making: Making) {
  const kept = new Map<string, Combination>();
  /** Those that are being made. */
  const begun = new Map<string, Promise<Combination>>();

  return async function solid(tolerance: number, poll: Poll, trusted = false): Promise<Combination> {
    const within = making.fineness?.(tolerance) ?? tolerance;
    const keys = [`${within} ${trusted}`, `${within} false`];
    for (;;) {
      const key = keys.find((one) => kept.has(one));
      if (key) {
        const made = kept.get(key)!;
        kept.delete(key);
        kept.set(key, made);
        return made;
      }
      const other = keys.map((one) => begun.get(one)).find((one) => one !== undefined);
      if (!other) break;
      // Whoever asked for it first may give it up; why it cannot be made is found again then.
      await other.catch(() => undefined);
      await poll(0);
    }
    const [key] = keys as [string];
    const work = making.solid(within, poll, trusted);
    begun.set(key, work);
    try {
      const made = await work;
      if (kept.size >= KEPT) kept.delete([...kept.keys()][0]!);
      kept.set(key, made);
      return made;
    } finally {
      begun.delete(key);
    }
  };
}

/** The body, with `more` that its form has. */
export function madeBody<T extends object>(more: T, making: Making): Made & T {
  const { material, meshing } = making;
  const solid = keptSolids(making);
  let known: Measured | undefined;
  const measured = (): Measured => {
    if (!known) throw new Error('asked for before it was measured');
    return known;
  };

  const body: Made = {
    type: 'body',
    material,
    get size() {
      return making.size;
    },
    get checkedAt() {
      return making.size * MEASURED;
    },
    get shownAt() {
      return making.shownAt ?? body.checkedAt;
    },
    get volume() {
      return measured().mass.volume;
    },
    get mass() {
      return measured().mass;
    },
    get surface() {
      return measured().surface;
    },
    get extent() {
      return measured().extent;
    },
    *reaching(motion) {
      yield;
      return motion === STILL ? [boxReaching(measured().extent)] : yield* measured().reaching(motion);
    },
    get within() {
      return measured().within;
    },
    get parts() {
      return measured().parts;
    },
    async measured(poll) {
      if (known) return;
      known = await making.measured(
        making.size * MEASURED,
        (tolerance, trusted) => solid(tolerance, poll, trusted),
        poll,
      );
    },
    weighed: (poll) => body.measured(poll),
    solid,
    lookalike: async (...wanted) => making.lookalike?.(...wanted),
    meshing,
    mesh: (...wanted) => runNow(meshing(...wanted)),
  };
  return Object.assign(body, more);
}

/** What is measured of meshes of four tolerances; where the finest was clean as it came, so are the others. */
export async function measuredBy(
  finest: number,
  solid: Solid,
  mass: (made: Combination, tolerance: number) => Promise<{ mass: Mass; surface: number }>,
): Promise<Measured> {
  const fine = await solid(finest, false);
  const measure = async (coarser: number) =>
    mass(await solid(coarser * finest, !fine.mended), coarser * finest);
  const [a, b, c, d] = [
    await mass(fine, finest),
    await measure(2),
    await measure(4),
    await measure(8),
  ] as const;
  return estimatedOf([a, b, c, d], fine);
}

/** What values of four tolerances, each twice the one before, come to; parts and extent as the finest solid has them. */
export function estimatedOf(
  found: readonly { readonly mass: Mass; readonly surface: number }[],
  fine: Pick<Combination, 'positions' | 'tolerance' | 'parts'>,
): Measured {
  const of = (value: (one: (typeof found)[number]) => number) =>
    estimated(found.map(value) as unknown as Parameters<typeof estimated>[0]);
  const volume = of(({ mass }) => mass.volume);
  const surface = of((one) => one.surface);
  const masses = found.map(({ mass }) => mass);
  const mass = volume.extrapolated ? furtherMass(masses[0]!, masses[1]!) : masses[volume.from]!;
  // Each of its figures is held against what the meshes make of it themselves: what is kept of them may be off by that.
  const off = (figures: (mass: Mass) => readonly number[]): number => {
    const values = masses.map(figures);
    return Math.max(
      ...figures(mass).map((kept, k) => {
        const own = estimated(values.map((one) => one[k]!) as unknown as Parameters<typeof estimated>[0]);
        return own.within + Math.abs(own.value - kept);
      }),
    );
  };
  const [low, high] = boxOf(fine);
  const size = Math.max(...high.map((x, k) => x - low[k]!));
  const unsure = volume.within / Math.abs(mass.volume);
  return {
    mass,
    surface: surface.value,
    extent: [low, high],
    within: {
      volume: volume.within,
      surface: surface.within,
      extent: 2 * fine.tolerance,
      // Where no mesh shows it, as on an axis of symmetry, rounding is left.
      centre: Math.max(off(centreOfMass), ROUNDED * size),
      inertia: Math.max(off(inertiaOf), unsure * Math.max(...inertiaOf(mass))),
    },
    parts: fine.parts,
    reaching: cornersReaching(fine),
  };
}

/** How far corners (xyz each) reach. */
export const cornersReaching = ({ positions }: Pick<Mesh, 'positions'>): Bounded['reaching'] =>
  function* (motion) {
    yield;
    return [boxReaching(boxOf({ positions: mappedPlaces(positions, motion) }))];
  };
