/** Lengths, transforms and frames of SVG drawings, as SVG 2 and CSS Transforms 1 have them. */
import { Complaint, quoted } from '../measure/words';

const PX: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  q: 96 / 101.6,
  in: 96,
  pt: 96 / 72,
  pc: 16,
};

/** An affine map: x' = a·x + c·y + e, y' = b·x + d·y + f. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];
export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

/** First the right one, then the left. */
export const times = ([a, b, c, d, e, f]: Matrix, [g, h, i, j, k, l]: Matrix): Matrix => [
  a * g + c * h,
  b * g + d * h,
  a * i + c * j,
  b * i + d * j,
  a * k + c * l + e,
  b * k + d * l + f,
];

const NUMBER = String.raw`[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?`;
const LENGTH = new RegExp(`^\\s*(${NUMBER})\\s*([a-z]*|%)\\s*$`, 'i');

/** Longer attribute values are refused: matching them takes quadratic time. */
const LONGEST = 2000;

/** Looks at how long a value is. @throws Complaint where it is too long to be looked at */
function checkLength(text: string | undefined, what: string): void {
  if (text !== undefined && text.length > LONGEST)
    throw new Complaint(
      `A ${what} in this drawing has ${text.length} letters; at most ${LONGEST} are possible.`,
    );
}

/** A length in px; a percentage is one of `whole`. Undefined where none is written. @throws Complaint for what is no length */
export function lengthOf(text: string | undefined, whole: number): number | undefined {
  checkLength(text, 'length');
  if (text === undefined || text.trim() === '' || text.trim() === 'auto') return undefined;
  const [, number, unit = ''] = LENGTH.exec(text) ?? [];
  if (number === undefined)
    throw new Complaint(
      `${quoted(text)} in this drawing is not a length. Write a number with a unit, as 12mm.`,
    );
  if (unit === '%') return (Number(number) / 100) * whole;
  const px = PX[unit.toLowerCase()];
  if (px === undefined)
    throw new Complaint(`Lengths in ${quoted(unit)} are not read here: this drawing has ${quoted(text)}.`);
  return Number(number) * px;
}

const TURNS: Readonly<Record<string, number>> = {
  '': Math.PI / 180,
  deg: Math.PI / 180,
  grad: Math.PI / 200,
  rad: 1,
  turn: 2 * Math.PI,
};

function angleOf(text: string): number {
  const [, number, unit = ''] = LENGTH.exec(text) ?? [];
  const turn = TURNS[unit.toLowerCase()];
  if (number === undefined || turn === undefined)
    throw new Complaint(`${quoted(text)} in this drawing is not an angle. Write a number, as 30 or 30deg.`);
  return Number(number) * turn;
}

/** A list of transforms, of an attribute or a style. @throws Complaint for what is none, or works in space */
export function transformOf(text: string | undefined): Matrix {
  checkLength(text, 'transform');
  if (!text || text.trim() === 'none') return IDENTITY;
  const rest = text.replace(/([a-z]+)\s*\(([^)]*)\)[\s,]*/gi, '').trim();
  if (rest) throw new Complaint(`The transform ${quoted(text)} in this drawing cannot be read.`);
  let whole = IDENTITY;
  for (const [, name, inside] of text.matchAll(/([a-z]+)\s*\(([^)]*)\)/gi)) {
    const given = inside!.trim().split(/\s*,\s*|\s+/);
    whole = times(whole, oneTransform(name!, given, text));
  }
  return whole;
}

function oneTransform(name: string, given: readonly string[], text: string): Matrix {
  const px = (i: number) => lengthOf(given[i], NaN) ?? 0;
  const factor = (i: number, instead: number) => (given[i] ? (lengthOf(given[i], 1) ?? instead) : instead);
  const tan = (i: number) => (given[i] ? Math.tan(angleOf(given[i])) : 0);
  const matrix = ((): Matrix | undefined => {
    switch (name) {
      case 'matrix':
        return given.length === 6 ? (given.map(Number) as unknown as Matrix) : undefined;
      case 'translate':
        return [1, 0, 0, 1, px(0), px(1)];
      case 'translateX':
        return [1, 0, 0, 1, px(0), 0];
      case 'translateY':
        return [1, 0, 0, 1, 0, px(0)];
      case 'scale':
        return [factor(0, 1), 0, 0, factor(1, factor(0, 1)), 0, 0];
      case 'scaleX':
        return [factor(0, 1), 0, 0, 1, 0, 0];
      case 'scaleY':
        return [1, 0, 0, factor(0, 1), 0, 0];
      case 'rotate': {
        const angle = angleOf(given[0]!);
        const [c, s] = [Math.cos(angle), Math.sin(angle)];
        const turn: Matrix = [c, s, -s, c, 0, 0];
        if (given.length < 3) return turn;
        return times(times([1, 0, 0, 1, px(1), px(2)], turn), [1, 0, 0, 1, -px(1), -px(2)]);
      }
      case 'skewX':
        return [1, 0, tan(0), 1, 0, 0];
      case 'skewY':
        return [1, tan(0), 0, 1, 0, 0];
      case 'skew':
        return [1, tan(1), tan(0), 1, 0, 0];
    }
    return undefined;
  })();
  if (!matrix?.every(Number.isFinite))
    throw new Complaint(`The transform ${quoted(text)} in this drawing cannot be read.`);
  return matrix;
}

export type Box = readonly [x: number, y: number, width: number, height: number];

/** The view box as it is written. @throws Complaint where it is none */
export function viewBoxOf(text: string | undefined): Box | undefined {
  checkLength(text, 'view box');
  if (text === undefined) return undefined;
  const box = text
    .trim()
    .split(/\s*,\s*|\s+/)
    .map(Number);
  if (box.length !== 4 || !box.every(Number.isFinite) || !(box[2]! > 0) || !(box[3]! > 0))
    throw new Complaint(
      `${quoted(text)} in this drawing is not a view box. Write 4 numbers: x, y, width, height.`,
    );
  return box as unknown as Box;
}

/** Where a view box comes to stand in a window of that size at the origin, by how its shape is kept. */
export function fitted([x, y, w, h]: Box, width: number, height: number, keeps = 'xMidYMid meet'): Matrix {
  const [align = '', how] = keeps.trim().split(/\s+/);
  let [sx, sy] = [width / w, height / h];
  if (align !== 'none') sx = sy = how === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy);
  const part = (at: string | undefined) => ({ Min: 0, Max: 1 })[at ?? ''] ?? 0.5;
  const [, ax, ay] = /^x(Min|Mid|Max)Y(Min|Mid|Max)$/.exec(align) ?? [];
  const over = align === 'none' ? [0, 0] : [part(ax) * (width - w * sx), part(ay) * (height - h * sy)];
  return [sx, 0, 0, sy, over[0]! - x * sx, over[1]! - y * sy];
}
