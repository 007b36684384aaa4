/** Parts that are finished: tubes joined with one clean bore, and bodies hollowed to a wall. */
import { readFile } from 'node:fs/promises';
import { readOutline } from '@nematos/core/exchange/outline-in';
import { inspectMesh } from '@nematos/core/mesh/data/topology';
import { readBinary } from '../core/test/stl-reader';
import { added, choose, expect, field, finding, fresh, result, settledResult, steady, test } from './fixture';
import { LONG } from './runs';

test(
  'a tee is made from nothing: two tubes, joined, one clean bore, its saddle exported',
  LONG,
  async ({ page }) => {
    await fresh(page, 'tube', 'axis', 'sweep', 'axis', 'sweep', 'join');
    for (const [cell, text] of [
      ['run.points.0.x', '-60 mm'],
      ['run.points.1.x', '60 mm'],
      ['run.points.1.y', '0 mm'],
      ['run.points.1.z', '0 mm'],
      ['run-2.points.0.x', '0 mm'],
      ['run-2.points.1.x', '0 mm'],
      ['run-2.points.1.y', '0 mm'],
      ['run-2.points.1.z', '50 mm'],
      ['tube.outer', '24 mm'],
      ['tube.wall', '2 mm'],
    ] as const)
      await field(page, cell).fill(text);
    await expect(finding(page, 'bore')).toContainText('One clean bore');
    await expect(finding(page, 'core2')).toContainText('by its end');
    // Two pipes less what they share: 8R³/3 of equal ones that meet square.
    const of = (R: number) => Math.PI * R * R * 170 - (8 / 3) * R ** 3;
    const volume = Number((await settledResult(page, 'volume')).split('mm³')[0]!.replaceAll(/[^\d.]/g, ''));
    expect(Math.abs(volume - (of(12) - of(10)))).toBeLessThan(5);
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Saddles as a drawing' }).click();
    await page.getByRole('menuitem', { name: /SVG/ }).click();
    const svg = await readFile((await (await download).path())!, 'utf8');
    // As wide as the tube is round.
    const xs = (await readOutline('saddle.svg', svg)).points.map(({ x }) => Number.parseFloat(x!));
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(Math.PI * 24, 3);
  },
);

test('solids have no bore to be joined by, and it is said so', async ({ page }) => {
  await fresh(page, 'block', 'cylinder', 'join');
  const step = page.locator('[data-step="join"]');
  await expect(step.getByRole('alert')).toContainText('None of these has a bore');
});

test('two bodies are made one, bevelled where they meet, and hollowed as one', LONG, async ({ page }) => {
  await fresh(page, 'block', 'cylinder', 'add', 'weld');
  for (const [cell, text] of [
    ['block.width', '60 mm'],
    ['block.depth', '40 mm'],
    ['block.height', '30 mm'],
    ['cylinder.diameter', '24 mm'],
    ['cylinder.height', '50 mm'],
    ['weld.radius', '3 mm'],
  ] as const)
    await field(page, cell).fill(text);
  await choose(page, 'weld', /rounded or bevelled/, 'Bevel');
  await choose(page, 'weld', /body at the joints/, 'Cylinder');
  await choose(page, 'weld', /body it meets/, 'Block');
  await expect(page.locator('[data-step=weld]')).toContainText('only of Cylinder with Block');
  await added(page, 'hollow');
  await field(page, 'hollow.wall').fill('2 mm');
  await field(page, 'hollow.floor').fill('2 mm');
  // Within its walls: the block, the neck over it, and a little where they meet.
  const least = 56 * 36 * 26 + Math.PI * 100 * 22;
  const most = least + 2 * Math.PI * 13 * 9;
  const holds = Number((await settledResult(page, 'capacity')).split('mm³')[0]!.replaceAll(/[^\d.]/g, ''));
  expect(holds).toBeGreaterThan(least * 0.997);
  expect(holds).toBeLessThan(most);
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /STL binary/ }).click();
  const report = inspectMesh(readBinary(await readFile((await (await download).path())!)));
  // Open at its upper end, like a cup.
  expect(report).toMatchObject({ openEdges: 0, euler: 2 });
});

