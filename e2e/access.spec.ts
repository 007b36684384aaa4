import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, field, finding, openDesign, openSmallShelf, settled, test } from './fixture';
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

test('nothing is out of reach, on a light page and on a dark one', async ({ page }) => {
  test.setTimeout(300_000);
  await openSmallShelf(page, 'Gate spring', 'Lid clasp', 'Show ribbon');
  const seen = async (where: string, ...schemes: readonly ('light' | 'dark')[]) => {
    for (const scheme of schemes) expect(await violations(page, scheme), `${where}, ${scheme}`).toEqual([]);
  };
  const whole = (where: string) => seen(where, 'light', 'dark');
  // What looks much like the rest has the colours of the rest.
  const alike = (where: string) => seen(where, 'light', ...(SHORT ? [] : (['dark'] as const)));
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
