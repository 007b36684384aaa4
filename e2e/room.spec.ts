/** The part has its room on the stage: under no bar, with its dimensions beside it, and on paper. */
import type { Page } from '@playwright/test';
import { expect, field, fresh, openDesign, test, worked } from './fixture';
import { SHORT } from './runs';

/** Everything but the part and its shadow is taken away, and its ground is green. */
const BARE = `.stage-ground { background: #00ff00 !important; }
.stage-ground > :not(canvas), .stage-ground ~ * { visibility: hidden !important; }
.stage-ground > :not(canvas) * { visibility: hidden !important; }`;

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** How many pixels of the part lie in each of some boxes of the page. */
async function partIn(page: Page, boxes: readonly Box[]): Promise<number[]> {
  const style = await page.addStyleTag({ content: BARE });
  const png = (await page.screenshot()).toString('base64');
  await style.evaluate((one: HTMLStyleElement) => one.remove());
  return page.evaluate(
    async ([file, all]) => {
      const bytes = Uint8Array.from(atob(file), (one) => one.codePointAt(0)!);
      const image = await createImageBitmap(new Blob([bytes]));
      const context = new OffscreenCanvas(image.width, image.height).getContext('2d')!;
      context.drawImage(image, 0, 0);
      return all.map(({ x, y, width, height }) => {
        const { data } = context.getImageData(
          Math.ceil(x),
          Math.ceil(y),
          Math.max(1, Math.floor(width)),
          Math.max(1, Math.floor(height)),
        );
        let part = 0;
        // A shadow on the ground is a darker green.
        for (let i = 0; i < data.length; i += 4) if (data[i]! > 60 || data[i + 2]! > 60) part++;
        return part;
      });
    },
    [png, boxes] as const,
  );
}

const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** The bars and results that lie over the stage. */
async function barsOf(page: Page, ...more: readonly string[]): Promise<Box[]> {
  const bars = [
    page.getByRole('navigation', { name: 'Views' }),
    page.getByRole('complementary', { name: 'Results and findings' }),
    ...more.map((name) => page.getByRole('region', { name })),
  ];
  const boxes = await Promise.all(bars.map((bar) => bar.boundingBox()));
  return boxes.flatMap((box) => box ?? []);
}

const NAMES = SHORT
  ? ['Gate spring', 'Settling manifold']
  : [
      'Gate spring',
      'Settling manifold',
      'Pump wheel',
      'Extractor stand',
      'Swirl jar',
      'Frame basket',
      'Skep cage',
    ];

test('neither the part nor its dimensions and grips lie under bars, from 1024 to 1920 px', async ({
  page,
}) => {
  test.setTimeout(240_000);
  for (const name of NAMES) {
    await openDesign(page, name);
    await worked(page);
    for (const [width, height] of SHORT
      ? [[1024, 700]]
      : [
          [1024, 700],
          [1280, 800],
          [1920, 1080],
        ]) {
      await page.setViewportSize({ width: width!, height: height! });
      await page.getByRole('button', { name: 'Fit', exact: true }).click();
      await page.waitForTimeout(300);
      const bars = await barsOf(page);
      expect(bars.length).toBe(2);
      const says = `${name} at ${width}`;
      expect(await partIn(page, bars), says).toEqual(bars.map(() => 0));
      const stage = (await page.getByLabel('Stage', { exact: true }).boundingBox())!;
      const marks = page.locator('[data-dimension], [data-turn], [data-point], [data-size]');
      for (const mark of await marks.all()) {
        const box = (await mark.boundingBox())!;
        for (const bar of bars) expect(overlap(box, bar), `${says}: a mark under a bar`).toBe(false);
        const { x, y } = box;
        expect(x >= stage.x && y >= stage.y, `${says}: a mark off the stage`).toBe(true);
        expect(x + box.width <= stage.x + stage.width && y + box.height <= stage.y + stage.height).toBe(true);
      }
    }
  }
  await page.setViewportSize({ width: 1280, height: 800 });
});

