/** npm run pictures: takes the pictures of the ready-made beginnings, as the shelf draws them. */
import { chromium } from '@playwright/test';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { emptyDesign } from '../core/src/design/schema';
import { STARTERS } from '../core/src/design/starters';
import { writeDesign } from '../core/src/exchange/design-json';
import { serve } from '../server/src/serve';
import { CHROMIUM } from './chromium';

const OUT = join(import.meta.dirname, '../app/src/workbench/gallery/pictures');
/** Twice as large as they are shown, pixels. */
const SIZE = { width: 336, height: 240 };
mkdirSync(OUT, { recursive: true });
const base = await serve(0);
const browser = await chromium.launch(CHROMIUM);
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' });
const page = await context.newPage();
page.setDefaultTimeout(120_000);
await page.goto(base);
for (const { id, name, add } of STARTERS) {
  const design = emptyDesign(`Beginning: ${name}`);
  add(design, 0);
  await page.getByTestId('take-in').setInputFiles({
    name: `${id}.json`,
    mimeType: 'application/json',
    buffer: Buffer.from(writeDesign(design)),
  });
  const picture = page.locator(`[data-design="${design.name}"] img`);
  await picture.scrollIntoViewIfNeeded();
  await picture.waitFor();
  const webp = await picture.evaluate(async (img: HTMLImageElement, { width, height }) => {
    await img.decode();
    const canvas = document.createElement('canvas');
    Object.assign(canvas, { width, height });
    const paper = canvas.getContext('2d')!;
    paper.imageSmoothingQuality = 'high';
    paper.drawImage(img, 0, 0, width, height);
    return canvas.toDataURL('image/webp', 0.82).split(',')[1]!;
  }, SIZE);
  writeFileSync(join(OUT, `${id}.webp`), Buffer.from(webp, 'base64'));
}
await browser.close();
process.exit(0);
