/** Speed as a user meets it: the built application in headless Chromium, from the local server. */
import { chromium, type Page } from '@playwright/test';
import { deflateRawSync, gzipSync } from 'node:zlib';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { STARTERS } from '@nematos/core/design/starters';
import { emptyDesign, type Design } from '@nematos/core/design/schema';
import { sceneOf } from '@nematos/core/view/part';
import { serve } from '../../server/src/serve';
import { CHROMIUM } from '../../e2e/chromium';
import { demoEdits, type Edited, wrungPot } from './edits';
import { FRAME, ONE_FRAME, heldAgainst, inFrames, timedWork } from './fixed-work';
import { median, type Row } from './measure';
import { settledRows } from './settled';

const ASSETS = join(import.meta.dirname, '../../app/dist/assets');
const EDITS = 100;
/** Edits before the measured ones. */
const WARM = 30;
/** So often all of them are made, each time by a worker of its own. */
const ROUNDS = 3;

/** Small pictures: what is measured is the application, not a processor that stands in for a graphics card. */
const SMALL = '?dpr=0.25&aa=0';

/** A page of the application, served for as long as it takes. */
async function withPage<T>(measure: (page: Page, base: string) => Promise<T>): Promise<T> {
  const base = await serve(0);
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    return await measure(page, base);
  } finally {
    await browser.close();
  }
}

/** How long people wait until all is settled, alone. */
export const waitRows = (): Promise<Row[]> => withPage((page, base) => settledRows(page, base, ''));

/** Of the application as a whole, where that is wanted too, and of designs of which the name is like that. */
export const browserRows = (like: RegExp, whole: boolean): Promise<Row[]> =>
  withPage(async (page, base) => {
    await page.goto(`${base}${SMALL}`);
    const design = page.getByLabel('Open Gate spring');
    await design.locator('img').waitFor({ timeout: 60_000 });
    const address = `${base}${(await design.getAttribute('href'))!.slice(1)}${SMALL}`;
    const first = whole
      ? [
          await firstLoad(page, address),
          initialScript(),
          await cutFrameRow(page, base),
          ...(await settledRows(page, base, '')),
        ]
      : [];
    return [...first, ...(await editRows(page, base, like))];
  });

/** From asking for the address to the first picture with the spring in it; each time with an empty cache. */
async function firstLoad(page: Page, address: string): Promise<Row> {
  const protocol = await page.context().newCDPSession(page);
  await protocol.send('Network.setCacheDisabled', { cacheDisabled: true });
  const times: number[] = [];
  for (let i = 0; i < 5; i++) {
    await page.goto('about:blank');
    await page.goto(address);
    await page.waitForFunction(() => performance.getEntriesByName('nematos:drawn').length > 0);
    times.push(await page.evaluate(() => performance.getEntriesByName('nematos:drawn')[0]!.startTime));
  }
  const time = median(times) / 1000;
  return {
    what: 'first load from the local server to a drawn spring, median of 5',
    measured: `${time.toFixed(2)} s, ${(time / 1.5).toFixed(2)} of the bar`,
    bar: 'at most 1.5 s',
    met: time <= 1.5,
  };
}

/** Triangles of the spring that is cut open, about: at this chord tolerance. */
const FINE = '0.001 mm';
const FRAMES = 12;

/** A part of many triangles turned on the stage, as it is and cut open: what a frame takes a processor in place of a graphics card. */
async function cutFrameRow(page: Page, base: string): Promise<Row> {
  const design = springToCut();
  const packed = deflateRawSync(JSON.stringify(design)).toString('base64url');
  await page.goto(`${base}review${SMALL}#${packed}`);
  await page.keyboard.press('End');
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await page.getByRole('menuitem', { name: /Show export mesh/ }).click();
  const count = page.locator('[data-triangles]');
  await page.getByText('The export mesh is being made').waitFor();
  await page.locator('[aria-label=Triangles][aria-busy=false]').waitFor({ timeout: 120_000 });
  const triangles = Number((await count.innerText()).replaceAll(/\D/g, ''));
  const frames = async () => {
    const view = page.getByRole('application').first();
    await view.focus();
    // Each frame is waited for, as the pixels are read once it is drawn.
    const time = () =>
      view.evaluate(async (pane, many) => {
        const canvas = document.querySelector('canvas')!;
        const copy = new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true })!;
        const begun = performance.now();
        for (let i = 0; i < many; i++) {
          pane.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
          await new Promise(requestAnimationFrame);
          copy.drawImage(canvas, 0, 0);
          copy.getImageData(0, 0, 1, 1);
        }
        return (performance.now() - begun) / many;
      }, FRAMES);
    await time();
    return median([await time(), await time(), await time()]);
  };

  const whole = await frames();
  await page.getByRole('button', { name: 'Cut open', exact: true }).click();
  await page.locator('[data-cut]').waitFor();
  const opened = await frames();
  return {
    what: `a frame of ${(triangles / 1000).toFixed(0)} k triangles drawn in software, cut open, over the same uncut (${whole.toFixed(0)} ms)`,
    measured: `${(opened / whole).toFixed(2)} times`,
    bar: 'at most twice',
    met: opened <= 2 * whole,
  };
}

function springToCut(): Design {
  const design = emptyDesign('bench');
  STARTERS[0]!.add(design, 0);
  design.tolerance = FINE;
  return design;
}

