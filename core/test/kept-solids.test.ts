/** Solids of a combined body: made once, kept while they are used. */
import { expect } from 'chai';
import { inspectMesh } from '../src/mesh/closed';
import type { Operation } from '../src/solid/kernel-volumes';
import type { Body, CombinedBody } from '../src/solid/body';
import { combinedBody } from '../src/solid/combined';
import type { Vec3 } from '../src/geometry/vector';
import { carried, points } from './bodies';

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
