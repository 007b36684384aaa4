/** Complete jobs from an empty sheet, by mouse and keyboard, as a newcomer does them. Six are in the short run. */
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { added, choose, expect, field, finding, fresh, result, test, worked } from './fixture';
import { LONG } from './runs';

test.setTimeout(240_000);

/** Puts down a ready-made beginning on an empty sheet. */
async function begin(page: Page, name: string): Promise<void> {
  await fresh(page);
  const gallery = page.getByRole('region', { name: 'Ready-made beginnings' });
  await gallery.getByRole('button', { name: new RegExp(`^${name}`) }).click();
  await expect(gallery).toHaveCount(0);
}

/** Types figures, each ended by Enter. */
async function type(page: Page, figures: Readonly<Record<string, string>>): Promise<void> {
  for (const [place, text] of Object.entries(figures)) {
    await field(page, place).fill(text);
    await field(page, place).press('Enter');
  }
}

/** The number of a result once all is calculated. */
async function told(page: Page, name: string): Promise<number> {
  await worked(page);
  const text = await result(page, name).innerText();
  return Number.parseFloat(text.replaceAll(/[\s\u2009]/g, '').replace('−', '-'));
}

/** Nothing is complained of, and nothing found that is a fault. */
async function sound(page: Page): Promise<void> {
  await worked(page);
  await expect(page.locator('[data-step] [role="alert"]')).toHaveCount(0);
  await expect(page.locator('[data-level="fault"]')).toHaveCount(0);
  await expect(finding(page, 'closed').first()).toHaveAttribute('data-level', 'good');
}

/** Exports a file and reads it. */
async function exported(page: Page, name: RegExp): Promise<Buffer> {
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download', { timeout: 120_000 });
  await page.getByRole('button', { name }).click();
  const file = await readFile((await (await download).path())!);
  await page.keyboard.press('Escape');
  return file;
}

const disc = (diameter: number): number => (Math.PI / 4) * diameter ** 2;

test('a compression spring is made stiffer, checked and exported', async ({ page }) => {
  await begin(page, 'Compression spring');
  const soft = await told(page, 'rate');
  await type(page, { 'round.diameter': '2.2 mm' });
  const stiff = await told(page, 'rate');
  // d⁴ / D³ at the same outer diameter.
  const expected = (2.2 / 2) ** 4 * (18 / 17.8) ** 3;
  expect(stiff / soft).toBeCloseTo(expected, 2);
  await sound(page);
  const file = await exported(page, /3MF/);
  expect(file.subarray(0, 2).toString()).toBe('PK');
});

test('a conical spring is narrowed', LONG, async ({ page }) => {
  await begin(page, 'Conical spring');
  const before = await told(page, 'wireLength');
  await type(page, { 'helix.endDiameter': '12 mm' });
  expect(await told(page, 'wireLength')).toBeLessThan(before);
  await sound(page);
});

test('an extension spring gets more coils', LONG, async ({ page }) => {
  await begin(page, 'Extension spring');
  const before = await told(page, 'wireLength');
  // Close-wound: as high as it has turns, each as wide as the wire.
  await type(page, { 'helix.turns': '20', 'helix.height': '40.4 mm' });
  const after = await told(page, 'wireLength');
  expect(after - before).toBeCloseTo(6 * Math.hypot(18 * Math.PI, 2.02), 0);
  await worked(page);
  await expect(page.locator('[data-step] [role="alert"]')).toHaveCount(0);
});

test('a torsion spring gets longer legs', async ({ page }) => {
  await begin(page, 'Torsion spring');
  const before = await told(page, 'wireLength');
  await type(page, { 'run.points.1.x': '40 mm' });
  expect((await told(page, 'wireLength')) - before).toBeCloseTo(24, 1);
  await sound(page);
});

test('a flat spiral spring is wound of thinner strip', LONG, async ({ page }) => {
  await begin(page, 'Flat spiral spring');
  await type(page, { 'rectangle.height': '0.6 mm', 'rectangle.radius': '0.1 mm', 'spiral.turns': '8' });
  await sound(page);
  expect(await told(page, 'wireLength')).toBeCloseTo(8 * Math.PI * 32, -1);
});

test('a tube is bent by rows that are pasted from a spreadsheet', async ({ page }) => {
  await begin(page, 'Bent tube');
  await type(page, { 'tube.outer': '20 mm', 'tube.wall': '1.5 mm' });
  const cell = field(page, 'run.points.0.x');
  await cell.focus();
  await cell.evaluate((one, text) => {
    const data = new DataTransfer();
    data.setData('text', text);
    one.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  }, '0\t0\t0\n200\t0\t0\n200\t150\t0\n200\t150\t100\n');
  await sound(page);
  // Two right-angled bends of 30 mm take 2 r − π r / 2 each off the corners.
  const length = 450 - 2 * (60 - 15 * Math.PI);
  expect(await told(page, 'wireLength')).toBeCloseTo(length, 0);
});

test('a tee gets a flange after it was joined', async ({ page }) => {
  await begin(page, 'Tee');
  const before = await told(page, 'volume');
  await added(page, 'flange');
  const end = page.locator('[data-step="tube-end"]');
  await expect(end.getByRole('alert')).toHaveCount(0);
  await type(page, { 'tube-end.diameter': '50 mm', 'tube-end.thickness': '4 mm', 'tube-end.holes': '0' });
  await sound(page);
  const ring = 4 * (disc(50) - disc(22));
  expect((await told(page, 'volume')) - before).toBeCloseTo(ring, -2);
});

