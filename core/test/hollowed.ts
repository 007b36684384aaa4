/** Hollowed bodies for tests. */
import { expect } from 'chai';
import { addStep, setInput } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import type { Body } from '../src/solid/body/body';
import { distance } from '../src/geometry/vector';

const go = async () => {};
export type Made = readonly [kind: string, set: Record<string, string>, from?: Record<string, string>];

/** Steps one after another, and the last of them hollowed. */
export function hollowDesign(
  made: readonly Made[],
  set: Record<string, string>,
): { design: Design; id: string } {
  const design = emptyDesign('Hollow');
  for (const [kind, figures] of made) addStep(design, kind, design.steps.length, figures);
  const body = design.steps.at(-1)!.id;
  const id = addStep(design, 'hollow', design.steps.length, set);
  setInput(design, id, 'body', body);
  return { design, id };
}

export async function figuresOf({ design, id }: { design: Design; id: string }) {
  const { steps } = await evaluate(design, createCache());
  const { results, value } = steps.find((step) => step.id === id)!;
  return {
    body: value as Body,
    ...Object.fromEntries(results.map(({ name, value }) => [name, value])),
  } as { body: Body } & Record<string, number>;
}

export async function expectSound(body: Body, genus: number) {
  for (const part of [100, 400]) {
    const [low, high] = body.extent;
    const mesh = body.mesh(distance(low, high) / part, 200_000);
    const report = inspectMesh(mesh);
    expect(report).deep.include({ openEdges: 0 });
    // Euler's number of all its surfaces.
    expect(report.euler).equal(genus);
    expect(await meshCrossing(mesh, go)).equal(undefined);
  }
}
