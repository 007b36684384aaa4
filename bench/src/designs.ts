/** Every demo design: how soon after an edit its exact figures are there, and how long it works without asking whether to go on. */
import { checkStep } from '@nematos/core/design/check-step';
import { createCache, evaluate } from '@nematos/core/design/evaluate';
import type { Design } from '@nematos/core/design/schema';
import { bodiesOf } from '@nematos/core/kind/value';
import { isMade, sizeAbout } from '@nematos/core/solid/body/body';
import { MEASURED } from '@nematos/core/solid/body/estimated';
import { partOf } from '@nematos/core/view/part';
import { demoEdits } from './edits';
import { fixedWork, heldAgainst } from './fixed-work';
import { kernelTime } from './kernel';
import { quantile, type Row } from './measure';

const EDITS = 100;
/** Edits before the measured ones; every so many of those are checked too. */
const WARM = 20;
const CHECKED = 20;
/** How many edits to one piece of fixed work. */
const FIXED = 4;

const FIGURES = 100;
/** Figures of what the mesh kernel makes are estimated by several meshes. */
const ESTIMATES = 1000;
/** They take their time: so many edits of such designs are enough. */
const FEW = 5;
/** So often coarse pictures of all designs are made, of each the middle time counts: the machine may be busy for seconds. */
const PASSES = 3;
const UNPOLLED = 8;

interface Timed {
  /** Edits before the measured ones. */
  readonly warm: number;
  /** Every so many edits are checked too. */
  readonly checked: number;
  /** Every so many edits are followed by fixed work. */
  readonly every: number;
  readonly fixed: () => number;
}

/** What the kernel does at a stretch cannot be asked to stop, but is ended with its worker: it is not counted as unpolled. */
async function timesOf(edits: readonly Design[], { warm, checked, every, fixed }: Timed) {
  const cache = createCache();
  const within = await kernelTime();
  const figures: number[] = [];
  const meanwhile: number[] = [];
  /**
   * The longest time without asking, of each edit that is checked. The least of those counts: a loop that does not ask is as
   * long every time, while how long a thread has to wait for the machine, or for memory to be collected, is not.
   */
  const unpolled: number[] = [];
  let longest = 0;
  let [last, before] = [0, 0];
  const goOn = () => {
    last = performance.now();
    before = within();
  };
  const poll = async () => {
    longest = Math.max(longest, performance.now() - last - (within() - before));
    goOn();
  };
  for (const [i, design] of edits.entries()) {
    const begun = performance.now();
    longest = 0;
    goOn();
    const whole = await evaluate(design, cache, poll);
    await poll();
    const took = performance.now() - begun;
    if (i >= warm) figures.push(took);
    if (i % checked === 0) {
      goOn();
      for (const [k, step] of design.steps.entries()) await checkStep(step, whole.steps[k]!, cache, poll);
      await poll();
      if (i >= warm) unpolled.push(longest);
    }
    if (i >= warm && i % every === 0) meanwhile.push(fixed());
  }
  return { ...heldAgainst(figures, meanwhile), unpolled: Math.min(...unpolled) };
}

/** How finely the first picture of a combination is made, as a part of its size; and what it may take, ms, for so many triangles. */
const COARSE = 1 / 400;
const COARSELY = 250;
const FOR_TRIANGLES = 12_000;
const FEW_SETTLED = 2;

/**
 * From an edit to what the kernel makes of the part, and how much of that is the kernel’s own time; without the stand-ins that
 * are drawn before. In turns with it fixed work is done.
 */
async function solidTimes(edits: readonly Design[], fineness: number, trusted: boolean, fixed: () => number) {
  const cache = createCache();
  const within = await kernelTime();
  const times: number[] = [];
  const inKernel: number[] = [];
  const meanwhile: number[] = [];
  let triangles = 0;
  for (const [i, design] of edits.entries()) {
    const [begun, before] = [performance.now(), within()];
    const { steps } = await evaluate(design, cache, async () => {}, 'shape');
    const shown = new Set(partOf(design.steps).map(({ id }) => id));
    triangles = 0;
    for (const { id, value } of steps)
      for (const body of value && shown.has(id) ? bodiesOf(value) : [])
        if (isMade(body)) {
          const tolerance = sizeAbout(body) * fineness;
          // As the application draws it: the kernel is not used where the preview looks the same.
          const alike = trusted ? await body.lookalike(tolerance, async () => {}) : undefined;
          const made = alike ?? (await body.solid(tolerance, async () => {}, trusted));
          triangles += made.triangles.length / 3;
        }
    if (i === 0) continue;
    times.push(performance.now() - begun);
    inKernel.push(within() - before);
    meanwhile.push(fixed());
  }
  const part = quantile(
    times.map((time, i) => time / meanwhile[i]!),
    0.5,
  );
  const [time, own] = [quantile(times, 0.5), quantile(meanwhile, 0.5)];
  return { time, inKernel: quantile(inKernel, 0.5), triangles, part, fixed: own };
}

