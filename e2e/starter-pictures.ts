/**
 * npm run pictures: takes the pictures of the demo designs, the ready-made beginnings and every kind of step, as the shelf draws
 * them. npm run pictures -- step-weld hook takes those alone.
 */
import { chromium } from '@playwright/test';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { betterStart } from '../core/src/design/candidates';
import { addStep, stepOf } from '../core/src/design/edit';
import { createCache, evaluate } from '../core/src/design/evaluate';
import { OFFERS } from '../core/src/design/offers';
import { yieldsOf } from '../core/src/design/registry';
import { emptyDesign, type Design } from '../core/src/design/schema';
import { STARTERS } from '../core/src/design/starters';
import { readDesign, writeDesign } from '../core/src/exchange/design-json';
import { serve } from '../server/src/serve';
import { CHROMIUM } from './chromium';

/** Where they go; twice as large as they are shown, pixels. */
const GALLERY = {
  out: join(import.meta.dirname, '../app/src/workbench/gallery/pictures'),
  size: { width: 336, height: 240 },
};
/** As large as the shelf draws them. */
const SHELF = {
  out: join(import.meta.dirname, '../app/src/data/pictures'),
  size: { width: 560, height: 400 },
};
for (const { out } of [GALLERY, SHELF]) mkdirSync(out, { recursive: true });
const base = await serve(0);
const browser = await chromium.launch(CHROMIUM);
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' });
const page = await context.newPage();
page.setDefaultTimeout(120_000);
await page.goto(base);

const DEMO = join(import.meta.dirname, '../demo');

/** Steps that show what they do only on these, with their figures. */
const ON: Readonly<Record<string, readonly (readonly [kind: string, set: Record<string, string>])[]>> = {
  subtract: [
    ['block', { height: '14 mm' }],
    ['cylinder', { diameter: '12 mm', height: '30 mm' }],
  ],
  'set-in': [
    ['block', { height: '14 mm' }],
    ['cylinder', { diameter: '12 mm', height: '30 mm' }],
  ],
  weld: [
    ['block', { height: '8 mm' }],
    ['cylinder', { diameter: '12 mm', height: '24 mm' }],
    ['add', {}],
  ],
};

/** What a step is shown with otherwise: steps that stand before it, each tried until it can be made. */
const BEFORE: readonly (readonly string[])[] = [
  [],
  ['loop'],
  ['arc'],
  ['star'],
  ['block'],
  ['block', 'ball'],
  ['arc', 'star'],
  ['cylinder', 'helix', 'round'],
  ['bent-tube'],
  ['tee'],
  ['compression-spring'],
  ['bladed-wheel'],
];

/** A design that shows a kind of step; undefined where none is found. */
async function shown(kind: string): Promise<Design | undefined> {
  const plain = BEFORE.map((before) => before.map((one) => [one, {}] as const));
  for (const before of ON[kind] ? [ON[kind]] : plain) {
    const design = emptyDesign(`Step: ${kind}`);
    for (const [one, set] of before) {
      const starter = STARTERS.find(({ id }) => id === one);
      if (starter) starter.add(design, 0);
      else addStep(design, one, design.steps.length, set);
    }
    const id = addStep(design, kind, design.steps.length);
    const start = await betterStart(design, id, createCache(), async () => undefined);
    const step = stepOf(design, id);
    if (start?.from) step.from = start.from;
    Object.assign(step.set, start?.set);
    // A section alone is not to be seen in space: a short piece of it is.
    if (yieldsOf(step, design.steps) === 'section') {
      const axis = addStep(design, 'run', design.steps.length);
      stepOf(design, axis).rows = {
        points: ['0 mm', '12 mm'].map((z) => ({ x: '0 mm', y: '0 mm', z })),
      };
      const body = addStep(design, 'sweep', design.steps.length);
      stepOf(design, body).from = { path: axis, section: id };
    }
    const { steps } = await evaluate(design, createCache(), async () => undefined, 'shape');
    if (steps.every(({ state }) => state === 'ready')) return design;
  }
  return undefined;
}

const designs: { id: string; design: Design; where: typeof GALLERY }[] = [];
for (const file of readdirSync(DEMO)) {
  const design = readDesign(readFileSync(join(DEMO, file), 'utf8'));
  const id = file.replace('.json', '');
  designs.push({ id, design: { ...design, name: `Picture: ${design.name}` }, where: SHELF });
}
for (const { id, name, add } of STARTERS) {
  const design = emptyDesign(`Beginning: ${name}`);
  add(design, 0);
  designs.push({ id, design, where: GALLERY });
}
for (const { kind, group } of OFFERS) {
  const design = kind && group !== 'Checks and measures' ? await shown(kind) : undefined;
  if (design) designs.push({ id: `step-${kind}`, design, where: GALLERY });
}
const named = process.argv.slice(2);
for (const { id, design, where } of designs) {
  if (named.length && !named.includes(id)) continue;
  await page.getByTestId('take-in').setInputFiles({
    name: `${id}.json`,
    mimeType: 'application/json',
    buffer: Buffer.from(writeDesign(design)),
  });
  const picture = page.locator(`[data-design="${design.name}"] img`);
  await page.locator(`[data-design="${design.name}"]`).scrollIntoViewIfNeeded();
  // What cannot be drawn has none.
  const drawn = await picture.waitFor({ timeout: 20_000 }).then(
    () => true,
    () => false,
  );
  if (!drawn) {
    console.log(`no picture of ${id}`);
    continue;
  }
  const webp = await picture.evaluate(async (img: HTMLImageElement, { width, height }) => {
    await img.decode();
    const canvas = document.createElement('canvas');
    Object.assign(canvas, { width, height });
    const paper = canvas.getContext('2d')!;
    paper.imageSmoothingQuality = 'high';
    paper.drawImage(img, 0, 0, width, height);
    return canvas.toDataURL('image/webp', 0.82).split(',')[1]!;
  }, where.size);
  writeFileSync(join(where.out, `${id}.webp`), Buffer.from(webp, 'base64'));
}
await browser.close();
process.exit(0);
