/** What is kept, and what is told where it cannot be. */
import type { Page } from '@playwright/test';
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
    aside.getByRole('button', { name: 'Export what is there' }).click(),
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
    page.getByRole('button', { name: 'Export all designs' }).click(),
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

apart(
  'without a database a design can be made, and it is said that it is not kept',
  LONG,
  async ({ page }) => {
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
    await expect(notSaved(page)).toBeVisible();
    await page.getByRole('link', { name: 'Shelf' }).click();
    await expect(page.locator('[data-design]').first()).toBeVisible();
    await page.locator('[data-design="Untitled"] a').first().click();
    await expect(notSaved(page)).toBeVisible();
    await leaveAsked(page);
  },
);

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

const NOT_SAVED = /^Not saved: the browser's storage is (full|not available|full or not available)$/;
const notSaved = (page: Page) => page.getByRole('status').filter({ hasText: NOT_SAVED });

/** Leaves the page, which asks about it. */
async function leaveAsked(page: Page): Promise<void> {
  const asked = page.waitForEvent('dialog');
  const leaving = page.reload().catch(() => undefined);
  const dialog = await asked;
  expect(dialog.type()).toBe('beforeunload');
  await dialog.accept();
  await leaving;
}

/** Ways in which a browser does not keep what it is given, and what takes them away again. */
const TROUBLES: readonly (readonly [name: string, says: string, begin: () => void, end: () => void])[] = [
  [
    'a full disk',
    'is full',
    () => {
      const { put } = IDBObjectStore.prototype;
      Object.assign(window, { put });
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('full', 'QuotaExceededError');
      };
    },
    () => Object.assign(IDBObjectStore.prototype, { put: (window as unknown as { put: unknown }).put }),
  ],
  [
    'writes that are refused when they are confirmed',
    'is full or not available',
    () => {
      const { put } = IDBObjectStore.prototype;
      Object.assign(window, { put });
      IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...all) {
        const request = put.apply(this, all);
        this.transaction.abort();
        return request;
      };
    },
    () => Object.assign(IDBObjectStore.prototype, { put: (window as unknown as { put: unknown }).put }),
  ],
  [
    'a database that is ended and cannot be opened again',
    'is full or not available',
    () => {
      const { transaction } = IDBDatabase.prototype;
      const { open } = IDBFactory.prototype;
      Object.assign(window, { transaction, open });
      IDBDatabase.prototype.transaction = function (this: IDBDatabase) {
        this.dispatchEvent(new Event('close'));
        throw new DOMException('closing', 'InvalidStateError');
      };
      IDBFactory.prototype.open = () => {
        throw new DOMException('Internal error opening backing store', 'UnknownError');
      };
    },
    () => {
      const kept = window as unknown as { transaction: IDBDatabase['transaction']; open: IDBFactory['open'] };
      IDBDatabase.prototype.transaction = kept.transaction;
      IDBFactory.prototype.open = kept.open;
    },
  ],
];
for (const [name, says, begin, end] of TROUBLES)
  apart(
    `${name}: nothing is said to be saved, leaving is asked about, and it is saved once it can be`,
    name === 'a full disk' ? {} : LONG,
    async ({ page }) => {
      await openDesign(page, 'Press spring');
      await page.evaluate(begin);
      await field(page, 'given.1').fill('3 mm');
      await expect(notSaved(page)).toHaveText(`Not saved: the browser's storage ${says}`);
      // It is tried again, and not said to be saved in between.
      await field(page, 'given.1').fill('4 mm');
      await page.waitForTimeout(4000);
      await expect(notSaved(page)).toBeVisible();
      const [file] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('button', { name: 'Export design' }).click(),
      ]);
      expect(readFileSync(await file.path(), 'utf8')).toContain('"4 mm"');
      await page.evaluate(end);
      await kept(page);
      await page.reload();
      await settled(page);
      await expect(field(page, 'given.1')).toHaveValue('4 mm');
      await page.evaluate(begin);
      await field(page, 'given.1').fill('5 mm');
      await expect(notSaved(page)).toBeVisible();
      await leaveAsked(page);
      // The journal had it: it is kept, and is not said to be before it is.
      await settled(page);
      await expect(field(page, 'given.1')).toHaveValue('5 mm');
      await kept(page);
    },
  );

apart(
  'a database that does not answer at first: what was made meanwhile is saved once it does',
  LONG,
  async ({ page }) => {
    await page.addInitScript(() => {
      const open = IDBFactory.prototype.open;
      const waiting: (() => void)[] = [];
      Object.assign(window, { answer: () => waiting.splice(0).forEach((go) => go()) });
      let silent = !sessionStorage.getItem('answers');
      IDBFactory.prototype.open = function (this: IDBFactory, ...all) {
        if (!silent) return open.apply(this, all);
        const request = new EventTarget() as IDBOpenDBRequest;
        waiting.push(() => {
          silent = false;
          sessionStorage.setItem('answers', 'yes');
          const real = open.apply(this, all);
          for (const type of ['success', 'error', 'upgradeneeded', 'blocked'])
            real.addEventListener(type, (event) => {
              for (const part of ['result', 'transaction'] as const)
                try {
                  Object.defineProperty(request, part, { value: real[part], configurable: true });
                } catch {
                  // It has none yet.
                }
              request.dispatchEvent(new IDBVersionChangeEvent(type, event as IDBVersionChangeEvent));
            });
        });
        return request;
      };
    });
    await page.goto(`/${FAST}`);
    await expect(page.getByRole('alert')).toContainText('Not saved', { timeout: 20_000 });
    await page.getByRole('button', { name: 'New design' }).click();
    await page.locator('[data-add]').fill('spring');
    await page.keyboard.press('Enter');
    await expect(notSaved(page)).toHaveText("Not saved: the browser's storage is not available");
    await page.evaluate(() => (window as unknown as { answer(): void }).answer());
    await kept(page);
    await page.reload();
    await settled(page);
    await expect(field(page, 'round.diameter')).toBeVisible();
  },
);

test('a design that is off the shelf says so, and is put back', LONG, async ({ page, context }) => {
  await openDesign(page, 'Press spring');
  const shelf = await context.newPage();
  await shelf.goto(`/${FAST}`);
  await shelf.getByRole('button', { name: 'More about Press spring' }).click();
  await shelf.getByRole('menuitem', { name: 'Take off the shelf' }).click();
  await expect(page.getByText('This design is off the shelf.')).toBeVisible();
  await page.reload();
  await settled(page);
  await page.getByRole('button', { name: 'Put back on the shelf' }).click();
  await expect(page.getByText('This design is off the shelf.')).toBeHidden();
  await shelf.reload();
  await expect(shelf.locator('[data-design="Press spring"]')).toBeVisible();
});

apart('designs come back where the browser has deleted its damaged database', LONG, async ({ page }) => {
  await openDesign(page, 'Press spring');
  await field(page, 'given.1').fill('3 mm');
  await kept(page);
  const address = page.url();
  // Copies are put a little later.
  await page.waitForTimeout(2500);
  const client = await page.context().newCDPSession(page);
  const lose = async () => {
    await page.goto('/api/health');
    await page.evaluate(() => localStorage.clear());
    await client.send('Storage.clearDataForOrigin', {
      origin: new URL(page.url()).origin,
      storageTypes: 'indexeddb',
    });
  };
  await lose();
  await page.goto(address);
  await settled(page);
  await expect(field(page, 'given.1')).toHaveValue('3 mm');
  await lose();
  await page.goto(`/${FAST}`);
  await expect(page.locator('[data-design="Press spring"]')).toBeVisible();
});
