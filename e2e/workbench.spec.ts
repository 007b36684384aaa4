import { readFile } from 'node:fs/promises';
import { inspectMesh } from '@nematos/core/mesh/data/topology';
import { readBinary } from '../core/test/stl-reader';
import {
  apart,
  DESIGNS,
  emptied,
  FAST,
  choose,
  expect,
  field,
  finding,
  fresh,
  kept,
  openDesign,
  openSmallShelf,
  result,
  settled,
  settledResult,
  steady,
  test,
} from './fixture';
import { LONG, SHORT } from './runs';

test('a spring is made from nothing, by keyboard alone', async ({ page }) => {
  await openSmallShelf(page, 'Lid clasp');
  await page.getByRole('button', { name: 'New design' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-add]')).toBeFocused();
  await page.keyboard.type('spring');
  await page.keyboard.press('Enter');
  await expect(field(page, 'round.diameter')).toBeFocused();
  for (const figure of ['1.6', '9', '48', '18']) {
    await page.keyboard.type(figure);
    await page.keyboard.press('Enter');
  }
  await expect(field(page, 'helix.height')).toHaveValue('48 mm');
  await expect(field(page, 'helix.diameter')).toHaveValue('18 mm');
  // By hand: a coil closed at either end leaves 7 of mean diameter 16.4; ground at its wire's ends it stands 48 tall.
  await expect(result(page, 'activeCoils')).toHaveText('7');
  await expect(result(page, 'freeLength')).toHaveText('48mm');
  await expect(result(page, 'rate')).toHaveText(
    `${((81500 * 1.6 ** 4) / (8 * 16.4 ** 3 * 7)).toFixed(2)}N/mm`,
  );
  // Of even pitch its wire would be √((9π16.4)² + 48²) long; closed coils make it a little longer.
  const length = Number((await settledResult(page, 'wireLength')).replace(/[^\d.]/g, ''));
  expect(length / Math.hypot(9 * Math.PI * 16.4, 48) - 1).toBeGreaterThan(0);
  expect(length / Math.hypot(9 * Math.PI * 16.4, 48) - 1).toBeLessThan(2e-3);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
});

test('an edit is live, is taken back, and both survive a reload', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await expect(result(page, 'rate')).toHaveText('6.51N/mm');
  await field(page, 'given.0').fill('2 mm');
  await expect(result(page, 'rate')).not.toHaveText('6.51N/mm');
  await field(page, 'coil.turns').fill('9');
  await expect(result(page, 'activeCoils')).toHaveText('7');
  await kept(page);
  await page.reload();
  await settled(page);
  await expect(field(page, 'coil.turns')).toHaveValue('9');
  // Changed before and after a reload, a figure is taken back in two steps.
  await field(page, 'coil.turns').fill('10');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(field(page, 'coil.turns')).toHaveValue('9');
  await page.keyboard.press('Control+z');
  await expect(field(page, 'coil.turns')).toHaveValue('7½');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(result(page, 'rate')).toHaveText('6.51N/mm');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await page.keyboard.press('Control+Shift+z');
  await expect(field(page, 'given.0')).toHaveValue('2 mm');
});

apart('a tab killed right after a keystroke loses nothing', async ({ page, context }) => {
  await openDesign(page, 'Gate spring');
  const address = page.url();
  await field(page, 'coil.turns').focus();
  await page.waitForTimeout(100);
  const protocol = await context.newCDPSession(page);
  await page.keyboard.type('8');
  protocol.send('Page.crash').catch(() => undefined);
  await page.waitForEvent('crash');
  const again = await context.newPage();
  await again.goto(address);
  await expect(field(again, 'coil.turns')).toHaveValue('8');
  await again.getByRole('button', { name: 'Undo' }).click();
  await expect(field(again, 'coil.turns')).toHaveValue('7½');
});