test('a Y junction is made wider', LONG, async ({ page }) => {
  await begin(page, 'Y junction');
  await type(page, { 'tube.outer': '26 mm' });
  await sound(page);
  await expect(finding(page, 'bore')).toContainText('One clean bore');
});

test('a manifold of other branches is joined with one bore', LONG, async ({ page }) => {
  await begin(page, 'Manifold');
  await type(page, { 'run-3.points.1.z': '80 mm' });
  await sound(page);
  await expect(finding(page, 'bore')).toContainText('One clean bore');
});

test('a reducer keeps its wall', async ({ page }) => {
  await begin(page, 'Reducer');
  await sound(page);
  const area = (outer: number) => disc(outer) - disc(outer - 4);
  // Along the cone the area of a ring of even wall is linear in the diameter.
  const expected = 25 * area(40) + (40 * (area(40) + area(24))) / 2 + 25 * area(24);
  expect((await told(page, 'volume')) / expected).toBeCloseTo(1, 4);
  await choose(page, 'sweep', /^wall along/, 'changes with it');
  expect((await told(page, 'volume')) / expected).toBeLessThan(0.95);
});

test('a tube coil of given length is found by asking the result', LONG, async ({ page }) => {
  await begin(page, 'Tube coil');
  await worked(page);
  await result(page, 'wireLength').getByRole('button').click();
  const form = page.getByRole('form', { name: /^Value of/ });
  await form.getByRole('textbox').fill('2000 mm');
  await form
    .getByRole('button', { name: /diameter/ })
    .first()
    .click();
  await expect.poll(() => told(page, 'wireLength')).toBeCloseTo(2000, 0);
  await sound(page);
});

test('a hook is bent of thicker rod', async ({ page }) => {
  await begin(page, 'Hook');
  await type(page, { 'round.diameter': '6 mm', 'sweep.startSize': '3 mm', 'sweep.endSize': '3 mm' });
  await sound(page);
});

test('a wire clip closes on what it holds', LONG, async ({ page }) => {
  await begin(page, 'Wire clip');
  await type(page, { 'round.diameter': '1.8 mm' });
  await sound(page);
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Measure' })).toBeVisible();
});

test('a basket gets five ribs', LONG, async ({ page }) => {
  await begin(page, 'Basket');
  const before = await told(page, 'volume');
  const add = page.locator('[data-add-row="places"]');
  await add.click();
  await type(page, { 'repeat.places.3.y': '-10 mm' });
  await add.click();
  await type(page, { 'repeat.places.4.y': '10 mm' });
  await sound(page);
  expect(await told(page, 'volume')).toBeGreaterThan(before * 1.2);
});

test('a closed frame stays closed while its corners move', LONG, async ({ page }) => {
  await begin(page, 'Closed wire frame');
  await type(page, { 'run.points.1.x': '60 mm', 'run.points.2.x': '60 mm' });
  await sound(page);
});

test('a rope ring is made for a finger', LONG, async ({ page }) => {
  await begin(page, 'Rope ring');
  await type(page, { 'loop.size': 'ring(58) + 4 mm' });
  await sound(page);
});

test('a twisted vessel holds more when its wall is thinner', LONG, async ({ page }) => {
  await begin(page, 'Twisted vessel');
  const before = await told(page, 'capacity');
  await type(page, { 'hollow.wall': '1.5 mm' });
  expect(await told(page, 'capacity')).toBeGreaterThan(before);
  await sound(page);
});

test('a ribbed pot gets more ribs', LONG, async ({ page }) => {
  await begin(page, 'Ribbed pot');
  await type(page, { 'repeat.copies': '14' });
  await sound(page);
});

test('a bladed wheel gets one blade more and is exported for printing', LONG, async ({ page }) => {
  await begin(page, 'Bladed wheel');
  const before = await told(page, 'volume');
  await type(page, { 'blade.copies': '8' });
  expect(await told(page, 'volume')).toBeGreaterThan(before);
  await sound(page);
  const file = await exported(page, /STL binary/);
  expect(file.length).toBe(84 + 50 * file.readUInt32LE(80));
});

test('an auger is made steeper', LONG, async ({ page }) => {
  await begin(page, 'Auger');
  await type(page, { 'blade.pitch': '34 mm' });
  await sound(page);
});

test('a bolt is made of another thread', LONG, async ({ page }) => {
  await begin(page, 'Bolt');
  await type(page, { 'polygon.size': '16 mm' });
  await sound(page);
});

test('a cage of more wires, and notes for the shop', LONG, async ({ page }) => {
  await begin(page, 'Dome cage');
  await type(page, { 'round.diameter': '3 mm' });
  await worked(page);
  await page.getByRole('button', { name: 'Notes', exact: true }).click();
  await page.getByRole('button', { name: 'Note on the design' }).click();
  await page.keyboard.type('Spot-weld every crossing.');
  await expect(page.getByRole('button', { name: 'Notes (1)' })).toBeVisible();
});
