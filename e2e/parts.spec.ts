import { choose, expect, field, finding, fresh, kept, result, settled, settledResult, test } from './fixture';
import { LONG } from './runs';
import { strToU8, zipSync } from 'fflate';
import type { Page } from '@playwright/test';
import { boxSoup } from '../core/test/boxes';

/* Parts of the honey house, each made from nothing, against figures worked by hand. */

async function fill(page: Page, step: string, figures: Record<string, string>): Promise<void> {
  for (const [place, text] of Object.entries(figures)) await field(page, `${step}.${place}`).fill(text);
}

/** Types points one after the other; a new one is begun at its first cell. */
async function points(page: Page, step: string, rows: readonly (readonly [number, number, number])[]) {
  const table = page.locator(`[data-step="${step}"]`);
  await expect(table.locator('[data-add-row]')).toBeVisible();
  for (const [i, row] of rows.entries()) {
    const first = field(page, `${step}.points.${i}.x`);
    if ((await first.count()) === 0) {
      await table.locator('[data-add-row]').click();
      await expect(first).toBeFocused();
    }
    await fill(page, `${step}.points.${i}`, { x: `${row[0]}`, y: `${row[1]}`, z: `${row[2]}` });
  }
}

const more = async (page: Page, step: string) => {
  await page.locator(`[data-step="${step}"]`).hover();
  await page.locator(`[data-step="${step}"]`).getByRole('button', { name: 'More figures' }).click();
};

/** Length of straights through points, each corner rounded: its arc takes the place of two tangents. */
function bentLength(corners: readonly (readonly number[])[], radius: number): number {
  const legs = corners.slice(1).map((p, i) => p.map((x, k) => x - corners[i]![k]!));
  let length = legs.reduce((sum, leg) => sum + Math.hypot(...leg), 0);
  legs.slice(1).forEach((leg, i) => {
    const before = legs[i]!;
    const cos =
      leg.reduce((sum, x, k) => sum + x * before[k]!, 0) / Math.hypot(...leg) / Math.hypot(...before);
    length -= radius * (2 * Math.tan(Math.acos(cos) / 2) - Math.acos(cos));
  });
  return length;
}

/** The volume is that, to the digits shown, and the part stands without a fault. */
async function expectSound(page: Page, step: string, volume: number): Promise<void> {
  await settled(page);
  await expect(page.locator(`[data-step="${step}"]`).getByRole('alert')).toHaveCount(0);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  await expect
    .poll(async () => Number((await result(page, 'volume').innerText()).replace(/mm³|[^\d.]/g, '')))
    .toBeCloseTo(volume, volume < 10_000 ? 0 : -1);
}

test('a coil of tube with a tail to each side', LONG, async ({ page }) => {
  await fresh(page, 'tube', 'helix', 'run', 'part', 'chain', 'sweep');
  await fill(page, 'tube', { outer: '8 mm', wall: '0.8 mm' });
  await choose(page, 'helix', /^diameter measured:/, 'outer');
  await fill(page, 'helix', { turns: '5.5', height: '88 mm', diameter: '110 mm' });
  await field(page, 'run.radius').fill('20 mm');
  await points(page, 'run', [
    [0, 0, 0],
    [60, 0, 0],
    [60, 70, 0],
  ]);
  await page.locator('[data-step="run"]').getByRole('button', { name: 'Remove point 4' }).click();
  await field(page, 'part.extendEnd').fill('15 mm');
  await choose(page, 'chain', /^first path:/, 'Run');
  await choose(page, 'chain', /^second path:/, 'Coil');
  await page.locator('[data-step="chain"]').getByRole('button', { name: 'one more' }).click();
  await choose(page, 'chain', /^third path:/, 'Part');
  await more(page, 'chain');
  await choose(page, 'chain', /^way of the first path:/, 'backwards');
  // Each tail: 60 and 70 mm less the corner's tangents, and its quarter turn.
  const tail = 130 - 40 + 10 * Math.PI;
  const length = 2 * tail + 15 + Math.hypot(5.5 * Math.PI * 102, 88);
  await expectSound(page, 'sweep', length * Math.PI * (16 - 3.2 ** 2));
});

test('a taper of beeswax: a star, twisted and drawn in', LONG, async ({ page }) => {
  await fresh(page, 'axis', 'star', 'sweep');
  await fill(page, 'run', { 'points.1.z': '200 mm' });
  await fill(page, 'star', { tips: '5', size: '50 mm', valley: '0.6' });
  await choose(page, 'sweep', /^size along the path:/, 'tapering');
  await field(page, 'sweep.endScale').fill('0.4');
  await choose(page, 'sweep', /^twist:/, 'twisted in all by');
  await field(page, 'sweep.twist').fill('270 deg');
  await choose(page, 'sweep', /^material:/, 'beeswax');
  // Ten triangles between tip and valley; a frustum of it, whatever its twist.
  const area = 5 * 25 * 15 * Math.sin(Math.PI / 5);
  await expectSound(page, 'sweep', (area * 200 * (1 + 0.4 + 0.16)) / 3);
});

