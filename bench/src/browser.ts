/** Speed as a user meets it: the built application in headless Chromium, from the local server. */
import { chromium, type Page } from '@playwright/test';
import { gzipSync } from 'node:zlib';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
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
    return [await firstLoad(page, address), initialScript(), await edits(page, address)];
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

/** 200 nudges of the height; from the keystroke to the mesh on the main thread. */
async function edits(page: Page, address: string): Promise<Row> {
  await page.goto(address);
  await page.locator('[data-finding]').first().waitFor();
  await page.locator('[data-place="coil.height"]').focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowUp', { delay: 20 });
  await page.waitForTimeout(1500);
  const times: number[] = [];
  for (let i = 0; i < EDITS; i++) {
    await page.evaluate(() => performance.clearMarks());
    await page.keyboard.press(i % 8 < 4 ? 'ArrowUp' : 'ArrowDown', { delay: 0 });
    await page.waitForFunction(() => performance.getEntriesByName('nematos:shown').length > 0, undefined, {
      polling: 10,
    });
    times.push(
      await page.evaluate(
        () =>
          performance.getEntriesByName('nematos:shown')[0]!.startTime -
          performance.getEntriesByName('nematos:edit')[0]!.startTime,
      ),
    );
    await page.waitForTimeout(60);
  }
  const late = quantile(times, 0.95);
  return {
    what: `one figure changed to the mesh on the main thread, ${EDITS} edits (median ${median(times).toFixed(1)} ms)`,
    measured: `95th percentile ${late.toFixed(1)} ms, ${(late / FRAME).toFixed(2)} of a frame`,
    bar: 'at most one frame, 16 ms',
    met: late <= FRAME,
  };
}
