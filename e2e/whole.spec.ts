/** Whole parts made from an empty sheet, as a new user would: a manifold, a pump wheel, a honey pot. */
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { inspectMesh } from '@nematos/core/mesh/data/topology';
import { readBinary } from '../core/test/stl-reader';
import { added, choose, expect, field, finding, fresh, settledResult, test } from './fixture';
import { LONG } from './runs';

test.setTimeout(180_000);

async function fill(page: Page, cells: Readonly<Record<string, string>>): Promise<void> {
  for (const [cell, text] of Object.entries(cells)) await field(page, cell).fill(text);
}

const volumeOf = async (page: Page): Promise<number> =>
  Number((await settledResult(page, 'volume')).split('mm³')[0]!.replaceAll(/[^\d.]/g, ''));

/** What goes out as triangles, coarsely: finer ones take long to be put together. */
async function sentOut(page: Page) {
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByLabel(/Chord tolerance/).fill('0.1');
  const download = page.waitForEvent('download', { timeout: 120_000 });
  await page.getByRole('button', { name: /STL binary/ }).click();
  return inspectMesh(readBinary(await readFile((await (await download).path())!)));
}

test(
  'a manifold of three legs, one reduced and one with a flange, is joined with one clean bore and cut open',
  LONG,
  async ({ page }) => {
    await fresh(page, 'tube', 'axis', 'sweep', 'axis', 'sweep', 'axis', 'tube', 'sweep', 'tube end', 'join');
    await fill(page, {
      'tube.outer': '24 mm',
      'tube.wall': '2 mm',
      'run.points.0.x': '-60 mm',
      'run.points.1.x': '60 mm',
      'run.points.1.y': '0 mm',
      'run.points.1.z': '0 mm',
      'run-2.points.0.x': '-25 mm',
      'run-2.points.1.x': '-25 mm',
      'run-2.points.1.y': '0 mm',
      'run-2.points.1.z': '45 mm',
      'run-3.points.0.x': '25 mm',
      'run-3.points.1.x': '25 mm',
      'run-3.points.1.y': '45 mm',
      'run-3.points.1.z': '0 mm',
      'tube-2.outer': '16 mm',
      'tube-2.wall': '2 mm',
    });
    await choose(page, 'tube-end', /^tube:/, 'Body');
    await fill(page, { 'tube-end.diameter': '50 mm', 'tube-end.circle': '38 mm' });
    const step = page.locator('[data-step="join"]');
    await step.getByRole('button', { name: 'one more' }).click();
    // It takes what no other step has taken.
    for (const name of ['Tube end', 'Body 2', 'Body 3'])
      await expect(step.getByRole('button', { name: new RegExp(`tube: ${name}$`) })).toBeVisible();
    await expect(finding(page, 'bore')).toContainText('One clean bore');
    for (const name of ['core1', 'core2', 'core3']) await expect(finding(page, name)).toBeVisible();
    // Three pipes, less what they share: more than two, less than all three.
    const pipe = (R: number, r: number, long: number) => Math.PI * (R * R - r * r) * long;
    const flange = pipe(25, 12, 6) - 4 * pipe(3, 0, 6);
    const volume = (await volumeOf(page)) - flange;
    expect(volume).toBeGreaterThan(pipe(12, 10, 120) + pipe(12, 10, 32) + pipe(8, 6, 32) - 400);
    expect(volume).toBeLessThan(pipe(12, 10, 120) + pipe(12, 10, 45) + pipe(8, 6, 45));
    await page.getByRole('button', { name: 'Cut open', exact: true }).click();
    await expect(page.getByText(/area/i).first()).toBeVisible();
    const report = await sentOut(page);
    // Three legs of tube, four mouths: a surface with three handles, and one for each hole of the flange.
    expect(report).toMatchObject({ openEdges: 0, euler: 2 - 2 * (3 + 4) });
  },
);

