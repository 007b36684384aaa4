/** Maps that twist, taper, stretch or bend a body about an axis, between two heights, eased at both. */
import { lastAtMost } from './search';
import { eased, easedAt, zoneOf } from './ease';
import { fromAxis, inverse, isStill, type Motion } from './motion';
import type { Vec3 } from './vector';

export type Way = 'wring' | 'taper' | 'stretch' | 'bend';

/** How a body is reshaped. */
export interface DeformOptions {
  readonly way: Way;
  /** Wrung by, or bent by, rad; times the size at the upper height; drawn out by, mm. */
  readonly amount: number;
  /** Heights on the axis, mm, and the part of the way between them in which it comes in, and goes out. */
  readonly from: number;
  readonly to: number;
  readonly ease: number;
  /** The axis is z; it bends toward x. */
  readonly at: Motion;
}

/** A smooth map of space. */
export interface Deformation {
  readonly asked: DeformOptions;
  /**
   * Where a point goes (xyz from 0), and what the three axes become there (xyz each from 3, 6 and 9).
   */
  at(x: number, y: number, z: number, out: Float64Array): void;
  /** Height of a point on the axis, mm. */
  height(x: number, y: number, z: number): number;
  /**
   * Heights, rising, between which it bends nothing that goes along the axis by more than `within` (mm), as far from it as
   * `reach` (mm). What lies at one height it bends not at all.
   */
  levels(reach: number, within: number): readonly number[];
  /** How much at most a direction square to the axis changes along it, a mm. */
  readonly slant: number;
  /** Distance of a point from the axis, mm. */
  reach(point: Vec3): number;
  /** By how much at most it makes a length longer, of what lies within a distance (mm) of the axis. */
  stretch(reach: number): number;
  /** Whether it leaves every volume as large as it is. */
  readonly keepsVolume: boolean;
}

/** Between the two heights straight edges are looked at in so many parts at least, and after so much of a turn, rad. */
const PARTS = 8;
const TURN = 0.5;

/** The map. Its amount must be one that folds nothing; see `foldsAt`. */
export function deformationOf(asked: DeformOptions): Deformation {
  const { way, amount, from, to, ease, at } = asked;
  const back = inverse(at);
  const local = LOCAL[way](asked);
  const long = to - from;
  const fastest = fastestOf(asked);
  const turning = way === 'wring' || way === 'bend' ? Math.abs(fastest) : 0;
  const step = Math.min(long / PARTS, turning > 0 ? TURN / turning : Infinity);
  // About the z axis itself there is nothing to turn.
  const stands = isStill(at)
    ? (x: number, y: number, z: number, out: Float64Array) => {
        out[0] = x;
        out[1] = y;
        out[2] = z;
        local(out);
      }
    : (x: number, y: number, z: number, out: Float64Array) => {
        turnTo(back, x, y, z, out, 0);
        shift(back, out);
        local(out);
        fromFrame(at, out);
      };
  return {
    asked,
    at: stands,
    height: (x, y, z) => heightIn(back, x, y, z),
    levels(reach, within) {
      return easedAt(ease).flatMap((h, i, all) => {
        if (i === 0) return [from];
        const part = (h - all[i - 1]!) * long;
        const many = Math.ceil(
          part / Math.min(step, Math.sqrt((8 * within) / bowIn(asked, reach, i !== 2))) - 1e-9,
        );
        return Array.from({ length: many }, (_x, k) => from + all[i - 1]! * long + (part * (k + 1)) / many);
      });
    },
    slant: way === 'stretch' ? 0 : Math.abs(fastest),
    reach: (point) => fromAxis(at, point),
    stretch(reach) {
      switch (way) {
        case 'wring':
          // The greater singular value of a shear.
          return (Math.abs(reach * fastest) + Math.hypot(2, reach * fastest)) / 2;
        case 'taper':
          return Math.max(1, amount) + reach * Math.abs(fastest);
        case 'stretch':
          return Math.max(1, 1 + fastest);
        case 'bend':
          return 1 + reach * Math.abs(fastest);
      }
    },
    keepsVolume: way === 'wring',
  };
}

/** So many steps to a doubling. */
const STEPS = 4;
/** The largest of steps that is no more than a number over 0. */
export const floorStep = (x: number): number => 2 ** (Math.floor(STEPS * Math.log2(x)) / STEPS);

