/** What makes a run quick: properties are tried a fifth as often, and tests that take long are left out. */
import { readFileSync } from 'node:fs';

process.env.RUNS ??= '0.2';

/** Told by npm run test:slow. */
const SLOW = new Set<string>(
  JSON.parse(readFileSync(new URL('slow.json', import.meta.url), 'utf8')) as string[],
);

export const mochaHooks = {
  beforeEach(this: Mocha.Context): void {
    if (!process.env.ALL && SLOW.has(this.currentTest!.fullTitle())) this.skip();
  },
};
