import { readFile } from 'node:fs/promises';
import { meshVolume } from '@nematos/core/mesh/data/topology';
import { readAscii } from '../core/test/stl-reader';
import {
  FAST,
  apart,
  choose,
  expect,
  field,
  finding,
  fresh,
  kept,
  openDesign,
  result,
  settled,
  test,
} from './fixture';
import { LONG } from './runs';

test('a given is added, used, renamed everywhere, and its mistakes are told at it', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await page.getByRole('button', { name: 'given', exact: true }).click();
  await page.keyboard.type('tall');
  await page.keyboard.press('Enter');
  await expect(field(page, 'given.3')).toBeFocused();
  await page.keyboard.type('34 mm');
  await field(page, 'coil.height').fill('tall');
  await expect(result(page, 'freeLength')).toHaveText('34mm');
  const name = page.getByLabel('Name of the given tall');
  await name.fill('standing');
  await name.press('Enter');
  await expect(field(page, 'coil.height')).toHaveValue('standing');
  await field(page, 'coil.height').blur();
  await field(page, 'given.3').fill('standing + 1 mm');
  await expect(page.getByText('These givens go in a circle: standing → standing.')).toBeVisible();
  await expect(page.locator('[data-step="coil"]').getByRole('alert')).toContainText(
    '“standing” has no value yet',
  );
  await page.getByLabel('Name of the given travel').fill('mm');
  await page.keyboard.press('Enter');
  await expect(page.getByText('“mm” is a unit; choose another name.')).toBeVisible();
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
  await expect(result(page, 'freeLength')).toHaveText('34mm');
});

test('a cone is given by its end or by its angle', async ({ page }) => {
  await openDesign(page, 'Nest spring');
  const choose = async (from: string, to: string) => {
    await page.getByRole('button', { name: `taper: ${from}` }).click();
    await page.getByRole('menuitemradio', { name: to }).click();
    // The menu hands the focus back as it closes.
    await expect(page.getByRole('button', { name: `taper: ${to}` })).toBeFocused();
  };
  await choose('running to', 'tapering at');
  await expect(field(page, 'cone.halfAngle')).toHaveValue('5°');
  await field(page, 'cone.halfAngle').fill('10');
  await field(page, 'cone.halfAngle').blur();
  await expect(field(page, 'cone.halfAngle')).toHaveValue('10°');
  await expect(finding(page, 'coils')).toHaveAttribute('data-level', 'good');
  await choose('tapering at', 'throughout');
  await expect(field(page, 'cone.halfAngle')).toHaveCount(0);
  await field(page, 'cone.diameter').fill('30 mm');
  // 5 turns of mean diameter 30 − 2.2 mm: index 27.8/2.2
  await expect(result(page, 'index')).toHaveText('12.64');
  await choose('throughout', 'tapering at');
  await field(page, 'cone.halfAngle').fill('60');
  await expect(page.locator('[data-step="cone"]').getByRole('alert')).toContainText('The cone closes at');
});

test('the rarer figures show their defaults and can be changed', async ({ page }) => {
  await openDesign(page, 'Nest spring');
  await page.locator('[data-step="cone"]').hover();
  await page.locator('[data-step="cone"]').getByLabel('More figures').click();
  await expect(field(page, 'cone.axisZ')).toHaveValue('1');
  await field(page, 'cone.axisZ').fill('0');
  await expect(page.locator('[data-step="cone"]').getByRole('alert')).toContainText(
    'The axis needs a direction',
  );
  await field(page, 'cone.axisX').fill('1');
  await expect(page.locator('[data-step="cone"]').getByRole('alert')).toHaveCount(0);
  await expect(page.locator('dd', { hasText: /^28 × 3/ })).toBeVisible();
});

test('steps are moved by keyboard where their inputs allow it, and stay where they do not', async ({
  page,
}) => {
  await openDesign(page, 'Gate spring');
  const order = () =>
    page
      .locator('[data-step]')
      .evaluateAll((steps) => steps.map((step) => (step as HTMLElement).dataset.step));
  const knot = page.getByRole('button', { name: 'Step 2, Coil: drag to move it' });
  await knot.focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(300);
  await page.keyboard.press('ArrowUp');
  await page.waitForTimeout(300);
  await page.keyboard.press('Space');
  await expect(
    page.getByText('Coil stays where it is. It is made from Wire, which would stand below it.'),
  ).toBeVisible();
  expect(await order()).toEqual(['wire', 'coil', 'spring', 'duty']);
  await page.locator('[data-add]').fill('round');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-step="round"]')).toBeVisible();
  await page.locator('[data-step="round"]').hover();
  for (let i = 0; i < 2; i++) {
    await page.getByRole('button', { name: 'More about Wire' }).last().click();
    await page.getByRole('menuitem', { name: 'Move up' }).click();
  }
  expect(await order()).toEqual(['wire', 'coil', 'round', 'spring', 'duty']);
});

