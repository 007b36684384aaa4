/** The geometry worker: evaluates, checks and meshes, away from the thread that draws and edits. */
import * as Comlink from 'comlink';
import { checkStep, createCache, evaluate, type Evaluation } from '@nematos/core/design/evaluate';
import type { Checked, FilledRows } from '@nematos/core/kind/kind';
import type { Poll } from '@nematos/core/geometry/poll';
import { bodyLengthwise, lengthwise, type Lengthwise } from '@nematos/core/view/lengthwise';
import { marksOf } from '@nematos/core/view/marks';
import type { Design, Step } from '@nematos/core/design/schema';
import type { Value } from '@nematos/core/kind/value';
import { sentTolerance } from '@nematos/core/design/edit';
import { writePoints } from '@nematos/core/exchange/rows';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import { polygonOf } from '@nematos/core/section/polygon-of';
import { layPath, planAbout, planSteps, sum } from '@nematos/core/path/lay';
import type { Path } from '@nematos/core/path/path';
import type { Vec3 } from '@nematos/core/geometry/vector';
import { sizeAbout } from '@nematos/core/sweep/body';
import type { Mesh } from '@nematos/core/mesh/mesh';
import { SpentMemory } from '@nematos/core/mesh/memory';
import type { Drawn, Seen, Shown } from './messages';
import { buffersOf } from './spent';

/** How finely to draw, as parts of the body's extent, and how many triangles at most. */
const PASSES = { live: { part: 1 / 400, most: 40_000 }, settled: { part: 1 / 2500, most: 400_000 } };
const LINE_POINTS = 4000;

const cache = createCache();
const memory = new SpentMemory();
let wanted = 0;

/** Thrown out of stale work; it never reaches the user. */
class Stale extends Error {}

/** Lets messages in now and then, and stops work that newer work has overtaken. */
function pollFor(revision: number): Poll {
  let last = performance.now();
  return async () => {
    if (performance.now() - last > 6) {
      await new Promise<void>((resolve) => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => {
          port1.close();
          resolve();
        };
        port2.postMessage(null);
      });
      last = performance.now();
    }
    if (revision !== wanted) throw new Stale();
  };
}

async function unlessStale<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Stale) return undefined;
    throw error;
  }
}

const isClosed = (value: Value | undefined): boolean =>
  value?.type === 'path'
    ? value.closed
    : value?.type === 'paths' && value.paths.every(({ closed }) => closed);

const withoutValues = ({ givens, steps, made }: Evaluation): Seen => ({
  givens,
  made,
  steps: steps.map(({ value, ...rest }) => ({
    ...rest,
    ...(value && { yields: value.type }),
    ...(isClosed(value) && { closed: true as const }),
  })),
});

function lineOf(path: Path): Float32Array<ArrayBuffer> {
  const steps = planSteps(path, { angle: 0.09 });
  const { positions } = layPath(path, sum(steps) > LINE_POINTS ? planAbout(path, LINE_POINTS) : steps);
  return Float32Array.from(positions);
}

/** A contour of a section as a closed line. */
function outlineOf(contour: Path): Float32Array<ArrayBuffer> {
  const points = polygonOf(contour, contour.length / 4000);
  const n = points.length / 2;
  const line = new Float32Array(3 * (n + 1));
  for (let i = 0; i <= n; i++) {
    line[3 * i] = points[2 * (i % n)]!;
    line[3 * i + 1] = points[2 * (i % n) + 1]!;
  }
  return line;
}

/** The box about a mesh: what is drawn is shown whole, before its exact extent is known. */
function boxOf({ positions }: Mesh): readonly [Vec3, Vec3] {
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const x = positions[i + k]!;
      if (x < low[k]!) low[k] = x;
      if (x > high[k]!) high[k] = x;
    }
  return [low, high];
}

/** A step that has a value. */
interface Made {
  readonly value: Value;
  readonly filled?: FilledRows;
}

function draw(
  step: Step,
  key: string,
  { value, filled }: Made,
  pass: keyof typeof PASSES,
): Drawn | undefined {
  const { part, most } = PASSES[pass];
  const base = { step: step.id, key, marks: marksOf(step, value, filled) };
  switch (value.type) {
    case 'body': {
      const size = sizeAbout(value);
      const mesh = value.mesh(size * part, most, memory);
      const coarse = pass === 'settled' && mesh.tolerance > size * part * 1.001;
      return {
        ...base,
        type: 'body',
        material: value.material,
        extent: boxOf(mesh),
        mesh,
        ...(coarse && { coarse }),
      };
    }
    case 'path':
      return {
        ...base,
        type: 'line',
        lines: [lineOf(value)],
        ...(value.aside && { aside: value.aside.map((points) => Float32Array.from(points)) }),
      };
    case 'paths':
      return { ...base, type: 'line', lines: value.paths.map(lineOf) };
    case 'section':
      return { ...base, type: 'line', lines: value.contours.map(outlineOf), corners: value.corners };
    case 'duty':
      return undefined;
  }
}

/** Draws the steps whose key at this fineness is not on the main thread already. */
async function drawAll(
  design: Design,
  evaluation: Evaluation,
  pass: keyof typeof PASSES,
  have: Record<string, string>,
  poll: Poll,
): Promise<Drawn[]> {
  const drawn: Drawn[] = [];
  for (const [i, { id, key, value, filled }] of evaluation.steps.entries()) {
    if (!value) continue;
    const step = design.steps[i]!;
    const fine = pass === 'settled' ? `${key}!` : key;
    const mine = have[id];
    if (mine === fine || mine === `${key}!`) continue;
    const one = draw(step, fine, { value, ...(filled && { filled }) }, pass);
    if (!one) continue;
    drawn.push(one);
    await poll(i / design.steps.length);
  }
  return drawn;
}

