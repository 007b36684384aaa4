import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { bodyKind, length, text } from '../../kind/kind';
import { anyBodyResults } from '../../kind/body-results';
import type { Affine } from '../../geometry/motion';
import type { Poll } from '../../geometry/poll';
import { runPolling } from '../../geometry/task';
import { Complaint } from '../../measure/words';
import { inspectSteps } from '../../mesh/data/topology';
import type { Triangles } from '../../mesh/data/mesh';
import { meshedBody } from '../../mesh/build/mesh-body';
import { unpacked } from '../../mesh/data/packed';
import { shellFault } from '../../mesh/verify/shells';
import { leavesOf } from '../../solid/body/body';
import { placedBody } from '../../solid/body/placed';
import { gripOf } from './axis-marks';
import { materialGiven } from './of-material';
import { MEASURED, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, onAxis } from './on-axis';

/** What was read last: other figures of the step change, and other steps. */
const READ = new LRUCache<string, Triangles>({ max: 8 });

/** Triangles that were kept as text. @throws Complaint at the file where they do not close any more */
async function surfacesIn(text: string, poll: Poll): Promise<Triangles> {
  const known = READ.get(text);
  if (known) return known;
  const surfaces = unpacked(text);
  const { openEdges, volume } = await runPolling(inspectSteps(surfaces), poll);
  if (openEdges || !(volume > 0) || (await runPolling(shellFault(surfaces), poll)))
    throw new Complaint('These triangles bound no solid: bring the file in again.', 'file');
  READ.set(text, surfaces);
  return surfaces;
}

const timesAsLarge = (by: number): Affine => ({
  origin: [0, 0, 0],
  ex: [by, 0, 0],
  ey: [0, by, 0],
  ez: [0, 0, by],
});

/** A part known only by its triangles, out of a file; they are kept in the design. */
export const partFromFile = bodyKind({
  ...MEASURED,
  kind: 'part-from-file',
  title: 'Part from a file',
  noun: 'part from a file',
  words: ['part', 'file', 'import', 'bring in', 'mesh', 'triangles', 'scan', 'stl', 'obj', '3mf', 'context'],
  inputs: ON_AXIS_INPUTS,
  schema: z.object({
    file: text().optional(),
    triangles: text().optional(),
    unit: length({ above: 0 }),
    ...ON_AXIS,
  }),
  defaults: { unit: '1 mm', ...ON_AXIS_DEFAULTS },
  marks: (body, { placing }) => gripOf(body, placing),
  faults: { damaged: 'file' },
  async evaluate({ triangles, unit, ...figures }, { place }, { poll }) {
    if (triangles === undefined) throw new Complaint('No file was brought in yet. Choose one below.', 'file');
    const asItCame = meshedBody(await surfacesIn(triangles, poll), materialGiven(figures));
    return onAxis(placedBody(asItCame, timesAsLarge(unit)), figures, place);
  },
  results(body) {
    const [{ leaf }] = leavesOf(body) as [ReturnType<typeof leavesOf>[number]];
    if (leaf.form !== 'meshed') throw new Error('not meshed');
    const count = leaf.surfaces.triangles.length / 3;
    return [
      ...anyBodyResults(body),
      { name: 'triangles', label: 'triangles', value: count, quantity: 'number' as const },
    ];
  },
});
