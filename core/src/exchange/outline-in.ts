/** Outlines out of drawings: the points, arcs and bores of a custom section. */
import type { Row } from '../design/schema';
import { Complaint } from '../measure/words';
import type { Point } from './follow';
import { namesOf, readableFormats, readerFor, type OutlineContent } from './formats';
import { textIn } from './decode';

export interface OutlineRows {
  readonly points: Row[];
  readonly bores: Row[];
}

const MOST_POINTS = 1000;

/** The text or the bytes of a drawing, read by the ending of its name. @throws Complaint where there is no closed outline in it */
export async function readOutline(name: string, content: string | Uint8Array): Promise<OutlineRows> {
  const format = readerFor(name, 'outline');
  if (format?.holds !== 'outline' || !format.read)
    throw new Complaint(`Only ${namesOf(readableFormats('outline'), 'and')} drawings are read here.`);
  return drawn(await format.read(typeof content === 'string' ? content : textOfDrawing(content)));
}

/** Drawings that are larger are not read: an outline has at most a thousand points. */
const MOST_BYTES = 5e6;

function textOfDrawing(bytes: Uint8Array): string {
  if (bytes.length > MOST_BYTES)
    throw new Complaint(
      `This drawing has ${Math.round(bytes.length / 1e6)} MB; at most ${MOST_BYTES / 1e6} MB are possible.`,
    );
  return textIn(bytes);
}

/** The largest loop is the outline, the others are holes. */
function drawn({ loops, bores }: OutlineContent): OutlineRows {
  if (!loops.length && !bores.length) throw new Complaint('There is no closed outline in this drawing.');
  if (!loops.length)
    throw new Complaint('There are only circles in this drawing: an outline about them is missing.');
  const sorted = [...loops].sort((a, b) => Math.abs(areaOf(b)) - Math.abs(areaOf(a)));
  const count = sorted.reduce((n, loop) => n + loop.length, 0);
  if (count > MOST_POINTS)
    throw new Complaint(`This drawing makes ${count} points, more than the ${MOST_POINTS} that fit here.`);
  const mm = (x: number) => `${Number(x.toFixed(6))} mm`;
  return {
    points: sorted.flatMap((loop, hole) => {
      const way = areaOf(loop) < 0 ? -1 : 1;
      return loop.map(({ x, y, arc }): Row => ({
        x: mm(x),
        y: mm(y),
        ...(arc && { arc: mm(way * arc) }),
        ...(hole && { hole: String(hole) }),
      }));
    }),
    bores: bores.map(({ x, y, diameter }) => ({ x: mm(x), y: mm(y), diameter: mm(diameter) })),
  };
}

function areaOf(loop: readonly Point[]): number {
  let twice = 0;
  loop.forEach((p, i) => {
    const q = loop[(i + 1) % loop.length]!;
    twice += p.x * q.y - q.x * p.y;
    // An arc to the right of the way adds what lies between it and its chord: about two thirds of height by chord.
    twice += ((p.arc ?? 0) * Math.hypot(q.x - p.x, q.y - p.y) * 4) / 3;
  });
  return twice / 2;
}
