import { LRUCache } from 'lru-cache';

/** Hash of a text as 106 bits in base 36 (two runs of cyrb53, public domain, with different seeds). */
export function hash(text: string): string {
  return run(text, 0x9e3779b9) + '-' + run(text, 0x85ebca6b);
}

function run(text: string, seed: number): string {
  let a = 0xdeadbeef ^ seed;
  let b = 0x41c6ce57 ^ seed;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    a = Math.imul(a ^ c, 2654435761);
    b = Math.imul(b ^ c, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return (4294967296 * (2097151 & b) + (a >>> 0)).toString(36);
}

const LONG = 1000;
const KNOWN = new LRUCache<string, string>({ max: 32 });

function hashed(text: string): string {
  const known = KNOWN.get(text) ?? hash(text);
  KNOWN.set(text, known);
  return known;
}

/** The same record, its long texts told by their hashes: what came from a file is not gone through at every edit. */
export function inBrief(record: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> {
  const isLong = (value: unknown): value is string => typeof value === 'string' && value.length > LONG;
  if (!Object.values(record).some(isLong)) return record;
  return Object.fromEntries(
    Object.entries(record).map(([name, value]) => [name, isLong(value) ? hashed(value) : value]),
  );
}
