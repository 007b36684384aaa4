import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import {
  choose,
  expect,
  field,
  finding,
  fresh,
  kept,
  openDesign,
  result,
  settled,
  settledResult,
  test,
} from './fixture';
import { LONG } from './runs';

test('an endless ribbon is made from nothing: the twist that does not close offers those that do', async ({
  page,
}) => {
  await fresh(page, 'loop', 'strip', 'sweep');
  await settled(page);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  await choose(page, 'sweep', /^twist:/, 'twisted in all by');
  await field(page, 'sweep.twist').fill('100 deg');
  const step = page.locator('[data-step="sweep"]');
  await expect(step.getByRole('alert')).toContainText('This twist does not close');
  await expect(step.locator('[data-mend]')).toHaveText(['Twist by 0°', 'Twist by 180°']);
  await step.locator('[data-mend]').nth(1).click();
  await expect(field(page, 'sweep.twist')).toHaveValue('180°');
  await expect(step.getByRole('alert')).toHaveCount(0);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  // Area of the strip, 0.8 by 8 with round edges, by the way round: 60 π.
  const area = 0.8 * 7.2 + Math.PI * 0.16;
  await expect(result(page, 'volume')).toHaveText(
    `${(area * 60 * Math.PI).toFixed(0).replace(/(\d)(\d{3})$/, '$1$2')}mm³`,
  );
});

test('another section takes the place of a wire, and the part stays', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await choose(page, 'wire', /^kind of section:/, 'Polygon');
  await expect(field(page, 'wire.size')).toHaveValue('wire');
  await expect(result(page, 'volume')).not.toHaveText('843.4mm³');
  await expect(page.locator('[data-step="spring"]').getByRole('alert')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(field(page, 'wire.diameter')).toHaveValue('wire');
  await expect(result(page, 'volume')).toHaveText('843.4mm³');
});

test('a size by stations: typed, pulled in the chart, and picked on the part', async ({ page }) => {
  await openDesign(page, 'Lid clasp');
  const step = page.locator('[data-step="clasp"]');
  await step.locator('header input').click();
  await page.getByRole('button', { name: 'Lengthwise' }).click();
  const chart = page.getByRole('img', { name: /^Section, width along the path/ });
  await expect(chart).toBeVisible();
  const before = await result(page, 'volume').textContent();
  await field(page, 'clasp.sizes.2.width').fill('3 * wire');
  await expect(result(page, 'volume')).not.toHaveText(before!);
  await field(page, 'clasp.sizes.4.width').fill('0 mm');
  await expect(step.getByRole('alert')).toContainText('station 5, width');
  await field(page, 'clasp.sizes.4.width').fill('wire');
  await expect(step.getByRole('alert')).toHaveCount(0);

  await step.getByRole('button', { name: 'Pick a station on the part' }).click();
  const stage = page.locator('[role="application"]');
  const box = (await stage.boundingBox())!;
  // Somewhere on the part: the stage says where by the name it shows.
  let found = false;
  for (const x of [0.5, 0.4, 0.6, 0.3, 0.7])
    for (let y = 0.2; y < 0.8 && !found; y += 0.02) {
      await page.mouse.move(box.x + x * box.width, box.y + y * box.height);
      await page.waitForTimeout(110);
      if (await stage.evaluate((pane) => pane.classList.contains('cursor-pointer'))) {
        await page.mouse.down();
        await page.mouse.up();
        found = (await page.locator('[data-place^="clasp.sizes."][data-place$=".width"]').count()) === 6;
      }
    }
  expect(found).toBe(true);
  await kept(page);
});

test('the hold is chosen from pictures of the part itself', async ({ page }) => {
  await openDesign(page, 'Press spring');
  const step = page.locator('[data-step="spring"]');
  await step.hover();
  await step.getByRole('button', { name: 'More figures' }).click();
  await expect(step.locator('[data-hold] img')).toHaveCount(3, { timeout: 60_000 });
  await expect(step.locator('[data-hold="level"]')).toContainText('not possible');
  await step.locator('[data-hold="facing"]').click();
  await expect(step.getByRole('button', { name: 'hold: facing' })).toBeVisible();
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
});

test('a section is carried by a corner, pressed in its drawing or given by its number', async ({ page }) => {
  await fresh(page, 'loop', 'rectangle', 'sweep');
  await settled(page);
  const step = page.locator('[data-step="sweep"]');
  await step.getByRole('button', { name: 'More figures' }).click();
  const point = (name: string) => step.getByRole('radio', { name, exact: true });
  await expect(point('centroid')).toHaveAttribute('aria-checked', 'true');
  const before = await settledResult(page, 'volume');
  await point('corner 1').click();
  await expect(point('corner 1')).toHaveAttribute('aria-checked', 'true');
  await expect(field(page, 'sweep.byCorner')).toHaveValue('1');
  await expect(result(page, 'volume')).not.toHaveText(before);
  // Rectangle 4 by 2 round a loop of 60: its centroid goes round 1 or 2 mm further in or out than the path.
  const volumes = [28, 29, 31, 32].map((r) => Math.round(8 * 2 * Math.PI * r));
  expect(volumes).toContain(Number((await settledResult(page, 'volume')).replace(/[^\d]|mm³/g, '')));
  await field(page, 'sweep.byCorner').fill('5');
  await expect(step.getByRole('alert')).toContainText(
    'This section has 4 corners: give a whole number from 1 to 4.',
  );
  await point('centroid').press('Enter');
  await expect(result(page, 'volume')).toHaveText(before);
});

