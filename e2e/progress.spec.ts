/** What is calculated is told, and can be stopped; what is out of date looks so. */
import { expect, field, openSmallShelf, result, test, worked } from './fixture';

test('a long calculation is told where it is, and stopped; results out of date are marked', async ({
  page,
}) => {
  await openSmallShelf(page, 'Pump wheel');
  await page.getByLabel('Open Pump wheel').click();
  const told = page.locator('[data-calculating]');
  await expect(told).toContainText(/Calculating the .+ \d+ s/);
  await expect(told).toContainText(/Wheel, rooted, step 4 of 4/);
  await expect(page.locator('[data-step=rooted] [data-calculating-step]')).toContainText(/shape, \d+ s/);
  await told.getByRole('button', { name: 'Stop' }).click();
  await expect(told).toContainText('Stopped before the end');
  await expect(page.locator('section[aria-label=Stage]')).toHaveAttribute('aria-busy', 'false');
  await expect(page.locator('[data-calculating-step]')).toHaveCount(0);
  // Any edit goes on; a smaller wheel is soon done.
  await field(page, 'blades.copies').fill('1');
  await worked(page);
  await expect(told).toHaveCount(0);
  const closed = page.locator('[data-finding=closed]');
  await expect(closed).toHaveAttribute('data-level', 'good');
  await expect(closed.locator('title')).toHaveText('good');
  const mass = await result(page, 'mass').textContent();
  await field(page, 'blades.copies').fill('12');
  await expect(closed.locator('title')).toHaveText('not up to date');
  await told.getByRole('button', { name: 'Stop' }).click();
  await expect(told).toContainText('Stopped before the end');
  await expect(closed.locator('title')).toHaveText('not up to date');
  await expect(page.locator('[data-result=mass]').first()).toHaveAttribute('data-awaited', 'true');
  await expect(result(page, 'mass')).toHaveText(mass!);
  await field(page, 'blades.copies').fill('1');
  await worked(page);
  await expect(closed.locator('title')).toHaveText('good');
});
