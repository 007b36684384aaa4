/** What a body measures that only meshes are known of: from meshes of several tolerances, with how far it may be off. */
import type { Mass } from '../../geometry/mass';
import { vec3 } from '../../geometry/vector';

/** A figure, and by how much it may be off. */
export interface Estimate {
  readonly value: number;
  readonly within: number;
  /** Whether it was extrapolated. */
  readonly extrapolated: boolean;
  /** Which of the values it stands on: the finest, but where that one is out of line. */
  readonly from: number;
}

/** Corners stand in single precision: no figure of them is surer than this part of it. */
export const ROUNDED = 3e-6;
/** Where the error goes with the tolerance, half of a difference is left from one tolerance to half of it: about so nearly. */
const REGULAR = 0.12;
/** So many times what the extrapolation itself still changed by, and this part of what it added. */
const SAFETY = 3;
const DOUBT = 0.1;
/** So many times what irregular values differ by. */
const IRREGULAR = 2;

/**
 * What a figure comes to as the tolerance goes to nothing, from its values at a tolerance, at twice, four and eight
 * times it. What chords leave out goes with the tolerance: then one step further is taken (L. F. Richardson, Phil. Trans.
 * R. Soc. A 210, 1911); where the values do not behave so, the finest stands, within twice what they differ by.
 */
export function estimated(values: Values): Estimate {
  const [fine, twice, four, eight] = values;
  const [last, before, first] = [fine - twice, twice - four, four - eight];
  const rounding = ROUNDED * Math.abs(fine);
  if (!halves(last, before) || !halves(before, first)) {
    const kept = inLine(values);
    const [from] = kept as [number];
    // That three of four lie together may be chance.
    const differ = Math.max(spreadOf(kept.map((i) => values[i]!)), CHANCE * spreadOf(values));
    return { value: values[from]!, within: rounding + IRREGULAR * differ, extrapolated: false, from };
  }
  const changed = Math.max(Math.abs(2 * last - before), Math.abs(before - first / 2) / 2);
  return {
    value: fine + last,
    within: rounding + SAFETY * changed + DOUBT * Math.abs(last),
    extrapolated: true,
    from: 0,
  };
}

const CHANCE = 1 / 64;
/** What differs by less than so many times what rounding does is not out of line. */
const LEAST_OUT = 100;
/** One value is out of line where the others lie this many times closer together than all of them. */
const OUT_OF_LINE = 8;

/**
 * Which three of the values lie together where the fourth does not, as when rounding took one mesh apart; else the finest
 * three. The finest comes first.
 */
function inLine(values: Values): readonly number[] {
  const spread = (of: readonly number[]) => spreadOf(of.map((i) => values[i]!));
  const [best] = [0, 1, 2, 3]
    .map((out) => [0, 1, 2, 3].filter((i) => i !== out))
    .toSorted((a, b) => spread(a) - spread(b)) as [number[]];
  const all = spreadOf(values);
  const isRounding = all < LEAST_OUT * ROUNDED * Math.abs(values[0]);
  return !isRounding && OUT_OF_LINE * spread(best) < all ? best : [0, 1, 2];
}

const spreadOf = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);

/** Values at a tolerance, at twice, four and eight times it. */
type Values = readonly [number, number, number, number];

const halves = (difference: number, before: number): boolean =>
  Math.abs(difference - before / 2) <= REGULAR * Math.abs(before);

/** Mass, one step further than from twice a tolerance to it. */
export function furtherMass(fine: Mass, twice: Mass): Mass {
  const further = (a: number, b: number) => 2 * a - b;
  return {
    volume: further(fine.volume, twice.volume),
    first: vec3(fine.first.map((one, k) => further(one, twice.first[k]!))),
    second: fine.second.map((one, k) => further(one, twice.second[k]!)) as unknown as Mass['second'],
  };
}
