/** Solids of bodies: made once, kept while they are used, and shown as they were measured. */
import { expect } from 'chai';
import fc from 'fast-check';
import { stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { inspectMesh } from '../src/mesh/data/topology';
import type { Operation } from '../src/solid/kernel/volumes';
import type { Body, CombinedBody, DeformedBody } from '../src/solid/body/body';
import { combinedBody } from '../src/solid/combine/combined';
import type { Vec3 } from '../src/geometry/vector';
import { carried, points } from './bodies';
import { evenly } from './numbers';
import { BAR, BETWEEN, expectClosed, reshapeDesign, type Made } from './deforming';
import { runs } from './runs';

const go = async () => {};
const rod = (from: Vec3, to: Vec3, diameter: number) =>
  carried({
    path: { kind: 'run', rows: { points: points([...from], [...to]) } },
    section: { kind: 'round', set: { diameter: `${diameter} mm` } },
  });

async function made(operation: Operation, ...bodies: Body[]): Promise<CombinedBody> {
  const body = combinedBody(operation, bodies);
  await body.measured(go);
  return body;
}

describe('a solid of a combined body', () => {
  const r = 5;
  const x = () => rod([-12, 0, 0], [12, 0, 0], 2 * r);
  const y = () => rod([0, -12, 0], [0, 12, 0], 2 * r);

  it('is kept as it was measured while what is made of it is measured and seen', async () => {
    const one = await made('add', await x(), await y());
    const solid = await one.solid(one.checkedAt, go);
    const other = await made('subtract', one, await rod([0, 0, -12], [0, 0, 12], r));
    for (const finer of [1, 2]) await one.solid(other.checkedAt / (3 * finer), go);
    expect(await one.solid(one.checkedAt, go)).equal(solid);
    // What is not asked for goes.
    for (let finer = 1; finer <= 10; finer++) await one.solid(one.checkedAt * (1 + finer / 20), go);
    expect(await one.solid(one.checkedAt, go)).not.equal(solid);
  });

  it('is made once for all who ask at the same time, and again where the first gives it up', async () => {
    const one = combinedBody('add', [await x(), await y()]);
    const asked = [1, 2, 3].map(() => one.solid(0.05, go));
    expect(new Set(await Promise.all(asked)).size).equal(1);
    const gone = one
      .solid(0.04, async () => {
        throw new Error('given up');
      })
      .catch((error: Error) => error.message);
    const other = one.solid(0.04, go);
    expect(await gone).equal('given up');
    expect(inspectMesh(await other).openEdges).equal(0);
  });
});

describe('a solid of a reshaped body', () => {
  it('is shown as the solid that it was measured by comes out, closed and no coarser than it may be', async () => {
    const across: Made[] = [...BAR, ['cylinder', { diameter: '12 mm', height: '60 mm' }], ['add', {}]];
    await fc.assert(
      fc.asyncProperty(evenly(20, 90), evenly(0.1, 0.5), async (angle, ease) => {
        const design = reshapeDesign(across, { ...BETWEEN, angle: `${angle} deg`, ease: String(ease) });
        stepOf(design, 'add').from = { bodies: ['extrude', 'cylinder'] };
        const { steps } = await evaluate(design, createCache());
        const body = steps.at(-1)!.value as DeformedBody;
        const of = body.source as CombinedBody;
        const kept = await of.solid(of.checkedAt, go);
        const asked: Promise<unknown>[] = [];
        const solid = of.solid.bind(of);
        Object.assign(of, {
          solid: (...wanted: Parameters<typeof solid>) => {
            const made = solid(...wanted);
            asked.push(made);
            return made;
          },
        });
        const shown = await body.solid(body.shownAt, go);
        expect(await Promise.all(asked)).deep.equal([kept]);
        await expectClosed(shown);
        expect(shown.tolerance).most(body.shownAt * (1 + 1e-9));
        expect(body.shownAt).within(body.size / 2001, (3 * body.size) / 2000 + 1e-9);
      }),
      { numRuns: runs(4) },
    );
    // Shortened to two fifths, it would be too coarse for its size.
    const set = { way: 'stretch', by: '-240 mm', from: '10 mm', to: '390 mm', ease: '0.1' };
    const long: Made[] = [...BAR, ['cylinder', { diameter: '12 mm', height: '400 mm' }], ['add', {}]];
    const design = reshapeDesign(long, set);
    stepOf(design, 'add').from = { bodies: ['extrude', 'cylinder'] };
    const body = (await evaluate(design, createCache())).steps.at(-1)!.value as DeformedBody;
    expect(body.shownAt).closeTo((3 * body.size) / 2000, 1e-9);
  });
});
