/**
 * Kills the whole browser at random moments of typing and nudging, and looks what the next one finds: nothing older than
 * half a second may be lost. `npm run test:kills -- --count 200 --seed 1`.
 */
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { serve } from '../server/src/serve';
import { CHROMIUM } from './chromium';
import { FAST, field } from './fixture';
import { killBrowser } from './killing';

const { values } = parseArgs({
  options: { count: { type: 'string', default: '200' }, seed: { type: 'string', default: '1' } },
});
const COUNT = Number(values.count);
/** What is older than this, ms, must be there. */
const OLD = 500;

/** Evenly spread numbers from 0 to 1 by a seed (Marsaglia's xorshift). */
let state = Number(values.seed) * 2654435761 || 1;
function chance(): number {
  state ^= state << 13;
  state ^= state >>> 17;
  state ^= state << 5;
  return (state >>> 0) / 2 ** 32;
}

const profile = mkdtempSync(join(tmpdir(), 'nematos-kills-'));
const ending = new AbortController();
const base = await serve(0, ending.signal);

const open = (): Promise<BrowserContext> =>
  chromium.launchPersistentContext(profile, { ...CHROMIUM, viewport: { width: 1280, height: 800 } });

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const height = async (page: Page): Promise<number> =>
  Number((await field(page, 'helix.height').inputValue()).replace(' mm', ''));

let address = '';
let worst = 0;
const faults: string[] = [];
let context = await open();
{
  const page = context.pages()[0]!;
  await page.goto(`${base}${FAST}`);
  await page.getByRole('button', { name: 'New design' }).click();
  await page.locator('[data-add]').fill('spring');
  await page.locator('[data-add]').press('Enter');
  await field(page, 'helix.height').fill('100 mm');
  await page.getByText('Saved', { exact: true }).waitFor();
  address = page.url();
}
for (let round = 1; round <= COUNT; round++) {
  const page = context.pages()[0]!;
  if (round > 1) await page.goto(address);
  const figure = field(page, 'helix.height');
  await figure.waitFor();
  // From the same figure each time: nudged, it grows faster and faster.
  await figure.fill('100 mm');
  await page.getByText('Saved', { exact: true }).waitFor();
  await figure.focus();
  /** Every state that was on the screen, and when. */
  const seen = [{ value: await height(page), at: 0 }];
  const until = Date.now() + 200 + 1800 * chance();
  // A press that is under way when the browser ends rejects: what it would have done is not asked for.
  try {
    while (Date.now() < until) {
      // It only grows: each state can be told from all others.
      if (chance() < 0.2) await figure.fill(`${seen.at(-1)!.value + 5} mm`);
      else await page.keyboard.press('ArrowUp');
      seen.push({ value: await height(page), at: Date.now() });
      await pause(5 + 60 * chance() ** 2);
    }
  } catch (error) {
    faults.push(`round ${round}: ${String(error)}`);
  }
  const end = Date.now();
  await killBrowser(profile, context);
  context = await open();
  const next = context.pages()[0]!;
  await next.goto(address);
  await field(next, 'helix.height').waitFor();
  const found = await height(next);
  const last = seen.findIndex(({ value }) => value === found);
  // The first state after the one that was found is the oldest that is lost.
  const lost = last + 1 < seen.length ? end - seen[last + 1]!.at : 0;
  if (last < 0 || lost > OLD)
    faults.push(`round ${round}: ${found} mm found, ${lost} ms lost of ${JSON.stringify(seen.slice(-8))}`);
  worst = Math.max(worst, lost);
  if (round % 20 === 0) console.log(`${round} kills, at most ${worst} ms lost, ${faults.length} failed`);
}
await killBrowser(profile, context);
ending.abort();
rmSync(profile, { recursive: true, force: true });
for (const fault of faults) console.log(fault);
console.log(`${COUNT - faults.length} passed, ${faults.length} failed; at most ${worst} ms lost`);
process.exit(faults.length ? 1 : 0);
