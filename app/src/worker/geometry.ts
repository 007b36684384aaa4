/** The geometry worker: evaluates, checks and meshes, away from the thread that draws and edits. */
import { buffersOf } from '@nematos/core/mesh/data/mesh';
import * as Comlink from 'comlink';
import { spreadAxes, spreadValues, type SpreadAxis } from '@nematos/core/design/spread';
import { evaluate, type Evaluation } from '@nematos/core/design/evaluate';
import type { Checked } from '@nematos/core/kind/kind';
import type { Poll } from '@nematos/core/geometry/poll';
import { bodyLengthwise, lengthwise, type Lengthwise } from '@nematos/core/view/lengthwise';
import type { Place } from '@nematos/core/design/literal';
import { betterStart, candidatesFor, type Candidate, type Start } from '@nematos/core/design/candidates';
import type { Design, Spread } from '@nematos/core/design/schema';
import { solveFigure, unknownsOf, type Solved, type Target, type Unknown } from '@nematos/core/design/solve';
import { waysOut, type WayOut } from '@nematos/core/design/ways-out';
import { bodiesOf, pathsOf, typeOf, type Value } from '@nematos/core/kind/value';
import { wholeResults } from '@nematos/core/view/by-body';
import { checkDesign } from '@nematos/core/view/check-design';
import { chainsOf } from '@nematos/core/view/made-of';
import { sceneOf } from '@nematos/core/view/part';
import { readableTolerance } from '@nematos/core/design/tolerance';
import { allFaults, type MeshFaults } from '@nematos/core/mesh/verify/faults';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import { draw, drawAll, faultsOf, made, memory, sendingOf, type Wish } from './drawing';
import type { Asking, Drawn, LiveAnswer, Seen, SeenStep } from './messages';
import { measuring } from './measuring';
import { cache, orRefused, sessions, unlessStale } from './sessions';

const isClosed = (value: Value | undefined): boolean => {
  const paths = pathsOf(value);
  return paths.length > 0 && paths.every(({ closed }) => closed);
};

async function withoutValues(design: Design, { givens, steps, made }: Evaluation, poll: Poll): Promise<Seen> {
  const whole = await wholeResults(design.steps, steps, poll);
  return { givens, made, steps: steps.map(seenStep), ...(whole && { whole }) };
}

const seenStep = ({ value, madeFrom: _madeFrom, ...rest }: Evaluation['steps'][number]): SeenStep => ({
  ...rest,
  ...(value && { yields: typeOf(value) }),
  ...(value?.type === 'set' && { members: value.members.length }),
  ...(isClosed(value) && { closed: true as const }),
});

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

/** What a step made, and the steps that its bodies came through; undefined where it made nothing. */
function shownOf(design: Design, results: Evaluation['steps'], id: string) {
  const resultOf = (step: string) => results.find((result) => result.id === step);
  const { key, value, madeFrom, resolved, filled } = resultOf(id)!;
  const chains = chainsOf(design.steps, (step) => resultOf(step)?.value, id);
  return value && madeFrom && { key, value, madeFrom, resolved, chains, ...(filled && { filled }) };
}

