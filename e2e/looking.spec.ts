/** Looking at a part: cut open, its triangles, where findings are, and from nearer. */
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { cutResults } from '@nematos/core/mesh/cut/cut-results';
import {
  expect,
  field,
  finding,
  fresh,
  kept,
  openDesign,
  settled,
  result,
  settledResult,
  steady,
  test,
} from './fixture';
import { LONG } from './runs';

test('a tube is cut open: the wall is seen and measured, the cut kept and sent out', async ({ page }) => {
  await fresh(page, 'tube', 'extrude');
  const panel = page.getByLabel('Cut open', { exact: true });
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('6');
  await expect(panel).toContainText('square to y');
  // Along the axis: two strips of 1 mm by 20 mm.
  await expect(panel).toContainText(/area cut\s*(40|39\.9|40\.1)/);
  await page.getByRole('button', { name: 'Way of plane 1: square to y' }).click();
  await page.getByRole('menuitemradio', { name: 'square to z' }).click();
  await expect(panel).toContainText(/area cut\s*34\.[56]/);
  await expect(panel).toContainText(/thinnest wall\s*(1|0\.99\d*)\s*mm±/);
  const at = page.getByLabel('Place of plane 1');
  await at.fill('twelve');
  await at.press('Enter');
  await expect(panel.getByRole('alert')).toBeVisible();
  await at.fill('25 mm');
  await at.press('Enter');
  await expect(panel).toContainText('Nothing is cut here');
  await page.getByLabel('Plane 1', { exact: true }).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await expect(panel).toContainText(/area cut\s*34\.[56]/);
  // Led by hand on the stage, and by the arrow keys: upwards it goes up.
  const grip = page.locator('[data-cut-grip="0"]');
  const place = async () => Number.parseFloat((await at.inputValue()).replace('−', '-'));
  const before = await place();
  const box = (await grip.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y - 60, { steps: 6 });
  await page.mouse.up();
  await expect.poll(place).toBeGreaterThan(before + 2);
  const led = await place();
  await grip.press('ArrowDown');
  await expect.poll(place).toBeLessThan(led);
  await expect(panel).toContainText(/area cut\s*34\.[56]/);
  await page.getByRole('button', { name: 'Another plane' }).click();
  await page.getByLabel('Only their corner').check();
  // How it is looked at is kept a moment later.
  await page.waitForTimeout(400);
  await kept(page);
  await page.reload();
  await expect(panel.getByLabel('Only their corner')).toBeChecked();
  await page.getByRole('button', { name: 'Take plane 2 away' }).click();
  await expect(panel.getByLabel('Only their corner')).toHaveCount(0);
  await panel.getByRole('button', { name: 'Outline as a drawing' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'DXF' }).click();
  const text = await readFile((await (await download).path())!, 'utf8');
  // Groups are pairs of lines: a code, then its value.
  const lines = text.split('\n');
  const loops: number[][] = [];
  let inside = false;
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const [code, value] = [lines[i]!.trim(), lines[i + 1]!.trim()];
    if (code === '0') inside = value === 'LWPOLYLINE';
    if (inside && code === '0') loops.push([]);
    else if (inside && (code === '10' || code === '20')) loops.at(-1)!.push(Number(value));
  }
  expect(loops.length).toBe(2);
  expect(cutResults(loops.map((loop) => Float64Array.from(loop))).area).toBeCloseTo(Math.PI * (36 - 25), 0);
  await page.getByRole('button', { name: 'Close it again' }).click();
  await expect(panel).toHaveCount(0);
});

test(
  'a cut square to a path tells the true section there, and follows what is edited',
  LONG,
  async ({ page }) => {
    await fresh(page, 'helix', 'round', 'sweep');
    await page.getByRole('button', { name: 'Cut open' }).click();
    const panel = page.getByLabel('Cut open', { exact: true });
    await page.getByRole('button', { name: /Way of plane 1/ }).click();
    await page.getByRole('menuitemradio', { name: /square to Body|square to Sweep|square to Swept/ }).click();
    const area = async () =>
      Number.parseFloat(/section\s*([\d.]+)/.exec(await panel.innerText())?.[1] ?? 'NaN');
    const wire = Number.parseFloat(await field(page, 'round.diameter').inputValue());
    await expect.poll(area).toBeCloseTo((Math.PI * wire * wire) / 4, 1);
    await field(page, 'round.diameter').fill('1.5 mm');
    await expect.poll(area).toBeCloseTo((Math.PI * 1.5 * 1.5) / 4, 2);
  },
);

