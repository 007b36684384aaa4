/** Notes on a design, on a step and on a place of the part, also from somebody who only reads it. */
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { expect, fresh, kept, test, worked } from './fixture';

const panel = (page: Page) => page.getByRole('region', { name: 'Notes', exact: true });

/** The middle of the space view, where the part is. */
async function clickPart(page: Page): Promise<void> {
  const box = (await page.getByLabel(/^Space view/).boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
}

test('notes are written, pinned to the part, sent back by a reviewer and taken over', async ({ page }) => {
  await fresh(page, 'ball');
  await worked(page);
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('n');
  await panel(page).getByRole('button', { name: 'Note on the design' }).click();
  await page.keyboard.type('Who makes it?');
  await panel(page).getByRole('button', { name: 'Note on Ball' }).click();
  await page.keyboard.type('Of brass?');
  await panel(page).getByRole('button', { name: 'Note on a place' }).click();
  await expect(page.getByText('Click the place that the note is about')).toBeVisible();
  await clickPart(page);
  await page.keyboard.type('Polish here.');
  await expect(page.locator('[data-note-pin]')).toHaveCount(1);
  await expect(page.getByRole('button', { name: 'Notes (3)' })).toBeVisible();
  await kept(page);
  await page.reload();
  await expect(panel(page).locator('textarea')).toHaveCount(3);
  await expect(panel(page).getByLabel('Text of note 3')).toHaveValue('Polish here.');
  const address = page.url();

  // A reviewer reads it by its link, adds a note and sends the file back.
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('button', { name: /Copy review link/ }).click();
  const link = await page.getByLabel('Address of the review').inputValue();
  await page.goto(link);
  await expect(page.getByText('Read only')).toBeVisible();
  await page.getByRole('button', { name: 'Notes (3)' }).click();
  await panel(page).getByLabel('Your name').fill('Ada');
  await panel(page).getByRole('button', { name: 'Note on the design' }).click();
  await page.keyboard.type('Ready to be made.');
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /The design, JSON/ }).click();
  const buffer = await readFile((await (await download).path())!);

  await page.goto(address);
  await expect(panel(page).locator('textarea')).toHaveCount(3);
  await panel(page)
    .getByLabel('File with notes')
    .setInputFiles({ name: 'back.json', mimeType: 'application/json', buffer });
  await expect(panel(page).getByRole('status')).toHaveText('1 note imported');
  await expect(panel(page).getByLabel('Text of note 4')).toHaveValue('Ready to be made.');
  await expect(panel(page).getByText(/^Ada, 20\d\d-/)).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(panel(page).locator('textarea')).toHaveCount(3);
});