test('a pump wheel: blades on a hub, their roots rounded', LONG, async ({ page }) => {
  await fresh(page, 'cylinder', 'blades');
  await fill(page, {
    'cylinder.diameter': '36 mm',
    'cylinder.height': '26 mm',
    'cylinder.bore': '12 mm',
    'blade.hub': '36 mm',
    'blade.tip': '92 mm',
    'blade.height': '18 mm',
    'blade.pitch': '120 mm',
    'blade.copies': '6',
  });
  const blades = page.locator('[data-step="blade"]');
  await expect(blades).toContainText(/angle at the tip\s*22\.55/);
  // Moved up, so that hub and blades end at different heights.
  await blades.getByRole('button', { name: 'More figures' }).click();
  await fill(page, { 'blade.originZ': '4 mm' });
  await added(page, 'add', 'weld');
  // A ball of that size has no room between them, and what has is said.
  await fill(page, { 'weld.radius': '9 mm' });
  const weld = page.locator('[data-step="weld"]');
  await expect(weld.getByRole('alert')).toContainText(/no room .* up to \d\.\d+\s*mm/, { timeout: 60_000 });
  await fill(page, { 'weld.radius': '1.2 mm' });
  await expect(weld.getByRole('alert')).toHaveCount(0, { timeout: 60_000 });
  await expect(finding(page, 'closed')).toContainText('Surface is closed', { timeout: 120_000 });
  await expect(weld).toContainText(/volume laid on\s*9\d\b/, { timeout: 120_000 });
  const report = await sentOut(page);
  // One bore.
  expect(report).toMatchObject({ openEdges: 0, degenerate: 0, euler: 0 });
});

test('a scalloped pot: turned, hollowed, ribbed, and wrung a quarter turn', LONG, async ({ page }) => {
  await fresh(page, 'outline', 'turned', 'hollow', 'axis', 'round', 'sweep', 'repeat');
  await fill(page, {
    'outline.points.0.x': '0 mm',
    'outline.points.0.y': '0 mm',
    'outline.points.0.radius': '',
    'outline.points.1.x': '30 mm',
    'outline.points.1.y': '0 mm',
    'outline.points.1.radius': '7 mm',
    'outline.points.2.x': '45 mm',
    'outline.points.2.y': '40 mm',
    'outline.points.2.radius': '30 mm',
    'outline.points.3.x': '32 mm',
    'outline.points.3.y': '90 mm',
    'outline.points.3.radius': '',
    'outline.points.4.x': '0 mm',
    'outline.points.4.y': '90 mm',
    'outline.points.4.radius': '',
    'turn.away': '0 mm',
    'hollow.wall': '4 mm',
    'hollow.floor': '4 mm',
    'run.points.0.x': '33 mm',
    'run.points.0.z': '8 mm',
    'run.points.1.x': '45 mm',
    'run.points.1.y': '0 mm',
    'run.points.1.z': '40 mm',
    'round.diameter': '7 mm',
    'repeat.copies': '5',
  });
  await added(page, 'add', 'wrung body');
  await fill(page, { 'reshape.to': '90 mm' });
  await expect(page.locator('[data-step="add"]')).toContainText(/Hollowed.*Repeat/s);
  await expect(finding(page, 'closed')).toContainText('Surface is closed', { timeout: 90_000 });
  // Wringing keeps the volume: it is that of the step before, whatever the angle.
  const volume = await volumeOf(page);
  await fill(page, { 'reshape.angle': '150 deg' });
  expect(await volumeOf(page)).toBe(volume);
  await choose(page, 'reshape', /what is done to it/, 'Taper');
  await expect(field(page, 'reshape.angle')).toHaveCount(0);
  await expect.poll(async () => (await volumeOf(page)) < volume, { timeout: 60_000 }).toBe(true);
  await page.keyboard.press('Control+z');
  await expect(field(page, 'reshape.angle')).toHaveValue('150°');
  const report = await sentOut(page);
  expect(report).toMatchObject({ openEdges: 0, euler: 2 });
});
