/** Bodies whose joints are rounded, and looks at what is laid along them. */
import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import type { Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import { boxOf } from '../src/mesh/data/mesh';
import type { FilletedBody } from '../src/solid/body/body';
import type { Combination } from '../src/solid/kernel/kernel';

export const go = async () => {};
export type Made = readonly [kind: string, set: Record<string, string>];

export const PLATE: Made = ['block', { width: '60 mm', depth: '60 mm', height: '10 mm' }];
export const PIN: Made = ['cylinder', { diameter: '20 mm', height: '30 mm' }];

/** Bodies put together, and their joints rounded. */
export function weldDesign(made: readonly Made[], set: Record<string, string>, operation = 'add'): Design {
  const design = emptyDesign('Welded');
  const ids = made.map(([kind, figures]) => addStep(design, kind, design.steps.length, figures));
  addStep(design, operation, design.steps.length);
  stepOf(design, operation).from =
    operation === 'subtract' ? { body: ids[0]!, taken: ids.slice(1) } : { bodies: ids };
  addStep(design, 'weld', design.steps.length, set);
  setInput(design, 'weld', 'body', operation);
  return design;
}

export async function welded(...given: Parameters<typeof weldDesign>) {
  const { steps } = await evaluate(weldDesign(...given), createCache());
  const { value, results, complaints } = steps.at(-1)!;
  if (!value) throw new Error(JSON.stringify(complaints));
  const figure = (name: string) => results.find((one) => one.name === name)!;
  return { body: value as FilletedBody, figure };
}

/** It is one closed solid; and the places of what was laid along its joints. */
export async function stripOf(
  body: FilletedBody,
  tolerance: number,
  euler = 2,
): Promise<{ made: Combination; places: Vec3[] }> {
  const made = await body.solid(tolerance, go);
  expect(inspectMesh(made)).deep.include({ openEdges: 0, degenerate: 0, euler });
  expect([made.parts, made.skins]).deep.equal([1, 0]);
  expect(await meshCrossing(made, go)).equal(undefined);
  // What is told of the body holds of the solid.
  expect(body.parts).equal(1);
  const off = body.within.extent + tolerance;
  boxOf(made).forEach((corner, side) =>
    corner.forEach((x, k) => expect(Math.abs(x - body.extent[side]![k]!)).most(off)),
  );
  const places: Vec3[] = [];
  for (const { leaf, first, count } of made.groups)
    if (leaf === body.leaves.length - 1)
      for (let i = 3 * first; i < 3 * (first + count); i++)
        places.push([
          ...made.positions.slice(3 * made.triangles[i]!, 3 * made.triangles[i]! + 3),
        ] as unknown as Vec3);
  expect(places.length).greaterThan(100);
  return { made, places };
}

/** What a ball of radius r leaves beside a corner, turned about an axis at a distance R from the corner, on its far side. */
export const turnedCorner = (R: number, r: number): number =>
  2 * Math.PI * (r * r * (R + r / 2) - ((Math.PI * r * r) / 4) * (R + r - (4 * r) / (3 * Math.PI)));
