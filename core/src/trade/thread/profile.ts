/** Profiles of threads: what a groove is in a plane through its axis, and the diameters that are told of it. */
import { metricFigures } from './metric';

/** Half of a groove's width at heights over the crest (less than 0 within), mm, from its root outward. */
export type GrooveProfile = readonly (readonly [height: number, half: number])[];

/** Diameters of a thread, mm: of the middle of its flanks, of the core hole, and of the root of a bolt. */
interface Diameters {
  readonly middle: number;
  readonly minor: number;
  readonly root: number;
  /** That a bolt is calculated with, mm². */
  readonly stressArea?: number;
}

export interface Profile {
  /** Of the groove, as it is drawn, mm. */
  depth(pitch: number): number;
  /** From its root to so far over the crest, mm. */
  groove(pitch: number, over: number): GrooveProfile;
  diameters(diameter: number, pitch: number): Diameters;
}

/** The basic profile of ISO 68-1, as parts of the pitch: depth, and what its crest and its root are flat. */
const DEPTH = ((5 / 8) * Math.sqrt(3)) / 2;
const CREST = 1 / 8;
const ROOT = 1 / 4;
/** Tangents of the angles that flanks lean by, each side. */
const METRIC_LEAN = Math.tan(Math.PI / 6);
const LEAN = Math.tan(Math.PI / 12);

const metric: Profile = {
  depth: (pitch) => DEPTH * pitch,
  groove: (pitch, over) => [
    [-DEPTH * pitch, (ROOT * pitch) / 2],
    [over, ((1 - CREST) * pitch) / 2 + over * METRIC_LEAN],
  ],
  diameters: metricFigures,
};

/** What a bolt's groove is deeper than half the pitch, mm: of the tables of DIN 103-1, by pitches up to each. */
const PLAY = [
  [1.5, 0.15],
  [5, 0.25],
  [12, 0.5],
] as const;
const LARGEST_PLAY = 1;
const playOf = (pitch: number): number => PLAY.find(([most]) => pitch <= most)?.[1] ?? LARGEST_PLAY;

/** ISO 2901 and DIN 103-1: flanks at 30°, a groove as wide as what is left of the pitch at the middle of its flanks. */
const trapezoid: Profile = {
  depth: (pitch) => pitch / 2 + playOf(pitch),
  groove(pitch, over) {
    const half = (height: number) => pitch / 4 + (height + pitch / 4) * LEAN;
    const deep = -this.depth(pitch);
    return [
      [deep, half(deep)],
      [over, half(over)],
    ];
  },
  diameters: (diameter, pitch) => ({
    middle: diameter - pitch / 2,
    minor: diameter - pitch,
    root: diameter - 2 * trapezoid.depth(pitch),
  }),
};

/** Radius at crest and root of DIN 405-1, as a part of the pitch: it goes over into flanks at 30°, half a pitch apart. */
const ROUND = 0.238507;
const ROUND_POINTS = 8;
/** Grooves leave this part of the pitch between them, that they do not touch at the top of the round. */
const LEFT = 0.03;

/** DIN 405-1: round at crest and root. */
const round: Profile = {
  depth: (pitch) => pitch / 2,
  groove(pitch, over) {
    const radius = ROUND * pitch;
    const most = (75 * Math.PI) / 180;
    const root = Array.from({ length: ROUND_POINTS + 1 }, (_x, i): [number, number] => {
      const a = (most * i) / ROUND_POINTS;
      return [-pitch / 2 + radius * (1 - Math.cos(a)), radius * Math.sin(a)];
    });
    // The crest is the same, turned over, half a pitch on; its top is left out.
    const top = Math.asin(LEFT / 2 / ROUND);
    const crest = Array.from({ length: ROUND_POINTS + 1 }, (_x, i): [number, number] => {
      const a = most + ((top - most) * i) / ROUND_POINTS;
      return [-radius * (1 - Math.cos(a)), pitch / 2 - radius * Math.sin(a)];
    });
    return [...root, ...crest, [over, crest.at(-1)![1]]];
  },
  diameters: (diameter, pitch) => ({
    middle: diameter - pitch / 2,
    minor: diameter - pitch,
    root: diameter - pitch,
  }),
};

export const PROFILES = { metric, trapezoid, round } as const;
export type ProfileName = keyof typeof PROFILES;

/** Trapezoid threads of ISO 2902 and DIN 103-2, the pitch used most: mm by nominal diameter. */
export const TRAPEZOIDS = {
  Tr8: [8, 1.5],
  Tr10: [10, 2],
  Tr12: [12, 3],
  Tr16: [16, 4],
  Tr20: [20, 4],
  Tr24: [24, 5],
  Tr28: [28, 5],
  Tr32: [32, 6],
  Tr36: [36, 6],
  Tr40: [40, 7],
  Tr44: [44, 7],
  Tr48: [48, 8],
  Tr52: [52, 8],
  Tr60: [60, 9],
} as const satisfies Readonly<Record<string, readonly [diameter: number, pitch: number]>>;

export type TrapezoidSize = keyof typeof TRAPEZOIDS;
export const TRAPEZOID_SIZES = Object.keys(TRAPEZOIDS) as [TrapezoidSize, ...TrapezoidSize[]];