test('places are pointed at and measured, and followed as the sheet changes', async ({ page }) => {
  await fresh(page, 'ring', 'ball');
  await field(page, 'ball.diameter').fill('6 mm');
  await field(page, 'ball.diameter').press('Enter');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  const panel = page.getByLabel('Measure', { exact: true });
  await expect(panel).toContainText('Pick a place on the part');
  const pane = (await steady(page, () => page.getByLabel(/^Top view/).boundingBox()))!;
  const middle = { x: pane.x + pane.width / 2, y: pane.y + pane.height / 2 };
  await page.mouse.click(middle.x, middle.y);
  await expect(panel).toContainText('A, on Ball');
  // From outside the ball to the left until the ring is met.
  for (let x = 90; x < pane.width / 2 && !(await panel.innerText()).includes('on Ring'); x += 15)
    await page.mouse.click(middle.x - x, middle.y);
  await expect(panel).toContainText('B, on Ring');
  // The ring's hole less the ball, on one side.
  const hole = Number.parseFloat(await field(page, 'ring.inner').inputValue());
  const gap = async () =>
    Number.parseFloat(/of the bodies\s*≈\s*([\d.]+)/.exec(await panel.innerText())?.[1] ?? 'NaN');
  await expect.poll(gap).toBeCloseTo((hole - 6) / 2, 1);
  await field(page, 'ball.diameter').fill('8 mm');
  await expect.poll(gap).toBeCloseTo((hole - 8) / 2, 1);
  await page.getByLabel(/^Top view/).focus();
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
});

test('a length along a wire is measured from end to end without pointing', LONG, async ({ page }) => {
  await fresh(page, 'helix', 'round', 'sweep');
  const length = Number.parseFloat((await result(page, 'wireLength').innerText()).replace(/\s/g, ''));
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('m');
  const panel = page.getByLabel('Measure', { exact: true });
  for (const which of ['start', 'end']) {
    await panel.getByRole('button', { name: 'a place by name' }).click();
    await page
      .getByRole('menuitem', {
        name: new RegExp(`Body, its ${which}|Sweep, its ${which}|Swept.*, its ${which}`),
      })
      .click();
  }
  const along = async () =>
    Number.parseFloat(
      /along the path\s*([\d.\s]+)/.exec(await panel.innerText())?.[1]?.replace(/\s/g, '') ?? 'NaN',
    );
  await expect.poll(along).toBeCloseTo(length, 0);
  // It is kept on the sheet, held against what is wanted, and follows.
  await panel.getByRole('button', { name: 'Keep on the sheet: along the path' }).click();
  const kept = page.locator('[data-step=measure-length]');
  await expect(kept).toContainText('Along the path');
  await kept.getByRole('button', { name: 'nothing wanted' }).click();
  await expect(finding(page, 'wanted')).toContainText('as wanted');
  await field(page, 'helix.turns').fill('3');
  await expect.poll(along).toBeLessThan(0.7 * length);
  await expect(finding(page, 'wanted')).toContainText('less than wanted');
  // Figures of steps below can name it.
  await page.locator('[data-add]').fill('ball');
  await page.locator('[data-add]').press('Enter');
  await field(page, 'ball.diameter').fill('Length / 20');
  await field(page, 'ball.diameter').press('Enter');
  const diameter = page.locator('[data-step=ball]');
  await expect(diameter.getByRole('alert')).toHaveCount(0);
  await kept.getByRole('textbox', { name: 'Name of step Length' }).fill('Blank');
  await page.keyboard.press('Enter');
  await expect(field(page, 'ball.diameter')).toHaveValue('Blank / 20');
  await expect(diameter.getByRole('alert')).toHaveCount(0);
  // So can a coordinate of its end.
  await panel.getByRole('button', { name: 'Keep on the sheet: z of B' }).click();
  await expect(page.locator('[data-step=measure-length-2]')).toContainText(/z of the place\s*[1-9]/);
  await page.waitForTimeout(400);
  await page.reload();
  await expect(page.locator('[data-kept=measure-length]').first()).toContainText('Blank');
});

