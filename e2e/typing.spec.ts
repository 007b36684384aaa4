/** Figures as people type them, sizes of the trade, units, and ways out of what cannot be. */
import { kindNamed } from '@nematos/core/design/registry';
import { OFFERS } from '@nematos/core/design/offers';
import { added, choose, expect, field, fresh, result, test, worked } from './fixture';
import { SHORT } from './runs';

test('a decimal comma is read, and a stock size is chosen beside the figure', async ({ page }) => {
  await fresh(page, 'round');
  const diameter = field(page, 'round.diameter');
  await diameter.fill('1,5');
  await page.keyboard.press('Tab');
  await expect(diameter).toHaveValue('1.5 mm');
  await diameter.fill('1,500');
  await expect(page.getByRole('alert')).toContainText('can be 1.500 or 1500');
  await diameter.fill('2');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Stock sizes of the diameter' }).click();
  await page.getByRole('menuitem', { name: /swg\(14\).*British standard wire gauge/ }).click();
  await expect(diameter).toHaveValue('swg(14)');
});

test('units are chosen by quantity, and a bare number has the unit that is shown', async ({ page }) => {
  await fresh(page, 'block');
  await worked(page);
  await expect(result(page, 'mass')).toContainText(/\d\s?g$/);
  await page.getByRole('button', { name: 'Units of other quantities' }).click();
  await page.getByLabel('Mass', { exact: true }).selectOption('lb');
  await page.keyboard.press('Escape');
  await expect(result(page, 'mass')).toContainText(/\d\s?lb$/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(result(page, 'mass')).toContainText(/\d\s?g$/);
});

test('what cannot be made offers what can, by one click', async ({ page }) => {
  await fresh(page, 'tube');
  await field(page, 'tube.wall').fill('7 mm');
  const step = page.locator('[data-step="tube"]');
  await expect(step.getByRole('alert')).toContainText('leaves no bore');
  await step.getByRole('button', { name: 'Set the wall to 5.9 mm' }).click();
  await expect(step.getByRole('alert')).toHaveCount(0);
  await expect(field(page, 'tube.wall')).toHaveValue('5.9 mm');
});

test('what an input can be stands first in its list, each with a picture of its own', async ({ page }) => {
  await fresh(page, 'tube', 'block', 'ball', 'hollow');
  await worked(page);
  await page.locator('[data-step="hollow"]').getByRole('button', { name: /^body/ }).click();
  const lines = page.getByRole('menuitemradio');
  await expect(lines).toContainText(['Block', 'Ball', 'makes a section; a body is needed']);
  const pictures = lines.locator('img');
  await expect(pictures).toHaveCount(2);
  /** What part of each picture the body fills. */
  const drawn = await pictures.evaluateAll((all) =>
    Promise.all(
      (all as HTMLImageElement[]).map(async (image) => {
        await image.decode();
        const { naturalWidth: width, naturalHeight: height } = image;
        const context = new OffscreenCanvas(width, height).getContext('2d')!;
        context.drawImage(image, 0, 0);
        const { data } = context.getImageData(0, 0, width, height);
        let solid = 0;
        for (let i = 3; i < data.length; i += 4) if (data[i]! > 250) solid++;
        return solid / (width * height);
      }),
    ),
  );
  for (const part of drawn) expect(part).toBeGreaterThan(0.05);
  expect(Math.abs(drawn[0]! - drawn[1]!)).toBeGreaterThan(0.01);
});

test('an input is picked on the part', async ({ page }) => {
  await fresh(page, 'block', 'cylinder', 'hollow');
  await worked(page);
  const step = page.locator('[data-step="hollow"]');
  await step.getByRole('button', { name: /^body/ }).click();
  await page.getByRole('menuitem', { name: 'Pick on the part' }).click();
  await expect(page.getByText('Click what Hollowed shall use')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('Click what Hollowed shall use')).toHaveCount(0);
  await choose(page, 'hollow', /^body/, 'Block');
  await worked(page);
  await step.getByRole('button', { name: /^body/ }).click();
  await page.getByRole('menuitem', { name: 'Pick on the part' }).click();
  const box = (await page.getByLabel(/^Space view/).boundingBox())!;
  // The cylinder stands higher than the block.
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(page.getByText('Click what Hollowed shall use')).toHaveCount(0);
  await expect(step.getByRole('button', { name: /^body: Cylinder/ })).toBeVisible();
});

const KINDS = OFFERS.flatMap(({ kind }) => (kind && kind !== 'part-from-file' ? [kind] : []));

test('the cursor stays in a figure while it is typed, whatever comes of it', async ({ page }) => {
  test.setTimeout(600_000);
  const lost: string[] = [];
  for (const kind of SHORT ? ['tube', 'hollow'] : KINDS) {
    await fresh(page);
    // What most of them are made from stands above.
    await added(page, ...(kind === 'tube' ? [] : ['tube', 'helix', 'sweep']));
    await page.locator('[data-add]').fill(kindNamed(kind)!.noun);
    await page.keyboard.press('Enter');
    const places = await page
      .locator('[data-step] [data-place]')
      .evaluateAll((all) => all.map((one) => (one as HTMLElement).dataset.place!));
    const step = places.at(-1)?.split('.')[0];
    for (const place of places.filter((one) => one.startsWith(`${step}.`)).slice(0, 8)) {
      const figure = field(page, place);
      // A change before it may have taken it away.
      if (!(await figure.isVisible())) continue;
      await figure.focus();
      for (const letter of ['1', '2', ' ', 'm', 'm']) {
        await page.keyboard.type(letter);
        const at = await page.evaluate(() => (document.activeElement as HTMLElement | null)?.dataset.place);
        if (at !== place) {
          lost.push(`${place} after “${letter}”`);
          break;
        }
      }
      await page.keyboard.press('Escape');
    }
  }
  expect(lost).toEqual([]);
});
