/** Bodies that are made of bodies. */
import { readFile } from 'node:fs/promises';
import { inspectMesh } from '@nematos/core/mesh/data/topology';
import { added, expect, field, finding, fresh, openDesign, result, settledResult, test } from './fixture';
import { LONG } from './runs';
import { readBinary } from '../core/test/stl-reader';

test('a sleeve is bored from nothing: seen, measured, and sent out closed', LONG, async ({ page }) => {
  await fresh(page, 'axis', 'round', 'sweep', 'round', 'sweep', 'subtract');
  for (const [cell, text] of [
    ['points.0.x', '0 mm'],
    ['points.1.x', '0 mm'],
    ['points.1.y', '0 mm'],
    ['points.1.z', '50 mm'],
  ] as const)
    await field(page, `run.${cell}`).fill(text);
  await field(page, 'round.diameter').fill('20 mm');
  await field(page, 'round-2.diameter').fill('12 mm');
  const exact = Math.PI * 50 * (100 - 36);
  await expect(result(page, 'volume')).toHaveText(
    new RegExp(`^${exact.toFixed(0).replace(/(\d)(\d{3})$/, '$1\u2009$2')}mm³`),
  );
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  await expect(finding(page, 'parts')).toContainText('It is one part');
  // A bore as wide as the sleeve leaves nothing, and that is told where it can be mended.
  await field(page, 'round-2.diameter').fill('30 mm');
  await expect(page.locator('[data-step="subtract"]').getByRole('alert')).toContainText('Nothing is left');
  await field(page, 'round-2.diameter').fill('12 mm');
  await expect(page.locator('[data-step="subtract"]').getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /STL binary/ }).click();
  const report = inspectMesh(readBinary(await readFile((await (await download).path())!)));
  expect(report).toMatchObject({ openEdges: 0, euler: 0 });
  expect(Math.abs(report.volume - exact)).toBeLessThan(0.02 * Math.PI * 50 * 32);
});

test('of what a body is made can be chosen, one more and one fewer', async ({ page }) => {
  await fresh(page, 'block', 'cylinder', 'ball');
  // Each stands out of the others.
  await field(page, 'block.width').fill('90 mm');
  await field(page, 'cylinder.height').fill('90 mm');
  await field(page, 'ball.diameter').fill('40 mm');
  await added(page, 'add');
  const step = page.locator('[data-step="add"]');
  const bodies = step.getByRole('button', { name: /body:/ });
  await expect(bodies).toHaveCount(2);
  await step.getByRole('button', { name: 'one more' }).click();
  await expect(bodies).toHaveCount(3);
  const before = await settledResult(page, 'volume');
  await step.getByRole('button', { name: 'one fewer' }).click();
  await expect(bodies).toHaveCount(2);
  expect(await settledResult(page, 'volume')).not.toBe(before);
  await page.keyboard.press('Control+z');
  await expect(bodies).toHaveCount(3);
});

test('what a cut measures, and how far that may be off, stays within its panel', async ({ page }) => {
  await openDesign(page, 'Settling manifold');
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('6');
  const cut = page.getByLabel('Cut open', { exact: true });
  await expect(cut.locator('dd', { hasText: 'mm⁴' })).toContainText('±');
  const over = await cut.locator('dl').evaluate((lines) => {
    const ends = [...lines.querySelectorAll('dd')].map((one) => one.getBoundingClientRect().right);
    return Math.max(...ends) - lines.getBoundingClientRect().right;
  });
  expect(over).toBeLessThan(0.5);
});
