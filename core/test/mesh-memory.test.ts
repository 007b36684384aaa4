import type { SweptBody } from '../src/sweep/body';
import { expect } from 'chai';
import fc from 'fast-check';
import { buffersOf } from '../src/mesh/data/mesh';
import { SpentMemory } from '../src/mesh/data/memory';
import { CLOSED, END, LAWS, OPEN, SECTIONS } from './any-body';
import { carried, type Carried } from './bodies';
import { previewOf } from '../src/solid/preview';
import { runs } from './runs';
import { PIN, PLATE, welded } from './fillets';

/** Memory of large meshes, full of what must not stay. */
function littered(): SpentMemory {
  const memory = new SpentMemory();
  const sizes = [60_000, 60_000, 60_000, 400_000, 400_000, 400_000, 2e6, 2e6, 2e6];
  memory.giveBack(sizes.map((n) => new Float32Array(n).fill(NaN).buffer));
  return memory;
}

function expectSame(body: SweptBody, memory: SpentMemory, says: string): void {
  const fresh = body.mesh(0.05, 50_000);
  const again = body.mesh(0.05, 50_000, memory);
  for (const part of ['positions', 'normals', 'triangles'] as const) {
    expect(again[part].length, says).equal(fresh[part].length);
    const k = fresh[part].findIndex((x, i) => !Object.is(x, again[part][i]));
    expect(k, `${part} of ${says}`).equal(-1);
  }
  memory.giveBack(buffersOf(again));
}

describe('memory of meshes', () => {
  it('is written over from end to end, whatever stood in it', async () => {
    const memory = littered();
    const check = async (what: Carried) => expectSame(await carried(what), memory, JSON.stringify(what));
    await fc.assert(
      fc.asyncProperty(OPEN, SECTIONS, LAWS, END('start'), END('end'), (path, section, laws, start, end) =>
        check({ path, section, sweep: { ...laws, ...start, ...end } }),
      ),
      { numRuns: runs(60) },
    );
    await fc.assert(
      fc.asyncProperty(CLOSED, SECTIONS, (path, section) => check({ path, section })),
      { numRuns: runs(25) },
    );
  });

  it('is used again where it holds what is wanted and is not far too large', () => {
    const memory = new SpentMemory();
    const [small, large, huge] = [new ArrayBuffer(4e5), new ArrayBuffer(8e5), new ArrayBuffer(2.5e7)];
    memory.giveBack([huge, large, small]);
    const first = memory.floats(75_000);
    expect(first.buffer).equal(small);
    expect(first.length).equal(75_000);
    const second = memory.indices(75_000);
    expect(second.buffer).equal(large);
    const third = memory.floats(75_000);
    expect([small, large, huge]).not.include(third.buffer);
    expect(third.length).equal(75_000);
    expect(memory.indices(6e6).buffer).equal(huge);
  });

  it('leaves room for a mesh that grows a little, and is let go of where it becomes too much', () => {
    const memory = new SpentMemory();
    const mine = memory.floats(100_000);
    memory.giveBack([mine.buffer as ArrayBuffer]);
    expect(memory.floats(110_000).buffer).equal(mine.buffer);
    const old = new ArrayBuffer(2e7);
    memory.giveBack([old]);
    memory.giveBack([new ArrayBuffer(2e7)]);
    expect(memory.floats(48e5).buffer).not.equal(old);
  });

  it('of what stands in for a body is another one the next time, until that is given back', async () => {
    const { body } = await welded([PLATE, PIN], { radius: '1 mm', where: 'ridges' }, 'subtract');
    const drawn = async (memory: SpentMemory) =>
      (await previewOf([body], 0.1, 10_000, () => Promise.resolve(), memory)).mesh;
    const memory = littered();
    const first = await drawn(memory);
    const was = structuredClone(first);
    const second = await drawn(memory);
    expect(first).deep.equal(was);
    for (const buffer of buffersOf(second)) expect(buffersOf(first)).not.include(buffer);
    // The same as in fresh memory, and laid again in what is given back.
    expect(second).deep.equal(await drawn(new SpentMemory()));
    memory.giveBack(buffersOf(second));
    expect(buffersOf(second)).include((await drawn(memory)).positions.buffer);
    expect(first).deep.equal(was);
  });
});
