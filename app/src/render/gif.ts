/** A part turning once before the reader, as a GIF: every program that shows pictures plays it. */

/** Frames of a turn, and their length in ms (a whole number of hundredths of a second, as the format has it). */
const FRAMES = 60;
const DELAY = 70;
/** Pixels across at most. */
export const MOST = 640;
/** Frames that colours are chosen from: the light on the part changes as it turns. */
const COLOURED = 6;
const COLOURS = 256;

/**
 * Frames of a canvas laid on a ground. `show` draws how far it is, 0 to 1, before each; `wanted` tells whether to go on, and
 * is told how far it is. Undefined where it was stopped.
 */
export async function gif(
  canvas: HTMLCanvasElement,
  ground: string,
  show: (part: number) => void,
  wanted: (part: number) => boolean,
): Promise<Blob | undefined> {
  const { applyPalette, GIFEncoder, quantize } = await import('gifenc');
  const by = Math.min(1, MOST / Math.max(canvas.width, canvas.height));
  const copy = document.createElement('canvas');
  copy.width = Math.max(1, Math.round(canvas.width * by));
  copy.height = Math.max(1, Math.round(canvas.height * by));
  const context = copy.getContext('2d', { willReadFrequently: true })!;
  const { width, height } = copy;
  const frame = (part: number) => {
    show(part);
    context.fillStyle = ground;
    context.fillRect(0, 0, width, height);
    context.drawImage(canvas, 0, 0, width, height);
    return context.getImageData(0, 0, width, height).data;
  };
  const pause = () => new Promise(requestAnimationFrame);

  const samples = new Uint8ClampedArray(4 * width * height * COLOURED);
  for (let i = 0; i < COLOURED; i++) {
    samples.set(frame(i / COLOURED), 4 * width * height * i);
    await pause();
  }
  const palette = quantize(samples, COLOURS);
  const encoder = GIFEncoder();
  for (let i = 0; i < FRAMES; i++) {
    if (!wanted(i / FRAMES)) return undefined;
    const index = applyPalette(frame(i / FRAMES), palette);
    // The palette goes out once, with the first frame, for all of them.
    encoder.writeFrame(index, width, height, { delay: DELAY, ...(i === 0 && { palette, repeat: 0 }) });
    await pause();
  }
  encoder.finish();
  return new Blob([encoder.bytes()], { type: 'image/gif' });
}