test('a part that is replayed stands above the bar of the replay, and in the middle again after it', async ({
  page,
}) => {
  await openDesign(page, 'Gate spring');
  await worked(page);
  await page.setViewportSize({ width: 1024, height: 700 });
  const mark = page.locator('[data-dimension]').first();
  const top = async () => (await mark.boundingBox())!.y;
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await page.waitForTimeout(300);
  const before = await top();
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await page.getByRole('menuitem', { name: /Replay/ }).click();
  await page.getByRole('button', { name: 'To the last step' }).click();
  await expect(page.getByRole('region', { name: 'Replay' })).toContainText('4 of 4');
  await worked(page);
  await page.waitForTimeout(300);
  const bars = await barsOf(page, 'Replay');
  expect(bars.length).toBe(3);
  expect(await partIn(page, bars)).toEqual([0, 0, 0]);
  expect(await top()).toBeLessThan(before - 20);
  await page.getByRole('button', { name: 'Close the review' }).click();
  await expect.poll(top).toBeCloseTo(before, 0);
  await page.setViewportSize({ width: 1280, height: 800 });
});

test('a part that outgrows the view is seen whole again, unless the view was set', async ({ page }) => {
  await fresh(page, 'block');
  await worked(page);
  const pane = (await page.getByLabel(/^Space view/).boundingBox())!;
  /** Bands along the edges of the view. */
  const edges = [
    { ...pane, width: 8 },
    { ...pane, x: pane.x + pane.width - 8, width: 8 },
    { ...pane, height: 8 },
    { ...pane, y: pane.y + pane.height - 8, height: 8 },
  ];
  await field(page, 'block.height').fill('160 mm');
  await page.keyboard.press('Enter');
  await worked(page);
  await expect.poll(() => partIn(page, edges)).toEqual([0, 0, 0, 0]);
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  const label = page.locator('[data-dimension]').first();
  const before = (await label.boundingBox())!;
  await field(page, 'block.width').fill('31 mm');
  await page.keyboard.press('Enter');
  await worked(page);
  // A little larger: the view stays as it was set.
  const after = (await label.boundingBox())!;
  expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(40);
});

test('all dimensions and the overall size are shown, none over another', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await worked(page);
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('d');
  await expect(page.locator('[data-overall]')).toHaveCount(3);
  const labels = await page.locator('[data-dimension], [data-overall]').all();
  expect(labels.length).toBeGreaterThan(5);
  const boxes = await Promise.all(labels.map(async (label) => (await label.boundingBox())!));
  boxes.forEach((box, i) =>
    boxes.slice(0, i).forEach((other) => expect(overlap(box, other), 'one label over another').toBe(false)),
  );
  await page.keyboard.press('d');
  await expect(page.locator('[data-overall]')).toHaveCount(0);
});

test('a printed page has the picture, the results, the findings and every sentence', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await worked(page);
  await page.evaluate(() => window.dispatchEvent(new Event('beforeprint')));
  await page.emulateMedia({ media: 'print' });
  const paper = page.getByRole('article', { name: 'Printed page' });
  await expect(paper.getByRole('heading', { name: 'Gate spring' })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Views' })).toBeHidden();
  const picture = paper.getByRole('img', { name: 'The part' });
  const ink = await picture.evaluate(async (img: HTMLImageElement) => {
    await img.decode();
    const canvas = new OffscreenCanvas(img.naturalWidth, img.naturalHeight).getContext('2d')!;
    canvas.drawImage(img, 0, 0);
    const { data } = canvas.getImageData(0, 0, img.naturalWidth, img.naturalHeight);
    let dark = 0;
    for (let i = 0; i < data.length; i += 4) if (data[i]! < 200) dark++;
    return dark / (data.length / 4);
  });
  expect(ink).toBeGreaterThan(0.03);
  await expect(paper.getByText('Rate', { exact: true }).first()).toBeVisible();
  await expect(paper.locator('ol > li')).toHaveCount(4);
  await expect(paper.locator('ul > li').first()).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe('light');
  await page.evaluate(() => window.dispatchEvent(new Event('afterprint')));
  await page.emulateMedia({ media: null });
  await expect(paper).toHaveCount(0);
});
