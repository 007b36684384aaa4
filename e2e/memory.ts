/**
 * npm run test:memory: 200 edits of the bored ring, of which the kernel makes a new one each time it can, and then all of
 * it comes to rest: what the page and its workers hold is at most one and a half times what they held after the first.
 */
import { chromium, type Page } from '@playwright/test';
import { serve } from '../server/src/serve';
import { CHROMIUM } from './chromium';

const EDITS = Number(process.env.EDITS ?? 200);
const MOST = 1.5;

const base = await serve(0);
// Memory is measured when it is asked for, not with the next collection of garbage.
const eager = '--enable-blink-features=ForceEagerMeasureMemory';
const browser = await chromium.launch({ ...CHROMIUM, args: [...CHROMIUM.args, eager] });
const page = await browser.newPage();
page.setDefaultTimeout(120_000);

/** Bytes of the page and its workers, once nothing is awaited and all is drawn finely. */
async function held(page: Page): Promise<{ all: number; workers: number }> {
  await page.locator('aside [data-result=volume]:not([data-awaited])').waitFor();
  await page.waitForTimeout(8000);
  return page.evaluate(async () => {
    const { measureUserAgentSpecificMemory: measure } = performance as unknown as {
      measureUserAgentSpecificMemory?: () => Promise<{
        bytes: number;
        breakdown: { bytes: number; attribution: { scope: string }[] }[];
      }>;
    };
    if (!measure) throw new Error('this browser does not tell how much memory it holds');
    const { bytes, breakdown } = await measure.call(performance);
    const ofWorkers = breakdown.filter(({ attribution }) =>
      attribution.some(({ scope }) => /Worker/.test(scope)),
    );
    return { all: bytes, workers: ofWorkers.reduce((sum, one) => sum + one.bytes, 0) };
  });
}

await page.goto(`${base}?dpr=0.3&aa=0&shadows=0`);
await page.getByLabel('Open Bored ring').click();
const strand = page.locator('[data-place="givens.0"], [data-place="given.0"]').first();
await page.locator('aside [data-result=volume]').waitFor();
await strand.focus();
await page.keyboard.press('ArrowUp');
const first = await held(page);
for (let i = 0; i < EDITS; i++) {
  await strand.focus();
  // Up and down again in turns, with a step between that comes up only once.
  await page.keyboard.press(i % 2 ? 'ArrowUp' : 'ArrowDown');
  if (i % 5 === 0) await strand.fill(`${1.7 + 0.0004 * i} mm`);
  await page.waitForTimeout(i % 20 === 0 ? 4000 : 100);
}
const last = await held(page);
await browser.close();
const ratio = last.all / first.all;
const mb = (bytes: number) => `${Math.round(bytes / 2 ** 20)} MB`;
const told = ({ all, workers }: typeof first) => `${mb(all)} (${mb(workers)} of it in workers)`;
console.log(`${told(first)} after the first edit, ${told(last)} after ${EDITS}: ${ratio.toFixed(2)} times`);
console.log(ratio <= MOST ? '1 passed, 0 failed' : '0 passed, 1 failed');
process.exit(ratio <= MOST ? 0 : 1);