const api = {
  ...sessions,
  ...measuring,

  /**
   * Coarse answer to an edit: what changed in the picture, and figures that are quickly had. Undefined when overtaken, as all
   * answers. Bodies that are not looked at can wait until it settles. `spent` is memory of meshes that are shown no more, to be laid into again.
   */
  async live(
    design: Design,
    asking: Asking,
    wish: Wish,
    spent: readonly ArrayBuffer[],
  ): Promise<LiveAnswer | undefined> {
    memory.giveBack(spent);
    return unlessStale(asking, async (poll) => {
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const drawn = await drawAll(design, evaluation, 'live', wish, cache, poll);
      const seen = await withoutValues(design, evaluation, poll);
      return Comlink.transfer({ seen, drawn }, buffers(drawn));
    });
  },

  /** All figures, those too that the picture does not wait for. */
  async figures(design: Design, asking: Asking): Promise<Seen | undefined> {
    return unlessStale(asking, async (poll) =>
      withoutValues(design, await evaluate(design, cache, poll), poll),
    );
  },

  /** Coarse pictures of what the kernel makes, in place of what stood in for them. */
  async coarse(design: Design, asking: Asking, wish: Wish): Promise<Drawn[] | undefined> {
    return unlessStale(asking, async (poll) => {
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const drawn = await drawAll(design, evaluation, 'coarse', wish, cache, poll);
      return Comlink.transfer(drawn, buffers(drawn));
    });
  },

  /** Findings and limits of every step, from the cache where nothing changed. */
  async check(design: Design, asking: Asking): Promise<Record<string, Checked> | undefined> {
    return unlessStale(asking, async (poll) => {
      const evaluation = await evaluate(design, cache, poll);
      return checkDesign(design, evaluation, cache, poll);
    });
  },

  /** Fine pictures of what is still coarse. */
  async settle(design: Design, asking: Asking, wish: Wish): Promise<Drawn[] | undefined> {
    return unlessStale(asking, async (poll) => {
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const drawn = await drawAll(design, evaluation, 'settled', wish, cache, poll);
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

  /** What may stand in an input of a step, and why others cannot. */
  async candidates(
    design: Design,
    step: string,
    [slot, at]: readonly [string, number | undefined],
    asking: Asking,
  ): Promise<Candidate[] | undefined> {
    return unlessStale(asking, (poll) => candidatesFor(design, step, slot, at, cache, poll));
  },

  /** What a new step had better begin with than its defaults. */
  async betterStart(design: Design, step: string, asking: Asking): Promise<Start | undefined> {
    return unlessStale(asking, (poll) => betterStart(design, step, cache, poll));
  },

  /** Single changes with which a step can be made that cannot. */
  async waysOut(design: Design, step: string, asking: Asking): Promise<WayOut[] | undefined> {
    return unlessStale(asking, (poll) => waysOut(design, step, cache, poll));
  },

  /** The figures that a result of a step depends on. */
  async unknowns(design: Design, target: Target, asking: Asking): Promise<Unknown[] | undefined> {
    return unlessStale(asking, (poll) => unknownsOf(design, target, cache, poll));
  },

  /** What to write at a place for a result to come to `wanted`, in its base unit; or why nothing serves. */
  async solve(
    design: Design,
    target: Target,
    wanted: number,
    place: Place,
    asking: Asking,
  ): Promise<{ solved?: Solved; refused?: string } | undefined> {
    return unlessStale(asking, (poll) =>
      orRefused(design, async () => ({
        solved: await solveFigure(design, target, wanted, place, cache, poll),
      })),
    );
  },

  /** The faults of the exported triangles of some bodies. */
  async faults(design: Design, steps: readonly string[], asking: Asking): Promise<MeshFaults | undefined> {
    return unlessStale(asking, async (poll) => {
      const tolerance = readableTolerance(design);
      const evaluation = await evaluate(design, cache, poll, 'shape');
      const bodies = evaluation.steps
        .filter(({ id }) => steps.includes(id))
        .flatMap(({ value }) => bodiesOf(value));
      const all: MeshFaults[] = [];
      if (tolerance !== undefined) {
        const sending = sendingOf({ design, evaluation, cache }, tolerance);
        for (const body of bodies) all.push(await faultsOf(body, sending, poll));
      }
      return allFaults(all);
    });
  },

  /** The figures of a spread with their samples; or what is wrong with it, and at which field. */
  async spreadAxes(
    design: Design,
    spread: Spread,
    asking: Asking,
  ): Promise<{ axes?: SpreadAxis[]; refused?: string; field?: string } | undefined> {
    return unlessStale(asking, async (poll) => {
      try {
        return { axes: await spreadAxes(design, spread, poll) };
      } catch (error) {
        if (!(error instanceof Complaint)) throw error;
        return { refused: sayWords(error.says, design.unit), ...(error.field && { field: error.field }) };
      }
    });
  },

  /** So many results of a spread, from the first on. */
  async spreadValues(
    design: Design,
    spread: Spread,
    axes: readonly SpreadAxis[],
    [first, count]: readonly [number, number],
    asking: Asking,
  ): Promise<Float64Array | undefined> {
    return unlessStale(asking, (poll) => spreadValues(design, spread, axes, first, count, poll));
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
        const shown = shownOf(other, steps, step);
        drawn.push(
          shown?.value.type === 'body' ? await draw(mine, shown.key, shown, 'live', poll) : undefined,
        );
        await poll(drawn.length / holds.length);
      }
      return Comlink.transfer(drawn, buffers(drawn.filter((one) => one !== undefined)));
    });
  },

  /** What is to be seen of a design, for a small picture: its part, or its lines where there is none. */
  async picture(
    design: Design,
    asking: Asking,
    pass: 'live' | 'small' = 'small',
  ): Promise<Drawn[] | undefined> {
    return unlessStale(asking, async (poll) => {
      const { steps } = await evaluate(design, cache, poll, 'shape');
      const results = new Map(steps.map((result) => [result.id, result]));
      const scene = sceneOf(design.steps, (id) => {
        const value = results.get(id)?.value;
        return value !== undefined && typeOf(value) !== 'section';
      });
      const drawn: Drawn[] = [];
      for (const step of scene) {
        const found = shownOf(design, steps, step.id);
        const one = found && (await made(draw(step, found.key, found, pass, poll)));
        if (one) drawn.push(one);
        await poll(drawn.length / scene.length);
      }
      const bodies = drawn.filter(({ type }) => type === 'body');
      const shown = bodies.length ? bodies : drawn;
      return Comlink.transfer(shown, buffers(shown));
    });
  },
};

export type GeometryWorker = typeof api;
Comlink.expose(api);
