/** Speed of the check between bodies. */
import { createCache, evaluate } from '@nematos/core/design/evaluate';
import { addStep } from '@nematos/core/design/edit';
import { emptyDesign } from '@nematos/core/design/schema';
import { bodiesOf } from '@nematos/core/kind/value';
import { standingsOf } from '@nematos/core/solid/interference';
import { fixedWork, heldAgainst } from './fixed-work';
import type { Row } from './measure';

/** What 40 bodies may take, ms. */
const BAR = 300;
const ROUNDS = 8;
const poll = async () => {};

/** 20 balls and 20 rods between them, none like those of another round; the first rod of a round runs through a ball. */
async function balls(round: number) {
  const design = emptyDesign('Balls and rods');
  for (let i = 0; i < 20; i++) {
    // Off the grid by as much as a hash of the place says: no two gaps are alike.
    const off = (k: number) => (((i + 20 * round) * k * 7919) % 97) / 97;
    const [x, y] = [11 * (i % 5) + off(3), 11 * Math.floor(i / 5) + off(5)];
    addStep(design, 'ball', 2 * i, {
      diameter: '9.4 mm',
      originX: `${x} mm`,
      originY: `${y} mm`,
    });
    addStep(design, 'cylinder', 2 * i + 1, {
      diameter: '4 mm',
      height: '60 mm',
      originX: `${i ? x + 5.5 : x} mm`,
      originY: `${i ? y + 5.5 : y} mm`,
    });
  }
  const { steps } = await evaluate(design, createCache());
  return steps.map(({ value }) => bodiesOf(value));
}

/** All pairs of 40 bodies that were not looked at before. */
export async function interferenceRow(): Promise<Row> {
  const fixed = fixedWork(BAR);
  const [times, meanwhile]: [number[], number[]] = [[], []];
  for (let round = 0; round < ROUNDS; round++) {
    const groups = await balls(round);
    const begun = performance.now();
    const { close } = await standingsOf(groups, 0, poll);
    times.push(performance.now() - begun);
    if (!close.length) throw new Error('no pair that meets is found');
    meanwhile.push(fixed());
  }
  // The kernel is loaded, and what is run is compiled, in the first.
  const held = heldAgainst(times.slice(2), meanwhile.slice(2));
  return {
    what: '40 bodies, all pairs checked for overlaps and the least gap, 95th percentile of 6',
    measured: `${held.late.toFixed(0)} ms, ${held.part.toFixed(2)} of the fixed work (${held.fixed.toFixed(0)} ms)`,
    bar: `at most ${BAR} ms undisturbed`,
    met: held.met,
  };
}