test('a mistake is told at its place, the last good part stays, and nothing is lost', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  const mass = await result(page, 'mass').textContent();
  const coil = page.locator('[data-step="coil"]');
  for (const [text, says] of [
    ['2 mm + 3 deg', 'A length and an angle cannot be added.'],
    ['wier', '“wier” is neither a given nor a unit. Is “wire” meant?'],
    ['-4', 'This cannot be negative.'],
    ['1e9 mm', 'Nothing beyond 100 m can be worked with here.'],
    ['', 'A figure is missing here.'],
  ] as const) {
    await field(page, 'coil.height').fill(text);
    await expect(coil.getByRole('alert')).toHaveText(`height: ${says}`);
    await expect(field(page, 'coil.height')).toHaveAttribute('aria-invalid', 'true');
  }
  await expect(page.locator('[data-step="spring"]')).toContainText('Waits for a step above');
  await expect(page.getByText('Coil cannot be made')).toBeVisible();
  await field(page, 'coil.height').fill('32');
  await field(page, 'coil.height').blur();
  await expect(field(page, 'coil.height')).toHaveValue('32 mm');
  await expect(result(page, 'mass')).toHaveText(mass!);
  await expect(coil.getByRole('alert')).toHaveCount(0);
});

test(
  'coils that cut are told with their limits, and become one clean solid when sent out',
  LONG,
  async ({ page }) => {
    await openDesign(page, 'Gate spring');
    await field(page, 'coil.turns').fill('19');
    await expect(finding(page, 'clearance')).toHaveAttribute('data-level', 'fault');
    await expect(finding(page, 'clearance')).toContainText('Coils cut into each other by');
    await expect(page.locator('[data-step="coil"] [data-limit="turns"]')).toContainText(
      /at most 17\.\d+ turns/,
    );
    await page.getByRole('button', { name: 'Export' }).click();
    await page.getByLabel(/Chord tolerance/).fill('0.1');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: /STL binary/ }).click();
    const report = inspectMesh(readBinary(await readFile((await (await download).path())!)));
    expect(report.openEdges).toBe(0);
    // Less than area by length, of which 19 turns would have 19 · π · 14.4 · π · 0.81 mm³: what overlaps counts once.
    expect(report.volume).toBeLessThan(0.995 * 19 * Math.PI * 14.4 * Math.PI * 0.81);
    expect(report.volume).toBeGreaterThan(0.8 * 19 * Math.PI * 14.4 * Math.PI * 0.81);
  },
);

test('the print mesh that is taken away is closed and has the volume of the part', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await choose(page, 'coil', /^ends of the coil:/, 'open');
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /STL binary/ }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('gate-spring.stl');
  const bytes = await readFile((await file.path())!);
  const report = inspectMesh(readBinary(bytes));
  expect(bytes.length).toBe(84 + 50 * report.triangles);
  expect(report.openEdges).toBe(0);
  expect(report.euler).toBe(2);
  // A wire of 7.5 turns, ground to half its thickness at both tips; the surface of 1931 mm² may be off by 0.02 mm.
  const whole = Math.PI * 0.81 * Math.hypot(7.5 * Math.PI * 14.4, 32);
  expect(report.volume).toBeLessThan(whole);
  expect(report.volume).toBeGreaterThan(whole * 0.98 - 1931 * 0.02);
});

test('the design and a picture can be taken away', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await page.getByRole('button', { name: 'Export' }).click();
  let download = page.waitForEvent('download');
  await page.getByRole('button', { name: /The design, JSON/ }).click();
  const json = JSON.parse(await readFile((await (await download).path())!, 'utf8')) as { steps: unknown[] };
  expect(json.steps).toHaveLength(4);
  download = page.waitForEvent('download');
  await page.getByRole('button', { name: /Picture, PNG/ }).click();
  const png = await readFile((await (await download).path())!);
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  expect(png.length).toBeGreaterThan(3000);
});

test('figures are nudged, scrubbed and pulled, each as one edit', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await field(page, 'coil.height').focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(field(page, 'coil.height')).toHaveValue('34 mm');
  await page.keyboard.press('Control+z');
  await expect(field(page, 'coil.height')).toHaveValue('32 mm');

  const label = page.locator('[data-step="coil"]').getByText('tall', { exact: true });
  const box = (await label.boundingBox())!;
  await page.mouse.move(box.x + 5, box.y + 5);
  await page.mouse.down();
  for (let i = 1; i <= 6; i++) await page.mouse.move(box.x + 5 + 5 * i, box.y + 5);
  await page.mouse.up();
  await expect(field(page, 'coil.height')).toHaveValue('38 mm');
  await page.keyboard.press('Control+z');
  await expect(field(page, 'coil.height')).toHaveValue('32 mm');

  const dimension = page.locator('[data-dimension="height"]');
  await expect(dimension).toHaveText('32mm');
  const at = (await dimension.boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2 - 10 * i);
  await page.mouse.up();
  const pulled = parseFloat(await field(page, 'coil.height').inputValue());
  expect(pulled).toBeGreaterThan(34);
  await page.keyboard.press('Control+z');
  await expect(field(page, 'coil.height')).toHaveValue('32 mm');
  await dimension.click();
  await expect(field(page, 'coil.height')).toBeFocused();
});

