/** Searches by halving: in rising values, and between two places. */

/** The last of rising values that is no more than x, from one place among them to another; the first where all are more. */
export function lastAtMost(values: ArrayLike<number>, x: number, from: number, to: number): number {
  let [low, high] = [from, to];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (values[middle]! <= x) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The first of rising values that is more than x; their count where none is. */
export function firstAbove(values: ArrayLike<number>, x: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! > x) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Where something stops to hold between a place where it holds and one where it does not: halved so often that rounding is left. */
export function lastWhere(holds: (x: number) => boolean, from: number, to: number, halvings = 60): number {
  let [low, high] = [from, to];
  for (let i = 0; i < halvings; i++) {
    const middle = (low + high) / 2;
    if (holds(middle)) low = middle;
    else high = middle;
  }
  return low;
}
