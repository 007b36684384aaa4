/** The demo designs, as tests read them. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Design } from '../src/design/schema';
import { readDesign } from '../src/exchange/design-json';
import { LONG } from './runs';

const FOLDER = join(import.meta.dirname, '../../demo');

/** Names of their files. */
export const DEMO: readonly string[] = readdirSync(FOLDER);

/** Of their files so many as the short run takes, every second or third from one on; in the long run all. */
export const someDemo = (every: number, from = 0): readonly string[] =>
  DEMO.filter((_file, i) => LONG || i % every === from);

export const demoText = (file: string): string => readFileSync(join(FOLDER, file), 'utf8');

export const demo = (file: string): Design => readDesign(demoText(file));
