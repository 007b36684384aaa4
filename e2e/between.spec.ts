/** Bodies of different steps: overlaps are told, may be allowed, and a least gap may be wanted. */
import { added, expect, field, finding, fresh, test } from './fixture';

test('bodies that overlap are told, led to and allowed; a gap that is too narrow is told', async ({
  page,
}) => {
  await fresh(page, 'ball', 'ring');
  await field(page, 'ring.inner').fill('30 mm');
  await field(page, 'ball.diameter').fill('31 mm');
  const overlap = page.locator('[data-finding^="overlap"]');
  await expect(overlap).toContainText('Ball and Ring overlap');
  await expect(overlap).toHaveAttribute('data-level', 'note');
  await expect(overlap).toContainText(/They share about \d+(\.\d+)?\s?mm³/);
  // A click leads to the place.
  await overlap.getByRole('button', { name: 'Ball and Ring overlap' }).click();
  await expect(page.locator('[aria-pressed=true]').filter({ hasText: 'overlap' })).toBeVisible();
  await overlap.getByRole('button', { name: 'Allow this' }).click();
  await expect(overlap).toHaveCount(0);
  const allowed = page.getByRole('list', { name: 'Bodies that may meet' });
  await expect(allowed).toContainText('Ball and Ring may overlap');
  await page.keyboard.press('Control+z');
  await expect(overlap).toBeVisible();
  await expect(allowed).toBeHidden();
  await overlap.getByRole('button', { name: 'Allow this' }).click();
  await allowed.getByRole('button', { name: 'Check Ball and Ring again' }).click();
  await expect(overlap).toBeVisible();
  await field(page, 'ball.diameter').fill('28 mm');
  await expect(page.locator('[data-finding^="apart"]')).toContainText(/are about 1\s?mm apart/);
  const wanted = page.getByLabel('Least gap wanted between bodies');
  await wanted.fill('much');
  await wanted.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'much' })).toBeVisible();
  await wanted.fill('1.5 mm');
  await wanted.press('Enter');
  const near = page.locator('[data-finding^="near"]');
  await expect(near).toContainText(/At least 1.5\s?mm is wanted/);
  await expect(near).toHaveAttribute('data-level', 'fault');
  await added(page, 'add');
  await expect(near).toHaveCount(0);
  await expect(finding(page, 'near ball')).toHaveCount(0);
});
