/** An empty sheet offers ready-made beginnings; what comes next is offered and found; inputs say why others do not fit. */
import { expect, field, fresh, result, test, worked } from './fixture';

test('a beginning is put down by one click, its first figure selected, and undone at once', async ({
  page,
}) => {
  await fresh(page);
  const gallery = page.getByRole('region', { name: 'Ready-made beginnings' });
  await expect(gallery.getByRole('button')).toHaveCount(31);
  // All have their pictures, but for a part from a file.
  await expect(gallery.locator('img')).toHaveCount(30);
  await gallery.getByRole('button', { name: /^Torsion spring/ }).click();
  await expect(field(page, 'round.diameter')).toBeFocused();
  await page.keyboard.type('1.5 mm');
  await page.keyboard.press('Tab');
  await worked(page);
  // The coil and two legs of 28 mm.
  const length = 5.25 * Math.hypot(18 * Math.PI, 12 / 5.25) + 56;
  const volume = (Math.PI / 4) * 1.5 ** 2 * length;
  const told = async () => parseFloat(await result(page, 'volume').innerText()) / volume;
  await expect.poll(told).toBeCloseTo(1, 3);
  await expect(gallery).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(gallery).toBeVisible();
});

test('the line offers what takes the last step, finds by words of the trade, and inputs say why others do not fit', async ({
  page,
}) => {
  await fresh(page, 'ball');
  const line = page.locator('[data-add]');
  await line.click();
  const next = page.getByRole('group', { name: 'From Ball' });
  await expect(next.getByRole('option', { name: /^Hollowed body/ })).toBeVisible();
  await expect(next.getByRole('option', { name: /^Sweep/ })).toHaveCount(0);
  await line.fill('square tube');
  await expect(page.getByRole('option').first()).toHaveText(/^Rectangular tube section/);
  await page.keyboard.press('Enter');
  await line.fill('hollow');
  await page.keyboard.press('Enter');
  const hollow = page.locator('[data-step="hollow"]');
  await expect(hollow.getByRole('alert')).toHaveCount(0);
  await hollow.getByRole('button', { name: /^body/ }).click();
  const tube = page.getByRole('menuitemradio', { name: /Box tube/ });
  await expect(tube).toContainText('makes a section; a body is needed');
  await expect(tube).toBeDisabled();
});