test('a leg of tube from two views', LONG, async ({ page }) => {
  await fresh(page, 'tube', 'two-view', 'sweep');
  await fill(page, 'tube', { outer: '25 mm', wall: '1.5 mm' });
  const view = {
    front: [
      [220, 0],
      [420, 240],
      [700, 240],
    ],
    top: [
      [320, 0],
      [500, 140],
      [700, 140],
    ],
  };
  await field(page, 'two-view.radius').fill('60 mm');
  for (const [name, rows] of Object.entries(view))
    for (const [i, [along, across]] of rows.entries())
      await fill(page, `two-view.${name}.${i + 1}`, { along: `${along} mm`, across: `${across} mm` });
  // Corners where either view has one, each leg's other coordinate carried over; bends take their tangents' place.
  const corners = [
    [0, 0, 0],
    [220, 0, 0],
    [320, 0, 120],
    [420, (100 / 180) * 140, 240],
    [500, 140, 240],
    [700, 140, 240],
  ] as const;
  const length = bentLength(corners, 60);
  await expectSound(page, 'sweep', length * Math.PI * (12.5 ** 2 - 11 ** 2));
  const step = page.locator('[data-step="two-view"]');
  await step.getByRole('button', { name: 'Points', exact: true }).click();
  await expect(step.locator('[data-filled="points"] tbody tr')).toHaveCount(6);
  await expect(step.locator('[data-filled="points"] tbody tr').nth(3)).toHaveText(/^4420mm77.78mm240mm60mm$/);
  await step.getByRole('button', { name: 'Bend rows' }).click();
  await expect(step.locator('[data-filled="bends"] tbody tr')).toHaveCount(5);
  const download = page.waitForEvent('download');
  await step.getByRole('button', { name: 'save as CSV' }).click();
  expect((await download).suggestedFilename()).toBe('bends.csv');
});

test('a spring with ground ends', LONG, async ({ page }) => {
  await fresh(page, 'round', 'helix', 'sweep', 'compression duty');
  await fill(page, 'round', { diameter: '1.8 mm' });
  await fill(page, 'helix', { turns: '7.5', height: '32 mm', diameter: '14.4 mm' });
  await choose(page, 'helix', /^ends of the coil:/, 'closed');
  for (const end of ['start', 'end'])
    await choose(page, 'sweep', new RegExp(`^shape of the ${end}:`), 'ground flush');
  await settled(page);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  // Ground at the ends of the centre line: as tall as that.
  await expect(page.locator('dd', { hasText: /^16.2 × 16.2 × 32 ?mm/ })).toBeVisible();
  const rate = (81_500 * 1.8 ** 4) / (8 * 14.4 ** 3 * 5.5);
  const shown = Number((await settledResult(page, 'rate')).replace(/[^\d.]/g, ''));
  expect(Math.abs(shown / rate - 1)).toBeLessThan(0.001);
});

test('a clasp of wire that swells in its middle', LONG, async ({ page }) => {
  await fresh(page, 'run', 'round', 'sweep');
  await fill(page, 'round', { diameter: '2.4 mm' });
  await field(page, 'run.radius').fill('9 mm');
  const corners = [
    [-34, 0, 26],
    [-34, 0, 0],
    [-16, -30, -8],
    [16, -30, -8],
    [34, 0, 0],
    [34, 0, 26],
  ] as const;
  await points(page, 'run', corners);
  await settled(page);
  const even = await settledResult(page, 'volume');
  await choose(page, 'sweep', /^size along the path:/, 'sized by stations');
  // Begun by stations, it is as it was.
  await expect(field(page, 'sweep.sizes.1.width')).toHaveValue('2.4');
  await expect(result(page, 'volume')).toHaveText(even);
  await page.locator('[data-step="sweep"] [data-add-row="sizes"]').click();
  // A new station stands between the last two.
  await expect(field(page, 'sweep.sizes.1.part')).toBeFocused();
  await fill(page, 'sweep.sizes.1', { part: '0.5', width: '4.8 mm' });
  await fill(page, 'sweep.sizes.2', { part: '1', width: '2.4 mm' });
  for (const end of ['start', 'end'])
    await choose(page, 'sweep', new RegExp(`^shape of the ${end}:`), 'domed');
  await fill(page, 'sweep', { startSize: '1.2 mm', endSize: '1.2 mm' });
  await more(page, 'sweep');
  await choose(page, 'sweep', /^how the size runs:/, 'straight');
  // Two frustums from 1.2 to 2.4 mm of radius and back, and a ball.
  const volume = (Math.PI * 1.44 * (1 + 2 + 4) * bentLength(corners, 9)) / 3 + (4 / 3) * Math.PI * 1.2 ** 3;
  await expectSound(page, 'sweep', volume);
});