test('an outline of one’s own is moved by its points, and a corner that does not fit is told', async ({
  page,
}) => {
  await fresh(page, 'custom');
  const step = page.locator('[data-step="outline"]');
  await expect(step.getByRole('button', { name: /^Point 3/ })).toBeVisible();
  await step.getByRole('button', { name: /^Point 3/ }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(field(page, 'outline.points.2.x')).not.toHaveValue('6 mm');
  await field(page, 'outline.points.0.radius').fill('9 mm');
  await expect(step.getByRole('alert')).toContainText(/Point 1 cannot take a radius of 9.*mm: up to/);
});

test('a bar of an outline that a drawing brings in; one that is none is told, and nothing is lost', async ({
  page,
}) => {
  await fresh(page, 'custom', 'axis', 'sweep');
  await settled(page);
  const step = page.locator('[data-step="outline"]');
  const bringIn = (name: string, text: string) =>
    step
      .getByLabel('A drawing to bring in')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  const points = step.locator('[data-place^="outline.points."][data-place$=".x"]');
  const before = await points.count();
  await bringIn('empty.dxf', '0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n');
  await expect(step.getByRole('alert')).toContainText('no closed outline');
  await expect(points).toHaveCount(before);
  const plate = `<svg width="80mm" viewBox="0 0 80 40">
    <rect width="40" height="20" rx="5"/><circle cx="20" cy="10" r="6"/></svg>`;
  await bringIn('plate.svg', plate);
  await expect(step.getByRole('alert')).toHaveCount(0);
  const area = 800 - (4 - Math.PI) * 25 - Math.PI * 36;
  await expect(result(page, 'volume')).toHaveText(
    `${(100 * area).toFixed(0).replace(/(\d)(\d{3})$/, '$1\u2009$2')}mm³`,
  );
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(points).toHaveCount(before);
});

test('the part is exported as 3MF and as GLB', LONG, async ({ page }) => {
  await openDesign(page, 'Twisted taper candle');
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByLabel(/Chord tolerance/).fill('0.1');
  for (const [line, name] of [
    [/3MF/, 'twisted-taper-candle.3mf'],
    [/GLB/, 'twisted-taper-candle.glb'],
  ] as const) {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: line }).click();
    const file = await download;
    expect(file.suggestedFilename()).toBe(name);
    const bytes = await readFile((await file.path())!);
    if (name.endsWith('3mf')) expect(Object.keys(unzipSync(bytes))).toContain('3D/3dmodel.model');
    else expect(bytes.subarray(0, 4).toString()).toBe('glTF');
  }
});

test('a jar whose corners follow a guide is made from nothing', LONG, async ({ page }) => {
  await fresh(page, 'axis', 'stations', 'polygon', 'sweep');
  await field(page, 'run.points.1.z').fill('118 mm');
  for (const [cell, text] of [
    ['diameter', '64 mm'],
    ['turns', '0.3'],
    ['height', '118 mm'],
    ['closedStart', '0'],
    ['closedEnd', '0'],
  ] as const)
    await field(page, `stationed.${cell}`).fill(text);
  await field(page, 'polygon.sides').fill('7');
  await field(page, 'polygon.size').fill('64 mm');
  await choose(page, 'polygon', /^measured:/, 'across corners');
  await choose(page, 'sweep', /^path:/, 'Axis');
  await choose(page, 'sweep', /^hold:/, 'guided');
  await expect(page.locator('[data-step="sweep"]').getByRole('button', { name: /^guide:/ })).toBeVisible();
  await settled(page);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  await expect(page.locator('[data-step="sweep"]').getByRole('alert')).toHaveCount(0);
  // Seven sides about 64 mm across the corners, 118 mm tall, of one size as the guide's diameter is: A = 7/2·r²·sin(360°/7).
  const volume = 3.5 * 32 * 32 * Math.sin((2 * Math.PI) / 7) * 118;
  const shown = Number((await result(page, 'volume').textContent())!.replace(/[^\d.]/g, ''));
  expect(Math.abs(shown / volume - 1)).toBeLessThan(2e-3);
});

test('a press spring of rectangular wire is made from nothing', LONG, async ({ page }) => {
  await fresh(page, 'helix', 'rectangle', 'sweep');
  await field(page, 'rectangle.width').fill('6 mm');
  await field(page, 'rectangle.height').fill('3 mm');
  await choose(page, 'sweep', /^hold:/, 'seated');
  for (const end of ['start', 'end'])
    await choose(page, 'sweep', new RegExp(`^shape of the ${end}:`), 'ground flush');
  await settled(page);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  await expect(page.locator('[data-step="sweep"]').getByRole('alert')).toHaveCount(0);
});

test('a twisted column and an endless band stand there at once', async ({ page }) => {
  await fresh(page, 'candle');
  await settled(page);
  await expect(finding(page, 'twist')).toHaveAttribute('data-level', 'good');
  await fresh(page, 'endless band');
  await settled(page);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
});