const buffers = (drawn: readonly Drawn[]): Transferable[] =>
  drawn.flatMap((one) =>
    one.type === 'body'
      ? buffersOf(one.mesh)
      : [...one.lines, ...(one.aside ?? [])].map((line) => line.buffer),
  );

const sendCharts = (charts: Lengthwise): Lengthwise =>
  Comlink.transfer(charts, [
    charts.s.buffer,
    charts.positions.buffer,
    ...charts.channels.map(({ values }) => values.buffer),
  ]);

const api = {
  /**
   * Coarse answer to an edit: what changed in the picture, and figures that are quickly had. Undefined when overtaken. `spent` is memory of
   * meshes that are shown no more, to be laid into again.
   */
  async live(
    design: Design,
    revision: number,
    have: Record<string, string>,
    spent: readonly ArrayBuffer[],
  ): Promise<Shown | undefined> {
    wanted = revision;
    memory.giveBack(spent);
    return unlessStale(async () => {
      const poll = pollFor(revision);
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const drawn = await drawAll(design, evaluation, 'live', have, poll);
      return Comlink.transfer({ seen: withoutValues(evaluation), drawn }, buffers(drawn));
    });
  },

  /** All figures, those too that the picture does not wait for. */
  async figures(design: Design, revision: number): Promise<Seen | undefined> {
    return unlessStale(async () => withoutValues(await evaluate(design, cache, pollFor(revision))));
  },

  /** Findings and limits of every step, from the cache where nothing changed. */
  async check(design: Design, revision: number): Promise<Record<string, Checked> | undefined> {
    return unlessStale(async () => {
      const poll = pollFor(revision);
      const evaluation = await evaluate(design, cache, poll);
      const checked: Record<string, Checked> = {};
      for (const [i, result] of evaluation.steps.entries())
        if (result.value) checked[result.id] = await checkStep(design.steps[i]!, result, cache, poll);
      return checked;
    });
  },

  /** Fine pictures of what is still coarse. */
  async settle(design: Design, revision: number, have: Record<string, string>): Promise<Drawn[] | undefined> {
    return unlessStale(async () => {
      const poll = pollFor(revision);
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const drawn = await drawAll(design, evaluation, 'settled', have, poll);
      return Comlink.transfer(drawn, buffers(drawn));
    });
  },

  /** Charts of a step's path, or of the first of its set; undefined where it has none, or when overtaken. */
  async lengthwise(design: Design, step: string, revision: number): Promise<Lengthwise | undefined> {
    return unlessStale(async () => {
      const { steps } = await evaluate(design, cache, pollFor(revision), 'shape');
      const value = steps.find(({ id }) => id === step)?.value;
      if (value?.type === 'body') return sendCharts(bodyLengthwise(value));
      const path = value?.type === 'path' ? value : value?.type === 'paths' ? value.paths[0] : undefined;
      if (!path) return undefined;
      return sendCharts(lengthwise(path));
    });
  },

  /** Points along a step's path as CSV, or why there are none. */
  async points(design: Design, step: string): Promise<{ text?: string; refused?: string }> {
    const { steps } = await evaluate(design, cache, undefined, 'shape');
    const value = steps.find(({ id }) => id === step)?.value;
    if (value?.type !== 'path') return { refused: 'Choose a single path on the sheet first.' };
    try {
      return { text: writePoints(value, sentTolerance(design), design.unit) };
    } catch (error) {
      if (error instanceof Complaint) return { refused: sayWords(error.says, design.unit) };
      throw error;
    }
  },

  /** A body under each hold, coarsely drawn; nothing for those it cannot be held by. */
  async holds(design: Design, step: string, holds: readonly string[]): Promise<(Drawn | undefined)[]> {
    const drawn: (Drawn | undefined)[] = [];
    for (const hold of holds) {
      const other = structuredClone(design);
      const mine = other.steps.find(({ id }) => id === step);
      if (!mine) return [];
      mine.set.hold = hold;
      const { steps } = await evaluate(other, cache, undefined, 'shape');
      const made = steps.find(({ id }) => id === step);
      drawn.push(
        made?.value?.type === 'body' ? draw(mine, made.key, { value: made.value }, 'live') : undefined,
      );
    }
    return Comlink.transfer(drawn, buffers(drawn.filter((one) => one !== undefined)));
  },

  /** Bodies of a design (or its paths, where there is none), for a small picture. */
  async picture(design: Design): Promise<Drawn[]> {
    const { steps } = await evaluate(design, cache, undefined, 'shape');
    const shown = (type: Value['type']) =>
      steps.flatMap(({ key, value }, i) =>
        value?.type === type && !design.steps[i]!.hidden
          ? (draw(design.steps[i]!, key, { value }, 'settled') ?? [])
          : [],
      );
    const bodies = shown('body');
    const drawn = bodies.length ? bodies : [...shown('path'), ...shown('paths')];
    return Comlink.transfer(drawn, buffers(drawn));
  },
};

export type GeometryWorker = typeof api;
Comlink.expose(api);
