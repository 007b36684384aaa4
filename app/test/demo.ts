/** Designs of the honey house, as the application begins with them. */
import { readFileSync } from 'node:fs';
import type { Design } from '@nematos/core/design/schema';
import { readDesign } from '@nematos/core/exchange/design-json';

export const demo = (name: string): Design =>
  readDesign(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), 'utf8'));
