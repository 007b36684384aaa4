/** The application as tests use it: small pictures, and a guard against requests to anywhere else. */
import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beginHistory } from '@nematos/core/design/history';
import { designSchema, emptyDesign, type Design } from '@nematos/core/design/schema';
import { test as base, expect, type Locator, type Page, type Request } from '@playwright/test';
import { BASE, VIEWPORT } from './chromium';

/** Small and plain pictures: software rendering is slow. */
export const FAST = '?dpr=0.5&aa=0&shadows=0';

/** Tests in a browser of their own: what they do to it could not be undone (pages killed, scripts put in, fingers). */
export const apart = base.extend<{ strays: string[] }>({
  strays: [
    async ({ page }, use) => {
      const strays: string[] = [];
      const request = (made: Request) => {
        const url = made.url();
        if (!url.startsWith(BASE) && !/^(blob|data):/.test(url)) strays.push(url);
      };
      const error = ({ message }: Error) => void strays.push(`error on the page: ${message}`);
      page.on('request', request);
      page.on('pageerror', error);
      await use(strays);
      page.off('request', request);
      page.off('pageerror', error);
      expect(strays, 'requests off the base address, or errors').toEqual([]);
    },
    { auto: true },
  ],
});

/**
 * Tests one after another in one tab, as a reader has it open all day: what the last one made is kept in it, and is not seen,
 * unless a test begins on the shelf, which is emptied for it. An application that is under way opens a design in a third of the
 * time.
 */
export const test = apart.extend<object, { tab: { page?: Page; open: () => Promise<Page> } }>({
  tab: [
    async ({ browser }, use) => {
      const open = async () => (await browser.newContext({ baseURL: BASE, viewport: VIEWPORT })).newPage();
      await use({ open });
    },
    { scope: 'worker' },
  ],
  context: async ({ tab }, use) => {
    tab.page ??= await tab.open();
    await use(tab.page.context());
  },
  page: async ({ tab, context }, use, info) => {
    const page = tab.page!;
    for (const other of context.pages()) if (other !== page) await other.close();
    await page.mouse.move(0, 0);
    await page.emulateMedia({ colorScheme: null, reducedMotion: null });
    await use(page);
    if (info.status === info.expectedStatus) {
      await leaveDesign(page);
      return;
    }
    await context.close();
    delete tab.page;
  },
});