test('another section can be carried, and what was built on it stays', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await page.locator('[data-add]').fill('wire');
  await page.locator('[data-add]').press('ArrowDown');
  await page.getByRole('option', { name: /Round section/ }).click();
  await field(page, 'round.diameter').fill('1.2 mm');
  await page
    .locator('[data-step="spring"]')
    .getByRole('button', { name: /section/ })
    .click();
  await page.getByRole('menuitemradio', { name: 'Wire' }).last().click();
  // Rate of the thinner wire: 81500·1.2⁴/(8·14.4³·5.5)
  await expect(result(page, 'rate')).toHaveText(
    `${((81500 * 1.2 ** 4) / (8 * 14.4 ** 3 * 5.5)).toFixed(2)}N/mm`,
  );
  expect(
    await page
      .locator('[data-step]')
      .evaluateAll((steps) => steps.map((step) => (step as HTMLElement).dataset.step)),
  ).toEqual(['wire', 'coil', 'round', 'spring', 'duty']);
});

test('the spring is pressed, left free, or calculated otherwise than drawn', async ({ page }) => {
  await openDesign(page, 'Nest spring');
  await field(page, 'duty.loadedLength').fill('');
  await field(page, 'duty.loadedLength').blur();
  await expect(result(page, 'load')).toHaveCount(0);
  await page.getByRole('button', { name: 'not pressed' }).click();
  await expect(field(page, 'duty.loadedLength')).toHaveValue('21 mm');
  await expect(result(page, 'load')).toBeVisible();
  await page.getByRole('button', { name: /ends of the spring/ }).click();
  await page.getByRole('menuitemradio', { name: 'counted as open', exact: true }).click();
  await expect(result(page, 'activeCoils')).toHaveText('5');
  await expect(finding(page, 'drawn')).toHaveAttribute('data-level', 'note');
  await page.getByRole('button', { name: 'Calculate it as drawn' }).click();
  await expect(result(page, 'activeCoils')).toHaveText('3');
  await expect(finding(page, 'drawn')).toHaveCount(0);
});

test('two thousand turns are drawn without freezing, more are refused in words', LONG, async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await choose(page, 'coil', /^ends of the coil:/, 'open');
  await field(page, 'coil.height').fill('6000 mm');
  await field(page, 'coil.turns').fill('2000');
  await expect(result(page, 'activeCoils')).toHaveText('2000', { timeout: 60_000 });
  await expect(finding(page, 'clearance')).toContainText('Coils clear by', { timeout: 60_000 });
  await expect(page.getByText('Drawn more coarsely than usual')).toBeVisible({ timeout: 60_000 });
  await field(page, 'coil.turns').fill('10000');
  await expect(page.locator('[data-step="coil"]').getByRole('alert')).toHaveText(
    'turns: This can be 2000 at most.',
  );
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(result(page, 'rate')).toHaveText('6.51N/mm');
});

test('the print mesh as text, to a tolerance of one’s own', async ({ page }) => {
  await openDesign(page, 'Nest spring');
  await page.getByRole('button', { name: 'Export' }).click();
  const tolerance = page.getByLabel(/Chord tolerance/);
  await tolerance.fill('soft');
  await page.getByRole('button', { name: /STL as text/ }).click();
  await expect(page.getByRole('alert').filter({ hasText: /neither a given nor a unit/ })).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: /neither a given nor a unit/ })).toBeVisible();
  await tolerance.fill('0.1');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /STL as text/ }).click();
  const text = await readFile((await (await download).path())!, 'utf8');
  expect(text).toMatch(/^solid Nest spring\n/);
  const { positions, triangles } = readAscii(text);
  // Exact volume 1377.469 mm³, surface 2512.1 mm².
  expect(Math.abs(meshVolume(positions, triangles) - 1377.469)).toBeLessThan(2512.1 * 0.1);
  await expect(tolerance).toHaveValue('0.1 mm');
});

