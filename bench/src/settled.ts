/** How long a user waits until all of a design is there: its fine picture, figures and findings; and for a film of it. */
import type { Page } from '@playwright/test';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { STARTERS } from '@nematos/core/design/starters';
import { emptyDesign, type Design } from '@nematos/core/design/schema';
import { readDesign } from '@nematos/core/exchange/design-json';
import { fixedWork } from './fixed-work';
import { median, type Row } from './measure';

const DEMO = join(import.meta.dirname, '../../demo');
const demo = (file: string): Design => readDesign(readFileSync(join(DEMO, file), 'utf8'));

/** Settled within so many s on an idle machine: what people waited for longest. */
const WAITED: readonly (readonly [name: string, seconds: number, design: () => Design])[] = [
  ['M12 nut', 6, nut],
  ['Pump wheel, its roots rounded', 8, () => demo('pump-wheel.json')],
  ['Scalloped honey pot', 5, () => demo('honey-pot.json')],
];
/** All demo designs, one after another: the usual one and the slowest, s. */
const USUAL = 2;
const SLOWEST = 6;
/** A film of a part turning once, s. */
const FILM = 10;

function nut(): Design {
  const design = emptyDesign('Nut');
  STARTERS.find(({ id }) => id === 'nut')!.add(design, 0);
  return design;
}

/** A second of work on an undisturbed processor; tells how many ms it took. */
const second = fixedWork(1000);

/** Opens a design in the running application until all is there; s, and how much slower than undisturbed the machine was. */
async function opened(page: Page, dress: string, design: Design) {
  const packed = deflateRawSync(JSON.stringify(design)).toString('base64url');
  const goTo = (address: string) =>
    page.evaluate((to) => {
      history.pushState({}, '', to);
      dispatchEvent(new PopStateEvent('popstate'));
    }, address);
  await goTo('/nowhere');
  await page.getByText('There is nothing here').waitFor();
  const before = second();
  const begun = performance.now();
  await goTo(`/review${dress}#${packed}`);
  await page.getByRole('button', { name: 'Close the review' }).click();
  await page.locator('section[aria-label=Stage][aria-busy=false]').waitFor({ timeout: 240_000 });
  const seconds = (performance.now() - begun) / 1000;
  return { seconds, slower: Math.max(1, (before + second()) / 2000) };
}

const told = (seconds: number, slower: number): string =>
  `${seconds.toFixed(1)} s, while fixed work took ${slower.toFixed(2)} times as long as undisturbed`;

/** Of designs that are long waited for, of all demo designs, and of a film. */
export async function settledRows(page: Page, base: string, dress: string): Promise<Row[]> {
  const rows: Row[] = [];
  await page.goto(`${base}${dress}`);
  await page.locator('[data-design]').first().waitFor();
  for (const [name, bar, design] of WAITED) {
    const { seconds, slower } = await opened(page, dress, design());
    rows.push({
      what: `${name}: opened until all of it is settled`,
      measured: told(seconds, slower),
      bar: `${bar} s undisturbed`,
      met: seconds <= bar * slower,
    });
  }
  const all: { file: string; seconds: number; slower: number }[] = [];
  for (const file of readdirSync(DEMO)) all.push({ file, ...(await opened(page, dress, demo(file))) });
  const usual = median(all.map(({ seconds, slower }) => seconds / slower));
  const slowest = all.sort((a, b) => b.seconds / b.slower - a.seconds / a.slower)[0]!;
  rows.push({
    what: `${all.length} demo designs opened one after another until all of each is settled`,
    measured: `median ${usual.toFixed(1)} s, at most ${(slowest.seconds / slowest.slower).toFixed(1)} s (${slowest.file}), as undisturbed`,
    bar: `${USUAL} s and ${SLOWEST} s undisturbed`,
    met: usual <= USUAL && slowest.seconds <= SLOWEST * slowest.slower,
  });
  const { slower } = await opened(page, dress, demo('gate-spring.json'));
  await page.getByRole('button', { name: 'Export' }).click();
  const begun = performance.now();
  const download = page.waitForEvent('download', { timeout: 240_000 });
  await page.getByRole('button', { name: /Turning once, GIF/ }).click();
  await download;
  const seconds = (performance.now() - begun) / 1000;
  rows.push({
    what: 'a GIF of the gate spring turning once, 60 frames, drawn in software at 1280 × 800',
    measured: told(seconds, slower),
    bar: `${FILM} s undisturbed`,
    met: seconds <= FILM * slower,
  });
  return rows;
}
