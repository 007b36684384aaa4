/** Bodies of plain figures, placed, repeated, added and taken away: made from an empty sheet as a new user would. */
import type { Locator, Page } from '@playwright/test';
import {
  choose,
  expect,
  field,
  finding,
  fresh,
  openDesign,
  result,
  settledResult,
  steady,
  test,
} from './fixture';
import { LONG } from './runs';

test('a dimpled knob by the keyboard alone: a ball, balls round it, taken away', LONG, async ({ page }) => {
  await fresh(page);
  const type = async (text: string) => {
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  };
  await page.locator('[data-add]').focus();
  await type('ball');
  // The caret stands in its first figure; Enter goes on to the next line to be filled.
  await expect(field(page, 'ball.diameter')).toBeFocused();
  await type('36');
  await expect(page.locator('[data-add]')).toBeFocused();
  await type('ball');
  await expect(field(page, 'ball-2.diameter')).toBeFocused();
  await type('8');
  await expect(page.locator('[data-add]')).toBeFocused();
  await type('repeat');
  await expect(field(page, 'repeat.copies')).toBeFocused();
  await type('10');
  await type('');
  await expect(page.locator('[data-add]')).toBeFocused();
  // Balls in the middle of each other run into each other, and that is said.
  await expect(finding(page, 'between')).toContainText('run into each other');
  await page.locator('[data-step="ball-2"]').getByRole('button', { name: 'More figures' }).focus();
  await page.keyboard.press('Enter');
  await field(page, 'ball-2.originX').fill('18 mm');
  await expect(finding(page, 'between')).toContainText('Copies clear each other');
  await page.locator('[data-add]').focus();
  await type('subtract');
  await expect(page.locator('[data-step="subtract"]')).toContainText('Take Repeated out of Ball');
  await expect(finding(page, 'closed').last()).toContainText('Surface is closed', { timeout: 60_000 });
  const volume = await settledResult(page, 'volume');
  // A ball less ten lenses of two balls whose middles are as far apart as the radius of the larger.
  const [R, r] = [18, 4];
  const lens = (Math.PI * r ** 3 * (8 * R - 3 * r)) / (12 * R);
  const wanted = (4 / 3) * Math.PI * R ** 3 - 10 * lens;
  expect(
    Math.abs(Number.parseFloat(volume.split('mm')[0]!.replace(/[^\d.]/g, '')) / wanted - 1),
  ).toBeLessThan(2e-3);
});

test('a leg and its mirror image by the mouse, and how many there are', async ({ page }) => {
  await fresh(page, 'bent tube');
  await expect(result(page, 'volume')).toBeVisible();
  await page.locator('[data-add]').fill('repeat');
  await page.locator('[data-add]').press('Enter');
  await choose(page, 'repeat', /way of repeating/, 'as a mirrored pair');
  await expect(result(page, 'bodies')).toHaveText('2');
  await choose(page, 'repeat', /mirrored in/, 'y');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-step="repeat"]')).toContainText('mirrored in x');
});

/** How a new user works: by the mouse, or without it. */
interface Hand {
  add(what: string): Promise<void>;
  write(figures: Record<string, string>): Promise<void>;
  press(button: Locator): Promise<void>;
}

const HANDS: Readonly<Record<string, (page: Page) => Hand>> = {
  mouse: (page) => ({
    async add(what) {
      await page.locator('[data-add]').click();
      await page.locator('[data-add]').fill(what);
      await page.getByRole('option').first().click();
    },
    async write(figures) {
      for (const [place, text] of Object.entries(figures)) {
        await field(page, place).click();
        await field(page, place).fill(text);
      }
    },
    press: (button) => button.click(),
  }),
  keyboard: (page) => ({
    async add(what) {
      await page.locator('[data-add]').focus();
      await page.keyboard.type(what);
      await page.keyboard.press('Enter');
    },
    async write(figures) {
      for (const [place, text] of Object.entries(figures)) {
        await field(page, place).focus();
        await page.keyboard.press('ControlOrMeta+a');
        await page.keyboard.press('Delete');
        if (text) await page.keyboard.type(text);
      }
    },
    async press(button) {
      await button.focus();
      await page.keyboard.press('Enter');
    },
  }),
};

/** Three minutes are what a new user may take. */
const SOON = 180_000;

/** An empty design in such hands: `more` opens the further figures of a step, `taken` tells since when, ms. */
async function begun(page: Page, by: (page: Page) => Hand) {
  await fresh(page);
  const hand = by(page);
  const began = Date.now();
  return {
    ...hand,
    more: (id: string) =>
      hand.press(page.locator(`[data-step="${id}"]`).getByRole('button', { name: 'More figures' })),
    taken: () => Date.now() - began,
  };
}