/** The same by an amount in steps, at least as much where it turns or grows: what is fine enough for that is so for this. */
export function inSteps(asked: DeformOptions): DeformOptions {
  const none = asked.way === 'taper' ? 1 : 0;
  const by = asked.amount - none;
  if (by === 0 || (by < 0 && (asked.way === 'taper' || asked.way === 'stretch'))) return asked;
  return { ...asked, amount: none + Math.sign(by) / floorStep(1 / Math.abs(by)) };
}

/** Greatest rate of a change that goes on between the two heights, a mm: of a taper that of the size. */
export function fastestOf({ way, amount, from, to, ease }: Omit<DeformOptions, 'at'>): number {
  return (way === 'taper' ? amount - 1 : amount) / ((to - from) * (1 - ease));
}

/**
 * How sharply it bends at most what goes along the axis, a mm²: eased where its rate changes, or between. Its rate changes
 * by 3/2 of the greatest a length of the ease.
 */
function bowIn(asked: DeformOptions, reach: number, isEased: boolean): number {
  const { way, ease, from, to } = asked;
  const fast = Math.abs(fastestOf(asked));
  const change = isEased && ease > 0 ? (1.5 * fast) / (ease * (to - from)) : 0;
  switch (way) {
    case 'wring':
      return reach * (fast * fast + change);
    case 'bend':
      return fast * (1 + fast * reach) + change * reach;
    case 'taper':
      return reach * change;
    case 'stretch':
      return change;
  }
}

const heightIn = ({ origin, ex, ey, ez }: Motion, x: number, y: number, z: number): number =>
  origin[2] + x * ex[2] + y * ey[2] + z * ez[2];

/** Writes a vector led by the axes of a motion at `o`. Written out, as it is done some times for every corner. */
function turnTo({ ex, ey, ez }: Motion, x: number, y: number, z: number, out: Float64Array, o: number): void {
  out[o] = x * ex[0] + y * ey[0] + z * ez[0];
  out[o + 1] = x * ex[1] + y * ey[1] + z * ez[1];
  out[o + 2] = x * ex[2] + y * ey[2] + z * ez[2];
}

function shift({ origin }: Motion, out: Float64Array): void {
  for (let k = 0; k < 3; k++) out[k]! += origin[k]!;
}

/** Point and columns of a map in a frame as ones of the same map in space. */
function fromFrame(at: Motion, out: Float64Array): void {
  const { ex, ey, ez } = at;
  for (let o = 0; o < 12; o += 3) turnTo(at, out[o]!, out[o + 1]!, out[o + 2]!, out, o);
  shift(at, out);
  // The columns are those along the axes of the frame: in space they are mixed as the axes are.
  for (let i = 3; i < 6; i++) {
    const x = out[i]!;
    const y = out[i + 3]!;
    const z = out[i + 6]!;
    out[i] = x * ex[0] + y * ey[0] + z * ez[0];
    out[i + 3] = x * ex[1] + y * ey[1] + z * ez[1];
    out[i + 6] = x * ex[2] + y * ey[2] + z * ez[2];
  }
}

/** Writes point and columns of a map, in its own frame, where the point stands. */
type Local = (out: Float64Array) => void;

/** How much of the change is done at a height, and how fast it goes on there, a mm. */
export const progressOf = ({ from, to, ease }: Omit<DeformOptions, 'at'>) => {
  const levels = easedAt(ease);
  const long = to - from;
  return (z: number) => {
    const h = (z - from) / long;
    const jet = eased(h, ease, zoneOf(h, levels));
    return { done: jet[0], rate: jet[1] / long };
  };
};