test('the needle leads back through the making, and shows what there was', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  const needle = page.getByRole('slider', { name: /Needle/ });
  await needle.focus();
  await page.keyboard.press('ArrowUp');
  await expect(needle).toHaveAttribute('aria-valuetext', 'after Spring');
  await expect(result(page, 'rate')).toHaveCount(0);
  await expect(result(page, 'mass')).toBeVisible();
  await page.keyboard.press('ArrowUp');
  await expect(needle).toHaveAttribute('aria-valuetext', 'after Coil');
  await expect(result(page, 'mass')).toHaveCount(0);
  await expect(result(page, 'length')).toHaveText('341mm');
  await page.keyboard.press('End');
  await expect(result(page, 'rate')).toBeVisible();
});

test('of pitch, turns and height the one that follows can be given instead', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await choose(page, 'coil', /^ends of the coil:/, 'open');
  await page.getByRole('button', { name: /pitch: give it instead/ }).click();
  await page.getByRole('menuitem', { name: 'Give the pitch; let the turns follow' }).click();
  await expect(field(page, 'coil.pitch')).toHaveValue('4.26667 mm');
  await expect(field(page, 'coil.turns')).toHaveCount(0);
  await field(page, 'coil.pitch').fill('4 mm');
  await expect(page.getByRole('button', { name: /turns: give it instead/ })).toContainText(/turns 8\b/);
});

test('the sheet can be set in inches, and no figure changes its meaning', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await field(page, 'coil.height').fill('33');
  await page.getByRole('button', { name: 'in', exact: true }).click();
  await expect(field(page, 'coil.height')).toHaveValue('33 mm');
  await expect(result(page, 'freeLength')).toHaveText('1.299in');
  await field(page, 'coil.height').fill('1.5');
  await field(page, 'coil.height').blur();
  await expect(field(page, 'coil.height')).toHaveValue('1.5 in');
  await expect(result(page, 'freeLength')).toHaveText('1.5in');
});