/** Goes on to another address without reading the application again. */
const goWithin = (page: Page, address: string): Promise<void> =>
  page.evaluate((to) => {
    history.pushState({}, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, address);

/** Leaves what is open, and what is still worked at for it; whether the application runs on. */
async function leaveDesign(page: Page): Promise<boolean> {
  const runs = await page.evaluate(() => document.querySelector('#root')?.hasChildNodes() ?? false);
  if (!runs) return false;
  await goWithin(page, '/nowhere');
  await page.getByText('There is nothing here').waitFor();
  return true;
}

/** Leaves the application, and takes away all that it kept. */
export async function emptied(page: Page): Promise<void> {
  await page.goto(`${BASE}/api/health`);
  await page.evaluate(() => sessionStorage.clear());
  const client = await page.context().newCDPSession(page);
  await client.send('Storage.clearDataForOrigin', { origin: BASE, storageTypes: 'all' });
  await client.detach();
}
export { expect };

/** Opens the shelf as the first visit finds it. */
export async function openShelf(page: Page): Promise<void> {
  await emptied(page);
  await onShelf(page);
}

/** Opens a shelf with no more than these demo designs: pictures of all others need not be drawn. */
export async function openSmallShelf(page: Page, ...names: readonly string[]): Promise<void> {
  await emptied(page);
  await put(page, names.map(demo));
  await onShelf(page);
}

async function onShelf(page: Page): Promise<void> {
  await page.goto(`/${FAST}`);
  await expect(page.locator('[data-design]').first()).toBeVisible();
}

/** Opens a demo design, in its fast dress, and waits for its picture. The shelf has tests of its own: it is not waited for. */
export async function openDesign(page: Page, name: string): Promise<void> {
  await openKept(page, demo(name));
  await settled(page);
}

const FOLDER = join(import.meta.dirname, '../demo');
// Not by what reads designs from anywhere: that knows every kind, and takes all of the core with it.
const DEMO = readdirSync(FOLDER).map((file) =>
  designSchema.parse(JSON.parse(readFileSync(join(FOLDER, file), 'utf8'))),
);
/** As many designs as the first visit finds on the shelf. */
export const DESIGNS = DEMO.length;

function demo(name: string): Design {
  const design = DEMO.find((one) => one.name === name);
  if (!design) throw new Error(`no demo design is called ${name}`);
  return design;
}

/** Puts a design into the browser, and opens it. */
async function openKept(page: Page, design: Design): Promise<void> {
  const underWay = await leaveDesign(page);
  // Any page of the same origin will do.
  if (!underWay) await page.goto('/api/health');
  const [id] = await put(page, [design]);
  const address = `/d/${id}${FAST}`;
  if (underWay) await goWithin(page, address);
  else await page.goto(address);
}

/**
 * Puts designs into the browser, as the first release kept them where nothing is kept yet, the first one uppermost on the shelf;
 * no others are put there at the first visit.
 */
async function put(page: Page, designs: readonly Design[]): Promise<string[]> {
  const now = Date.now();
  const all = designs.map((design, i) => ({
    id: randomUUID(),
    history: beginHistory(design),
    view: {},
    created: now - i,
    changed: now - i,
  }));
  await page.evaluate(
    (kept) =>
      new Promise<void>((resolve, reject) => {
        const opening = indexedDB.open('nematos');
        opening.onupgradeneeded = () => {
          opening.result.createObjectStore('designs', { keyPath: 'id' });
          opening.result.createObjectStore('pictures');
          opening.result.createObjectStore('settings');
        };
        opening.onerror = () => reject(opening.error);
        opening.onsuccess = () => {
          const writing = opening.result.transaction(['designs', 'settings'], 'readwrite');
          const store = writing.objectStore('designs');
          for (const one of kept) store.put(one, store.keyPath === null ? one.id : undefined);
          writing.objectStore('settings').put(true, 'demo');
          writing.onerror = () => reject(writing.error);
          writing.oncomplete = () => {
            opening.result.close();
            resolve();
          };
        };
      }),
    all,
  );
  return all.map(({ id }) => id);
}

/** Waits until the stage has drawn and the findings are there. */
export async function settled(page: Page): Promise<void> {
  await expect(page.locator('canvas[data-engine]')).toBeVisible();
  await expect(page.locator('[data-finding]').first()).toBeVisible();
}

/** Waits until all is there that the last edit changes: figures, findings and the fine picture. */
export const worked = (page: Page): Promise<void> =>
  expect(page.getByLabel('Stage', { exact: true })).toHaveAttribute('aria-busy', 'false');

/** What is read once all is there that the last edit changes, and it stays as it is: pictures follow a little later. */
export async function steady<T>(page: Page, read: () => Promise<T>): Promise<T> {
  await worked(page);
  for (let last = await read(); ;) {
    await page.waitForTimeout(500);
    const now = await read();
    if (JSON.stringify(now) === JSON.stringify(last)) return now;
    last = now;
  }
}

export const field = (page: Page, place: string): Locator => page.locator(`[data-place="${place}"]`);
/** A result of the first body of the part. */
export const result = (page: Page, name: string): Locator =>
  page.locator(`[data-result="${name}"] dd`).first();
/** A result as it reads once it no longer changes: while newer figures are awaited, the last ones stand there. */
export async function settledResult(page: Page, name: string): Promise<string> {
  await worked(page);
  return result(page, name).innerText();
}
export const finding = (page: Page, name: string): Locator => page.locator(`[data-finding="${name}"]`);
/** Waits until the last edit is in the database. */
export const kept = (page: Page): Promise<void> =>
  expect(page.getByText('Saved', { exact: true })).toBeVisible();

/** Begins a new design with steps of these kinds, each found by its name. */
export async function fresh(page: Page, ...kinds: string[]): Promise<void> {
  await openKept(page, emptyDesign('Untitled'));
  await added(page, ...kinds);
}

/** Adds steps of these kinds. */
export async function added(page: Page, ...kinds: string[]): Promise<void> {
  const add = page.locator('[data-add]');
  for (const kind of kinds) {
    await add.fill(kind);
    await add.press('Enter');
  }
}

/** Chooses another word in the sentence of a step. */
export async function choose(page: Page, step: string, name: RegExp, option: string): Promise<void> {
  await page.locator(`[data-step="${step}"]`).getByRole('button', { name }).click();
  await page.getByRole('menuitemradio', { name: option, exact: true }).click();
}
