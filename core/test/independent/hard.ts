/** What tests of parts that are hard to mesh or to measure share. */
import { expect } from 'chai';
import { inspectMesh } from '../../src/mesh/data/topology';
import { checkStep } from '../../src/design/check-step';
import { createCache, evaluate } from '../../src/design/evaluate';
import { solidsToSend, type Sent } from '../../src/exchange/solid';
import { bodyDesign, points, type Carried } from '../bodies';
import { LONG, runs } from '../runs';
import { examine } from './examine';

export const poll = async () => {};
export const DEPTH = { points: runs(2000), seed: 1, tolerances: [0.1, 0.4, ...(LONG ? [0.025] : [])] };
export const sound = async (part: Carried) =>
  expect(await examine(part, DEPTH), JSON.stringify(part)).deep.equal({ state: 'sound', says: [] });

/** What is sent of a part, with what was found. */
export async function sent(part: Carried) {
  const design = bodyDesign(part);
  const cache = createCache();
  const evaluation = await evaluate(design, cache);
  const at = evaluation.steps.length - 1;
  const { findings } = await checkStep(design.steps[at]!, evaluation.steps[at]!, cache);
  const [{ mesh }] = (await solidsToSend(design, evaluation, cache, poll)) as [Sent];
  return { mesh, findings, report: inspectMesh(mesh) };
}
export const round = (diameter: number): Carried['section'] => ({
  kind: 'round',
  set: { diameter: `${diameter} mm` },
});
export const rectangle = (width: number, height: number): Carried['section'] => ({
  kind: 'rectangle',
  set: { width: `${width} mm`, height: `${height} mm`, radius: '0 mm' },
});
export const run = (set: Record<string, string>, ...places: [number, number, number][]): Carried['path'] => ({
  kind: 'run',
  set,
  rows: { points: points(...places) },
});
export const cage = (set: Record<string, string>): Carried['path'] => ({ kind: 'cage', set });