/** Cubes as STL, by their least corners along the diagonal, in units of the file. */
function cubeStl(side: number, ...others: number[]): string {
  const cubes = [0, ...others].map((at) => boxSoup([at, at, at], [at + side, at + side, at + side]));
  const corners = Float32Array.from(cubes.flatMap((one) => [...one]));
  const facets = Array.from({ length: 12 * cubes.length }, (_x, t) => {
    const vertices = [0, 3, 6].map((i) => `vertex ${corners.subarray(9 * t + i, 9 * t + i + 3).join(' ')}`);
    return ['facet normal 0 0 0', 'outer loop', ...vertices, 'endloop', 'endfacet'].join('\n');
  });
  return `solid cube\n${facets.join('\n')}\nendsolid\n`;
}

/** A tetrahedron as 3MF, in inches. */
function inchThreeMf(): Uint8Array {
  const vertices = ['000', '100', '010', '001'].map(([x, y, z]) => `<vertex x="${x}" y="${y}" z="${z}"/>`);
  const triangles = ['021', '013', '032', '123'].map(
    ([a, b, c]) => `<triangle v1="${a}" v2="${b}" v3="${c}"/>`,
  );
  const mesh = `<mesh><vertices>${vertices.join('')}</vertices><triangles>${triangles.join('')}</triangles></mesh>`;
  const model = `<model unit="inch"><resources><object id="1">${mesh}</object></resources><build><item objectid="1"/></build></model>`;
  return zipSync({ '3D/3dmodel.model': strToU8(model) });
}

test('a part from a file is drilled, is there again after a reload, and one that is open is refused', async ({
  page,
}) => {
  await fresh(page, 'part from a file');
  const step = page.locator('[data-step="part-from-file"]');
  await expect(step.getByRole('alert')).toContainText('No file was brought in yet');
  const bringIn = (name: string, content: string | Uint8Array) =>
    step
      .getByLabel('A part to bring in')
      .setInputFiles({ name, mimeType: 'model/stl', buffer: Buffer.from(content) });
  await bringIn('inches.3mf', inchThreeMf());
  await expect(field(page, 'part-from-file.unit')).toHaveValue('25.4 mm');
  // An STL tells no unit, and that of the file before is not its own.
  await bringIn('bracket.stl', cubeStl(2));
  await expect(step).toContainText('bracket.stl, 12 triangles');
  await expect(field(page, 'part-from-file.unit')).toHaveValue('1 mm');
  await field(page, 'part-from-file.unit').fill('1 in');
  await expect(result(page, 'volume')).toHaveText(`131\u2009097mm³`);
  await expect(finding(page, 'closed')).toHaveAttribute('data-level', 'good');
  await bringIn('open.stl', cubeStl(3).replace(/facet normal[^]*?endfacet\n/, ''));
  await expect(step.getByRole('alert')).toContainText('3 edges have a triangle on one side only');
  await expect(step).toContainText('bracket.stl, 12 triangles');
  const add = page.locator('[data-add]');
  await add.fill('cylinder');
  await add.press('Enter');
  await field(page, 'cylinder.height').fill('60 mm');
  await add.fill('subtract');
  await add.press('Enter');
  // A quarter of it stands in the cube, whose corner is on its axis.
  const left = 50.8 ** 3 - (Math.PI / 4) * 100 * 50.8;
  const near = new RegExp(`^${String(Math.round(left)).slice(0, 3)}\u2009`);
  await expect(result(page, 'volume')).toHaveText(near);
  await kept(page);
  await page.reload();
  await settled(page);
  await expect(result(page, 'volume')).toHaveText(near);
  await expect(step).toContainText('bracket.stl, 12 triangles');
});

test('triangles of a part from a file that run through each other are led to', async ({ page }) => {
  await fresh(page, 'part from a file');
  await page
    .locator('[data-step="part-from-file"]')
    .getByLabel('A part to bring in')
    .setInputFiles({ name: 'two.stl', mimeType: 'model/stl', buffer: Buffer.from(cubeStl(20, 9.5)) });
  await page.getByLabel(/^Space view/).focus();
  await page.keyboard.press('7');
  const faults = page.getByLabel('Triangles', { exact: true }).locator('[data-faults]');
  await expect(faults).toContainText(/open edges\s*none/);
  await faults.getByRole('button', { name: 'some' }).click();
  await expect(page.locator('[data-pin="Triangles that run through each other"]')).toBeVisible();
});
