/** Random cases are the same at every run, so that what fails can be tried again; `SEED=any` draws others. */
import { createRequire } from 'node:module';
import { config } from 'chai';
import fc from 'fast-check';

const { SEED = '20261125' } = process.env;
// Tests come to it as a module or as a script, and either has settings of its own.
const both = [fc, createRequire(import.meta.url)('fast-check') as typeof fc];
if (SEED !== 'any') for (const one of both) one.configureGlobal({ seed: Number(SEED) });

// Names of assertions are checked by their types: looked up at every call, they take time where there are thousands.
config.useProxy = false;
