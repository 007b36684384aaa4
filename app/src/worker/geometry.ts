/** The geometry worker: evaluates, checks and meshes, away from the thread that draws and edits. */
import * as Comlink from 'comlink';
import { hash } from '@nematos/core/design/hash';
import { checkStep, createCache, evaluate, type Evaluation } from '@nematos/core/design/evaluate';
import type { Checked, FilledRows } from '@nematos/core/kind/kind';
import type { Poll } from '@nematos/core/geometry/poll';
import { givingWay } from '@nematos/core/geometry/steps';
import { bodyLengthwise, lengthwise, type Lengthwise } from '@nematos/core/view/lengthwise';
import { marksOf, movedMark } from '@nematos/core/view/marks';
import { motionInPart } from '@nematos/core/view/in-part';
import { moved, stretchOf, type Motion } from '@nematos/core/geometry/motion';
import type { Design, Step } from '@nematos/core/design/schema';
import { membersOf, pathsOf, typeOf, type Value } from '@nematos/core/kind/value';
import { sceneOf } from '@nematos/core/view/part';
import { sentTolerance } from '@nematos/core/design/edit';
import { writePoints } from '@nematos/core/exchange/rows';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import { polygonOf } from '@nematos/core/section/polygon-of';
import { samplePath, planAbout, planSteps, sum } from '@nematos/core/path/sample';
import type { Path } from '@nematos/core/path/path';
import { leavesOf, looksLikeParts, sizeAbout, type Body } from '@nematos/core/solid/body';
import { previewOf } from '@nematos/core/solid/preview';
import { boxOf, copyOf, joinMeshes, mappedMesh, type Mesh } from '@nematos/core/mesh/mesh';
import { SpentMemory } from '@nematos/core/mesh/memory';
import type { Asking, Drawn, LiveAnswer, Looks, Seen } from './messages';
import { buffersOf } from './spent';

/** How finely to draw, as parts of the body's extent, and how many triangles at most. */
const PASSES = {
  live: { part: 1 / 400, most: 40_000 },
  coarse: { part: 1 / 400, most: 40_000 },
  settled: { part: 1 / 2500, most: 400_000 },
};
const LINE_POINTS = 4000;
/** What the kernel makes of few triangles it makes finer in no time. */
const FEW = 4000;
const FINER = 4;

const cache = createCache();
const memory = new SpentMemory();
/** The latest asking of each session. */
const wanted = new Map<string, number>();

/** Thrown out of stale work; it never reaches the user. */
class Stale extends Error {}

/** Lets messages in now and then, and stops work that newer work of its session has overtaken. */
function pollFor({ session, revision }: Asking): Poll {
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
    if (revision !== wanted.get(session)) throw new Stale();
  };
}

/** Answers one asking, unless the next of its session comes before it is done. */
async function unlessStale<T>(asking: Asking, work: (poll: Poll) => Promise<T>): Promise<T | undefined> {
  const { session, revision } = asking;
  if (revision < (wanted.get(session) ?? revision)) return undefined;
  wanted.set(session, revision);
  try {
    return await work(pollFor(asking));
  } catch (error) {
    if (error instanceof Stale) return undefined;
    throw error;
  }
}

const isClosed = (value: Value | undefined): boolean => {
  const paths = pathsOf(value);
  return paths.length > 0 && paths.every(({ closed }) => closed);
};

const withoutValues = ({ givens, steps, made }: Evaluation): Seen => ({
  givens,
  made,
  steps: steps.map(({ value, ...rest }) => ({
    ...rest,
    ...(value && { yields: typeOf(value) }),
    ...(value?.type === 'set' && { members: value.members.length }),
    ...(isClosed(value) && { closed: true as const }),
  })),
});

/** Points (xyz each) moved along. */
function movedLine(points: ArrayLike<number>, motion: Motion | undefined): Float32Array<ArrayBuffer> {
  const line = Float32Array.from(points);
  if (motion)
    for (let i = 0; i < line.length; i += 3)
      line.set(moved(motion, [line[i]!, line[i + 1]!, line[i + 2]!]), i);
  return line;
}

