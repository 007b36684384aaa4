import { choose, expect, field, finding, fresh, kept, openDesign, result, test } from './fixture';
import type { Locator, Page } from '@playwright/test';
import { LONG, SHORT } from './runs';

/** A new empty design, with the caret in the line for the first step. */
async function begin(page: Page): Promise<void> {
  await fresh(page);
  await expect(page.locator('[data-add]')).toBeFocused();
}
async function add(page: Page, words: string): Promise<void> {
  await page.locator('[data-add]').click();
  await page.keyboard.type(words);
  await page.keyboard.press('Enter');
}
const paste = (page: Page, place: string, text: string) =>
  field(page, place).evaluate((input, clip) => {
    const data = new DataTransfer();
    data.setData('text', clip);
    input.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);

test(
  'kinds of path are found by their names and made at once from an empty design',
  LONG,
  async ({ page }) => {
    await begin(page);
    const byThemselves = [
      ['winding', 'winding'],
      ['flat spiral', 'spiral'],
      ['stations', 'stationed'],
      ['two-view', 'two-view'],
      ['smooth curve', 'smooth'],
      ['cage', 'cage'],
    ] as const;
    for (const [words, kind] of [
      ['loop', 'loop'],
      ...byThemselves.slice(SHORT ? 4 : 0),
      ['bend rows', 'run'],
      ['wrap', 'wrap'],
      ['cast', 'cast'],
      ['wring', 'wrung'],
      ['trim', 'part'],
      ['chain', 'chain'],
    ] as const) {
      await add(page, words);
      await expect(page.locator(`[data-step="${kind}"]`), words).toBeVisible();
    }
    // A wrap and a cast take the nearest path, a run that leaves its plane: told, and mended by choosing the loop.
    for (const kind of ['wrap', 'cast', 'wrung', 'part'] as const) {
      const step = page.locator(`[data-step="${kind}"]`);
      await step
        .getByRole('button', { name: /^(outline|path):/ })
        .first()
        .click();
      await page.getByRole('menuitemradio', { name: 'Loop', exact: true }).click();
      await expect(step.getByRole('alert')).toHaveCount(0);
    }
    await expect(page.locator('main').getByText('cannot be made')).toHaveCount(1);
    const chain = page.locator('[data-step="chain"]');
    await expect(chain.getByRole('alert')).toContainText('no ends to join');
  },
);

test('a run is typed, pasted, bent by its other table, and dragged on the stage', async ({ page }) => {
  await begin(page);
  await add(page, 'run');
  await expect(result(page, 'bends')).toHaveText('2');
  await paste(page, 'run.points.0.x', '0\t0\t0\n120\t0\t0\n120\t60\t0\n');
  await field(page, 'run.points.3.x').fill('200');
  await expect(field(page, 'run.points.1.x')).toHaveValue('120');
  await expect(result(page, 'bends')).toHaveText('2');

  await page.getByRole('button', { name: 'Bend rows' }).click();
  await expect(field(page, 'run.bends.0.angle')).toHaveAttribute('placeholder', '90°');
  await field(page, 'run.bends.0.angle').fill('60');
  await field(page, 'run.bends.0.angle').blur();
  await expect(page.getByText('Straights from bend rows')).toBeVisible();
  await expect(field(page, 'run.bends.0.angle')).toHaveValue('60°');
  await page.getByRole('button', { name: 'Points', exact: true }).click();
  // The straight of 105 mm stays; the corner of 60° is nearer to it: 105 + 15 tan 30°.
  await expect(field(page, 'run.points.1.x')).toHaveAttribute('placeholder', '113.7');
  await expect(field(page, 'run.points.1.x')).toHaveValue('');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Straights through corner points')).toBeVisible();

  await page.getByRole('button', { name: 'Top', exact: true }).click();
  const point = page.locator('[data-point="1"]');
  const box = (await point.boundingBox())!;
  await page.mouse.move(box.x + 12, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 12, box.y - 30, { steps: 5 });
  await page.mouse.up();
  await expect(field(page, 'run.points.1.y')).not.toHaveValue('0');
  await expect(field(page, 'run.points.1.x')).toHaveValue('120');
  await kept(page);
});

test('what is wrong in a table is told at its cell, and the last good path stays', async ({ page }) => {
  await begin(page);
  await add(page, 'run');
  await expect(result(page, 'bends')).toHaveText('2');
  const length = await result(page, 'length').textContent();
  await field(page, 'run.points.1.x').fill('12 abc');
  await expect(page.locator('[data-step="run"]').getByRole('alert')).toContainText('point 2, x');
  await expect(field(page, 'run.points.1.x')).toHaveAttribute('aria-invalid', 'true');
  await field(page, 'run.points.1.x').fill('100');
  await expect(result(page, 'length')).toHaveText(length!);
  await field(page, 'run.radius').fill('70');
  await expect(page.locator('[data-step="run"]').getByRole('alert')).toContainText('fit between each other');
  await paste(page, 'run.points.0.x', '1,5\t2.5\n');
  await expect(page.getByText('some decimal commas')).toBeVisible();
  await paste(page, 'run.points.0.x', '1\t2\n'.repeat(20_000));
  await expect(page.getByText('more than the 2000 rows that fit in a table')).toBeVisible();
});

test('what is added has the cursor at once: who types on loses no letter', async ({ page }) => {
  await begin(page);
  await add(page, 'run');
  await paste(
    page,
    'run.points.0.x',
    Array.from({ length: 80 }, (_, i) => `${i * 30}\t${(i % 2) * 60}\n`).join(''),
  );
  await expect(page.locator('[data-table="points"] > div[class*=overflow]')).toHaveJSProperty('scrollTop', 0);
  // In one task: nothing is drawn between the click and the question who has the cursor.
  const cursor = (button: Locator) =>
    button.evaluate((it: HTMLElement) => {
      it.click();
      return document.activeElement?.ariaLabel;
    });
  expect(await cursor(page.locator('[data-add-row="points"]'))).toBe('x of point 81');
  expect(await cursor(page.getByRole('button', { name: 'Name a figure to use it everywhere' }))).toBe(
    'Name of the given figure',
  );
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('n');
  expect(await cursor(page.getByRole('button', { name: 'Note on the design' }))).toBe('Text of note 1');
});

test('a winding that does not close offers the nearest that does', async ({ page }) => {
  await begin(page);
  await add(page, 'loop');
  await add(page, 'winding');
  await field(page, 'winding.turns').fill('7.3');
  const step = page.locator('[data-step="winding"]');
  await expect(step.getByRole('alert')).toContainText('do not close');
  await step.getByRole('button', { name: 'Take 7 turns' }).click();
  await expect(step.getByRole('alert')).toHaveCount(0);
  await expect(field(page, 'winding.turns')).toHaveValue('7');
});

test('two views that end apart are told, and mended by one click', async ({ page }) => {
  await openDesign(page, 'Extractor stand');
  await expect(finding(page, 'views')).toHaveAttribute('data-level', 'good');
  await field(page, 'leg.top.3.along').fill('650');
  await expect(finding(page, 'views')).toHaveAttribute('data-level', 'fault');
  await finding(page, 'views')
    .getByRole('button', { name: /Carry the top view on/ })
    .click();
  await expect(finding(page, 'views')).toHaveAttribute('data-level', 'good');
  await expect(field(page, 'leg.top.3.along')).toHaveValue('700');
});

/** Within the first point that can be pulled as it is drawn on a chart, CSS pixels from the chart's corner. */
const firstPoint = (chart: Locator): Promise<{ x: number; y: number }> =>
  chart.evaluate((element) => {
    const canvas = element as HTMLCanvasElement;
    const { width, height } = canvas;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, width, height);
    const ink = getComputedStyle(document.documentElement).getPropertyValue('--brass').trim();
    const hexAt = (at: number) =>
      `#${[0, 1, 2].map((k) => data[at + k]!.toString(16).padStart(2, '0')).join('')}`;
    const scale = width / canvas.clientWidth;
    for (let x = 0; x < width; x++)
      for (let y = 0; y < height; y++)
        if (hexAt(4 * (y * width + x)) === ink) return { x: x / scale + 3, y: y / scale };
    throw new Error(`nothing in ${ink} is drawn on the chart`);
  });

