/** What is kept, and what is told where it cannot be. */
import { readFileSync } from 'node:fs';
import { apart, expect, FAST, field, kept, openDesign, openSmallShelf, settled, test } from './fixture';
import { LONG, SHORT } from './runs';

/** Changes the record of a design where the browser has it. */
const damage = (name: string) =>
  new Promise<void>((resolve, reject) => {
    const opening = indexedDB.open('nematos');
    opening.onerror = () => reject(opening.error!);
    opening.onsuccess = () => {
      const store = opening.result.transaction('designs', 'readwrite').objectStore('designs');
      const all = store.openCursor();
      all.onsuccess = () => {
        const cursor = all.result;
        if (!cursor) return resolve(opening.result.close());
        if (cursor.value.history.present.name === name) {
          cursor.value.history.present.steps[0].set = 'broken';
          cursor.update(cursor.value);
        }
        cursor.continue();
      };
    };
  });

test('a damaged design is set aside by its name, and the rest of the shelf stands', async ({ page }) => {
  await openSmallShelf(page, 'Gate spring', 'Lid clasp');
  await page.evaluate(damage, 'Gate spring');
  await page.reload();
  const aside = page.getByRole('region', { name: 'Could not be read' });
  await expect(aside).toContainText('Gate spring: damaged at steps → 0 → set');
  await expect(page.locator('[data-design]')).toHaveCount(1);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    aside.getByRole('button', { name: 'Send out what is there' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('gate-spring-damaged.json');
  expect(readFileSync(await file.path(), 'utf8')).toContain('"broken"');
  await aside.getByRole('button', { name: 'Take away' }).click();
  await expect(aside).toHaveCount(0);
});

test('a shelf goes out as one file, and comes in again', async ({ page }) => {
  await openSmallShelf(page, 'Gate spring', 'Lid clasp', 'Show ribbon');
  await expect(page.locator('[data-design]')).toHaveCount(3);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Send out the shelf' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('nematos-shelf.zip');
  await page.getByTestId('take-in').setInputFiles(
    await file.path().then((path) => ({
      name: 'shelf.zip',
      mimeType: 'application/zip',
      buffer: readFileSync(path),
    })),
  );
  await expect(page.locator('[data-design]')).toHaveCount(6);
});

apart('without room for short texts everything works, and is kept', LONG, async ({ page }) => {
  await page.addInitScript(() => {
    Object.defineProperty(window, 'localStorage', {
      get() {
        throw new DOMException('blocked', 'SecurityError');
      },
    });
  });
  await openDesign(page, 'Press spring');
  await field(page, 'given.1').fill('3 mm');
  await kept(page);
  await page.reload();
  await settled(page);
  await expect(field(page, 'given.1')).toHaveValue('3 mm');
});

apart('without a database a design can be made, and it is said that it is not kept', async ({ page }) => {
  await page.addInitScript(() => {
    Object.defineProperty(window, 'indexedDB', { value: undefined });
  });
  await page.goto(`/${FAST}`);
  await expect(page.getByRole('alert')).toContainText('gone when this tab is closed');
  await page.getByRole('button', { name: 'New design' }).click();
  await expect(page.locator('[data-add]')).toBeFocused();
  await page.keyboard.type('spring');
  await page.keyboard.press('Enter');
  await expect(field(page, 'round.diameter')).toBeFocused();
  await page.getByRole('link', { name: 'Shelf' }).click();
  await expect(page.locator('[data-design]').first()).toBeVisible();
});

apart('two tabs that change different figures at once keep both', async ({ page, context }) => {
  await openDesign(page, 'Press spring');
  const other = await context.newPage();
  await other.goto(page.url());
  await settled(other);
  for (let round = 0; round < (SHORT ? 1 : 6); round++) {
    const [mine, theirs] = [`${2 + round / 10} mm`, `${30 + round} mm`];
    await Promise.all([field(page, 'given.1').fill(mine), field(other, 'given.2').fill(theirs)]);
    for (const tab of [page, other]) {
      await kept(tab);
      await expect(field(tab, 'given.1')).toHaveValue(mine);
      await expect(field(tab, 'given.2')).toHaveValue(theirs);
    }
  }
});

test('a full disk is told at once, and leaving is asked about', async ({ page }) => {
  await openDesign(page, 'Press spring');
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  await field(page, 'given.1').fill('3 mm');
  await expect(page.getByRole('status').filter({ hasText: 'Not kept' })).toBeVisible();
  const asked = page.waitForEvent('dialog');
  const leaving = page.reload().catch(() => undefined);
  const dialog = await asked;
  expect(dialog.type()).toBe('beforeunload');
  await dialog.accept();
  await leaving;
  // There is room again: what the journal had is kept, and is not said to be before it is.
  await settled(page);
  await expect(field(page, 'given.1')).toHaveValue('3 mm');
  await kept(page);
});