function lineOf(path: Path): Float32Array<ArrayBuffer> {
  const steps = planSteps(path, { angle: 0.09 });
  const { positions } = samplePath(path, sum(steps) > LINE_POINTS ? planAbout(path, LINE_POINTS) : steps);
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

/** A step that has a value. */
interface WithValue {
  readonly value: Value;
  readonly filled?: FilledRows;
  /** How it was moved to where it is in the part. */
  readonly motion?: Motion;
}

/** Triangles of a body: of what the kernel makes at once only where nothing else looks like it. */
async function meshOf(
  body: Body,
  tolerance: number,
  most: number,
  pass: keyof typeof PASSES,
  poll: Poll,
): Promise<Mesh> {
  const settled = pass === 'settled';
  if (body.form === 'placed' && body.of.form === 'combined') {
    const base = await meshOf(body.of, tolerance / stretchOf(body.map), most, pass, poll);
    return mappedMesh(base, body.map, memory);
  }
  if (body.form === 'combined' && (settled || !looksLikeParts(body))) {
    const solid = await body.solid(tolerance, poll, !settled);
    const finer = !settled && solid.triangles.length < 3 * FEW;
    return copyOf(finer ? await body.solid(tolerance / FINER, poll, true) : solid, memory);
  }
  return givingWay(body.meshing(tolerance, most, memory), poll);
}

/** How the triangles look: those of one body by the bodies it was made of. */
function looksOf(bodies: readonly Body[], { groups }: Mesh): Looks {
  const [body, ...more] = bodies as [Body];
  const leaves = leavesOf(body);
  const look = leaves[0]!.material.look;
  if (more.length || !groups || leaves.every((leaf) => leaf.material.look === look)) return [{ look }];
  return groups.map(({ of, first, count }) => ({ look: leaves[of]!.material.look, first, count }));
}

/** Whether the kernel has to make something before it can be seen as it is. */
const needsKernel = (value: Value): boolean =>
  membersOf(value).some((one) => one.type === 'body' && !looksLikeParts(one));

async function draw(
  step: Step,
  key: string,
  { value, filled, motion }: WithValue,
  pass: keyof typeof PASSES,
  poll: Poll,
): Promise<Drawn | undefined> {
  const { part, most } = PASSES[pass];
  const marks = marksOf(step, value, filled);
  const base = { step: step.id, key, marks: motion ? marks.map((mark) => movedMark(mark, motion)) : marks };
  switch (value.type) {
    case 'body':
    case 'set': {
      const bodies = membersOf(value).filter((one): one is Body => one.type === 'body');
      if (!bodies.length) return { ...base, type: 'line', lines: pathsOf(value).map(lineOf) };
      const size = Math.max(...bodies.map(sizeAbout));
      if (pass === 'live' && needsKernel(value)) {
        const { mesh, parts, extent } = await previewOf(bodies, size * part, most, poll);
        const looks = parts.map(({ clear, ...rest }) => ({
          ...rest,
          ...(clear && { clear: true as const }),
        }));
        return { ...base, type: 'body', looks, extent, mesh };
      }
      const meshes: Mesh[] = [];
      for (const body of bodies)
        meshes.push(await meshOf(body, size * part, most / bodies.length, pass, poll));
      const mesh = joinMeshes(meshes, memory);
      const coarse = pass === 'settled' && mesh.tolerance > size * part * 1.001;
      return {
        ...base,
        type: 'body',
        looks: looksOf(bodies, mesh),
        extent: boxOf(mesh),
        mesh,
        ...(coarse && { coarse }),
      };
    }
    case 'path':
      return {
        ...base,
        type: 'line',
        lines: [movedLine(lineOf(value), motion)],
        // What stands beside it for comparison can wait.
        ...(value.aside &&
          pass === 'settled' && { aside: value.aside().map((points) => movedLine(points, motion)) }),
      };
    case 'section':
      return { ...base, type: 'line', lines: value.contours.map(outlineOf), corners: value.corners };
    case 'duty':
      return undefined;
  }
}

/** What was drawn; nothing where it cannot be, which its figures tell. */
async function made(drawing: Promise<Drawn | undefined>): Promise<Drawn | undefined> {
  try {
    return await drawing;
  } catch (error) {
    if (error instanceof Complaint) return undefined;
    throw error;
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
  const values = new Map(evaluation.steps.map(({ id, value }) => [id, value]));
  const valueOf = (id: string) => values.get(id);
  for (const [i, { id, key, value, filled }] of evaluation.steps.entries()) {
    if (!value) continue;
    const step = design.steps[i]!;
    const motion = value.type === 'path' ? motionInPart(design.steps, valueOf, id) : undefined;
    const here = motion ? `${key}@${hash(JSON.stringify(motion))}` : key;
    const kernel = needsKernel(value);
    if (pass === 'coarse' && !kernel) continue;
    const mine = have[id];
    // What is there already in this or in a better way.
    const better = [`${here}?`, here, `${here}!`];
    const goal = pass === 'settled' ? 2 : pass === 'live' && kernel ? 0 : 1;
    if (mine !== undefined && better.indexOf(mine) >= goal) continue;
    const fine = better[goal]!;
    const found = { value, ...(filled && { filled }), ...(motion && { motion }) };
    const one = await made(draw(step, fine, found, pass, poll));
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
   * Coarse answer to an edit: what changed in the picture, and figures that are quickly had. Undefined when overtaken, as all
   * answers. `spent` is memory of meshes that are shown no more, to be laid into again.
   */
  async live(
    design: Design,
    asking: Asking,
    have: Record<string, string>,
    spent: readonly ArrayBuffer[],
  ): Promise<LiveAnswer | undefined> {
    memory.giveBack(spent);
    return unlessStale(asking, async (poll) => {
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const drawn = await drawAll(design, evaluation, 'live', have, poll);
      return Comlink.transfer({ seen: withoutValues(evaluation), drawn }, buffers(drawn));
    });
  },

  /** All figures, those too that the picture does not wait for. */
  async figures(design: Design, asking: Asking): Promise<Seen | undefined> {
    return unlessStale(asking, async (poll) => withoutValues(await evaluate(design, cache, poll)));
  },

  /** Coarse pictures of what the kernel makes, in place of what stood in for them. */
  async coarse(design: Design, asking: Asking, have: Record<string, string>): Promise<Drawn[] | undefined> {
    return unlessStale(asking, async (poll) => {
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const drawn = await drawAll(design, evaluation, 'coarse', have, poll);
      return Comlink.transfer(drawn, buffers(drawn));
    });
  },

  /** A newer asking of the session has been made elsewhere: what is done for older ones is given up. */
  overtake({ session, revision }: Asking): void {
    if (revision > (wanted.get(session) ?? -1)) wanted.set(session, revision);
  },

  /** Findings and limits of every step, from the cache where nothing changed. */
  async check(design: Design, asking: Asking): Promise<Record<string, Checked> | undefined> {
    return unlessStale(asking, async (poll) => {
      const evaluation = await evaluate(design, cache, poll);
      const checked: Record<string, Checked> = {};
      for (const [i, result] of evaluation.steps.entries())
        if (result.value) checked[result.id] = await checkStep(design.steps[i]!, result, cache, poll);
      return checked;
    });
  },

  /** Fine pictures of what is still coarse. */
  async settle(design: Design, asking: Asking, have: Record<string, string>): Promise<Drawn[] | undefined> {
    return unlessStale(asking, async (poll) => {
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const drawn = await drawAll(design, evaluation, 'settled', have, poll);
      return Comlink.transfer(drawn, buffers(drawn));
    });
  },

  /** Charts of a step's path, or of the first of its set; undefined where it has none. */
  async lengthwise(design: Design, step: string, asking: Asking): Promise<Lengthwise | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const value = steps.find(({ id }) => id === step)?.value;
      if (value?.type === 'body')
        return value.form === 'swept' ? sendCharts(bodyLengthwise(value)) : undefined;
      const [path] = pathsOf(value);
      return path && sendCharts(lengthwise(path));
    });
  },

  /** Points along a step's path as CSV, or why there are none. */
  async points(
    design: Design,
    step: string,
    asking: Asking,
  ): Promise<{ text?: string; refused?: string } | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const value = steps.find(({ id }) => id === step)?.value;
      if (value?.type !== 'path') return { refused: 'Choose a single path on the sheet first.' };
      try {
        return { text: writePoints(value, sentTolerance(design), design.unit) };
      } catch (error) {
        if (error instanceof Complaint) return { refused: sayWords(error.says, design.unit) };
        throw error;
      }
    });
  },

  /** A body under each hold, coarsely drawn; nothing for those it cannot be held by. */
  async holds(
    design: Design,
    step: string,
    holds: readonly string[],
    asking: Asking,
  ): Promise<(Drawn | undefined)[] | undefined> {
    return unlessStale(asking, async (poll) => {
      const drawn: (Drawn | undefined)[] = [];
      for (const hold of holds) {
        const other = structuredClone(design);
        const mine = other.steps.find(({ id }) => id === step);
        if (!mine) return [];
        mine.set.hold = hold;
        const { steps } = await evaluate(other, cache, poll, 'shape');
        const made = steps.find(({ id }) => id === step);
        drawn.push(
          made?.value?.type === 'body'
            ? await draw(mine, made.key, { value: made.value }, 'live', poll)
            : undefined,
        );
        await poll(drawn.length / holds.length);
      }
      return Comlink.transfer(drawn, buffers(drawn.filter((one) => one !== undefined)));
    });
  },

  /** What is to be seen of a design, for a small picture: its part, or its lines where there is none. */
  async picture(design: Design, asking: Asking): Promise<Drawn[] | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const results = new Map(steps.map((result) => [result.id, result]));
      const scene = sceneOf(design.steps, (id) => {
        const value = results.get(id)?.value;
        return value !== undefined && typeOf(value) !== 'section';
      });
      const drawn: Drawn[] = [];
      for (const step of scene) {
        const { key, value } = results.get(step.id)!;
        const one = await made(draw(step, key, { value: value! }, 'settled', poll));
        if (one) drawn.push(one);
        await poll(drawn.length / scene.length);
      }
      const bodies = drawn.filter(({ type }) => type === 'body');
      const shown = bodies.length ? bodies : drawn;
      return Comlink.transfer(shown, buffers(shown));
    });
  },

  /** Forgets a session that is closed; what it still asks for is overtaken. */
  leave(session: string): void {
    wanted.delete(session);
  },
};

export type GeometryWorker = typeof api;
Comlink.expose(api);
