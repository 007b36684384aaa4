/** Every demo design: how soon after an edit its picture, its exact figures and its findings are there. */
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { checkStep, createCache, evaluate } from '@nematos/core/design/evaluate';
import type { Design } from '@nematos/core/design/schema';
import { readDesign } from '@nematos/core/exchange/design-json';
import { sizeAbout } from '@nematos/core/sweep/body';
import type { Row } from './measure';

const DEMO = join(import.meta.dirname, '../../demo');
const EDITS = 100;
/** As the application draws while figures are typed. */
const LIVE = { part: 1 / 400, most: 40_000 };

const PICTURE = 16;
const FIGURES = 100;
const UNPOLLED = 8;

/** The first figure of the first path that is a plain number with a unit, made a little larger each time. */
function edited(design: Design, i: number): Design {
  const next = structuredClone(design);
  for (const step of next.steps)
    for (const [field, text] of Object.entries(step.set)) {
      const plain = /^(\d+(?:\.\d+)?) mm$/.exec(text);
      if (!plain || Number(plain[1]) === 0) continue;
      step.set[field] = `${Number(plain[1]) * (1 + 1e-5 * (i + 1))} mm`;
      return next;
    }
  const given = next.givens[0]!;
  given.value = `(${given.value}) * ${1 + 1e-5 * (i + 1)}`;
  return next;
}

const percentile = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(0.95 * times.length)]!;

async function timesOf(design: Design) {
  const cache = createCache();
  const [picture, figures]: [number[], number[]] = [[], []];
  let unpolled = 0;
  let last = 0;
  const poll = async () => {
    const now = performance.now();
    unpolled = Math.max(unpolled, now - last);
    last = performance.now();
  };
  for (let i = -10; i < EDITS; i++) {
    const now = edited(design, i + 20);
    const begun = performance.now();
    last = begun;
    const { steps } = await evaluate(now, cache, poll, 'shape');
    for (const { value } of steps)
      if (value?.type === 'body') value.mesh(LIVE.part * sizeAbout(value), LIVE.most);
    const drawn = performance.now();
    await poll();
    const whole = await evaluate(now, cache, poll);
    const told = performance.now();
    if (i < 0) {
      unpolled = 0;
      continue;
    }
    picture.push(drawn - begun);
    figures.push(told - begun);
    if (i % 20) continue;
    await poll();
    for (const [k, step] of now.steps.entries()) await checkStep(step, whole.steps[k]!, cache, poll);
    await poll();
  }
  return { picture: percentile(picture), figures: percentile(figures), unpolled };
}

/** In the worker’s own thread, 100 edits each. */
export async function designRows(): Promise<Row[]> {
  const rows: Row[] = [];
  for (const file of readdirSync(DEMO)) {
    const design = readDesign(readFileSync(join(DEMO, file), 'utf8'));
    const { picture, figures, unpolled } = await timesOf(design);
    rows.push({
      what: `${design.name}: edit to coarse mesh, to exact figures, longest without asking (95th percentile of ${EDITS})`,
      measured: `${picture.toFixed(1)} ms, ${figures.toFixed(0)} ms, ${unpolled.toFixed(0)} ms`,
      bar: `${PICTURE} ms, ${FIGURES} ms, ${UNPOLLED} ms`,
      met: picture <= PICTURE && figures <= FIGURES && unpolled <= UNPOLLED,
    });
  }
  return rows;
}
