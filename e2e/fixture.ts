/** The application as tests use it: small pictures, and a guard against requests to anywhere else. */
import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { BASE } from './chromium';

/** Small and plain pictures: software rendering is slow. */
export const FAST = '?dpr=0.5&aa=0';

export const test = base.extend<{ strays: string[] }>({
  strays: [
    async ({ page }, use) => {
      const strays: string[] = [];
      page.on('request', (request) => {
        const url = request.url();
        if (!url.startsWith(BASE) && !url.startsWith('blob:') && !url.startsWith('data:')) strays.push(url);
      });
      page.on('pageerror', (error) => strays.push(`error on the page: ${error.message}`));
      await use(strays);
      expect(strays, 'requests off the base address, or errors').toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

export async function openShelf(page: Page): Promise<void> {
  await page.goto(`/${FAST}`);
  await expect(page.locator('[data-design]').first()).toBeVisible();
}

/** Opens a design of the shelf, in its fast dress, and waits for its picture. */
export async function openDesign(page: Page, name: string): Promise<void> {
  await openShelf(page);
  const address = await page.getByLabel(`Open ${name}`).getAttribute('href');
  await page.goto(`${address}${FAST}`);
  await settled(page);
}

/** Waits until the stage has drawn and the findings are there. */
export async function settled(page: Page): Promise<void> {
  await expect(page.locator('canvas[data-engine]')).toBeVisible();
  await expect(page.locator('[data-finding]').first()).toBeVisible();
}

/** What is read once it stays as it is for a while: pictures are drawn, and drawn finer, some time after an edit. */
export async function steady<T>(page: Page, read: () => Promise<T>): Promise<T> {
  for (let last = await read(); ;) {
    await page.waitForTimeout(1500);
    const now = await read();
    if (String(now) === String(last)) return now;
    last = now;
  }
}

export const field = (page: Page, place: string): Locator => page.locator(`[data-place="${place}"]`);
export const result = (page: Page, name: string): Locator => page.locator(`[data-result="${name}"] dd`);
export const finding = (page: Page, name: string): Locator => page.locator(`[data-finding="${name}"]`);
/** Waits until the last edit is in the database. */
export const kept = (page: Page): Promise<void> =>
  expect(page.getByText('Kept', { exact: true })).toBeVisible();

/** Begins a new design with steps of these kinds, each found by its name. */
export async function fresh(page: Page, ...kinds: string[]): Promise<void> {
  await openShelf(page);
  await page.getByRole('button', { name: 'New design' }).click();
  const add = page.locator('[data-add]');
  for (const kind of kinds) {
    await add.fill(kind);
    await add.press('Enter');
  }
}

/** Chooses another word in the sentence of a step. */
export async function choose(page: Page, step: string, name: RegExp, option: string): Promise<void> {
  await page.locator(`[data-step="${step}"]`).getByRole('button', { name }).click();
  await page.getByRole('menuitemradio', { name: option, exact: true }).click();
}
