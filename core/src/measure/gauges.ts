/** Wire gauges and ring sizes of the trade: what a number or a letter stands for, in mm. */
import { MM_IN } from './quantity';

/**
 * Standard wire gauge of Britain (BS 3737), diameters in inches: 7/0 to 0 as −6 to 0, then 1 to 50.
 */
const SWG: readonly number[] = [
  0.5, 0.464, 0.432, 0.4, 0.372, 0.348, 0.324, 0.3, 0.276, 0.252, 0.232, 0.212, 0.192, 0.176, 0.16, 0.144,
  0.128, 0.116, 0.104, 0.092, 0.08, 0.072, 0.064, 0.056, 0.048, 0.04, 0.036, 0.032, 0.028, 0.024, 0.022, 0.02,
  0.018, 0.0164, 0.0148, 0.0136, 0.0124, 0.0116, 0.0108, 0.01, 0.0092, 0.0084, 0.0076, 0.0068, 0.006, 0.0052,
  0.0048, 0.0044, 0.004, 0.0036, 0.0032, 0.0028, 0.0024, 0.002, 0.0016, 0.0012, 0.001,
];
const SWG_FIRST = -6;

/** Music wire gauge (ASTM A228, preferred sizes), diameters in inches: 6/0 to 0 as −5 to 0, then 1 to 45. */
const MUSIC: readonly number[] = [
  0.004, 0.005, 0.006, 0.007, 0.008, 0.009, 0.01, 0.011, 0.012, 0.013, 0.014, 0.016, 0.018, 0.02, 0.022,
  0.024, 0.026, 0.029, 0.031, 0.033, 0.035, 0.037, 0.039, 0.041, 0.043, 0.045, 0.047, 0.049, 0.051, 0.055,
  0.059, 0.063, 0.067, 0.071, 0.075, 0.08, 0.085, 0.09, 0.095, 0.1, 0.106, 0.112, 0.118, 0.124, 0.13, 0.138,
  0.146, 0.154, 0.162, 0.17, 0.18,
];
const MUSIC_FIRST = -5;

/** Steel wire gauge of the United States (ASTM A510), diameters in inches: 7/0 to 0 as −6 to 0, then 1 to 36. */
const STEEL: readonly number[] = [
  0.49, 0.4615, 0.4305, 0.3938, 0.3625, 0.331, 0.3065, 0.283, 0.2625, 0.2437, 0.2253, 0.207, 0.192, 0.177,
  0.162, 0.1483, 0.135, 0.1205, 0.1055, 0.0915, 0.08, 0.072, 0.0625, 0.054, 0.0475, 0.041, 0.0348, 0.0317,
  0.0286, 0.0258, 0.023, 0.0204, 0.0181, 0.0173, 0.0162, 0.015, 0.014, 0.0132, 0.0128, 0.0118, 0.0104, 0.0095,
  0.009,
];
const STEEL_FIRST = -6;

/** Walls of tubes (Birmingham, ASTM A450), in inches: 4/0 to 0 as −3 to 0, then 1 to 30. */
const WALL: readonly number[] = [
  0.454, 0.425, 0.38, 0.34, 0.3, 0.284, 0.259, 0.238, 0.22, 0.203, 0.18, 0.165, 0.148, 0.134, 0.12, 0.109,
  0.095, 0.083, 0.072, 0.065, 0.058, 0.049, 0.042, 0.035, 0.032, 0.028, 0.025, 0.022, 0.02, 0.018, 0.016,
  0.014, 0.013, 0.012,
];
const WALL_FIRST = -3;

interface Gauge {
  /** What it is called. */
  readonly name: string;
  /** The numbers it knows, in words. */
  readonly knows: string;
  /** First and last whole number that it knows. */
  readonly range: readonly [first: number, last: number];
  /** Diameter in mm, or undefined for a number it does not know. */
  of(n: number): number | undefined;
}

