/** Bodies of plain figures, placed, repeated, added and taken away: made from an empty sheet as a new user would. */
import { choose, expect, field, finding, fresh, result, settledResult, test } from './fixture';

test('a dimpled knob by the keyboard alone: a ball, balls round it, taken away', async ({ page }) => {
  await fresh(page);
  const type = async (text: string) => {
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  };
  await page.locator('[data-add]').focus();
  await type('ball');
  // The caret stands in its first figure; Enter goes on to the next line to be filled.
  await expect(field(page, 'ball.diameter')).toBeFocused();
  await type('36');
  await expect(page.locator('[data-add]')).toBeFocused();
  await type('ball');
  await expect(field(page, 'ball-2.diameter')).toBeFocused();
  await type('8');
  await expect(page.locator('[data-add]')).toBeFocused();
  await type('repeat');
  await expect(field(page, 'repeat.copies')).toBeFocused();
  await type('10');
  await type('');
  await expect(page.locator('[data-add]')).toBeFocused();
  // Balls in the middle of each other run into each other, and that is said.
  await expect(finding(page, 'between')).toContainText('run into each other');
  await page.locator('[data-step="ball-2"]').getByRole('button', { name: 'More figures' }).focus();
  await page.keyboard.press('Enter');
  await field(page, 'ball-2.originX').fill('18 mm');
  await expect(finding(page, 'between')).toContainText('Copies clear each other');
  await page.locator('[data-add]').focus();
  await type('subtract');
  await expect(page.locator('[data-step="subtract"]')).toContainText('Take Repeated out of Ball');
  await expect(finding(page, 'closed').last()).toContainText('Surface is closed', { timeout: 60_000 });
  const volume = await settledResult(page, 'volume');
  // A ball less ten lenses of two balls whose middles are as far apart as the radius of the larger.
  const [R, r] = [18, 4];
  const lens = (Math.PI * r ** 3 * (8 * R - 3 * r)) / (12 * R);
  const wanted = (4 / 3) * Math.PI * R ** 3 - 10 * lens;
  expect(
    Math.abs(Number.parseFloat(volume.split('mm')[0]!.replace(/[^\d.]/g, '')) / wanted - 1),
  ).toBeLessThan(2e-3);
});

test('a leg and its mirror image by the mouse, and how many there are', async ({ page }) => {
  await fresh(page, 'bent tube');
  await expect(result(page, 'volume')).toBeVisible();
  await page.locator('[data-add]').fill('repeat');
  await page.locator('[data-add]').press('Enter');
  await choose(page, 'repeat', /way of repeating/, 'as a mirrored pair');
  await expect(result(page, 'bodies')).toHaveText('2');
  await choose(page, 'repeat', /mirrored in/, 'y');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-step="repeat"]')).toContainText('mirrored in x');
});