test('steps are named, copied, hidden and removed, and what depends on them is told', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  const spring = page.locator('[data-step="spring"]');
  await page.getByLabel('Name of step Spring').fill('Gate coil');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Name of step Gate coil')).toBeVisible();
  await spring.hover();
  await page.getByRole('button', { name: 'More about Gate coil' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(page.locator('[data-step="sweep"]')).toBeVisible();
  await page.locator('[data-step="coil"]').hover();
  await page.getByRole('button', { name: 'More about Coil' }).click();
  await expect(page.getByRole('menuitem', { name: /Remove/ })).toContainText(
    'Gate coil, Gate coil copy will wait',
  );
  await page.getByRole('menuitem', { name: /Remove/ }).click();
  await expect(spring.getByRole('alert')).toContainText('gone: choose another');
  await page.keyboard.press('Control+z');
  await expect(result(page, 'rate')).toHaveText('6.51N/mm');
});

test('the whole part stays in view while it is made; a view that the reader has set stays as it is', async ({
  page,
}) => {
  await fresh(page, 'round', 'run', 'sweep');
  await settled(page);
  await page.getByLabel('Name of step Run').click();
  const stage = page.getByRole('application', { name: /Space view/ });
  const place = async (point: number) => {
    const [pane, box] = [
      await stage.boundingBox(),
      await page.locator(`[data-point="${point}"]`).boundingBox(),
    ];
    return box && pane ? [box.x - pane.x, box.y - pane.y, pane.width, pane.height] : [0, 0, 0, 0];
  };
  const inView = async (point: number) => {
    const [x = 0, y = 0, width = 0, height = 0] = await place(point);
    return x > 0 && y > 0 && x < width && y < height;
  };
  await expect.poll(() => inView(3)).toBe(true);
  // Four times as tall as it was: far out of the view that was fitted to it.
  await field(page, 'run.points.3.z').fill('400 mm');
  await expect(result(page, 'length')).toHaveText('567.1mm');
  for (const point of [0, 1, 2, 3]) await expect.poll(() => inView(point), `point ${point + 1}`).toBe(true);

  await stage.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowUp');
  const before = await steady(page, () => place(0));
  await field(page, 'run.points.3.z').fill('330 mm');
  await expect(result(page, 'length')).toHaveText('497.1mm');
  await expect.poll(() => place(0)).toEqual(before);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await expect.poll(() => place(0)).not.toEqual(before);
});

test(
  'a part edited away and back, or opened after one that was cut open, looks as it did',
  LONG,
  async ({ page }) => {
    await openDesign(page, 'Press spring');
    const canvas = page.locator('canvas[data-engine]');
    // What is written over it, or beside it, is not looked at.
    const style =
      '* { visibility: hidden !important } canvas[data-engine] { visibility: visible !important }';
    const picture = async () => (await canvas.screenshot({ style })).toString('base64');
    // Until the fine picture stands, and stays.
    const before = await steady(page, picture);
    const thick = field(page, 'given.2');
    for (const text of SHORT ? ['3.4 mm', '3.5 mm'] : ['3.4 mm', '3.2 mm', '3.3 mm', '3.5 mm']) {
      await thick.fill(text);
      await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    }
    await thick.blur();
    await expect.poll(picture, { intervals: [500] }).toBe(before);
    await thick.fill('3.1 mm');
    await expect.poll(picture, { intervals: [500] }).not.toBe(before);
    await page.getByRole('button', { name: 'Undo' }).click();
    await thick.blur();
    await expect.poll(picture, { intervals: [500] }).toBe(before);
    await page.getByLabel(/^Space view/).focus();
    await page.keyboard.press('6');
    await page.getByLabel('Cut open', { exact: true }).waitFor();
    await page.keyboard.press('7');
    await expect.poll(picture, { intervals: [500] }).not.toBe(before);
    await openDesign(page, 'Press spring');
    await expect.poll(picture, { intervals: [500] }).toBe(before);
  },
);

apart(
  'two tabs on one design show the same, and neither loses what the other did',
  LONG,
  async ({ page, context }) => {
    await openDesign(page, 'Press spring');
    const other = await context.newPage();
    await other.goto(page.url());
    await settled(other);
    const before = await settledResult(page, 'volume');
    await field(page, 'given.2').fill('2 mm');
    await kept(page);
    await expect(field(other, 'given.2')).toHaveValue('2 mm');
    await expect(result(page, 'volume')).not.toHaveText(before);
    await expect(result(other, 'volume')).toHaveText(await settledResult(page, 'volume'));
    await expect(result(other, 'volume')).not.toHaveText(before);
    await field(other, 'given.1').fill('3 mm');
    await kept(other);
    await expect(field(page, 'given.1')).toHaveValue('3 mm');
    await expect(field(page, 'given.2')).toHaveValue('2 mm');
    // Undo goes through what both have done.
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(result(page, 'volume')).toHaveText(before);
    await kept(page);
    await expect(result(other, 'volume')).toHaveText(before);
  },
);

test('an address without a design says so', async ({ page }) => {
  await emptied(page);
  await page.goto(`/d/none${FAST}`);
  await expect(page.getByText('There is no such design in this browser')).toBeVisible();
  await page.goto('/');
  await expect(page.locator('[data-design]')).toHaveCount(DESIGNS);
});

test('a calculation that breaks down is told, and the next edit starts it again', async ({ page }) => {
  await openSmallShelf(page, 'Gate spring');
  const address = await page.getByLabel('Open Gate spring').getAttribute('href');
  await page.route('**/assets/geometry-*.js', (route) => route.abort());
  await page.goto(`${address}${FAST}`);
  await expect(page.getByText(/The calculation stopped/)).toBeVisible();
  await page.unroute('**/assets/geometry-*.js');
  await field(page, 'coil.turns').fill('8');
  await expect(result(page, 'activeCoils')).toHaveText('6');
  await expect(page.getByText(/The calculation stopped/)).toHaveCount(0);
});
