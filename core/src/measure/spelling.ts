/** Number of single-letter changes that turn a into b. */
function changes(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_x, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next[j] = Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
    row = next;
  }
  return row[b.length]!;
}

/** Longer words are not looked for. */
const LONGEST = 60;

/** The known word closest to the one written, if it is close enough to be meant. */
export function nearest(word: string, known: readonly string[]): string | undefined {
  if (word.length < 2 || word.length > LONGEST) return undefined;
  let best: string | undefined;
  let least = word.length > 3 ? 3 : 2;
  for (const candidate of known) {
    if (Math.abs(candidate.length - word.length) >= least) continue;
    const d = changes(word.toLowerCase(), candidate.toLowerCase());
    if (d < least) [best, least] = [candidate, d];
  }
  return best;
}
