import { expect } from 'chai';
import { runs } from '../runs';
import { examineSeed, partOf } from './examine';

/** Of the same seeds at every run; `SEED=any` draws others. The long run takes thousands. */
const { SEED = '20261125' } = process.env;
const first = SEED === 'any' ? Math.floor(Math.random() * 2 ** 30) : Number(SEED);
const COUNT = 10 * runs(4);
const DEPTH = { points: 300, tolerances: [0.1, 0.4] };

describe('random parts against a reference that knows nothing of the mesher', () => {
  const tally = { sound: 0, refused: 0, overlaps: 0, faulty: 0 };
  for (let part = 0; part < 10; part++)
    it(`${(COUNT / 10) * part + 1} to ${(COUNT / 10) * (part + 1)}`, async () => {
      for (let i = 0; i < COUNT / 10; i++) {
        const seed = first + part * (COUNT / 10) + i;
        const { state, says } = await examineSeed(seed, DEPTH);
        tally[state]++;
        expect(
          says.length && state !== 'refused' ? says : [],
          `seed ${seed}: ${JSON.stringify(partOf(seed))}`,
        ).deep.equal([]);
      }
    });

  it('are for the most part made', () => {
    expect(tally.sound).above(COUNT / 2);
  });
});
