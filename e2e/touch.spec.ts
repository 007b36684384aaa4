/** The stage under fingers and under a pen. */
import type { CDPSession, Page } from '@playwright/test';
import { expect, field, openDesign, apart } from './fixture';
import { LONG } from './runs';

apart.use({ hasTouch: true });

type Point = readonly [x: number, y: number];

/** Fingers that go down together, each along its way, and come up again. */
async function fingers(page: Page, ...ways: readonly (readonly [from: Point, to: Point])[]): Promise<void> {
  const session: CDPSession = await page.context().newCDPSession(page);
  const at = (part: number) =>
    ways.map(([from, to], id) => ({
      x: from[0] + part * (to[0] - from[0]),
      y: from[1] + part * (to[1] - from[1]),
      id,
    }));
  const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', touchPoints: ReturnType<typeof at>) =>
    session.send('Input.dispatchTouchEvent', { type, touchPoints });
  await send('touchStart', at(0));
  for (let i = 1; i <= 8; i++) await send('touchMove', at(i / 8));
  await send('touchEnd', []);
  await session.detach();
}

/** A pen that goes down, along a way, and up again. */
async function pen(page: Page, from: Point, to: Point): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const send = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', [x, y]: Point) =>
    session.send('Input.dispatchMouseEvent', {
      type,
      x,
      y,
      button: 'left',
      buttons: type === 'mouseReleased' ? 0 : 1,
      clickCount: 1,
      pointerType: 'pen',
    });
  await send('mousePressed', from);
  for (let i = 1; i <= 8; i++)
    await send('mouseMoved', [from[0] + (i / 8) * (to[0] - from[0]), from[1] + (i / 8) * (to[1] - from[1])]);
  await send('mouseReleased', to);
  await session.detach();
}

/** Where dimension lines are written: they move as the part is turned or brought nearer. */
const places = (page: Page) =>
  page
    .locator('[data-dimension]')
    .evaluateAll((all) =>
      all.map((one) => `${one.getBoundingClientRect().x} ${one.getBoundingClientRect().y}`).join(),
    );
const scaleOf = async (page: Page) =>
  Number.parseFloat(
    await page.getByLabel('Stage', { exact: true }).locator('[data-scale]').first().innerText(),
  );

async function middle(page: Page): Promise<Point> {
  const box = (await page.getByRole('application').first().boundingBox())!;
  return [box.x + box.width / 2, box.y + box.height / 2];
}

apart(
  'one finger turns the part and pulls a figure, two bring it nearer, a tap chooses',
  async ({ page }) => {
    await openDesign(page, 'Gate spring');
    const [x, y] = await middle(page);
    const before = await places(page);
    await fingers(page, [
      [x - 200, y - 150],
      [x - 110, y - 150],
    ]);
    await expect.poll(() => places(page)).not.toBe(before);
    const far = await scaleOf(page);
    await fingers(
      page,
      [
        [x - 60, y],
        [x - 240, y],
      ],
      [
        [x + 60, y],
        [x + 240, y],
      ],
    );
    await expect.poll(() => scaleOf(page)).toBeLessThan(far);
    await page.getByRole('button', { name: 'Fit', exact: true }).tap();
    await expect.poll(() => scaleOf(page)).toBe(far);
    // Somewhere at the side of the spring there is wire.
    await page.locator('[data-step="wire"] header input').tap();
    const chosen = page.locator('[data-step="spring"] [data-knot]');
    await expect(chosen).not.toHaveClass(/bg-thread/);
    for (const off of [-110, -100, -90, -80, -70]) await page.touchscreen.tap(x + off, y);
    await expect(chosen).toHaveClass(/bg-thread/);
    await page.locator('[data-step="coil"] header input').tap();
    await pullHeight(page, (_page, from, to) => fingers(page, [from, to]));
  },
);

apart('in a flat view one finger, and the mouse, shift the part', LONG, async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await page.getByRole('button', { name: 'Front', exact: true }).tap();
  await expect(page.locator('[data-dimension=height]')).toBeVisible();
  const [x, y] = await middle(page);
  const left = async () => (await page.locator('[data-dimension=height]').boundingBox())!.x;
  const before = await left();
  await fingers(page, [
    [x - 200, y - 100],
    [x - 120, y - 100],
  ]);
  await expect.poll(async () => Math.round((await left()) - before)).toBe(80);
  await page.mouse.move(x - 200, y - 100);
  await page.mouse.down();
  await page.mouse.move(x - 240, y - 100, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Math.round((await left()) - before)).toBe(40);
});

/** Pulls the height of the spring up in the front view, and takes that back. */
async function pullHeight(page: Page, lead: (page: Page, from: Point, to: Point) => Promise<void>) {
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  const label = page.locator('[data-dimension=height]');
  await expect(label).toBeVisible();
  const { x, y, width, height } = (await label.boundingBox())!;
  const from: Point = [x + width / 2, y + height / 2];
  const figure = field(page, 'coil.height');
  await expect(figure).toHaveValue('32 mm');
  await lead(page, from, [from[0], from[1] - 60]);
  await expect.poll(async () => Number.parseFloat(await figure.inputValue())).toBeGreaterThan(33);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(figure).toHaveValue('32 mm');
}

apart('a figure is pulled by a pen', LONG, async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await pullHeight(page, pen);
});