apart(
  'how the room is set is found again: width of the sheet, folded results, chosen view, dark page',
  LONG,
  async ({ page }) => {
    await openDesign(page, 'Gate spring');
    await page.getByRole('separator', { name: 'Width of the sheet' }).focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
    await page.getByRole('button', { name: 'Fold the results away' }).click();
    await page.getByRole('button', { name: 'Front' }).click();
    await page.getByRole('button', { name: 'Dark page' }).click();
    await page.waitForTimeout(400);
    await kept(page);
    await page.reload();
    await expect(page.getByRole('application', { name: /Front view/ })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Results' })).toBeVisible();
    await expect(page.getByRole('separator', { name: 'Width of the sheet' })).toHaveAttribute(
      'aria-valuenow',
      '464',
    );
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  },
);

test('a part is found under the pointer and chosen by a click', async ({ page }) => {
  await openDesign(page, 'Gate spring');
  await page.getByRole('button', { name: 'Front' }).click();
  const stage = (await page.getByRole('application', { name: /Front view/ }).boundingBox())!;
  await page.locator('[data-step="wire"] p').first().click();
  const middle = { x: stage.x + stage.width / 2, y: stage.y + stage.height / 2 };
  // Wire or gap: somewhere within one pitch below the middle there is wire.
  await expect
    .poll(
      async () => {
        for (let i = 0; i < 12; i++) {
          await page.mouse.move(middle.x, middle.y + 6 * i);
          await page.waitForTimeout(110);
          if (
            await page.locator('[role=application] ~ span').getByText('Spring', { exact: true }).isVisible()
          )
            return true;
        }
        return false;
      },
      { timeout: 60_000 },
    )
    .toBe(true);
  await page.mouse.down();
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Step 3, Spring: drag to move it' })).toHaveClass(
    /bg-thread/,
  );
});

test('one Enter too many at the end of the sheet adds nothing', async ({ page }) => {
  await fresh(page);
  await expect(page.locator('[data-add]')).toBeFocused();
  await page.keyboard.type('conical');
  await page.keyboard.press('Enter');
  await settled(page);
  await page.locator('[data-place="helix.endDiameter"]').focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Enter');
  await expect(page.locator('[data-add]')).toBeFocused();
  await expect(page.locator('[data-step]')).toHaveCount(4);
  await page.goto(`/${FAST}`);
  await expect(page.locator('[data-design="Untitled"]').first()).toBeVisible();
});

test('a choice is made by keyboard alone, and the keyboard goes on from there', async ({ page }) => {
  await openDesign(page, 'Press spring');
  const hold = page.locator('[data-step="spring"]').getByRole('button', { name: /^hold:/ });
  await hold.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitemradio', { name: 'facing', exact: true }).press('Enter');
  await expect(hold).toHaveAccessibleName('hold: facing');
  await expect(hold).toBeFocused();
  await page.keyboard.press('Tab');
  await expect(field(page, 'spring.facingX')).toBeFocused();
  // A choice that is only looked at changes nothing.
  await hold.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(hold).toBeFocused();
  await expect(hold).toHaveAccessibleName('hold: facing');
});

test('no line of a sentence begins with a comma, however wide the sheet is', async ({ page }) => {
  for (const name of ['Swarm hook', 'Gate spring']) {
    await openDesign(page, name);
    await page.evaluate(async () => void (await document.fonts.ready));
    const begun = await page.locator('[data-step] p').evaluateAll((sentences) => {
      const found: string[] = [];
      for (const sentence of sentences as HTMLElement[])
        for (let width = 180; width < 380; width += 3) {
          sentence.style.width = `${width}px`;
          const left = sentence.getBoundingClientRect().left;
          const texts = document.createTreeWalker(sentence, NodeFilter.SHOW_TEXT);
          for (let text = texts.nextNode(); text; text = texts.nextNode()) {
            if (!/^[,;:.]/.test(text.nodeValue ?? '')) continue;
            const range = document.createRange();
            range.setStart(text, 0);
            range.setEnd(text, 1);
            if (range.getBoundingClientRect().left < left + 2) found.push(`${width}: ${sentence.innerText}`);
          }
          sentence.style.width = '';
        }
      return found;
    });
    expect(begun).toEqual([]);
  }
});
