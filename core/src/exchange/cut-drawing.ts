/** Outlines of a cut, or of patterns, as a sheet. */
import { boxOf, type Loops, type Sheet } from '../drawing/sheet';

const FILL = '#d9d4c7';
/** Width of the line, as a part of the size of the drawing. */
const LINE = 1 / 600;

/** The loops as one filled shape on one layer. */
export function cutSheet(loops: Loops, title: string): Sheet {
  const sheet = (width: number): Sheet => ({
    title,
    layers: [{ name: 'CUT', line: 'solid', width, primitives: [{ type: 'region', loops, fill: FILL }] }],
  });
  const { left, right, low, high } = boxOf(sheet(0));
  return sheet(LINE * Math.max(right - left, high - low));
}
