import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { added, expect, field, finding, fresh, openDesign, openSmallShelf, settled, test } from './fixture';
import { SHORT } from './runs';

/** What the rules of WCAG 2 A and AA find wrong; of a page that was looked at light, what its dark colours change. */
async function violations(page: Page, colorScheme: 'light' | 'dark'): Promise<string[]> {
  await page.emulateMedia({ colorScheme });
  // Colours pass into each other.
  await page.waitForFunction(() =>
    document.getAnimations().every(({ playState }) => playState !== 'running'),
  );
  // There is one frame: the page itself is told at once.
  // And of what is as it should be, nothing is listed.
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  const found = await (
    colorScheme === 'dark' ? axe.withRules(['color-contrast']) : axe.withTags(['wcag2a', 'wcag2aa'])
  ).analyze();
  return found.violations.map(
    ({ id, nodes }) => `${id}: ${nodes.map((node) => node.target.join(' ')).join(' | ')}`,
  );
}

/** Looks a page through: light and dark, or where it looks much like the rest, light alone in the short run. */
function lookingAt(page: Page) {
  const seen = async (where: string, ...schemes: readonly ('light' | 'dark')[]) => {
    for (const scheme of schemes) expect(await violations(page, scheme), `${where}, ${scheme}`).toEqual([]);
  };
  return {
    whole: (where: string) => seen(where, 'light', 'dark'),
    alike: (where: string) => seen(where, 'light', ...(SHORT ? [] : (['dark'] as const))),
  };
}

test('nothing is out of reach before anything is made, in help, menus, notes and lists', async ({ page }) => {
  test.setTimeout(300_000);
  const { whole, alike } = lookingAt(page);
  await fresh(page);
  await page.getByRole('region', { name: 'Ready-made beginnings' }).waitFor();
  await alike('the gallery');
  await page.locator('[data-add]').click();
  await page.getByRole('option').first().waitFor();
  await alike('what can be added');
  await page.keyboard.press('Escape');
  await added(page, 'tube');
  await field(page, 'tube.wall').fill('7 mm');
  await page.getByRole('button', { name: 'Set the wall to 5.9 mm' }).waitFor();
  await alike('a way out');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Notes', exact: true }).click();
  await page.getByRole('button', { name: 'Note on the design' }).click();
  await alike('notes');
  await page.getByRole('button', { name: 'Units of other quantities' }).click();
  await alike('units');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Export' }).click();
  await alike('the export menu');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: /^Help/ }).click();
  await page.getByRole('heading', { level: 1 }).waitFor();
  await whole('help');
  await openSmallShelf(page, 'Gate spring', 'Lid clasp');
  await page.getByRole('button', { name: 'List' }).click();
  await alike('the shelf as a list');
});

test('nothing is out of reach, on a light page and on a dark one', async ({ page }) => {
  test.setTimeout(300_000);
  await openSmallShelf(page, 'Gate spring', 'Lid clasp', 'Show ribbon');
  const { whole, alike } = lookingAt(page);
  await whole('shelf');
  await openDesign(page, 'Gate spring');
  await settled(page);
  await alike('workbench');
  const act = (name: string) => page.getByRole('button', { name, exact: true }).click();
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('6');
  await page.getByLabel('Cut open', { exact: true }).waitFor();
  await page.keyboard.press('7');
  await page.keyboard.press('m');
  for (const which of ['start', 'end']) {
    await act('a place by name');
    await page.getByRole('menuitem', { name: `Spring, its ${which}` }).click();
  }
  await act('Keep on the sheet: centre to centre');
  await act('nothing wanted');
  await expect(finding(page, 'wanted')).toBeVisible();
  await act('Spread');
  await page.locator('[data-spread]').waitFor();
  await whole('opened, measured and spread');
  await page.getByRole('button', { name: 'Fold the charts away' }).click();
  await act('Look');
  await page.getByRole('menuitem', { name: /Replay/ }).click();
  if (!SHORT) await whole('replayed');
  await act('Close the review');
  await act('Look');
  await page.getByRole('menuitem', { name: /Step list/ }).click();
  await page.getByLabel('Step list', { exact: true }).waitFor();
  if (!SHORT) await whole('listed');
  await act('Back to the sheet');
  await act('Variants');
  await page.getByRole('menuitem', { name: 'Compare' }).click();
  await page.locator('[data-compared=mass]').nth(2).waitFor();
  await alike('compared');
  await act('Back to the sheet');
  await field(page, 'coil.turns').fill('19 what');
  await expect(page.getByRole('alert').first()).toBeVisible();
  await alike('a mistake');
});