const tabled = (name: string, table: readonly number[], first: number, knows: string): Gauge => ({
  name,
  knows,
  range: [first, first + table.length - 1],
  of: (n) => {
    const inches = Number.isInteger(n) ? table[n - first] : undefined;
    return inches === undefined ? undefined : inches * MM_IN.in;
  },
});
const within = (
  name: string,
  [least, most]: readonly [least: number, most: number],
  knows: string,
  of: (n: number) => number,
): Gauge => ({
  name,
  knows,
  range: [least, Math.floor(most)],
  of: (n) => (n >= least && n <= most ? of(n) : undefined),
});

/** Functions of one plain number that give a diameter. */
export const GAUGES: Readonly<Record<string, Gauge>> = {
  /** American wire gauge, 0.127·92^((36−n)/39) (ASTM B258); above 0 (00 or 2/0, 000 or 3/0 …) as −1, −2 …. */
  awg: within(
    'American wire gauge',
    [-3, 50],
    'gauges from −3 (4/0) to 50',
    (n) => 0.127 * 92 ** ((36 - n) / 39),
  ),
  swg: tabled('British standard wire gauge', SWG, SWG_FIRST, 'whole gauges from −6 (7/0) to 50'),
  music: tabled('Music wire gauge', MUSIC, MUSIC_FIRST, 'whole gauges from −5 (6/0) to 45'),
  usw: tabled('US steel wire gauge', STEEL, STEEL_FIRST, 'whole gauges from −6 (7/0) to 36'),
  bwg: tabled('Birmingham gauge of tube walls', WALL, WALL_FIRST, 'whole gauges from −3 (4/0) to 30'),
  /** Ring sizes give the inner diameter. ISO 8653: the size is the inner circumference in mm. */
  ring: within(
    'Ring size, ISO 8653',
    [30, 90],
    'sizes from 30 to 90: the inner circumference in mm',
    (n) => n / Math.PI,
  ),
  /** United States and Canada: 0.032 in of diameter a size, from 0.458 in at 0. */
  ringUS: within(
    'Ring size, US and Canada',
    [0, 20],
    'sizes from 0 to 20',
    (n) => (0.458 + 0.032 * n) * MM_IN.in,
  ),
  /** Britain, Ireland, Australia (BS 6820): 1.25 mm round a letter, A being 37.5 mm; A is 1, B 2, L½ 12.5. */
  ringUK: within(
    'Ring size, Britain, Ireland, Australia',
    [1, 26.5],
    'letters from A to Z½',
    (n) => (37.5 + 1.25 * (n - 1)) / Math.PI,
  ),
  /** Japan (JIS S 4700): a third of a millimetre of diameter a size, from 13 mm at 1. */
  ringJP: within('Ring size, Japan', [1, 35], 'sizes from 1 to 35', (n) => 13 + (n - 1) / 3),
  /** Switzerland, Italy, Spain: millimetres of inner circumference above 40. */
  ringCH: within(
    'Ring size, Switzerland, Italy, Spain',
    [0, 40],
    'sizes from 0 to 40: mm round above 40',
    (n) => (40 + n) / Math.PI,
  ),
};

/**
 * Sizes as the trade writes them, as numbers: letters of British rings, ringUK(L½) → ringUK(12.5); wire above gauge 0,
 * awg(000) and awg(3/0) → awg(-2).
 */
export const sizesToNumbers = (text: string): string =>
  text
    .replace(
      /ringUK\(\s*([A-Za-z])\s*(½|1\/2|\.5)?\s*\)/g,
      (_all, letter: string, half: string | undefined) =>
        `ringUK(${letter.toUpperCase().charCodeAt(0) - 64 + (half ? 0.5 : 0)})`,
    )
    .replace(
      /\b(awg|swg|music|usw|bwg)\(\s*(?:(0{2,})|([1-9])\s*\/\s*0)\s*\)/g,
      (_all, gauge: string, noughts: string | undefined, times: string | undefined) =>
        `${gauge}(${1 - (noughts?.length ?? Number(times))})`,
    );
