/** Random cases are the same at every run, so that what fails can be tried again; `SEED=any` draws others. */
import fc from 'fast-check';

const { SEED = '20261125' } = process.env;
if (SEED !== 'any') fc.configureGlobal({ seed: Number(SEED) });
