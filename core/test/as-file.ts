/** Parts as files have them. */
import { addStep, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design, type Row } from '../src/design/schema';
import { solidsToSend } from '../src/exchange/solid';
import { surfacesOf } from '../src/exchange/surfaces';
import { inspectMesh } from '../src/mesh/data/topology';
import { packed } from '../src/mesh/data/packed';
import type { Path } from '../src/path/path';

const go = async () => {};

/** A step of what is made: its kind, figures and rows. */
export type Made = readonly [
  kind: string,
  set?: Record<string, string>,
  rows?: Readonly<Record<string, Row[]>>,
];

/** A part as a file has it: triangles of what the steps make, without what they know. */
export async function asFile(
  steps: readonly Made[],
  tolerance = 0.02,
): Promise<{ design: Design; path: Path | undefined; volume: number }> {
  const made = emptyDesign('Made');
  for (const [i, [kind, set, rows]] of steps.entries()) {
    const id = addStep(made, kind, i, set);
    if (rows) stepOf(made, id).rows = structuredClone(rows);
  }
  const cache = createCache();
  const evaluation = await evaluate(made, cache, go);
  const [sent] = await solidsToSend({ ...made, tolerance: `${tolerance} mm` }, evaluation, cache, go);
  const { positions: p, triangles } = sent!.mesh;
  const soup = Float32Array.from(
    { length: 3 * triangles.length },
    (_x, i) => p[3 * triangles[Math.floor(i / 3)]! + (i % 3)]!,
  );
  const design = emptyDesign('From a file');
  addStep(design, 'part-from-file', 0, { file: 'bar.stl', triangles: packed(surfacesOf(soup)) });
  const path = evaluation.steps.find(({ value }) => value?.type === 'path')?.value as Path | undefined;
  return { design, path, volume: inspectMesh(sent!.mesh).volume };
}
