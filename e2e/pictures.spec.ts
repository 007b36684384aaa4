import { readFile } from 'node:fs/promises';
import { inflateSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { expect, openDesign, test } from './fixture';
import { LONG } from './runs';

/** Clicks a line of the menu of files, and reads what is saved. */
async function sent(page: Page, line: RegExp): Promise<Buffer> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: line }).click();
  return readFile((await (await download).path())!);
}

test('the part turning once is recorded as a video', LONG, async ({ page }) => {
  await openDesign(page, 'Show ribbon');
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /Turning once, video/ }).click();
  await expect(page.getByText('The part turns once')).toBeVisible();
  const file = await readFile((await (await download).path())!);
  // What Matroska, and so WebM, begins with.
  expect(file.subarray(0, 4).toString('hex')).toBe('1a45dfa3');
  expect(file.length).toBeGreaterThan(20_000);
});

test('the part turning once goes out as a GIF that other programs read', LONG, async ({ page }) => {
  await openDesign(page, 'Show ribbon');
  await page.getByRole('button', { name: 'Export' }).click();
  const file = await sent(page, /Turning once, GIF/);
  await expect(page.getByText(/show-ribbon\.gif: the part turning once, \d+ kB/i)).toBeVisible();
  const read = await page.evaluate(async (base64) => {
    const data = Uint8Array.from(atob(base64), (one) => one.codePointAt(0)!);
    const decoder = new ImageDecoder({ data, type: 'image/gif' });
    await Promise.all([decoder.completed, decoder.tracks.ready]);
    const { frameCount, repetitionCount } = decoder.tracks.selectedTrack!;
    const canvas = document.createElement('canvas');
    const pixels = async (frameIndex: number) => {
      const { image } = await decoder.decode({ frameIndex });
      canvas.width = image.displayWidth;
      canvas.height = image.displayHeight;
      const context = canvas.getContext('2d')!;
      context.drawImage(image, 0, 0);
      return [...context.getImageData(0, 0, canvas.width, canvas.height).data];
    };
    const [first, quarter, last] = [await pixels(0), await pixels(15), await pixels(frameCount - 1)];
    const unlike = (a: number[], b: number[]) =>
      a.filter((x, i) => Math.abs(x - b[i]!) > 40).length / a.length;
    return { frameCount, repetitionCount, quarter: unlike(first, quarter), last: unlike(first, last) };
  }, file.toString('base64'));
  expect(read.frameCount).toBe(60);
  expect(read.repetitionCount).toBe(Infinity);
  // It has turned by then, and is nearly where it began at the end.
  expect(read.quarter).toBeGreaterThan(0.01);
  expect(read.last).toBeLessThan(read.quarter / 2);
});

test('making a GIF can be stopped', async ({ page }) => {
  await openDesign(page, 'Show ribbon');
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('button', { name: /Turning once, GIF/ }).click();
  await expect(page.getByText('The part turns once')).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('The part turns once')).toHaveCount(0);
  await expect(page.locator('progress')).toHaveCount(0);
});

test('dimension lines and kept measures go into a picture where that is wanted', async ({ page }) => {
  await openDesign(page, 'Extractor stand');
  const kept = page.locator('[data-kept] button').first();
  await expect(kept).toBeVisible();
  const label = (await kept.boundingBox())!;
  const stage = (await page.getByLabel('Stage').boundingBox())!;
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByLabel('Size of the picture').selectOption('× 2');
  const bare = await sent(page, /Picture, PNG/);
  await page.getByLabel('Dimensions in the picture').selectOption('as selected');
  const inked = await sent(page, /Picture, PNG/);
  const unlike = (x: number, y: number, width: number, height: number) =>
    page.evaluate(
      async ([files, box]) => {
        const [a, b] = await Promise.all(
          files.map(async (base64) => {
            const bytes = Uint8Array.from(atob(base64), (one) => one.codePointAt(0)!);
            const image = await createImageBitmap(new Blob([bytes]));
            const canvas = new OffscreenCanvas(image.width, image.height);
            const context = canvas.getContext('2d')!;
            context.drawImage(image, 0, 0);
            return context.getImageData(...box).data;
          }),
        );
        return a!.filter((one, i) => Math.abs(one - b![i]!) > 24).length / a!.length;
      },
      [
        [bare, inked].map((file) => file.toString('base64')),
        [x, y, width, height].map(Math.round) as [number, number, number, number],
      ] as const,
    );
  // A pixel of the picture is one of the page: tests draw half as finely. Written where the label is, and nowhere else.
  expect(await unlike(label.x - stage.x, label.y - stage.y, label.width, label.height)).toBeGreaterThan(0.05);
  expect(await unlike(4, stage.height - 60, 100, 50)).toBe(0);
});

/** How opaque the first pixel of a PNG is, 0 to 255: in its first row every filter leaves the first pixel as it is. */
function cornerOf(png: Buffer): number {
  const opaque = png[25] === 2;
  const parts: Buffer[] = [];
  for (let at = 8; at < png.length; at += 12 + png.readUInt32BE(at))
    if (png.toString('latin1', at + 4, at + 8) === 'IDAT')
      parts.push(png.subarray(at + 8, at + 8 + png.readUInt32BE(at)));
  return opaque ? 255 : inflateSync(Buffer.concat(parts))[4]!;
}

test('a picture is as large as it is asked for, on a clear ground where that is wanted', async ({ page }) => {
  await openDesign(page, 'Show ribbon');
  await page.getByRole('button', { name: 'Export' }).click();
  const taken = async () => {
    const file = await sent(page, /Picture, PNG/);
    return { width: file.readUInt32BE(16), height: file.readUInt32BE(20), file };
  };
  const once = await taken();
  await page.getByLabel('Size of the picture').selectOption('× 2');
  const twice = await taken();
  // Half a pixel is lost or won on each side.
  expect(Math.abs(twice.width - 2 * once.width)).toBeLessThan(2);
  expect(Math.abs(twice.height - 2 * once.height)).toBeLessThan(2);
  await expect(page.getByText(`${twice.width} × ${twice.height} pixels`)).toBeVisible();
  expect(cornerOf(twice.file)).toBe(255);
  await page.getByLabel('clear ground').check();
  expect(cornerOf((await taken()).file)).toBe(0);
});