test('variants are kept, compared and taken over', async ({ page }) => {
  await openDesign(page, 'Nest spring');
  const variants = page.getByRole('button', { name: 'Variants' });
  await variants.click();
  await page.getByRole('menuitem', { name: /Keep the figures/ }).click();
  const mass = await settledResult(page, 'mass');
  await field(page, 'wire.diameter').fill('3 mm');
  await expect(result(page, 'mass')).not.toHaveText(mass);
  await variants.click();
  await page.getByRole('menuitem', { name: 'Compare' }).click();
  const compare = page.getByLabel('Compare', { exact: true });
  await expect(compare.locator('canvas')).toHaveCount(2);
  const row = compare.getByRole('row').filter({ hasText: 'Wire: diameter' });
  await expect(row).toContainText('3 mm');
  const masses = compare.locator('[data-compared=mass]');
  await expect(masses.nth(1)).toContainText(mass.replace(/\s*\D*$/, ''));
  await expect(masses.nth(1)).toContainText('×');
  // Laid over each other they share one stage; every result can be set side by side.
  await compare.getByRole('checkbox', { name: 'Laid over each other' }).check();
  await expect(compare.locator('[data-laid="2"] canvas')).toBeVisible();
  await expect(compare.locator('canvas')).toHaveCount(1);
  await compare.getByLabel('All results').check();
  await expect(compare.getByRole('row').filter({ hasText: 'Wire, area' })).toContainText('×');
  await compare.getByLabel('All results').uncheck();
  await compare.getByRole('checkbox', { name: 'Laid over each other' }).uncheck();
  // One figure is taken over; then nothing differs.
  await row.getByRole('button', { name: 'take over' }).click();
  await expect(compare).toContainText('Nothing is written differently');
  await compare.getByLabel('Name of Variant 1').fill('Thin');
  await page.getByRole('button', { name: 'Back to the sheet' }).click();
  await expect(result(page, 'mass')).toHaveText(mass);
  await field(page, 'wire.diameter').fill('2.5 mm');
  await variants.click();
  await page.getByRole('menuitem', { name: /^Thin/ }).click();
  await expect(result(page, 'mass')).toHaveText(mass);
  // What is kept beside the sheet survives a reload, and undo.
  await kept(page);
  await page.reload();
  await variants.click();
  await expect(page.getByRole('menuitem', { name: /^Thin/ })).toBeVisible();
});

test('the making is gone over step by step, by itself and by the keyboard', async ({ page }) => {
  await openDesign(page, 'Show ribbon');
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await page.getByRole('menuitem', { name: /Replay/ }).click();
  const bar = page.getByLabel('Replay', { exact: true });
  await expect(bar).toContainText('1 of 3');
  await expect(bar).toContainText('Ring');
  // It goes on by itself, to the end.
  await bar.getByLabel('Pace').selectOption('quickly');
  await expect(bar).toContainText('3 of 3');
  await expect(bar).toContainText(/volume\s*4218/);
  await bar.getByRole('button', { name: 'Play' }).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(bar).toContainText('2 of 3');
  await expect(bar).toContainText('Band');
  await expect(page.locator('[data-step=ribbon], [data-step]').last()).toHaveAttribute('data-unmade');
  await page.keyboard.press('Escape');
  await expect(bar).toHaveCount(0);
  await expect(page.locator('[data-step]').last()).not.toHaveAttribute('data-unmade');
});

test(
  'a design is shared for review: it opens read-only, and a copy of it can be changed',
  LONG,
  async ({ page }) => {
    await openDesign(page, 'Show ribbon');
    await page.getByRole('button', { name: 'Export' }).click();
    await page.getByRole('button', { name: /Copy review link/ }).click();
    const link = await page.getByLabel('Address of the review').inputValue();
    await page.goto('/');
    // It stands still for who wants no motion.
    await page.emulateMedia({ reducedMotion: 'reduce' });
    await page.goto(link);
    const bar = page.getByLabel('Replay', { exact: true });
    await expect(bar.getByRole('button', { name: 'Play' })).toBeVisible();
    await expect(bar).toContainText('1 of 3');
    await expect(page.locator('[data-sheet] input[data-place]').first()).toBeDisabled();
    await page.getByRole('button', { name: 'Take a copy' }).click();
    await expect(page).toHaveURL(/\/d\//);
    await expect(page.locator('[data-sheet] input[data-place]').first()).toBeEnabled();
    await page.goto(`${link.slice(0, -40)}`);
    await page.reload();
    await expect(page.getByRole('heading', { name: 'This address holds no design' })).toBeVisible();
  },
);

test('the steps are listed with a picture each', async ({ page }) => {
  await openDesign(page, 'Extractor stand');
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await page.getByRole('menuitem', { name: /Step list/ }).click();
  const list = page.getByLabel('Step list', { exact: true });
  await expect(list.getByRole('listitem')).toHaveCount(5);
  await expect(list).toHaveAttribute('aria-busy', 'false');
  await expect(list.getByRole('img', { name: 'The part after step 3' })).toBeVisible();
  await expect(list.getByRole('listitem').nth(3)).toContainText('apart in z 240');
  await list.getByRole('button', { name: 'Back to the sheet' }).click();
  await expect(page.locator('[data-step=rise]')).toBeVisible();
});

test('triangles are shown as they are exported, and counted', LONG, async ({ page }) => {
  // Its closed coils lie on each other: it is made one clean solid.
  await openDesign(page, 'Nest spring');
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByLabel(/Chord tolerance/).fill('0.2');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await page.getByRole('menuitem', { name: /Show export mesh/ }).click();
  const panel = page.getByLabel('Triangles', { exact: true });
  await expect(panel).toHaveAttribute('aria-busy', 'false');
  const count = Number((await panel.locator('[data-triangles]').innerText()).replace(/\D/g, ''));
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /STL binary/ }).click();
  const bytes = await readFile((await (await download).path())!);
  expect(bytes.readUInt32LE(80)).toBe(count);
  await page.keyboard.press('Escape');
  await expect(panel.locator('[data-faults]')).toContainText(/open edges\s*none.*through each other\s*none/s);
  await page.getByRole('button', { name: 'Hide the triangles' }).click();
  await expect(panel).toHaveCount(0);
});

