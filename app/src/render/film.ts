/** A part turning once before the reader, as a video. */

/** Kinds of video that browsers record, the better first, with the ending of a file. */
const KINDS = [
  ['video/webm;codecs=vp9', 'webm'],
  ['video/webm;codecs=vp8', 'webm'],
  ['video/webm', 'webm'],
  ['video/mp4', 'mp4'],
] as const;
const FRAMES = 30;

/** The kind of video this browser can record; undefined where it can none. */
export const filmKind = (): (typeof KINDS)[number] | undefined =>
  typeof MediaRecorder === 'undefined'
    ? undefined
    : KINDS.find(([type]) => MediaRecorder.isTypeSupported(type));

/**
 * Records so many seconds of a canvas laid on a ground. `show` draws how far it is, 0 to 1, before each frame; `wanted`
 * tells whether to go on, and is
 * told how far it is. Undefined where it was stopped. @throws where the browser cannot record
 */
export async function film(
  canvas: HTMLCanvasElement,
  ground: string,
  seconds: number,
  show: (part: number) => void,
  wanted: (part: number) => boolean,
): Promise<Blob | undefined> {
  const kind = filmKind();
  if (!kind) throw new Error('This browser cannot record a video.');
  const copy = document.createElement('canvas');
  // Recorders want an even number of pixels.
  copy.width = canvas.width - (canvas.width % 2);
  copy.height = canvas.height - (canvas.height % 2);
  const context = copy.getContext('2d')!;
  const recorder = new MediaRecorder(copy.captureStream(FRAMES), { mimeType: kind[0] });
  const parts: Blob[] = [];
  recorder.ondataavailable = ({ data }) => parts.push(data);
  const stopped = new Promise((resolve) => (recorder.onstop = resolve));
  recorder.start();
  const begun = performance.now();
  let part = 0;
  while (part < 1 && wanted(part)) {
    await new Promise(requestAnimationFrame);
    part = Math.min(1, (performance.now() - begun) / (1000 * seconds));
    show(part);
    context.fillStyle = ground;
    context.fillRect(0, 0, copy.width, copy.height);
    context.drawImage(canvas, 0, 0);
  }
  recorder.stop();
  await stopped;
  return part < 1 ? undefined : new Blob(parts, { type: kind[0] });
}
