/**
 * A browser whose profile lies on a disk that is really full: whatever it says is saved must be there after it is killed, and
 * what it could not save is saved by itself once there is room. `npm run test:kills` runs it; it needs root to set up the disk.
 */
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { serve } from '../server/src/serve';
import { CHROMIUM } from './chromium';
import { FAST, field } from './fixture';
import { killBrowser } from './killing';

const { values } = parseArgs({ options: { count: { type: 'string', default: '5' } } });
const disk = mkdtempSync(join(tmpdir(), 'nematos-full-'));
execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=120m', 'tmpfs', disk]);
const ending = new AbortController();
const base = await serve(0, ending.signal);

const open = (): Promise<BrowserContext> =>
  chromium.launchPersistentContext(join(disk, 'profile'), {
    ...CHROMIUM,
    viewport: { width: 1280, height: 800 },
  });

/** Fills the disk to the last byte. */
function fill(): void {
  const file = openSync(join(disk, 'filler'), 'w');
  for (const size of [1 << 20, 1 << 12, 1])
    try {
      for (;;) writeSync(file, Buffer.alloc(size));
    } catch {
      // Full.
    }
  closeSync(file);
}
const free = () => rmSync(join(disk, 'filler'), { force: true });
const status = async (page: Page): Promise<string> =>
  (await page.locator('header [role=status]').innerText()).trim();
async function until(page: Page, wanted: RegExp, ms: number): Promise<string> {
  for (const end = Date.now() + ms; ; await page.waitForTimeout(100)) {
    const says = await status(page);
    if (wanted.test(says) || Date.now() > end) return says;
  }
}
const height = (page: Page): Promise<string> => field(page, 'helix.height').inputValue();

const faults: string[] = [];
let told = 0;
let context = await open();
const first = context.pages()[0]!;
await first.goto(`${base}${FAST}`);
await first.getByRole('button', { name: 'New design' }).click();
await first.locator('[data-add]').fill('spring');
await first.locator('[data-add]').press('Enter');
await field(first, 'helix.height').fill('100 mm');
await until(first, /^Saved$/, 20_000);
const address = first.url();

for (let round = 1; round <= Number(values.count); round++) {
  let page = context.pages()[0]!;
  await page.goto(address);
  await field(page, 'helix.height').waitFor();
  fill();
  // With so much beside it that it fits into no page that is half full.
  await field(page, 'round.diameter').fill(`2 mm${' '.repeat(300_000)}`);
  const wanted = `${100 + round} mm`;
  await field(page, 'helix.height').fill(wanted);
  const says = await until(page, /^(Saved|Not saved.*)$/, 20_000);
  if (/^Not saved/.test(says)) told++;
  if (round % 2) {
    // Room again: it is saved by itself.
    free();
    const after = await until(page, /^Saved$/, 30_000);
    if (after !== 'Saved') faults.push(`round ${round}: with room again it says “${after}”`);
  }
  const last = await status(page);
  await killBrowser(join(disk, 'profile'), context);
  free();
  context = await open();
  page = context.pages()[0]!;
  await page.goto(address);
  await field(page, 'helix.height').waitFor();
  const found = await height(page);
  console.log(`round ${round}: said “${says}”, then “${last}”; found ${found}`);
  if (last === 'Saved' && found !== wanted)
    faults.push(`round ${round}: said saved, and ${found} was found, not ${wanted}`);
  await field(page, 'helix.height').fill('100 mm');
  await until(page, /^Saved$/, 20_000);
}
await killBrowser(join(disk, 'profile'), context);
ending.abort();
execFileSync('umount', ['-l', disk]);
rmSync(disk, { recursive: true, force: true });
if (!told) faults.push('the disk was never full enough to be told');
for (const fault of faults) console.log(fault);
console.log(`${Number(values.count)} rounds on a full disk, ${faults.length} failed`);
process.exit(faults.length ? 1 : 0);
