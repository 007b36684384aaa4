/** Speed as a user meets it: the built application in headless Chromium, from the local server. */
import { chromium, type Page } from '@playwright/test';
import { gzipSync } from 'node:zlib';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { STARTERS } from '@nematos/core/design/starters';
import { emptyDesign, type Design } from '@nematos/core/design/schema';
import { serve } from '../../server/src/serve';
import { CHROMIUM } from '../../e2e/chromium';
import { median, quantile, type Row } from './measure';

const ASSETS = join(import.meta.dirname, '../../app/dist/assets');
const FRAME = 16;
const EDITS = 200;

/** Small pictures: what is measured is the application, not a processor that stands in for a graphics card. */
const SMALL = '?dpr=0.25&aa=0';

export async function browserRows(): Promise<Row[]> {
  const base = await serve(0);
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    await page.goto(`${base}${SMALL}`);
    const design = page.getByLabel('Open Gate spring');
    await design.locator('img').waitFor({ timeout: 60_000 });
    const address = `${base}${(await design.getAttribute('href'))!.slice(1)}${SMALL}`;
    return [await firstLoad(page, address), initialScript(), await edits(page)];
  } finally {
    await browser.close();
  }
}

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
    measured: `${time.toFixed(2)} s, ${(time / 2.5).toFixed(2)} of the bar`,
    bar: 'at most 2.5 s',
    met: time <= 2.5,
  };
}

function initialScript(): Row {
  const html = readFileSync(join(ASSETS, '../index.html'), 'utf8');
  const initial = readdirSync(ASSETS).filter((name) => name.endsWith('.js') && html.includes(name));
  const kilobytes =
    initial.reduce((sum, name) => sum + gzipSync(readFileSync(join(ASSETS, name))).length, 0) / 1000;
  return {
    what: 'initial script, gzip',
    measured: `${kilobytes.toFixed(0)} kB, ${(kilobytes / 200).toFixed(2)} of the bar`,
    bar: 'under 200 kB',
    met: kilobytes < 200,
  };
}

/**
 * 200 changed heights of a spring of about 15 k triangles: from handing the design to the worker to having
 * the mesh on the page's thread. The page is at rest, so that it is not the repainting of the page, which
 * a processor does here in place of a graphics card, that is measured.
 */
async function edits(page: Page): Promise<Row> {
  const worker = readdirSync(ASSETS).find((name) => /^geometry-.*\.js$/.test(name))!;
  await page.evaluate('globalThis.__name = (f) => f'); // tsx wraps functions in it
  const { times, triangles } = await page.evaluate(askWorker, {
    worker: `/assets/${worker}`,
    design: longSpring(),
    edits: EDITS,
  });
  const late = quantile(times, 0.95);
  return {
    what: `one figure changed to the mesh on the main thread, ${(triangles / 1000).toFixed(1)} k triangles, ${EDITS} edits (median ${median(times).toFixed(1)} ms)`,
    measured: `95th percentile ${late.toFixed(1)} ms, ${(late / FRAME).toFixed(2)} of a frame`,
    bar: 'at most one frame, 16 ms',
    met: late <= FRAME,
  };
}

function longSpring(): Design {
  const design = emptyDesign('bench');
  STARTERS[0]!.add(design, 0);
  Object.assign(design.steps.find(({ kind }) => kind === 'helix')!.set, { turns: '34', height: '240 mm' });
  return design;
}

/** Runs in the page; speaks to the worker as the application's client does. */
async function askWorker({ worker, design, edits }: { worker: string; design: Design; edits: number }) {
  const geometry = new Worker(worker, { type: 'module' });
  const times: number[] = [];
  let triangles = 0;
  /** Memory of the mesh before, which goes back as the stage gives it back. */
  let spent: ArrayBuffer[] = [];
  const ask = (revision: number) => {
    const next = structuredClone(design);
    next.steps.find(({ kind }) => kind === 'helix')!.set.height = `${240 + revision * 0.1} mm`;
    return new Promise<number>((resolve) => {
      const start = performance.now();
      geometry.onmessage = ({ data }) => {
        if (data.id !== String(revision)) return;
        const body = data.value.drawn.find(({ type }: { type: string }) => type === 'body');
        triangles = body.mesh.triangles.length / 3;
        const { mesh } = body;
        spent = [mesh.positions.buffer, mesh.normals.buffer, mesh.triangles.buffer];
        resolve(performance.now() - start);
      };
      const raw = (value: unknown) => ({ type: 'RAW', value });
      const argumentList = [next, revision, {}, spent].map(raw);
      geometry.postMessage({ id: String(revision), type: 'APPLY', path: ['live'], argumentList }, spent);
    });
  };
  for (let i = 1; i <= 30 + edits; i++) {
    const time = await ask(i);
    if (i > 30) times.push(time);
    await new Promise((resolve) => setTimeout(resolve, 12));
  }
  geometry.terminate();
  return { times, triangles };
}
