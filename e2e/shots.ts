/** npm run shots: takes the pictures of docs/screenshots from the demo data, at 1280 × 800. */
import { chromium, type Page } from '@playwright/test';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { serve } from '../server/src/serve';
import { CHROMIUM } from './chromium';

const OUT = join(import.meta.dirname, '../docs/screenshots');
mkdirSync(OUT, { recursive: true });
const base = await serve(0);
const browser = await chromium.launch(CHROMIUM);

/** A fresh visitor on a light or dark page, with the pictures of the shelf drawn. */
async function visitor(colorScheme: 'light' | 'dark'): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme });
  const page = await context.newPage();
  page.setDefaultTimeout(90_000);
  await page.goto(base);
  await page.locator('[data-design] img').nth(1).waitFor();
  return page;
}

async function open(page: Page, name: string): Promise<void> {
  await page.getByLabel(`Open ${name}`).click();
  await page.locator('[data-finding]').first().waitFor();
  await page.waitForTimeout(2500);
}

const shoot = async (page: Page, name: string) => {
  await page.mouse.move(640, 30);
  await page.waitForTimeout(2500);
  await page.screenshot({ path: join(OUT, `${name}.png`) });
};

const light = await visitor('light');
await shoot(light, 'shelf');
await open(light, 'Gate spring');
await shoot(light, 'workbench-light');
await light.getByRole('button', { name: 'All four' }).click();
await shoot(light, 'workbench-four-views');
await light.getByRole('button', { name: 'Space', exact: true }).click();
await light.locator('[data-place="coil.turns"]').fill('17');
await shoot(light, 'workbench-finding');

const dark = await visitor('dark');
await open(dark, 'Nest spring');
await shoot(dark, 'workbench-dark');

await browser.close();
process.exit(0);
