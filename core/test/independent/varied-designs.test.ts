/** Designs of the honey house with other figures, sent at any tolerance, and looked at by means of their own. */
import { expect } from 'chai';
import { checkStep } from '../../src/design/check-step';
import { createCache, evaluate } from '../../src/design/evaluate';
import type { Design } from '../../src/design/schema';
import { solidsToSend } from '../../src/exchange/solid';
import { membersOf } from '../../src/kind/value';
import { meshMass } from '../../src/mesh/data/mass';
import { sizeAbout, withinOf, type Body } from '../../src/solid/body/body';
import { partOf } from '../../src/view/part';
import { DEMO, demo } from '../demo';
import { runs } from '../runs';
import { chance } from './nearness';
import { faultsOf, NO_FAULTS } from './triangles';

const { SEED = '20261129' } = process.env;
const first = SEED === 'any' ? Math.floor(Math.random() * 2 ** 30) : Number(SEED);
const COUNT = runs(9);
/** Parts of its size that chords are off by. */
const [COARSEST, FINEST] = [1 / 100, 1 / 1500];
const go = async () => {};

/** A design of which about half of the lengths and angles that are written out differ by up to an eighth. */
function varied(any: () => number): Design {
  const file = DEMO[Math.floor(any() * DEMO.length)]!;
  const design = demo(file);
  const vary = (text: string) =>
    text.replace(/^(\d+(?:\.\d+)?)( (?:mm|deg))$/, (_all, number: string, unit: string) =>
      any() < 0.5 ? text : `${(Number(number) * (0.88 + 0.24 * any())).toPrecision(5)}${unit}`,
    );
  for (const given of design.givens) given.value = vary(given.value);
  for (const { set } of design.steps) for (const field in set) set[field] = vary(set[field]!);
  return design;
}

describe('designs with any figures, at any tolerance', () => {
  let made = 0;
  for (let i = 0; i < COUNT; i++)
    it(`are sent closed and free of themselves, as large as they are: seed ${first + i}`, async () => {
      const any = chance(first + i);
      const design = varied(any);
      const cache = createCache();
      const { steps, ...rest } = await evaluate(design, cache, go);
      if (steps.some(({ state }) => state === 'fault')) return;
      made++;
      const bodies = partOf(design.steps).flatMap(
        ({ id }) => membersOf(steps.find((one) => one.id === id)!.value!) as Body[],
      );
      const tolerance = Math.max(...bodies.map(sizeAbout)) * COARSEST * (FINEST / COARSEST) ** any();
      const what = `${tolerance} mm, ${JSON.stringify(design)}`;
      const sent = await solidsToSend(
        { ...design, tolerance: `${tolerance} mm` },
        { ...rest, steps },
        cache,
        go,
      );
      expect(sent).lengthOf(bodies.length);
      const checked = await Promise.all(steps.map((step, k) => checkStep(design.steps[k]!, step, cache)));
      // What overlaps counts once where it is sent, and twice where it is calculated by length.
      const overlaps = checked.some(({ findings }) => findings.some((finding) => finding.overlaps));
      sent.forEach(({ mesh }, k) => {
        expect(faultsOf(mesh), what).deep.equal(NO_FAULTS);
        const { mass, surface } = meshMass(mesh);
        const off = surface * tolerance + (withinOf(bodies[k]!)?.volume ?? 0);
        expect(mass.volume - bodies[k]!.volume, what).below(off);
        if (!overlaps) expect(bodies[k]!.volume - mass.volume, what).below(off);
      });
    }).timeout(240_000);

  it('can be made for the most part', () => {
    expect(made).above(COUNT / 2);
  });
});
