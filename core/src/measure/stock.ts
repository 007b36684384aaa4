/** Sizes that the trade keeps in stock, near a size that is wanted: preferred numbers, wire and wall gauges, ring sizes. */
import { GAUGES } from './gauges';

/** What a size is one of: it decides which standards it is looked for in. */
export type Stock = 'wire' | 'wall' | 'ring';

export interface StockSize {
  /** As it is written in a figure: "awg(12)", "2.12 mm". */
  readonly text: string;
  /** The standard as people call it. */
  readonly standard: string;
  /** mm */
  readonly value: number;
}

/** R40 of ISO 3, between 1 and 10. */
const PREFERRED = [
  1, 1.06, 1.12, 1.18, 1.25, 1.32, 1.4, 1.5, 1.6, 1.7, 1.8, 1.9, 2, 2.12, 2.24, 2.36, 2.5, 2.65, 2.8, 3, 3.15,
  3.35, 3.55, 3.75, 4, 4.25, 4.5, 4.75, 5, 5.3, 5.6, 6, 6.3, 6.7, 7.1, 7.5, 8, 8.5, 9, 9.5,
];

const GAUGES_OF: Readonly<Record<Stock, readonly string[]>> = {
  wire: ['swg', 'awg', 'music', 'usw'],
  wall: ['bwg'],
  ring: ['ring', 'ringUS', 'ringUK', 'ringJP', 'ringCH'],
};

/** Sizes nearer than this part of them are one. */
const SAME = 1e-9;

/** The preferred numbers next to a size, mm. */
function preferred(value: number): number[] {
  const decade = 10 ** Math.floor(Math.log10(value));
  return [decade / 10, decade, decade * 10].flatMap((size) =>
    PREFERRED.map((one) => Number((one * size).toPrecision(3))),
  );
}

/** The largest of some sizes that is no larger than a value, and the smallest that is no smaller. */
function about(sizes: readonly StockSize[], value: number): StockSize[] {
  const under = sizes.filter((one) => one.value <= value * (1 + SAME)).sort((a, b) => b.value - a.value)[0];
  const over = sizes.filter((one) => one.value >= value * (1 - SAME)).sort((a, b) => a.value - b.value)[0];
  return [under, over].filter((one, i, all) => one !== undefined && all.indexOf(one) === i) as StockSize[];
}

/** The sizes of each standard next to a size in mm, smaller and larger, by size. */
export function stockNear(value: number, stock: Stock): StockSize[] {
  if (!(value > 0) || !Number.isFinite(value)) return [];
  const gauges = GAUGES_OF[stock].flatMap((name) => {
    const { name: standard, range, of } = GAUGES[name]!;
    const sizes: StockSize[] = [];
    for (let n = range[0]; n <= range[1]; n++) sizes.push({ text: `${name}(${n})`, standard, value: of(n)! });
    return about(sizes, value);
  });
  if (stock === 'ring') return gauges.sort((a, b) => a.value - b.value);
  const metric = about(
    preferred(value).map((one) => ({
      text: `${one} mm`,
      standard: 'Preferred number, ISO 3',
      value: one,
    })),
    value,
  );
  return [...metric, ...gauges].sort((a, b) => a.value - b.value);
}