type SolidTimes = Awaited<ReturnType<typeof solidTimes>>;

async function solidRows(
  name: string,
  edits: readonly Design[],
  passes: readonly SolidTimes[],
  fixed: () => number,
): Promise<Row[]> {
  const coarse = [...passes].sort((a, b) => a.part - b.part)[(PASSES - 1) / 2]!;
  const settled = await solidTimes(edits.slice(0, FEW_SETTLED + 1), MEASURED, false, fixed);
  const told = (what: string, { triangles }: SolidTimes, count: number) =>
    `${name}: edit to ${what}, ${(triangles / 1000).toFixed(1)} k triangles, median of ${count}`;
  const took = ({ time, inKernel }: SolidTimes) =>
    `${time.toFixed(0)} ms, ${inKernel.toFixed(0)} of them in the kernel`;
  return [
    {
      what: `${told('the coarse picture of the combination', coarse, edits.length - 1)}, the middle one of ${PASSES} passes`,
      measured: `${took(coarse)}, ${coarse.part.toFixed(2)} of fixed work in turns with it (${coarse.fixed.toFixed(0)} ms)`,
      bar: `${COARSELY} ms for ${FOR_TRIANGLES / 1000} k, undisturbed`,
      met: coarse.part <= Math.max(1, coarse.triangles / FOR_TRIANGLES),
    },
    {
      what: told('the settled solid, checked', settled, FEW_SETTLED),
      measured: took(settled),
      bar: 'none: the picture does not wait for it',
    },
  ];
}

/** In the worker’s own thread, as the code is shipped. */
export async function designRows(like: RegExp): Promise<Row[]> {
  const rows: Row[] = [];
  const exactly: Timed = { warm: WARM, checked: CHECKED, every: FIXED, fixed: fixedWork(FIGURES) };
  const estimated: Timed = { warm: 1, checked: 1, every: 1, fixed: fixedWork(ESTIMATES) };
  const solids: Solid[] = [];
  for await (const { name, edits, combined } of demoEdits(WARM + EDITS, like)) {
    const most = combined ? ESTIMATES : FIGURES;
    const { late, part, fixed, met, unpolled } = combined
      ? await timesOf(edits.slice(0, FEW + 1), estimated)
      : await timesOf(edits, exactly);
    rows.push({
      what: `${name}: edit to ${combined ? 'estimates' : 'exact figures'} (95th percentile of ${combined ? FEW : EDITS}); longest without asking whether to go on but for what the kernel does, checks too, the least of several edits`,
      measured: `${late.toFixed(0)} ms, ${part.toFixed(2)} of fixed work in turns with it (${fixed.toFixed(0)} ms); ${unpolled.toFixed(0)} ms`,
      bar: `${most} ms undisturbed; ${UNPOLLED} ms`,
      met: met && unpolled <= UNPOLLED,
    });
    if (combined) solids.push({ name, edits: edits.slice(FEW + 1, 2 * FEW + 2), passes: [] });
  }
  return [...rows, ...(await coarseRows(solids))];
}

interface Solid {
  readonly name: string;
  readonly edits: readonly Design[];
  readonly passes: SolidTimes[];
}

async function coarseRows(solids: readonly Solid[]): Promise<Row[]> {
  const fixed = fixedWork(COARSELY);
  for (let i = 0; i < PASSES; i++)
    for (const { edits, passes } of solids) passes.push(await solidTimes(edits, COARSE, true, fixed));
  const rows: Row[] = [];
  for (const { name, edits, passes } of solids) rows.push(...(await solidRows(name, edits, passes, fixed)));
  return rows;
}
