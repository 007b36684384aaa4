import { expect } from 'chai';
import { createCache, evaluate } from '../../src/design/evaluate';
import { report } from '../../src/exchange/report';
import { solidsToSend } from '../../src/exchange/solid';
import { membersOf } from '../../src/kind/value';
import { meshMass } from '../../src/mesh/data/mass';
import { sizeAbout, type Body } from '../../src/solid/body/body';
import { partOf } from '../../src/view/part';
import { demo, someDemo } from '../demo';
import { LONG } from '../runs';
import { faultsOf, NO_FAULTS } from './triangles';

const go = async () => {};
/** Parts of a body's size that chords are off by at most, and the finest tolerance that is sent, mm. */
const COARSE = LONG ? [1 / 400, 1 / 1200, 1 / 3000] : [1 / 1000];
const FINEST = 0.02;

const toleranceOf = (bodies: readonly Body[], part: number): number =>
  Math.max(FINEST, part * Math.max(...bodies.map(sizeAbout)));

describe('the honey house:', () => {
  for (const file of someDemo(5)) {
    const design = demo(file);
    const cache = createCache();

    it(`${design.name} is whole and without faults`, async () => {
      const told = await report(design, cache);
      expect(told.complaints).deep.equal([]);
      expect(told.findings.filter(({ level }) => level === 'fault')).deep.equal([]);
      expect(told.figures.length).above(14);
    }).timeout(240_000);

    it(`${design.name} is closed and free of itself, coarse and fine`, async () => {
      const evaluation = await evaluate(design, cache, go);
      const told = partOf(design.steps).flatMap(
        ({ id }) => membersOf(evaluation.steps.find((one) => one.id === id)!.value!) as Body[],
      );
      // What is seen at first and what is seen at rest are the same body.
      for (const body of told)
        if (body.form === 'combined')
          for (const [fineness, trusted] of [
            [1 / 400, true],
            [COARSE.at(-1)!, false],
          ] as const) {
            const seen = await body.solid(toleranceOf(told, fineness), go, trusted);
            expect(Math.abs(seen.volume - body.volume)).below(meshMass(seen).surface * seen.tolerance);
            expect(seen.parts, `${fineness}`).equal(body.parts);
          }
      for (const part of COARSE) {
        const tolerance = toleranceOf(told, part);
        const sent = await solidsToSend({ ...design, tolerance: `${tolerance} mm` }, evaluation, cache, go);
        expect(sent).length(told.length);
        sent.forEach(({ mesh }, i) => {
          expect(faultsOf(mesh), `${tolerance}`).deep.equal(NO_FAULTS);
          const { mass, surface } = meshMass(mesh);
          expect(Math.abs(mass.volume - told[i]!.volume)).below(surface * tolerance);
        });
      }
    }).timeout(240_000);
  }
});