function initialScript(): Row {
  const html = readFileSync(join(ASSETS, '../index.html'), 'utf8');
  const initial = readdirSync(ASSETS).filter((name) => name.endsWith('.js') && html.includes(name));
  const kilobytes =
    initial.reduce((sum, name) => sum + gzipSync(readFileSync(join(ASSETS, name))).length, 0) / 1000;
  return {
    what: 'initial script, gzip',
    measured: `${kilobytes.toFixed(0)} kB, ${(kilobytes / 150).toFixed(2)} of the bar`,
    bar: 'under 150 kB',
    met: kilobytes < 150,
  };
}

/**
 * Changed figures of a long spring, and of every demo design: from handing the design to the worker to having what is drawn
 * of it on the page's thread. The page has nothing else to do, so that it is not the repainting of the page, which a processor does
 * here in place of a graphics card, that is measured.
 */
async function editRows(page: Page, base: string, like: RegExp): Promise<Row[]> {
  const worker = readdirSync(ASSETS).find((name) => /^geometry-.*\.js$/.test(name))!;
  const rows: Row[] = [];
  await page.goto(`${base}api/health`);
  await page.evaluate(`globalThis.timedWork = (${timedWork.toString()})()`);
  for await (const { name, edits, combined } of allEdits(like)) {
    const rounds: (ReturnType<typeof heldAgainst> & { usual: number; triangles: number })[] = [];
    for (let i = 0; i < ROUNDS; i++) {
      const { times, meanwhile, triangles } = await page.evaluate(askWorker, {
        worker: `/assets/${worker}`,
        edits,
        looked: sceneOf(edits[0]!.steps, () => true).map(({ id }) => id),
        warm: WARM,
        frame: FRAME,
      });
      rounds.push({ ...heldAgainst(times, meanwhile), usual: median(times), triangles });
    }
    const { usual, triangles, ...held } = rounds.sort((a, b) => a.part - b.part)[(ROUNDS - 1) / 2]!;
    rows.push({
      what: `${name}: one figure changed to the picture${combined ? ', through stand-ins,' : ''} on the main thread, ${(triangles / 1000).toFixed(1)} k triangles, ${EDITS} edits (median ${usual.toFixed(1)} ms), the middle one of ${ROUNDS} rounds`,
      measured: `95th percentile ${inFrames(held)}`,
      bar: ONE_FRAME,
      met: held.met,
    });
  }
  return rows;
}

async function* allEdits(like: RegExp): AsyncGenerator<Edited> {
  const [spring, pot] = [longSpring(), wrungPot(WARM + EDITS)];
  if (like.test(spring.name)) yield spring;
  yield* demoEdits(WARM + EDITS, like);
  if (like.test(pot.name)) yield pot;
}

function longSpring(): Edited {
  const design = emptyDesign('bench');
  STARTERS[0]!.add(design, 0);
  const { set } = design.steps.find(({ kind }) => kind === 'helix')!;
  set.turns = '34';
  const edits = Array.from({ length: WARM + EDITS }, (_x, i) => {
    set.height = `${240 + i * 0.1} mm`;
    return structuredClone(design);
  });
  return { name: 'a spring of 34 turns', edits };
}

interface Asked {
  readonly worker: string;
  readonly edits: Design[];
  /** Steps that are on the stage. */
  readonly looked: string[];
  readonly warm: number;
  /** Length of the work done in turns with them, ms. */
  readonly frame: number;
}

/** Runs in the page; speaks to the worker as the application's client does. */
async function askWorker({ worker, edits, looked, warm, frame }: Asked) {
  const geometry = new Worker(worker, { type: 'module' });
  const rest = () => new Promise((resolve) => setTimeout(resolve, 12));
  const { timedWork } = globalThis as unknown as { timedWork: (length: number) => number };
  const times: number[] = [];
  const meanwhile: number[] = [];
  let triangles = 0;
  /** Memory of the meshes before, which goes back as the stage gives it back. */
  let spent: ArrayBuffer[] = [];
  const ask = (design: Design, revision: number) =>
    new Promise<number>((resolve, reject) => {
      const start = performance.now();
      geometry.onmessage = ({ data }) => {
        if (data.id !== String(revision)) return;
        const time = performance.now() - start;
        if (!data.value?.drawn) return reject(new Error('the worker gave no picture'));
        triangles = 0;
        spent = [];
        for (const { type, mesh } of data.value.drawn) {
          if (type !== 'body') continue;
          triangles += mesh.triangles.length / 3;
          spent.push(mesh.positions.buffer, mesh.normals.buffer, mesh.triangles.buffer);
        }
        resolve(time);
      };
      const raw = (value: unknown) => ({ type: 'RAW', value });
      const argumentList = [design, { session: 'bench', revision }, { have: {}, looked }, spent].map(raw);
      geometry.postMessage({ id: String(revision), type: 'APPLY', path: ['live'], argumentList }, spent);
    });
  for (const [i, design] of edits.entries()) {
    const time = await ask(design, i + 1);
    await rest();
    if (i < warm) continue;
    times.push(time);
    meanwhile.push(timedWork(frame));
    await rest();
  }
  geometry.terminate();
  return { times, meanwhile, triangles };
}