test('a pot is turned and hollowed from nothing, and goes out closed', async ({ page }) => {
  await fresh(page, 'cylinder', 'hollow');
  await field(page, 'cylinder.diameter').fill('60 mm');
  await field(page, 'cylinder.height').fill('50 mm');
  await field(page, 'hollow.wall').fill('3 mm');
  await field(page, 'hollow.floor').fill('4 mm');
  const holds = Math.PI * 27 ** 2 * 46;
  await expect
    .poll(async () => Number((await result(page, 'capacity').innerText()).replaceAll(/\s|mm³/g, '')))
    .toBe(Math.round(holds));
  await field(page, 'hollow.wall').fill('31 mm');
  await expect(page.locator('[data-step="hollow"]').getByRole('alert')).toContainText('must stay under');
  await field(page, 'hollow.wall').fill('3 mm');
  await choose(page, 'hollow', /openings/, 'open at both ends');
  await expect(field(page, 'hollow.floor')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  // Its rim becomes half a ring, 3 mm thick.
  await choose(page, 'hollow', /^rim/, 'rounded from wall to wall');
  const walls = Math.PI * 900 * 4 + Math.PI * (900 - 729) * 44.5 + Math.PI ** 2 * 28.5 * 1.5 ** 2;
  await expect
    .poll(async () => Number((await result(page, 'volume').innerText()).replaceAll(/\s|mm³/g, '')))
    .toBe(Math.round(walls));
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /STL binary/ }).click();
  const report = inspectMesh(readBinary(await readFile((await (await download).path())!)));
  expect(report).toMatchObject({ openEdges: 0, euler: 2 });
  expect(Math.abs(report.volume - walls)).toBeLessThan(0.002 * walls);
});

test('a thread is chosen by its size, and its figures follow', async ({ page }) => {
  await fresh(page, 'thread');
  const step = page.locator('[data-step="thread"]');
  await field(page, 'thread.height').fill('5 mm');
  await expect(step).toContainText(/stress area\s*84\.27/);
  await choose(page, 'thread', /^size/, 'M10');
  await choose(page, 'thread', /^row of pitches/, 'fine');
  await expect(step).toContainText(/pitch\s*1\.25/);
  await choose(page, 'thread', /^size/, 'of its own size');
  await field(page, 'thread.pitch').fill('9 mm');
  await expect(step.getByRole('alert')).toContainText('leave no core');
  await field(page, 'thread.pitch').fill('2 mm');
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
});

test('a pin is set into a block with room round it', async ({ page }) => {
  await fresh(page, 'block', 'cylinder', 'set in');
  await field(page, 'block.height').fill('30 mm');
  await field(page, 'cylinder.diameter').fill('10 mm');
  await field(page, 'set-in.clearance').fill('0.5 mm');
  const volume = Number((await settledResult(page, 'volume')).split('mm³')[0]!.replaceAll(/[^\d.]/g, ''));
  // The pin is as high as the block, its room a little higher.
  expect(Math.abs(volume - (30 * 20 * 30 - Math.PI * 5.5 ** 2 * 30))).toBeLessThan(3);
  await expect(finding(page, 'parts')).toHaveAttribute('data-level', 'good');
});

test('the radius of a joint grows from one place to another', LONG, async ({ page }) => {
  await fresh(page, 'block', 'cylinder', 'add', 'weld');
  for (const [cell, text] of [
    ['block.width', '60 mm'],
    ['block.depth', '60 mm'],
    ['cylinder.height', '40 mm'],
    ['weld.radius', '2 mm'],
  ] as const)
    await field(page, cell).fill(text);
  const volume = async () =>
    Number((await settledResult(page, 'volume')).split('mm³')[0]!.replaceAll(/[^\d.]/g, ''));
  const even = await volume();
  await page.locator('[data-step=weld]').hover();
  await page.locator('[data-step=weld]').getByRole('button', { name: 'More figures' }).click();
  await choose(page, 'weld', /whether it grows/, 'growing up an axis');
  // A round that lies square to the axis has no end there: said where it was chosen.
  await expect(page.locator('[data-step=weld]')).toContainText(
    'begins and ends at the same place of the axis',
  );
  await field(page, 'weld.axisX').fill('1');
  await field(page, 'weld.axisZ').fill('0');
  await field(page, 'weld.end').fill('5 mm');
  await expect(page.locator('[data-step=weld]')).toContainText('growing to');
  // A corner of 2 mm round the pin is more than 50 mm³, one of 5 mm six times as much.
  await expect.poll(volume).toBeGreaterThan(even + 50);
  await expect(page.locator('[data-point=end]')).toBeVisible();
});

test('the radius of a joint is led by hand, and its grip stays in the hand', LONG, async ({ page }) => {
  await fresh(page, 'block', 'cylinder', 'add', 'weld');
  await field(page, 'block.width').fill('60 mm');
  await field(page, 'block.depth').fill('60 mm');
  await field(page, 'cylinder.height').fill('40 mm');
  await field(page, 'weld.radius').fill('3 mm');
  await settledResult(page, 'volume');
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  const grip = page.locator('[data-point=radius]');
  const { x, y, width, height } = (await steady(page, () => grip.boundingBox()))!;
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.down();
  const radius = async () => Number.parseFloat(await field(page, 'weld.radius').inputValue());
  let before = 3;
  for (const up of [8, 16, 24]) {
    await page.mouse.move(x + width / 2, y + height / 2 - up);
    await expect.poll(radius).toBeGreaterThan(before);
    before = await radius();
    await expect.poll(async () => (await grip.boundingBox())!.y).toBeLessThan(y - up / 3);
  }
  await page.mouse.up();
  await page.keyboard.press('Control+z');
  await expect.poll(radius).toBe(3);
});
