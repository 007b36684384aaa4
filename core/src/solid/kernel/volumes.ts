/** What is asked of solids before and after the kernel combines them. */
import type { Manifold } from 'manifold-3d';
import { told, words } from '../../measure/words';
import type { Mesh } from '../../mesh/data/mesh';
import { KernelError } from './error';

export type Operation = 'add' | 'subtract' | 'common';

/** Edges shorter than this part of the chord tolerance are slivers. */
export const SLIVER = 50;

/**
 * The fineness to which corners of solids are rounded, mm: a sixteenth of single precision at the farthest of them. Near the
 * origin they would stand finer, and what lies in one plane but for rounding would be taken apart there.
 */
export function gridOf(meshes: readonly Mesh[]): number {
  let most = 0;
  for (const { positions } of meshes) for (const x of positions) most = Math.max(most, Math.abs(x));
  return 2 ** (Math.ceil(Math.log2(most || 1)) - 28);
}

/**
 * Without edges shorter than a fiftieth of the tolerance; as it is where letting them go would take away, or put on, more than a
 * layer as thin as that.
 */
export function simplified(rough: Manifold, tolerance: number, keep: (one: Manifold) => Manifold): Manifold {
  const fine = tolerance / SLIVER;
  const simple = keep(rough.simplify(fine));
  const layer = rough.surfaceArea() * fine;
  return simple.status() === 'NoError' && Math.abs(simple.volume() - rough.volume()) <= layer
    ? simple
    : rough;
}

/** Corners stand in single precision: a volume is off by this part of the volumes it comes from. */
const ROUNDED = 1e-5;

/** Compares the volume with its bounds by inclusion and exclusion. @throws KernelError where it lies outside them */
export function checkVolume(operation: Operation, solid: Manifold, volumes: readonly number[]): void {
  const volume = solid.volume();
  const sum = volumes.reduce((a, b) => a + b, 0);
  const [first] = volumes as [number];
  const [least, most] = {
    add: [Math.max(...volumes), sum],
    subtract: [2 * first - sum, first],
    common: [0, Math.min(...volumes)],
  }[operation] as [number, number];
  // Where faces lie on each other, the kernel moves them by its own tolerance.
  const slack = ROUNDED * sum + solid.surfaceArea() * solid.tolerance();
  if (!(volume <= most + slack) || !(volume >= least - slack))
    throw new KernelError(
      words`what came out has ${told(volume, 'volume')}; it must lie between ${told(Math.max(0, least), 'volume')} and ${told(most, 'volume')}`,
    );
}
