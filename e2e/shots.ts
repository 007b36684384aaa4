/** npm run shots: takes the pictures of docs/screenshots, docs/paths, docs/bodies and docs/sections from the demo data, at 1280 × 800. */
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
  await page.locator('[data-design] img').nth(5).waitFor();
  return page;
}

async function open(page: Page, name: string): Promise<void> {
  await page.getByLabel(`Open ${name}`).click();
  await page.locator('aside [data-result]').first().waitFor();
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

const dark = await visitor('dark');
await open(dark, 'Keeper’s ring');
await shoot(dark, 'workbench-dark');

// The charts along a path, and a run in its tables.
await light.goto(base);
await open(light, 'Lid bumper');
await light.locator('[data-step="coil"] header input').click();
await light.getByRole('button', { name: 'Lengthwise' }).click();
await light.getByRole('button', { name: 'Diameter', exact: true }).click();
await light.locator('section[aria-label="Lengthwise"] canvas').hover({ position: { x: 330, y: 50 } });
await light.waitForTimeout(1500);
await light.screenshot({ path: join(OUT, 'workbench-lengthwise.png') });
await light.getByLabel('Fold the charts away').click();
await light.goto(base);
await open(light, 'Swarm hook');
await light.locator('[data-step="curve"] header input').click();
await light.getByRole('button', { name: 'All four' }).click();
await shoot(light, 'workbench-points');
await light.getByRole('button', { name: 'Space', exact: true }).click();

await light.goto(base);
await open(light, 'Settling manifold');
await light.locator('[data-step="manifold"]').scrollIntoViewIfNeeded();
await light.locator('[data-step="manifold"] header input').click();
await shoot(light, 'workbench-manifold');

// One picture of the stage for every kind, for docs/paths.md.
const PATHS = join(import.meta.dirname, '../docs/paths');
mkdirSync(PATHS, { recursive: true });
for (const [name, kind, step] of [
  ['Warming spiral', 'spiral', 'spiral'],
  ['Lid bumper', 'stationed', 'coil'],
  ['Keeper’s ring', 'winding', 'rope'],
  ['Frame basket', 'run', 'run'],
  ['Extractor stand', 'two-view', 'leg'],
  ['Bayonet neck', 'wrap-and-cast', 'wrapped'],
  ['Candle guide', 'wrung', 'frame'],
  ['Skep cage', 'cage', 'body'],
  ['Melting coil', 'chain', 'tail'],
  ['Press hook', 'centre-line', 'place'],
  ['Tank drain', 'face-axis', 'face-axis'],
] as const) {
  await light.goto(base);
  await open(light, name);
  await light.locator(`[data-step="${step}"] header input`).click();
  await light.mouse.move(640, 30);
  await light.waitForTimeout(1500);
  await light.screenshot({
    path: join(PATHS, `${kind}.png`),
    clip: { x: 405, y: 76, width: 655, height: 660 },
  });
}

// Bodies of several kinds, for docs/bodies.md; one of them with its sheet.
const BODIES = join(import.meta.dirname, '../docs/bodies');
mkdirSync(BODIES, { recursive: true });
/** What the kernel takes long to settle. */
const SLOW = new Set<string>(['wheel', 'pot', 'cage']);
for (const [name, file, step] of [
  ['Puffed skep', 'skep', 'skep'],
  ['Springs of a lid', 'springs', 'row'],
  ['Lid knob', 'knob', 'whole'],
  ['Pair of stand legs', 'stand', 'stand'],
  ['Bored ring', 'ring', 'ring'],
  ['Honey spinner', 'spinner', 'spinner'],
  ['Swirl drop', 'drop', 'whole'],
  ['Filler plug', 'plug', 'plug'],
  ['Tap lever', 'lever', 'tap-lever'],
  ['Pump wheel', 'wheel', 'rooted'],
  ['Creaming ribbon', 'creamer', 'whole'],
  ['Wax-press auger', 'auger', 'grooved'],
  ['Scalloped honey pot', 'pot', 'wrung'],
  ['Skep cage', 'cage', 'wrung'],
  ['Bayonet neck', 'neck', 'slotted'],
  ['Syrup feeder', 'feeder', 'feeder'],
] as const) {
  await light.goto(base);
  await open(light, name);
  await light.locator(`[data-step="${step}"] header input`).click();
  await light.locator('aside [data-result="mass"]').waitFor();
  await light.mouse.move(640, 30);
  await light.waitForTimeout(SLOW.has(file) ? 20_000 : 8000);
  if (file === 'knob') await light.screenshot({ path: join(OUT, 'workbench-knob.png') });
  await light.screenshot({
    path: join(BODIES, `${file}.png`),
    clip: { x: 405, y: 76, width: 655, height: 660 },
  });
}

// A result that is asked for, and a body that is placed by hand.
await light.goto(base);
await open(light, 'Keeper’s ring');
await light.locator('aside [data-result="strandGap"] button').click();
await light.getByRole('button', { name: 'Rope, strands' }).waitFor();
await light.getByLabel('Wanted Strand gap').fill('0 mm');
await light.waitForTimeout(1500);
await light.screenshot({ path: join(OUT, 'workbench-reach.png') });
await light.goto(base);
await open(light, 'Lid knob');
await light.locator('[data-add]').fill('place');
await light.locator('[data-add]').press('Enter');
await light.locator('[data-place="place.turn"]').fill('20 deg');
await light.locator('[data-point="moveX"]').waitFor();
await light.waitForTimeout(9000);
await light.screenshot({ path: join(OUT, 'workbench-place.png') });

// Looked into, measured, gone over and compared, for docs/looking.md.
await light.goto(base);
await open(light, 'Settling manifold');
await light.keyboard.press('6');
await light.getByRole('button', { name: 'Another plane' }).click();
await light.getByLabel('Only their corner').check();
await shoot(light, 'workbench-cut');
await light.getByRole('button', { name: 'Close it again' }).click();
await light.getByRole('button', { name: 'Look', exact: true }).click();
await light.getByRole('menuitem', { name: /Replay/ }).click();
await light.getByLabel('Pace', { exact: true }).selectOption('quickly');
await light.locator('section[aria-label="Replay"]', { hasText: '8 of 10' }).waitFor();
await light.getByRole('button', { name: 'Pause' }).click();
await shoot(light, 'workbench-review');
await light.goto(base);
await open(light, 'Extractor stand');
await light.locator('[data-step="rise"]').scrollIntoViewIfNeeded();
await light.locator('[data-step="rise"] header input').click();
await light.getByRole('button', { name: 'Measure', exact: true }).click();
await light.mouse.click(540, 440);
await light.mouse.click(960, 364);
await shoot(light, 'workbench-measure');
await light.goto(base);
await open(light, 'Gate spring');
await light.getByRole('button', { name: 'Spread', exact: true }).click();
await light.locator('[data-spread=ready]').waitFor();
await shoot(light, 'workbench-spread');
await light.goto(base);
await open(light, 'Show ribbon');
await light.getByLabel(/^Space view/).focus();
await light.keyboard.press('7');
await light.locator('section[aria-label="Triangles"][aria-busy="false"]').waitFor();
await shoot(light, 'workbench-triangles');
await light.goto(base);
await open(light, 'Gate spring');
await light.locator('[data-place="coil.turns"]').fill('19');
await light.locator('[data-finding="clearance"] button').click();
await shoot(light, 'workbench-pin');
await light.getByRole('button', { name: 'Undo' }).click();
await light.getByRole('button', { name: 'Variants' }).click();
await light.getByRole('menuitem', { name: 'Compare' }).click();
await light.locator('[data-compared="mass"]').nth(2).waitFor();
await shoot(light, 'compare');
await light.getByRole('button', { name: 'Back to the sheet' }).click();
await light.waitForTimeout(600);

// Plain bodies beside each other, and a section drawn out with a draft and a twist.
const made = async (
  file: string,
  steps: readonly (readonly [kind: string, figures: Record<string, string>])[],
) => {
  await light.goto(base);
  await light.getByRole('button', { name: 'New design' }).click();
  for (const [kind, figures] of steps) {
    await light.locator('[data-add]').fill(kind);
    await light.locator('[data-add]').press('Enter');
    const step = light.locator('[data-step]').last();
    const more = step.getByRole('button', { name: 'More figures' });
    if (await more.count()) await more.click();
    const id = await step.getAttribute('data-step');
    for (const [name, text] of Object.entries(figures))
      await light.locator(`[data-place="${id}.${name}"]`).fill(text);
  }
  await light.getByRole('button', { name: 'Fit', exact: true }).click();
  await light.mouse.move(640, 30);
  await light.locator('aside [data-result="mass"]:not([data-awaited])').first().waitFor();
  await light.waitForTimeout(8000);
  await light.screenshot({
    path: join(BODIES, `${file}.png`),
    clip: { x: 405, y: 76, width: 655, height: 660 },
  });
};
await made('basic', [
  ['ball', { diameter: '22 mm', originZ: '11 mm' }],
  ['cylinder', { diameter: '20 mm', height: '26 mm', bore: '10 mm', originX: '30 mm' }],
  ['cone', { diameter: '22 mm', top: '8 mm', height: '26 mm', originX: '-30 mm' }],
  ['ring', { inner: '14 mm', thickness: '5 mm', originY: '-32 mm', originX: '-16 mm', originZ: '2.5 mm' }],
  [
    'block',
    { width: '24 mm', depth: '16 mm', height: '10 mm', radius: '2 mm', originY: '-32 mm', originX: '16 mm' },
  ],
]);
await made('extruded', [
  ['star', {}],
  ['extrude', { height: '30 mm', draft: '2 deg', twist: '40 deg' }],
]);
await made('joints', [
  ['block', { width: '60 mm', depth: '44 mm', height: '12 mm' }],
  ['cylinder', { diameter: '26 mm', height: '36 mm', axisX: '0.3', originZ: '6 mm' }],
  ['add', {}],
  ['weld', { radius: '5 mm' }],
]);
await made('seat', [
  ['block', { width: '44 mm', depth: '34 mm', height: '20 mm' }],
  ['polygon', { size: '22 mm', radius: '0 mm' }],
  ['extrude', { height: '20 mm', originZ: '9 mm' }],
  ['set in', { clearance: '0.4 mm' }],
]);

// Sections and sweeps, for docs/sections-and-sweeps.md; the first two show their sheet too.
const SECTIONS = join(import.meta.dirname, '../docs/sections');
mkdirSync(SECTIONS, { recursive: true });
const STAGE = { x: 405, y: 76, width: 655, height: 660 };
for (const [name, file, step, then] of [
  ['Twisted taper candle', 'candle', 'candle', undefined],
  ['Swirl jar', 'jar', 'hollow', undefined],
  ['Show ribbon', 'ribbon', 'ribbon', undefined],
  ['Gate spring', 'ground', 'spring', undefined],
  ['Lid clasp', 'clasp', 'clasp', 'charts'],
  ['Press spring', 'holds', 'spring', 'fold'],
] as const) {
  await light.goto(base);
  await open(light, name);
  const passage = light.locator(`[data-step="${step}"]`);
  await passage.locator('header input').click();
  if (then === 'charts') await light.getByRole('button', { name: 'Lengthwise' }).click();
  if (then === 'fold') {
    await passage.hover();
    await passage.getByRole('button', { name: 'More figures' }).click();
    await passage.locator('[data-hold] img').nth(2).waitFor();
    await passage.scrollIntoViewIfNeeded();
    await light.locator('[data-sheet]').hover();
    await light.mouse.wheel(0, 2000);
  }
  await light.mouse.move(640, 30);
  await light.waitForTimeout(1800);
  if (then === 'fold') await light.screenshot({ path: join(OUT, `workbench-${file}.png`) });
  const clip =
    then === 'charts' ? { ...STAGE, height: 724 } : then ? { x: 0, y: 44, width: 1060, height: 700 } : STAGE;
  await light.screenshot({ path: join(SECTIONS, `${file}.png`), clip });
  if (then === 'charts') await light.getByLabel('Fold the charts away').click();
}

await light.goto(base);
await light.getByRole('button', { name: 'New design' }).click();
await light.getByRole('region', { name: 'Ready-made beginnings' }).waitFor();
await shoot(light, 'gallery');
await light.locator('[data-add]').fill('custom');
await light.locator('[data-add]').press('Enter');
await light.locator('[data-place="outline.points.0.x"]').waitFor();
await light.waitForTimeout(1500);
await light.mouse.move(640, 30);
await light.screenshot({
  path: join(SECTIONS, 'outline.png'),
  clip: { x: 0, y: 44, width: 1060, height: 700 },
});

await browser.close();
process.exit(0);
