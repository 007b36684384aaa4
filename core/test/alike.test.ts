import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { runNow } from '../src/geometry/task';
import { rayHits } from '../src/mesh/query/ray';
import { likenesses } from '../src/solid/fillet/alike';
import type { FilletedBody } from '../src/solid/body/body';
import { leavesOf } from '../src/solid/body/body';
import { jointsOf } from '../src/solid/fillet/joints';
import { complaintsOf } from './helpers';
import { inLong } from './runs';

const go = async () => {};

/** Four pins on a plate, alike, and what else is given; their joints rounded. */
function pinned(more: Record<string, string>[] = [], where = 'hollows', plateAt = '0 mm'): Design {
  const design = emptyDesign('Pins');
  const add = (kind: string, figures: Record<string, string>) =>
    addStep(design, kind, design.steps.length, figures);
  add('block', { width: '80 mm', depth: '80 mm', height: '10 mm', originX: plateAt });
  add('cylinder', { diameter: '10 mm', height: '30 mm', originX: '20 mm' });
  add('repeat', { copies: '4' });
  setInput(design, 'repeat', 'of', 'cylinder');
  const others = more.map((figures) => add('cylinder', figures));
  add('add', {});
  stepOf(design, 'add').from = { bodies: ['block', 'repeat', ...others] };
  add('weld', { radius: '3 mm', where });
  setInput(design, 'weld', 'body', 'add');
  return design;
}

async function weldedIn(design: Design): Promise<FilletedBody> {
  const { steps } = await evaluate(design, createCache());
  const { value, complaints } = steps.at(-1)!;
  if (!value) throw new Error(JSON.stringify(complaints));
  return value as FilletedBody;
}

describe('joints that are alike', () => {
  it('are known by the motions of their bodies', async () => {
    const { source } = await weldedIn(pinned());
    if (source.form !== 'combined') throw new Error('they are added');
    const joints = runNow(jointsOf(await source.solid(0.1, go)));
    const found = runNow(likenesses(joints, leavesOf(source), 0.1));
    expect(found.map((one) => one?.of)).deep.equal([undefined, 0, 0, 0]);
    // A quarter of a round each.
    const turns = found.slice(1).map((one) => Math.round((Math.acos(one!.motion.ex[0]) * 180) / Math.PI));
    expect(turns.toSorted((a, b) => a - b)).deep.equal([90, 90, 180]);
  });

  inLong('are refused where only one of them has no room', async () => {
    // One floats a millimetre over the plate, beside one of the pins.
    for (const [x, y] of [
      [30, 0],
      [0, 30],
      [-30, 0],
      [0, -30],
    ] as const) {
      const beside = (by: number) =>
        pinned([
          {
            diameter: '2 mm',
            height: '20 mm',
            originX: `${x * by} mm`,
            originY: `${y * by} mm`,
            originZ: '11 mm',
          },
        ]);
      const { radius } = await complaintsOf(beside(1), 'weld');
      expect(radius).match(/^A ball of this radius has no room where bodies 1 and \d meet near .*2\d/);
      expect(await complaintsOf(beside(1.2), 'weld')).deep.equal({});
    }
    // The plate ends two millimetres beside the pin there.
    const ending = await complaintsOf(pinned([], 'hollows', '13 mm'), 'weld');
    expect(ending.radius).match(/near −2\d.*: up to (2|1\.9\d*|2\.0\d*) mm/);
  });

  it('have each the same laid on', async () => {
    const body = await weldedIn(pinned());
    await body.measured(go);
    // A quarter of a round taken off a square, turned about the pin (Pappus).
    const [square, round] = [9, (Math.PI * 9) / 4];
    const one = 2 * Math.PI * (square * (5 + 1.5) - round * (5 + 3 - (4 * 3) / (3 * Math.PI)));
    expect(body.laid().volume / (4 * one)).closeTo(1, 0.012);
    expect(Math.abs(body.laid().volume - 4 * one)).lessThan(body.laid().within);
  });
});

describe('what looks like a body with rounded joints', () => {
  it('is met by rays from outside where the body is', async () => {
    const body = await weldedIn(pinned());
    const tolerance = 0.1;
    const [solid, like] = [await body.solid(tolerance, go), (await body.lookalike(tolerance, go))!];
    expect(new Set(like.groups!.map(({ leaf }) => leaf)).size).equal(6);
    let rounded = 0;
    for (let i = 0; i < 400; i++) {
      // From above, down and inward, about the pins.
      const [a, r] = [i * 2.4, 6 + ((i * 7) % 100) / 40];
      const pin = [20 * Math.cos(((i % 4) * Math.PI) / 2), 20 * Math.sin(((i % 4) * Math.PI) / 2)] as const;
      const from = [pin[0] + r * Math.cos(a), pin[1] + r * Math.sin(a), 50] as const;
      const [real, seen] = [solid, like].map((mesh) => rayHits(mesh, from, [0, 0, -1])[0]!) as [
        number,
        number,
      ];
      expect(Math.abs(real - seen)).lessThan(3 * tolerance);
      if (real < 39.5) rounded++;
    }
    expect(rounded).greaterThan(50);
  });

  it('is not offered where ridges are taken off', async () => {
    const plate = pinned([], 'all');
    stepOf(plate, 'add').kind = 'subtract';
    stepOf(plate, 'add').from = { body: 'block', taken: ['repeat'] };
    const body = await weldedIn(plate);
    expect(await body.lookalike(0.2, go)).equal(undefined);
  });
});