test('the charts follow the path, share their cursor with the stage, and their points can be pulled', async ({
  page,
}) => {
  await openDesign(page, 'Lid bumper');
  await page.getByRole('button', { name: 'Lengthwise' }).click();
  const charts = page.getByRole('region', { name: 'Lengthwise' });
  await expect(charts.getByText('of Waisted coil')).toBeVisible();
  for (const name of ['Pitch', 'Height', 'Curvature', 'Torsion', 'Clearance'])
    await expect(charts.getByRole('button', { name, exact: true })).toBeVisible();
  await charts.getByRole('button', { name: 'Diameter', exact: true }).click();
  const canvas = charts.locator('canvas');
  const box = (await canvas.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 40);
  await expect(page.locator('[data-cursor]')).toHaveCount(1);
  // The first station: its diameter is an expression, which pulling leaves; typed as a figure it is pulled.
  await field(page, 'coil.stations.0.diameter').fill('33');
  await field(page, 'coil.stations.0.diameter').blur();
  await expect(field(page, 'coil.stations.0.diameter')).toHaveValue('33');
  await page.waitForTimeout(800);
  const before = await result(page, 'wireLength').textContent();
  const point = await firstPoint(canvas);
  await page.mouse.move(box.x + point.x, box.y + point.y);
  await expect(canvas).toHaveCSS('cursor', 'ns-resize');
  await page.mouse.down();
  await page.mouse.move(box.x + point.x, box.y + point.y + 24, { steps: 4 });
  await page.mouse.up();
  await expect(field(page, 'coil.stations.0.diameter')).not.toHaveValue('33');
  await expect(result(page, 'wireLength')).not.toHaveText(before!);
});

