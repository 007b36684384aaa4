/** Bodies to be reshaped, and what is expected of them. */
import { expect } from 'chai';
import { addStep, setInput } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import { integrate } from '../src/geometry/numeric';
import type { Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import type { Mesh } from '../src/mesh/data/mesh';

export type Made = readonly [kind: string, set?: Record<string, string>, from?: Record<string, string>];

/** Steps one after another, and the last of them reshaped; ids are "kind", "kind-2" …. */
export function reshapeDesign(made: readonly Made[], set: Record<string, string>): Design {
  const design = emptyDesign('Reshaped');
  for (const [kind, figures = {}, from = {}] of made) {
    const id = addStep(design, kind, design.steps.length, figures);
    for (const [slot, of] of Object.entries(from)) setInput(design, id, slot, of);
  }
  const body = design.steps.at(-1)!.id;
  const id = addStep(design, 'reshape', design.steps.length, set);
  setInput(design, id, 'body', body);
  return design;
}

/** What part of a change is done at a part of the way: its rate put together by quadrature, not in closed form. */
export function done(h: number, ease: number): number {
  if (h <= 0) return 0;
  if (h >= 1) return 1;
  const step = (t: number) => t * t * (3 - 2 * t);
  const rate = (x: number) =>
    (x < ease ? step(x / ease) : x > 1 - ease ? step((1 - x) / ease) : 1) / (1 - ease);
  const cuts = [0, ease, 1 - ease, 1].filter((cut) => cut < h);
  return [...cuts.slice(1), h].reduce((sum, to, i) => sum + integrate(rate, cuts[i]!, to, 4), 0);
}

/** A point turned about the z axis, by an angle in rad. */
export const turned = ([x, y, z]: Vec3, by: number): Vec3 => [
  x * Math.cos(by) - y * Math.sin(by),
  x * Math.sin(by) + y * Math.cos(by),
  z,
];

/** Closed, oriented outward, and without triangles that cross. */
export async function expectClosed(mesh: Mesh) {
  const report = inspectMesh(mesh);
  expect(report).deep.include({ openEdges: 0, degenerate: 0 });
  expect(report.volume).greaterThan(0);
  expect(await meshCrossing(mesh, async () => {})).equal(undefined);
}

/** Heights it is reshaped between, and the ease at both; and what part of the way a height is, mm. */
export const BETWEEN = { from: '10 mm', to: '50 mm', ease: '0.25' } as const;
export const height = (z: number) => (z - 10) / 40;

/** Across the axis, so that it does not stay a sweep. */
export const BAR: Made[] = [
  ['rectangle', { width: '30 mm', height: '40 mm' }],
  ['extrude', { height: '6 mm', originX: '-3 mm', axisX: '1', axisZ: '0', originZ: '30 mm' }],
];
