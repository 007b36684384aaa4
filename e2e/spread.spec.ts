import { expect, field, fresh, openDesign, result, settled, steady, test } from './fixture';
import { LONG } from './runs';

const number = (text: string): number => Number.parseFloat(text.replace(/[\s ]/g, '').replace('−', '-'));

test('a result is spread over a figure, and a place of the curve is taken over', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await page.getByRole('button', { name: 'Spread', exact: true }).click();
  const panel = page.getByLabel('Spread', { exact: true });
  await panel.getByRole('button', { name: 'Duty, stress there' }).click();
  await expect(panel.locator('[data-spread=ready]')).toBeVisible();
  const chart = panel.getByRole('img');
  await chart.focus();
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
  const cursor = panel.locator('[data-spread-cursor]');
  const told = /travel ([\d.]+) mm: (\d+) MPa/.exec(await cursor.innerText())!;
  await page.keyboard.press('Enter');
  // The sheet now has that travel, and the stress that the curve told.
  await expect.poll(async () => number(await result(page, 'stress').innerText())).toBe(Number(told[2]));
  const travel = page.getByLabel('travel', { exact: true }).first();
  expect(number(await travel.inputValue())).toBeCloseTo(Number(told[1]), 2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(travel).toHaveValue('12 mm');
  // What is wrong with a range is told.
  const end = panel.getByLabel('End of the range');
  await end.fill('4 mm');
  await expect(panel.getByRole('status').first()).toContainText('The range begins where it ends.');
  await expect(end).toHaveAttribute('aria-invalid', 'true');
  await end.fill('20 mm');
  await expect(panel.locator('[data-spread=ready]')).toBeVisible();
  await page.waitForTimeout(400);
  await page.reload();
  await expect(panel.getByLabel('End of the range')).toHaveValue('20 mm');
});

test('a spread is made anew from nothing, over two figures, and is stopped', LONG, async ({ page }) => {
  await fresh(page, 'helix', 'round', 'sweep');
  await settled(page);
  await page.getByRole('button', { name: 'Spread', exact: true }).click();
  const panel = page.getByLabel('Spread', { exact: true });
  await panel.getByRole('button', { name: 'spread', exact: true }).click();
  await panel.getByRole('button', { name: /^result:/ }).click();
  await page
    .getByRole('menuitemradio', { name: 'Body, mass' })
    .or(page.getByRole('menuitem', { name: 'Body, mass' }))
    .click();
  await panel.getByRole('button', { name: /^figure:/ }).click();
  await page
    .getByRole('menuitemradio', { name: /turns$/ })
    .or(page.getByRole('menuitem', { name: /turns$/ }))
    .click();
  await panel.getByRole('button', { name: 'over a second figure too' }).click();
  await expect(panel.getByLabel('End of the second range')).toBeVisible();
  await panel.getByRole('button', { name: 'Stop' }).click();
  await expect(panel).toContainText('stopped');
  await panel.getByRole('button', { name: 'Go on' }).click();
  await expect(panel.locator('[data-spread=ready]')).toBeVisible({ timeout: 60_000 });
  // Twice the turns take twice the wire: a place is taken by the mouse.
  const box = (await panel.getByRole('img').boundingBox())!;
  await page.mouse.click(box.x + 0.7 * box.width, box.y + 0.5 * box.height);
  const told = /turns ([\d.]+)/.exec(await panel.locator('[data-spread-cursor]').innerText())!;
  await expect
    .poll(async () => number(await field(page, 'helix.turns').inputValue()))
    .toBeCloseTo(Number(told[1]), 2);
  await steady(page, () => result(page, 'mass').innerText());
  const read = (await panel.locator('[data-spread-cursor]').innerText()).split(': ')[1]!;
  expect(number(read)).toBeCloseTo(number(await result(page, 'mass').innerText()), 2);
  // Its own figures make no difference to it: nothing is made anew.
  await expect(panel.locator('[data-spread=ready]')).toBeVisible();
});