const LOCAL: Readonly<Record<Way, (asked: DeformOptions) => Local>> = {
  wring(asked) {
    const progress = progressOf(asked);
    return (out) => {
      const x = out[0]!;
      const y = out[1]!;
      const z = out[2]!;
      const { done, rate } = progress(z);
      const c = Math.cos(asked.amount * done);
      const s = Math.sin(asked.amount * done);
      const spin = asked.amount * rate;
      const px = c * x - s * y;
      const py = s * x + c * y;
      write(out, px, py, z, c, s, 0, -s, c, 0, -spin * py, spin * px, 1);
    };
  },
  taper(asked) {
    const progress = progressOf(asked);
    return (out) => {
      const x = out[0]!;
      const y = out[1]!;
      const z = out[2]!;
      const { done, rate } = progress(z);
      const size = 1 + (asked.amount - 1) * done;
      const slope = (asked.amount - 1) * rate;
      write(out, size * x, size * y, z, size, 0, 0, 0, size, 0, slope * x, slope * y, 1);
    };
  },
  stretch(asked) {
    const progress = progressOf(asked);
    return (out) => {
      const x = out[0]!;
      const y = out[1]!;
      const z = out[2]!;
      const { done, rate } = progress(z);
      write(out, x, y, z + asked.amount * done, 1, 0, 0, 0, 1, 0, 0, 0, 1 + asked.amount * rate);
    };
  },
  bend(asked) {
    const progress = progressOf(asked);
    const line = bentLine(asked);
    return (out) => {
      const x = out[0]!;
      const y = out[1]!;
      const z = out[2]!;
      const { done, rate } = progress(z);
      const s = Math.sin(asked.amount * done);
      const c = Math.cos(asked.amount * done);
      const [cx, cz] = line(z);
      const by = 1 - asked.amount * rate * x;
      write(out, cx + x * c, y, cz - x * s, c, 0, -s, 0, 1, 0, by * s, 0, by * c);
    };
  },
};

/** Written out: a list of its numbers would be made at every corner. */
function write(
  out: Float64Array,
  x: number,
  y: number,
  z: number,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
  cx: number,
  cy: number,
  cz: number,
): void {
  out[0] = x;
  out[1] = y;
  out[2] = z;
  out[3] = ax;
  out[4] = ay;
  out[5] = az;
  out[6] = bx;
  out[7] = by;
  out[8] = bz;
  out[9] = cx;
  out[10] = cy;
  out[11] = cz;
}

/** Gauss's five places and weights between −1 and 1, and stretches of an easing that are summed one by one. */
const GAUSS = [
  [0, 128 / 225],
  [Math.sqrt(5 - 2 * Math.sqrt(10 / 7)) / 3, (322 + 13 * Math.sqrt(70)) / 900],
  [Math.sqrt(5 + 2 * Math.sqrt(10 / 7)) / 3, (322 - 13 * Math.sqrt(70)) / 900],
] as const;
const STRETCHES = 16;

/** The axis as it is bent: x and z at a height. Straight, eased into an arc, and out of it. */
function bentLine(asked: DeformOptions): (z: number) => readonly [x: number, z: number] {
  const { amount, from, to } = asked;
  const progress = progressOf(asked);
  const long = to - from;
  /** From one height to another, of which no eased part is long. */
  const over = (a: number, b: number): [number, number] => {
    const [middle, half] = [(a + b) / 2, (b - a) / 2];
    let [x, z] = [0, 0];
    for (const [place, weight] of GAUSS)
      for (const way of place ? [-1, 1] : [1]) {
        const angle = amount * progress(middle + way * place * half).done;
        x += weight * half * Math.sin(angle);
        z += weight * half * Math.cos(angle);
      }
    return [x, z];
  };
  const many = STRETCHES * Math.max(1, Math.ceil(Math.abs(amount)));
  const heights = [
    ...new Set(
      easedAt(asked.ease).flatMap((h, i, all) =>
        i === 0
          ? [h]
          : Array.from({ length: many }, (_x, k) => all[i - 1]! + ((h - all[i - 1]!) * (k + 1)) / many),
      ),
    ),
  ].map((h) => from + h * long);
  const places: [number, number][] = [[0, from]];
  for (let i = 1; i < heights.length; i++) {
    const [x, z] = over(heights[i - 1]!, heights[i]!);
    places.push([places[i - 1]![0] + x, places[i - 1]![1] + z]);
  }
  return (z) => {
    if (z <= from) return [0, z];
    if (z >= to) {
      const [x, up] = places.at(-1)!;
      return [x + (z - to) * Math.sin(amount), up + (z - to) * Math.cos(amount)];
    }
    const low = lastAtMost(heights, z, 0, heights.length - 2);
    const [x, up] = over(heights[low]!, z);
    return [places[low]![0] + x, places[low]![1] + up];
  };
}
