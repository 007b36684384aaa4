/** What is calculated is told, and can be stopped; what is out of date looks so. */
import { expect, field, openSmallShelf, result, test, worked } from './fixture';

test('the sheet keeps its width and the stage its picture while it is told what is calculated', async ({
  page,
}) => {
  await page.addInitScript(() => {
    const seen = { empty: 0, sizes: new Set<number>() };
    Object.assign(window, { seen });
    let sized = false;
    const known = Object.getOwnPropertyDescriptor(HTMLCanvasElement.prototype, 'width')!;
    Object.defineProperty(HTMLCanvasElement.prototype, 'width', {
      ...known,
      set(this: HTMLCanvasElement, to: number) {
        sized ||= this.isConnected && this.closest('section[aria-label=Stage]') !== null;
        known.set!.call(this, to);
      },
    });
    const { drawElements } = WebGL2RenderingContext.prototype;
    WebGL2RenderingContext.prototype.drawElements = function (...asked) {
      sized = false;
      drawElements.apply(this, asked);
    };
    // Comes before what is asked for when the page is laid out: a size that was not drawn by then was shown empty.
    const look = () => {
      if (sized) seen.empty++;
      const sheet = document.querySelector('main > fieldset');
      if (sheet && document.querySelector('[data-calculating-step]'))
        seen.sizes.add(sheet.getBoundingClientRect().width);
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  await openSmallShelf(page, 'Scalloped honey pot');
  await page.getByLabel('Open Scalloped honey pot').click();
  await worked(page);
  const seen = () =>
    page.evaluate(() => {
      const { empty, sizes } = (window as unknown as { seen: { empty: number; sizes: Set<number> } }).seen;
      return { empty, sizes: [...sizes] };
    });
  const { empty, sizes } = await seen();
  expect(sizes).toHaveLength(1);
  const edge = page.getByRole('separator', { name: 'Width of the sheet' });
  await edge.focus();
  for (let i = 0; i < 5; i++) await edge.press('ArrowRight');
  await expect
    .poll(async () => (await page.locator('main > fieldset').boundingBox())!.width)
    .not.toBe(sizes[0]);
  expect((await seen()).empty).toBe(empty);
});

test('a long calculation is told where it is, and stopped; results out of date are marked', async ({
  page,
}) => {
  await openSmallShelf(page, 'Pump wheel');
  await page.getByLabel('Open Pump wheel').click();
  const told = page.locator('[data-calculating]');
  await expect(told).toContainText(/Calculating the .+ \d+ s/);
  await expect(told).toContainText(/Wheel, rooted, step 4 of 4/);
  await expect(page.locator('[data-step=rooted] [data-calculating-step]')).toContainText(/shape, \d+ s/);
  await told.getByRole('button', { name: 'Stop' }).click();
  await expect(told).toContainText('Stopped before the end');
  await expect(page.locator('section[aria-label=Stage]')).toHaveAttribute('aria-busy', 'false');
  await expect(page.locator('[data-calculating-step]')).toHaveCount(0);
  // Any edit goes on; a smaller wheel is soon done.
  await field(page, 'blades.copies').fill('1');
  await worked(page);
  await expect(told).toHaveCount(0);
  const closed = page.locator('[data-finding=closed]');
  await expect(closed).toHaveAttribute('data-level', 'good');
  await expect(closed.locator('title')).toHaveText('good');
  const mass = await result(page, 'mass').textContent();
  await field(page, 'blades.copies').fill('12');
  await expect(closed.locator('title')).toHaveText('not up to date');
  await told.getByRole('button', { name: 'Stop' }).click();
  await expect(told).toContainText('Stopped before the end');
  await expect(closed.locator('title')).toHaveText('not up to date');
  await expect(page.locator('[data-result=mass]').first()).toHaveAttribute('data-awaited', 'true');
  await expect(result(page, 'mass')).toHaveText(mass!);
  await field(page, 'blades.copies').fill('1');
  await worked(page);
  await expect(closed.locator('title')).toHaveText('good');
});
