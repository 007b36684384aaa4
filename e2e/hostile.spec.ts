/** Files that take long to read do not hold the page up: they are read by a worker. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { apart, expect, fresh } from './fixture';
import { LONG } from './runs';

/** The longest time, ms, that the page did not answer while something was done; frames and timers alike wait for it. */
async function longestPause(page: Page, work: () => Promise<void>): Promise<number> {
  await page.evaluate(() => {
    const told = { last: performance.now(), longest: 0 };
    Object.assign(window, { told });
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      const now = performance.now();
      told.longest = Math.max(told.longest, now - told.last);
      told.last = now;
      setTimeout(() => channel.port2.postMessage(null), 5);
    };
    channel.port2.postMessage(null);
  });
  await work();
  return page.evaluate(() => (window as unknown as { told: { longest: number } }).told.longest);
}

apart('the page answers while files are read that are made to take long', LONG, async ({ page }, info) => {
  await fresh(page, 'run');
  const table = page.locator('[data-step="run"] input[type=file]');
  const read = async (name: string, text: string, seen: () => Promise<void>) => {
    const file = join(info.outputDir, name);
    mkdirSync(info.outputDir, { recursive: true });
    writeFileSync(file, text);
    const pause = await longestPause(page, async () => {
      // From the disk: bytes that are handed over would be unpacked in the page itself.
      await table.setInputFiles(file);
      await seen();
    });
    return pause;
  };
  const told = (says: string) => () =>
    expect(page.getByRole('alert').filter({ hasText: says })).toBeVisible();
  // The page pauses to show what was read, as it does for a small file, never for what reading takes.
  const shown = await read(
    'small.csv',
    `x${' '.repeat(20_000)},y,z\n1,2,3\n4,5,6\n`,
    told('has 20001 letters'),
  );
  const spaces = await read(
    'spaces.csv',
    `x${' '.repeat(200_000)},y,z\n1,2,3\n4,5,6\n`,
    told('has 200001 letters'),
  );
  expect(spaces, 'spaces.csv').toBeLessThan(shown + 100);
  const long = await read(
    'long.csv',
    `x,y,z\n${'1,2,3\n'.repeat(300_000)}`,
    told('rows that fit in a table'),
  );
  expect(long, 'long.csv').toBeLessThan(shown + 100);
});