test('points of a path go out as CSV', async ({ page }) => {
  await openDesign(page, 'Warming spiral');
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /Points of the path/ }).click();
  expect((await download).suggestedFilename()).toBe('warming-spiral-spiral.csv');
  await expect(page.getByRole('status').filter({ hasText: /\d+ points/ })).toBeVisible();
});

test(
  'a bent bar out of a file is read as straights and bends, and unbent to its blank',
  LONG,
  async ({ page }) => {
    await openDesign(page, 'Press hook');
    const step = page.locator('[data-step="centre-line"]');
    await expect(step).toContainText(/developed length\s*260\.\d\s*mm\s*±0\.\d/);
    await step.getByRole('button', { name: 'Bend rows' }).click();
    // The blank is one straight.
    await expect(step.getByRole('row')).toHaveCount(2);
    await field(page, 'given.0').fill('1');
    await expect(step.getByRole('row')).toHaveCount(5);
    for (const [i, angle] of [90, 60, 150].entries())
      await expect(step.getByRole('row').nth(i + 1)).toContainText(new RegExp(`\\b${angle}(\\.0\\d*)?°`));
    await field(page, 'centre-line.within').fill('0.001 mm');
    await expect(step.getByRole('alert')).toContainText(/mm off .*mm from its start: allow as much/);
    await page.keyboard.press('Control+z');
    await expect(step.getByRole('alert')).toHaveCount(0);
    await choose(page, 'centre-line', /^reading/, 'a smooth curve');
    await expect(step.getByRole('button', { name: 'Bend rows' })).toHaveCount(0);
    await expect(step).toContainText(/developed length\s*260\.\d\s*mm/);
  },
);

test(
  'a pipe is led out of a hole of a part from a file: its face is picked on the part',
  LONG,
  async ({ page }) => {
    await openDesign(page, 'Tank drain');
    const step = page.locator('[data-step="face-axis"]');
    await expect(step).toContainText(/diameter of the hole\s*18\.2\d*\s*mm/);
    const length = result(page, 'wireLength');
    const before = (await length.textContent())!;
    // Of another hole it is another axis, and the pipe begins there.
    for (const [axis, at] of [
      ['x', '-36 mm'],
      ['y', '-26 mm'],
      ['z', '4 mm'],
    ] as const)
      await field(page, `face-axis.${axis}`).fill(at);
    await expect(step).toContainText(/diameter of the hole\s*7\.0\d*\s*mm/);
    await expect(length).not.toHaveText(before);
    await field(page, 'face-axis.x').fill('25 mm');
    await field(page, 'face-axis.y').fill('0 mm');
    await field(page, 'face-axis.z').fill('14 mm');
    await expect(step).toContainText(/area of the face\s*[\d.  ]+\s*mm²/);

    await choose(page, 'face-axis', /^form of the face/, 'round face');
    await expect(step.getByRole('alert')).toContainText('The face there is not round');
    await choose(page, 'face-axis', /^form of the face/, 'flat face');
    await expect(step.getByRole('alert')).toHaveCount(0);
    const pick = step.getByRole('button', { name: 'Pick a place on the part' });
    await pick.click();
    const stage = page.locator('[role="application"]');
    const box = (await stage.boundingBox())!;
    // From the left towards the middle: the edge of the flange comes first.
    for (let x = 0.2; x < 0.6; x += 0.02) {
      await page.mouse.move(box.x + x * box.width, box.y + 0.38 * box.height);
      await page.waitForTimeout(110);
      if (await stage.evaluate((pane) => pane.classList.contains('cursor-pointer'))) {
        await page.mouse.move(box.x + (x + 0.02) * box.width, box.y + 0.38 * box.height);
        await page.mouse.down();
        await page.mouse.up();
        break;
      }
    }
    await expect(pick).toBeVisible();
    await expect(field(page, 'face-axis.x')).not.toHaveValue('25 mm');
    await expect(step.getByRole('alert')).toHaveCount(0);
    await page.keyboard.press('Control+z');
    await expect(field(page, 'face-axis.x')).toHaveValue('25 mm');

    // An outline is cast on the same part.
    const add = page.locator('[data-add]');
    for (const kind of ['loop', 'cast']) {
      await add.fill(kind);
      await add.press('Enter');
    }
    await choose(page, 'cast', /^surface/, 'body');
    await choose(page, 'cast', /^body/, 'Flange');
    await field(page, 'cast.slope').fill('90 deg');
    const cast = page.locator('[data-step="cast"]');
    await expect(cast).toContainText(/off the surface/);
    await expect(cast.getByRole('alert')).toHaveCount(0);
  },
);