test('a finding leads to its place, and a limit shows the part as it would be', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await field(page, 'coil.turns').fill('19');
  const touch = finding(page, 'clearance').getByRole('button');
  await touch.click();
  const pin = page.locator('[data-pin=clearance]');
  await expect(pin).toBeVisible();
  const [box, stage] = await Promise.all([
    steady(page, () => pin.boundingBox()),
    page.getByLabel('Stage', { exact: true }).boundingBox(),
  ]);
  // In the middle of the free part of the stage.
  expect(Math.abs(box!.x + box!.width / 2 - (stage!.x + (stage!.width - 222) / 2))).toBeLessThan(3);
  await page.keyboard.press('Escape');
  await expect(pin).toHaveCount(0);
  // Who looks closely at a place stays there while a figure changes.
  const scale = page.getByLabel('Stage', { exact: true }).locator('[data-scale]');
  const near = await steady(page, () => scale.innerText());
  await field(page, 'coil.turns').fill('18.9');
  await settled(page);
  expect(await steady(page, () => scale.innerText())).toBe(near);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await expect(scale).not.toHaveText(near);
  // At its limit the part is another one: it is seen beside the present one while the limit has the focus, and no longer.
  const limit = page.locator('[data-limit]').first();
  const faint = page.locator('[data-imagined]');
  // A gradient is drawn a shade otherwise now and then: on a plain ground the same is the same.
  await page.getByLabel('Stage', { exact: true }).evaluate((one) => {
    one.style.background = 'white';
  });
  const clip = { x: stage!.x, y: stage!.y + 50, width: stage!.width - 222, height: stage!.height - 200 };
  const seen = async () =>
    createHash('sha256')
      .update(await page.screenshot({ clip }))
      .digest('hex');
  await limit.focus();
  await expect(faint).toContainText('for the coils to clear');
  const both = await steady(page, seen);
  await limit.blur();
  await expect(faint).toHaveCount(0);
  await expect.poll(seen).not.toBe(both);
});

test('a view is chosen, all four are shown, and the camera is found again', LONG, async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await page.getByRole('button', { name: 'All four' }).click();
  await expect(page.getByRole('application')).toHaveCount(4);
  // The part is fitted to its smaller pane: no figure of it lies over a scale.
  const boxes = (what: string) =>
    page
      .locator(what)
      .evaluateAll((all) => all.map((one) => one.getBoundingClientRect().toJSON() as DOMRect));
  const covered = async () => {
    const scales = await boxes('[data-scale]');
    return (await boxes('[data-dimension]')).filter((figure) =>
      scales.some(
        (scale) =>
          figure.left < scale.right &&
          scale.left < figure.right &&
          figure.top < scale.bottom &&
          scale.top < figure.bottom,
      ),
    ).length;
  };
  await expect.poll(() => boxes('[data-scale]')).toHaveLength(4);
  await expect.poll(covered).toBe(0);
  await page.keyboard.press('4');
  await expect(page.getByRole('application')).toHaveCount(1);
  const stage = page.getByRole('application', { name: /Space view/ });
  const label = page.locator('[data-dimension="height"]');
  await stage.focus();
  await page.waitForTimeout(400);
  const before = (await label.boundingBox())!;
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await expect.poll(async () => (await label.boundingBox())!.x).not.toBe(before.x);
  await page.waitForTimeout(500);
  await kept(page);
  const there = (await label.boundingBox())!;
  await page.reload();
  await settled(page);
  await expect.poll(async () => Math.abs((await label.boundingBox())!.x - there.x)).toBeLessThan(2);
});
