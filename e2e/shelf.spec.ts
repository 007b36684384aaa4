import { writeFile } from 'node:fs/promises';
import { VIEWPORT } from './chromium';
import { apart, DESIGNS, expect, openShelf, openSmallShelf, test } from './fixture';
import { LONG } from './runs';

test('the first visit finds the designs of the honey house, with their pictures', async ({ page }) => {
  test.setTimeout(300_000);
  // On a small page few are in sight.
  await page.setViewportSize({ width: 640, height: 300 });
  await openShelf(page);
  await expect(page.locator('[data-design]')).toHaveCount(DESIGNS);
  // Pictures are drawn one after another, of what is in sight or within a screen of it.
  const cards = page.locator('[data-design]');
  const main = (await page.locator('main').boundingBox())!;
  const near = await cards.evaluateAll(
    (all, end) => all.filter((one) => one.getBoundingClientRect().top < end).length,
    main.y + 2 * main.height,
  );
  await expect(cards.locator('img')).toHaveCount(near, { timeout: 120_000 });
  await cards.last().scrollIntoViewIfNeeded();
  await expect(cards.last().locator('img')).toBeVisible({ timeout: 120_000 });
  // What was passed over on the way has none.
  await expect(cards.nth(near).locator('img')).toHaveCount(0);
  await expect(cards.first().locator('img')).toHaveCount(1);
  await page.setViewportSize(VIEWPORT);
});

test('designs are found by their words and put in order, also after a reload', async ({ page }) => {
  await openSmallShelf(page, 'Nest spring', 'Lid clasp', 'Show ribbon');
  const names = () =>
    page.locator('[data-design]').evaluateAll((all) => all.map((one) => one.getAttribute('data-design')));
  await page.getByRole('button', { name: /^Sort by/ }).click();
  await page.getByRole('menuitemradio', { name: 'name' }).click();
  await expect.poll(names).toEqual(['Lid clasp', 'Nest spring', 'Show ribbon']);
  const find = page.getByRole('searchbox', { name: 'Find a design' });
  await find.fill('ribb');
  await expect.poll(names).toEqual(['Show ribbon']);
  await expect(page.getByRole('status').filter({ hasText: '1 design found' })).toBeVisible();
  await page.reload();
  await expect.poll(names).toEqual(['Show ribbon']);
  await find.fill('no such thing');
  await expect(page.getByText('No design matches. Use fewer words.')).toBeVisible();
  await find.fill('');
  await expect.poll(names).toEqual(['Lid clasp', 'Nest spring', 'Show ribbon']);
});

test('designs are named, copied, taken off and put back', async ({ page }) => {
  await openSmallShelf(page, 'Nest spring', 'Lid clasp');
  const act = async (name: string, action: string) => {
    await page.getByRole('button', { name: `More about ${name}` }).click();
    await page.getByRole('menuitem', { name: action }).click();
  };
  await act('Nest spring', 'Duplicate');
  await expect(page.locator('[data-design="Nest spring copy"]')).toBeVisible();
  await act('Nest spring copy', 'Rename');
  await page.getByLabel('Name of the design').fill('Soft bumper');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-design="Soft bumper"]')).toBeVisible();
  await act('Soft bumper', 'Take off the shelf');
  await expect(page.locator('[data-design="Soft bumper"]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-design="Soft bumper"]')).toBeVisible();
  await act('Soft bumper', 'Take off the shelf');
  await expect(page.locator('[data-design]')).toHaveCount(2);
  await page.reload();
  await page.getByRole('button', { name: 'Put back' }).click();
  await expect(page.locator('[data-design="Soft bumper"]')).toBeVisible();
});

test('files that are no designs are refused in one sentence each, and good ones are taken in', async ({
  page,
}, info) => {
  await openSmallShelf(page, 'Lid clasp');
  const good = JSON.stringify({
    format: 'nematos-design',
    version: 1,
    name: 'From a file',
    unit: 'mm',
    givens: [],
    steps: [{ id: 'w', kind: 'round', set: { diameter: '3 mm' } }],
  });
  const large = info.outputPath('large.json');
  await writeFile(large, Buffer.alloc(120 * 1024 * 1024, ' '));
  const file = (name: string, text: string) => ({
    name,
    mimeType: 'application/json',
    buffer: Buffer.from(text),
  });
  await page
    .getByTestId('take-in')
    .setInputFiles([
      file('cut.json', good.slice(0, 60)),
      file('map.json', '{"type":"Topology"}'),
      file('new.json', good.replace('"version":1', '"version":7')),
      file('good.json', good),
    ]);
  await expect(page.getByText('cut.json: The file is not valid JSON. Line')).toBeVisible();
  await expect(page.getByText('map.json: The file is JSON, but not a Nematos design.')).toBeVisible();
  await expect(page.getByText(/new\.json: The file is of version 7/)).toBeVisible();
  await expect(page.locator('[data-design="From a file"]')).toBeVisible();
  // An outline becomes a design whose section it is.
  const plate =
    '<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="12mm" viewBox="0 0 30 12"><path d="M0 0L30 0L30 12L0 12Z"/></svg>';
  await page.getByTestId('take-in').setInputFiles([file('Lid plate.svg', plate)]);
  await expect(page.locator('[data-design="Lid plate"]')).toBeVisible();
  await page.getByTestId('take-in').setInputFiles(large);
  await expect(page.getByText('large.json: The file has 120 MB; a design has at most 50 MB.')).toBeVisible();
});

test('a file can be dropped', async ({ page }) => {
  await openSmallShelf(page, 'Lid clasp');
  const data = await page.evaluateHandle(() => {
    const transfer = new DataTransfer();
    transfer.items.add(new File(['solid'], 'part.stl'));
    return transfer;
  });
  await page.locator('main').dispatchEvent('drop', { dataTransfer: data });
  await expect(page.getByText(/part\.stl: .*STL/)).toBeVisible();
});

apart(
  'a file that is still being read can be cancelled, and is given up after 15 seconds',
  LONG,
  async ({ page }) => {
    await openSmallShelf(page, 'Lid clasp');
    // The reader never comes: as if it read without end.
    await page.route(/\/assets\/reading-[^/]*\.js$/, () => undefined);
    const file = (name: string) => ({ name, mimeType: 'application/json', buffer: Buffer.from('{}') });
    const chooser = page.getByTestId('take-in');
    await chooser.setInputFiles(file('endless.json'));
    const reading = page.getByRole('status').filter({ hasText: 'Reading endless.json' });
    await expect(reading).toBeVisible();
    // The page goes on meanwhile.
    await page.getByRole('button', { name: 'More about Lid clasp' }).click();
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Cancel' }).click();
    await expect(reading).toHaveCount(0);
    await expect(page.getByRole('alert').filter({ hasText: 'endless' })).toHaveCount(0);
    await chooser.setInputFiles(file('longer.json'));
    await expect(
      page.getByText('longer.json: Reading longer.json took longer than 15 s and was stopped.'),
    ).toBeVisible();
    await page.unroute(/\/assets\/reading-[^/]*\.js$/);
    await chooser.setInputFiles(file('short.json'));
    await expect(page.getByText('short.json: The file is JSON, but not a Nematos design.')).toBeVisible();
  },
);