for (const [name, by] of Object.entries(HANDS)) {
  test(
    `a keeper’s ring by the ${name}: strands on a ring, bored to size, faced flat`,
    LONG,
    async ({ page }) => {
      const { add, write, more, taken } = await begun(page, by);
      await add('round');
      await write({ 'round.diameter': '1.8 mm' });
      await add('loop');
      await write({ 'loop.size': '20.14 mm' });
      await add('winding');
      await write({ 'winding.turns': '7', 'winding.offset': '0.846 mm', 'winding.strands': '3' });
      await add('sweep');
      await expect(finding(page, 'between')).toContainText('The wires run into each other by');
      await add('cylinder');
      await write({ 'cylinder.diameter': 'ring(54)', 'cylinder.height': '8 mm' });
      await more('cylinder');
      await write({ 'cylinder.originZ': '-4 mm' });
      await add('subtract');
      await expect(page.locator('[data-step="subtract"]')).toContainText('Take Cylinder out of Body');
      await add('cylinder');
      await write({ 'cylinder-2.diameter': '28 mm', 'cylinder-2.height': '3.2 mm' });
      await more('cylinder-2');
      await write({ 'cylinder-2.originZ': '-1.6 mm' });
      await add('common');
      await expect(finding(page, 'parts').last()).toContainText('It is one part', { timeout: 60_000 });
      await expect(finding(page, 'closed').last()).toContainText('Surface is closed');
      expect(taken()).toBeLessThan(SOON);
      await settledResult(page, 'volume');
      await expect(page.getByRole('complementary')).toContainText('× 3.2 mm');
    },
  );

  test(`a lid knob by the ${name}: a turned outline, dimples and studs round it`, LONG, async ({ page }) => {
    const { add, write, press, more, taken } = await begun(page, by);
    await add('outline');
    await press(page.getByRole('button', { name: 'Remove point 5' }));
    await write({
      'outline.points.0.radius': '',
      'outline.points.3.radius': '',
      'outline.points.0.x': '0 mm',
      'outline.points.0.y': '0 mm',
      'outline.points.1.x': '18 mm',
      'outline.points.1.y': '0 mm',
      'outline.points.2.x': '18 mm',
      'outline.points.2.y': '20 mm',
      'outline.points.3.x': '0 mm',
      'outline.points.3.y': '20 mm',
    });
    await add('turn');
    // The outline reaches to the axis.
    await write({ 'turn.away': '0 mm' });
    await add('ball');
    await write({ 'ball.diameter': '7 mm' });
    await more('ball');
    await write({ 'ball.originX': '19 mm', 'ball.originZ': '10 mm' });
    await add('repeat');
    await write({ 'repeat.copies': '12' });
    await add('subtract');
    await expect(page.locator('[data-step="subtract"]')).toContainText('Take Repeated out of Turned');
    await add('ball');
    await write({ 'ball-2.diameter': '3 mm' });
    await more('ball-2');
    await write({ 'ball-2.originX': '12 mm', 'ball-2.originZ': '20 mm' });
    await add('repeat');
    await write({ 'repeat-2.copies': '12' });
    await add('add');
    await expect(finding(page, 'parts').last()).toContainText('It is one part', { timeout: 60_000 });
    await expect(finding(page, 'closed').last()).toContainText('Surface is closed');
    expect(taken()).toBeLessThan(SOON);
    const volume = await settledResult(page, 'volume');
    // A cylinder, twelve half balls on it; what the dimples take lies between nothing and half of each ball.
    const plain = Math.PI * 18 ** 2 * 20 + 12 * (2 / 3) * Math.PI * 1.5 ** 3;
    const value = Number.parseFloat(volume.split('mm')[0]!.replace(/[^\d.]/g, ''));
    expect(value).toBeLessThan(plain - 12 * 20);
    expect(value).toBeGreaterThan(plain - 12 * (2 / 3) * Math.PI * 3.5 ** 3);
  });
}

