/** The help page: found from anywhere, searchable, made from what the program knows. */
import { expect, fresh, openSmallShelf, test } from './fixture';

test('help opens by its key and its sign, is searched, and leads back to the same design', async ({
  page,
}) => {
  await fresh(page, 'ball');
  const address = page.url();
  await page.locator('body').click({ position: { x: 700, y: 300 } });
  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Help', exact: true })).toBeVisible();
  const search = page.getByLabel('Search the help');
  await expect(search).toBeFocused();
  // Its address can be opened by itself.
  await page.reload();
  await search.fill('music gauge');
  await expect(page.getByText('Music wire gauge')).toBeVisible();
  await expect(page.getByRole('term')).toHaveCount(1);
  await search.fill('lbf');
  await expect(page.getByText('Units of force')).toBeVisible();
  await search.fill('winding strands');
  const winding = page.getByRole('region', { name: 'Steps: paths' });
  await expect(winding.getByRole('term')).toHaveText('Winding');
  await expect(winding).toContainText('Needs path.');
  // A question mark is typed where something is written.
  await search.fill('');
  await search.press('?');
  await expect(search).toHaveValue('?');
  await search.fill('no such word');
  await expect(page.getByRole('status')).toContainText('Nothing matches “no such word”');
  await page.getByRole('button', { name: 'Back' }).click();
  await expect(page).toHaveURL(address);
  await openSmallShelf(page, 'Gate spring');
  await page.getByRole('link', { name: 'Help' }).click();
  await expect(page.getByRole('region', { name: 'Terms' })).toContainText('Worksheet');
});
