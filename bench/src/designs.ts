/** Every demo design: how soon after an edit its exact figures are there, and how long it works without asking whether to go on. */
import { checkStep, createCache, evaluate } from '@nematos/core/design/evaluate';
import type { Design } from '@nematos/core/design/schema';
import { demoEdits } from './edits';
import { quantile, type Row } from './measure';

const EDITS = 100;
/** Edits before the measured ones; every so many of those are checked too. */
const WARM = 20;
const CHECKED = 20;

const FIGURES = 100;
/** Figures of what the mesh kernel makes are estimated by three meshes. */
const ESTIMATES = 1000;
/** They take their time: so many edits of such designs are enough. */
const FEW = 5;
const UNPOLLED = 8;

async function timesOf(edits: readonly Design[], warm: number) {
  const cache = createCache();
  const figures: number[] = [];
  let unpolled = 0;
  let last = 0;
  const poll = async () => {
    const now = performance.now();
    unpolled = Math.max(unpolled, now - last);
    last = performance.now();
  };
  for (const [i, design] of edits.entries()) {
    const begun = performance.now();
    last = begun;
    const whole = await evaluate(design, cache, poll);
    if (i >= warm) figures.push(performance.now() - begun);
    if (i % CHECKED === 0)
      for (const [k, step] of design.steps.entries()) await checkStep(step, whole.steps[k]!, cache, poll);
    await poll();
    if (i < warm) unpolled = 0;
  }
  return { figures: quantile(figures, 0.95), unpolled };
}

/** In the worker’s own thread, as the code is shipped. */
export async function designRows(): Promise<Row[]> {
  const rows: Row[] = [];
  for (const { name, edits, combined } of demoEdits(WARM + EDITS)) {
    const most = combined ? ESTIMATES : FIGURES;
    const { figures, unpolled } = combined
      ? await timesOf(edits.slice(0, FEW + 1), 1)
      : await timesOf(edits, WARM);
    rows.push({
      what: `${name}: edit to ${combined ? 'estimates' : 'exact figures'} (95th percentile of ${combined ? FEW : EDITS}); longest without asking whether to go on, checks too`,
      measured: `${figures.toFixed(0)} ms; ${unpolled.toFixed(0)} ms`,
      bar: `${most} ms; ${UNPOLLED} ms`,
      met: figures <= most && unpolled <= UNPOLLED,
    });
  }
  return rows;
}