test(
  'a gap between strands is closed by the figure that is chosen, and what cannot be is said',
  LONG,
  async ({ page }) => {
    await openDesign(page, 'Keeper’s ring');
    await result(page, 'strandGap').getByRole('button').click();
    const wanted = page.getByLabel('Wanted Strand gap');
    await expect(wanted).toBeFocused();
    await wanted.fill('0');
    await page.getByRole('button', { name: 'Strand, diameter' }).click();
    await expect(result(page, 'strandGap')).toHaveText('0mm');
    await expect(finding(page, 'between')).toContainText('The wires touch');
    await expect(field(page, 'wire.diameter')).toHaveValue(/^0\.9962\d* × strand$/);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(field(page, 'wire.diameter')).toHaveValue('0.98 × strand');
    // Nothing weighs less than nothing.
    await result(page, 'mass').getByRole('button').click();
    await page.getByLabel('Wanted Mass').fill('-1');
    await page.getByRole('button', { name: 'Strand, diameter' }).click();
    await expect(page.getByLabel('Value of Mass')).toContainText('it cannot be reached', { timeout: 60_000 });
    await page.keyboard.press('Escape');
  },
);

test('a body is coloured, seen alone and hidden from the bar on the stage, and a group named on the sheet', async ({
  page,
}) => {
  await openDesign(page, 'Lid knob');
  const bar = page.getByRole('toolbar', { name: 'Chosen bodies' });
  await page.getByLabel('Name of step Stud', { exact: true }).click();
  await expect(bar).toContainText('Stud');
  await bar.getByRole('button', { name: 'Colour' }).click();
  await page.getByRole('menuitem', { name: 'clay' }).click();
  await bar.getByRole('button', { name: 'Material' }).click();
  await page.getByRole('menuitem', { name: 'copper', exact: true }).click();
  await expect(page.locator('[data-step=stud]')).toContainText('copper');
  await bar.getByRole('button', { name: 'Group' }).click();
  await page.getByRole('menuitem', { name: 'Into a new group' }).click();
  const group = page.locator('[data-step=stud]').getByLabel('Name of the group Group 1');
  await group.fill('Trim');
  await group.press('Enter');
  await expect(bar).toContainText('Trim');
  await bar.getByRole('button', { name: 'Alone' }).click();
  await expect(bar.getByRole('button', { name: 'Alone' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByLabel('Name of step Knob', { exact: true }).click();
  await bar.getByRole('button', { name: 'Show all' }).click();
  await bar.getByRole('button', { name: 'Hide' }).click();
  await expect(page.locator('[data-step=whole] header')).toContainText('hidden');
  await expect(bar.getByRole('button', { name: 'Show all (1 hidden)' })).toBeVisible();
  // All of it but what is only looked at can be taken back.
  const undo = page.getByRole('button', { name: 'Undo' });
  await undo.click();
  await expect(bar).not.toContainText('hidden');
  await undo.click();
  await expect(page.locator('[data-step=stud]').getByLabel('Name of the group Group 1')).toBeVisible();
});

/** A block that is placed, seen from above. */
async function placedBlock(page: Page) {
  await fresh(page);
  for (const kind of ['block', 'place']) {
    await page.locator('[data-add]').fill(kind);
    await page.locator('[data-add]').press('Enter');
    await expect(result(page, 'volume')).toBeVisible();
  }
  await page.locator('[data-step=place]').getByRole('button', { name: 'More figures' }).click();
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  const boxOf = async (grip: string) => (await steady(page, () => page.locator(grip).boundingBox()))!;
  return {
    boxOf,
    async drag(grip: string, x: number, y: number) {
      const box = await boxOf(grip);
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
      await page.mouse.down();
      await page.mouse.move(box.x + box.width / 2 + x, box.y + box.height / 2 + y, { steps: 6 });
      await page.mouse.up();
    },
    figure: async (place: string) =>
      Number.parseFloat((await field(page, place).inputValue()).replace('−', '-')),
  };
}

test('a body is drawn larger, drawn out one way and mirrored by hand', LONG, async ({ page }) => {
  const { drag, figure, boxOf } = await placedBlock(page);
  const middle = (box: { x: number; y: number; width: number; height: number }) => ({
    x: box.x + box.width / 2,
    y: box.y + box.height / 2,
  });
  // Out along the line from the place that stays, which is where the grip of the place stands: half as far again.
  const [fixed, at] = [middle(await boxOf('[data-point=moveX]')), middle(await boxOf('[data-size]'))];
  await drag('[data-size]', (at.x - fixed.x) / 2, (at.y - fixed.y) / 2);
  await expect.poll(() => figure('place.scale')).toBeCloseTo(1.5, 1);
  await expect(result(page, 'volume')).toHaveText(/^20\s?\d{3}|^19\s?\d{3}/);
  await page.locator('[data-size]').focus();
  await page.keyboard.press('Shift+ArrowDown');
  await expect.poll(() => figure('place.scale')).toBeCloseTo(1.4, 1);
  // Past the place that stays, with Shift: along one way only, and mirrored.
  const [stays, here] = [middle(await boxOf('[data-point=moveX]')), middle(await boxOf('[data-size]'))];
  await page.keyboard.down('Shift');
  await drag('[data-size]', 2.5 * (stays.x - here.x), 0);
  await page.keyboard.up('Shift');
  await expect(page.locator('[data-step=place]')).toContainText('mirrored in x');
  await expect.poll(() => figure('place.scaleX')).toBeCloseTo(1.5, 1);
  expect(await figure('place.scaleY')).toBe(1);
  const undo = page.getByRole('button', { name: 'Undo' });
  await undo.click();
  await expect.poll(() => figure('place.scaleX')).toBe(1);
  await undo.click();
  await undo.click();
  await expect.poll(() => figure('place.scale')).toBe(1);
});

test('a grip that is led round stays clear of what stands over the stage', LONG, async ({ page }) => {
  await fresh(page, 'cylinder', 'reshape');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  const bar = (await page.getByLabel('Chosen bodies').boundingBox())!;
  const pane = (await page.getByLabel(/^Top view/).boundingBox())!;
  for (const angle of ['0 deg', '90 deg', '180 deg', '270 deg']) {
    await field(page, 'reshape.angle').fill(angle);
    const grip = (await steady(page, () => page.locator('[data-turn]').boundingBox()))!;
    expect(grip.y, angle).toBeGreaterThan(bar.y + bar.height - 2);
    expect(grip.y + grip.height, angle).toBeLessThanOrEqual(pane.y + pane.height);
    expect(grip.x, angle).toBeGreaterThanOrEqual(pane.x);
    expect(grip.x + grip.width, angle).toBeLessThanOrEqual(pane.x + pane.width);
  }
});

test('a body is moved and turned by hand, and the figures follow', LONG, async ({ page }) => {
  const { drag, figure } = await placedBlock(page);
  await drag('[data-point=moveX]', 60, 0);
  await expect.poll(() => figure('place.moveX')).toBeGreaterThan(2);
  expect(await figure('place.moveY')).toBe(0);
  const right = await figure('place.moveX');
  // Led away and back in one drag, it is what it was.
  const grip = (await steady(page, () => page.locator('[data-point=moveX]').boundingBox()))!;
  const [x, y] = [grip.x + grip.width / 2, grip.y + grip.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 50, y + 40, { steps: 4 });
  await page.mouse.move(x, y, { steps: 4 });
  await page.mouse.up();
  expect(await figure('place.moveX')).toBe(right);
  expect(await figure('place.moveY')).toBe(0);
  // From above the grip is led round its circle.
  const before = (await steady(page, () => page.locator('[data-turn]').boundingBox()))!;
  await drag('[data-turn]', 50, 50);
  await expect.poll(() => figure('place.turn')).not.toBe(0);
  const after = (await steady(page, () => page.locator('[data-turn]').boundingBox()))!;
  expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeGreaterThan(20);
  await page.locator('[data-turn]').focus();
  const turned = await figure('place.turn');
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(() => figure('place.turn')).toBe(Math.round((turned + 15) / 15) * 15);
  // By the keyboard, and back in one step each.
  await page.locator('[data-point=moveX]').focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => figure('place.moveX')).toBeGreaterThan(right);
  const undo = page.getByRole('button', { name: 'Undo' });
  for (let i = 0; i < 4; i++) await undo.click();
  await expect.poll(() => figure('place.moveX')).toBe(0);
  expect(await figure('place.turn')).toBe(0);
});

test('copies are led round, and the points of an outline where it is turned', LONG, async ({ page }) => {
  await openDesign(page, 'Lid knob');
  const boxOf = async (selector: string) => (await steady(page, () => page.locator(selector).boundingBox()))!;
  const lead = async (selector: string, x: number, y: number) => {
    const box = await boxOf(selector);
    const [left, top] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(left, top);
    await page.mouse.down();
    await page.mouse.move(left + x, top + y, { steps: 6 });
    await page.mouse.up();
  };
  await page.getByLabel('Name of step Studs').click();
  const span = field(page, 'studs.span');
  await expect(span).toHaveValue('360°');
  await lead('[data-turn=span]', -60, 10);
  await expect(span).not.toHaveValue('360°');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(span).toHaveValue('360°');

  await page.getByLabel('Name of step Half profile').click();
  const height = async (row: number) =>
    Number.parseFloat((await field(page, `profile.points.${row}.y`).inputValue()).replace('−', '-'));
  await lead('[data-point="1"]', 0, 24);
  await expect.poll(() => height(1)).toBeLessThan(-0.5);
  expect(await height(0)).toBe(0);
  await page.locator('[data-point="2"]').focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(() => height(2)).toBeGreaterThan(6);
});
