import { expect } from 'chai';
import fc from 'fast-check';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import { addStep, moveTrouble, removeStep, renameStep, stepOf, usersOf } from '../src/design/edit';
import { beginHistory, edit, redo, undo } from '../src/design/history';
import type { Design } from '../src/design/schema';
import { report } from '../src/exchange/report';
import { bodyDesign, near, points } from './bodies';
import { distance } from '../src/geometry/vector';
import { complaintsOf, figureOf, valueOf } from './helpers';
import { keep, measured } from './measuring';
import { evenly } from './numbers';
import { runs } from './runs';

/** A bent tube from the origin along x, then y; 10 mm across, 1 mm of wall. */
const bent = (x = 50, y = 40, radius = 12): Design =>
  bodyDesign({
    path: {
      kind: 'run',
      set: { corners: 'bent', radius: `${radius} mm` },
      rows: { points: points([0, 0, 0], [x, 0, 0], [x, y, 0]) },
    },
    section: { kind: 'tube', set: { outer: '10 mm', wall: '1 mm' } },
  });

/** What is found of a measure that something is wanted of. */
async function wanted(design: Design, id: string) {
  const cache = createCache();
  const { steps } = await evaluate(design, cache);
  const result = steps.find((step) => step.id === id)!;
  const { findings } = await checkStep(stepOf(design, id), result, cache);
  return findings[0];
}

describe('a kept measure', () => {
  it('from corner to corner follows the block, and an edge is as long as it is', async () => {
    const design = bent();
    const of = addStep(design, 'block', design.steps.length, {
      width: '30 mm',
      depth: '20 mm',
      height: '12 mm',
    });
    const across = keep(
      design,
      'measure-length',
      { what: 'centres', place: 'corner', corner: '1', toPlace: 'corner', toCorner: '7' },
      { of },
    );
    const edge = keep(
      design,
      'measure-length',
      { what: 'side', place: 'point', x: '15 mm', y: '-10 mm', z: '6 mm' },
      { of },
    );
    near(await measured(design, across), Math.hypot(30, 20, 12));
    near(await measured(design, edge), 12);
    stepOf(design, of).set.height = '45 mm';
    near(await measured(design, across), Math.hypot(30, 20, 45));
    near(await measured(design, edge), 45);
    stepOf(design, across).set.corner = '9';
    expect(await complaintsOf(design, across)).deep.equal({
      corner: 'It has 8 sharp corners: there is no corner 9.',
    });
  });

  it('is taken at ends, joints, along the line, and where something is nearest', async () => {
    const design = bent();
    const length = (set: Record<string, string>) => measured(design, keep(design, 'measure-length', set));
    near(await length({ what: 'centres', place: 'start', toPlace: 'end' }), Math.hypot(50, 40));
    near(await length({ what: 'y', place: 'start', toPlace: 'end' }), 40);
    near(
      await length({ what: 'centres', place: 'joint', joint: '1', toPlace: 'joint', toJoint: '2' }),
      12 * Math.SQRT2,
    );
    near(
      await length({ what: 'along', place: 'joint', joint: '1', toPlace: 'joint', toJoint: '2' }),
      6 * Math.PI,
    );
    near(await length({ what: 'x', place: 'start', toPlace: 'along', toAlong: '20 mm' }), 20);
    near(await length({ what: 'diameter', place: 'middle' }), 10);
    near(await length({ what: 'wall', place: 'end' }), 1);
    near(await length({ what: 'bend', place: 'point', x: '46 mm', y: '4 mm' }), 12, 1e-9);
    near(await length({ what: 'atX', place: 'end' }), 50);
    near(await length({ what: 'atY', place: 'end' }), 40);
    near(await length({ what: 'atX', place: 'joint', joint: '1' }), 38);
    near(await length({ what: 'atZ', place: 'middle' }), 0);
    const angle = keep(design, 'measure-angle', { place: 'start', toPlace: 'end' });
    near(await measured(design, angle), Math.PI / 2);
  });

  it('is seen where it is taken: along the line, or along an axis from beside the one place to the other', async () => {
    const design = bent();
    const seen = async (set: Record<string, string>) => {
      const value = await valueOf(design, keep(design, 'measure-length', set));
      const places = value.type === 'measure' ? value.found!.places : [];
      return places.map((place) => place.map((x) => Math.round(x * 1e9) / 1e9));
    };
    expect(await seen({ what: 'y', place: 'start', toPlace: 'end' })).deep.equal([
      [50, 0, 0],
      [50, 40, 0],
    ]);
    const along = await seen({ what: 'along', place: 'start', toPlace: 'end' });
    expect([along[0], along.at(-1)]).deep.equal([
      [0, 0, 0],
      [50, 40, 0],
    ]);
    // On the bend all are as far from its centre.
    for (const [x, y] of along as [number, number][])
      if (x > 38 && y < 12) expect(Math.hypot(x - 38, y - 12)).closeTo(12, 1e-8);
    const ring = bodyDesign({
      path: { kind: 'loop', set: { shape: 'circle', size: '50 mm' } },
      section: { kind: 'round', set: { diameter: '3 mm' } },
    });
    const id = keep(ring, 'measure-length', {
      what: 'along',
      place: 'along',
      along: '10 mm',
      toPlace: 'along',
      toAlong: '150 mm',
    });
    near(await measured(ring, id), 50 * Math.PI - 140, 1e-9);
    const value = await valueOf(ring, id);
    const places = value.type === 'measure' ? value.found!.places : [];
    // The shorter way round, over where the loop begins.
    const sides = places.slice(1).map((place, i) => distance(place, places[i]!));
    near(
      sides.reduce((sum, one) => sum + one, 0),
      50 * Math.PI - 140,
      1e-3,
    );
  });

  it('is taken of what is turned, of bodies, and of the gap between them, as closed forms have it', async () => {
    const design = bent();
    const pin = addStep(design, 'cylinder', design.steps.length, {
      diameter: '30 mm',
      height: '50 mm',
      originY: '-100 mm',
      material: 'brass',
    });
    const ball = addStep(design, 'ball', design.steps.length, { diameter: '20 mm', originY: '-160 mm' });
    const of = { of: pin };
    // Near its edge, or its side, not quite on it: they are meant.
    for (const z of ['49.9 mm', '25 mm']) {
      const set = { what: 'diameter', place: 'point', x: '14.8 mm', y: '-100 mm', z };
      near(await measured(design, keep(design, 'measure-length', set, of)), 30);
    }
    near(await measured(design, keep(design, 'measure-volume', {}, of)), Math.PI * 15 ** 2 * 50, 1e-9);
    near(
      await measured(design, keep(design, 'measure-area', {}, of)),
      2 * Math.PI * 15 ** 2 + Math.PI * 30 * 50,
      1e-9,
    );
    const mass = await figureOf(design, pin, 'mass');
    near(await measured(design, keep(design, 'measure-mass', {}, of)), mass);
    const gap = keep(design, 'measure-length', { what: 'gap' }, { of: pin, to: ball });
    expect(await measured(design, gap)).closeTo(60 - 15 - 10, 0.05);
  });

  it('says at its place what is not there', async () => {
    const design = bent();
    const told = (set: Record<string, string>) => complaintsOf(design, keep(design, 'measure-length', set));
    expect(await told({ what: 'diameter', place: 'along', along: '500 mm' })).deep.equal({
      along: `It is only ${(50 + 40 - 24 + 6 * Math.PI).toFixed(2)} mm long: choose a place within that.`,
    });
    expect(await told({ what: 'x', toPlace: 'joint', toJoint: '3' })).deep.equal({
      toJoint: 'It has 2 joints: there is no joint 3.',
    });
    expect(await told({ what: 'bend', place: 'start' })).deep.equal({
      what: 'It is straight there: choose a place in a bend.',
    });
    const gap = keep(design, 'measure-length', { what: 'gap' });
    expect(await complaintsOf(design, gap)).deep.equal({
      to: 'A gap needs two bodies: choose another here.',
    });
  });

  it('follows 100 edits as it should, and undo', async () => {
    const design = bent();
    const ids = [
      keep(design, 'measure-length', { what: 'centres', place: 'start', toPlace: 'end' }),
      keep(design, 'measure-length', { what: 'along', place: 'joint', toPlace: 'end', joint: '1' }),
      keep(design, 'measure-length', { what: 'bend', place: 'joint', joint: '1' }),
    ];
    const formula = (x: number, y: number, r: number) => [Math.hypot(x, y), (r * Math.PI) / 2 + y - r, r];
    const cache = createCache();
    const values = async (now: Design) => {
      const { steps } = await evaluate(now, cache);
      return ids.map((id) => steps.find((step) => step.id === id)!.results[0]!.value);
    };
    const steps = fc.sample(fc.tuple(evenly(30, 90), evenly(30, 90), evenly(5, 25)), {
      numRuns: runs(100),
    });
    let history = beginHistory(design);
    const seen = [[50, 40, 12], ...steps];
    for (const [x, y, r] of steps) {
      history = edit(history, 'bend it', (draft) => {
        const path = stepOf(draft, 'path');
        path.set.radius = `${r} mm`;
        path.rows!.points![1]!.x = `${x} mm`;
        path.rows!.points![2]!.x = `${x} mm`;
        path.rows!.points![2]!.y = `${y} mm`;
      });
      const now = await values(history.present);
      formula(x, y, r).forEach((value, i) => near(now[i]!, value, 1e-9));
    }
    for (const [x, y, r] of seen.slice(0, -1).toReversed()) {
      history = undo(history);
      const now = await values(history.present);
      formula(x!, y!, r!).forEach((value, i) => near(now[i]!, value, 1e-9));
    }
    expect(history.present).deep.equal(design);
    expect(await values(redo(history).present)).not.deep.equal(await values(design));
  });

  it('is held against what is wanted', async () => {
    const design = bent();
    const id = keep(design, 'measure-length', {
      what: 'centres',
      place: 'start',
      toPlace: 'end',
      wanted: '64 mm',
      tolerance: '0.05 mm',
    });
    const real = Math.hypot(50, 40);
    const good = (await wanted(design, id))!;
    expect(good.level).equal('good');
    near(good.margin, 0.05 - (real - 64), 1e-9);
    stepOf(design, id).set.wanted = '63.9 mm';
    const bad = (await wanted(design, id))!;
    expect(bad.level).equal('fault');
    near(bad.margin, 0.05 - (real - 63.9), 1e-9);
    near(bad.limit, 63.95);
    // Just at its bound it is met.
    const wall = keep(design, 'measure-length', {
      what: 'wall',
      wanted: '1.1 mm',
      tolerance: '0.1 mm',
    });
    expect((await wanted(design, wall))!.level).equal('good');
    delete stepOf(design, id).set.wanted;
    expect(await wanted(design, id)).equal(undefined);
    const { figures, findings } = await report(design);
    expect(figures.filter(({ step }) => step === id)).deep.equal([
      {
        step: id,
        name: 'measured',
        label: 'centre to centre',
        value: figures.find(({ step }) => step === id)!.value,
        unit: 'mm',
        quantity: 'length',
      },
    ]);
    expect(findings.filter(({ name }) => name === 'wanted').map(({ step }) => step)).deep.equal([wall]);
  });

  it('is a name in figures of the steps below it, which follows it when it is renamed', async () => {
    const design = bent();
    const id = keep(design, 'measure-length', { what: 'along', place: 'start', toPlace: 'end' });
    renameStep(design, id, 'Cut length');
    const ball = addStep(design, 'ball', design.steps.length, { diameter: 'Cut_length / 10' });
    const diameter = async () => Math.cbrt(((await figureOf(design, ball, 'volume')) * 6) / Math.PI);
    near(await diameter(), (66 + 6 * Math.PI) / 10, 1e-9);
    stepOf(design, 'path').rows!.points![1]!.x = '60 mm';
    stepOf(design, 'path').rows!.points![2]!.x = '60 mm';
    near(await diameter(), (76 + 6 * Math.PI) / 10, 1e-9);
    renameStep(design, id, 'Blank');
    expect(stepOf(design, ball).set.diameter).equal('Blank / 10');
    near(await diameter(), (76 + 6 * Math.PI) / 10, 1e-9);
    // It is made from the measure as from what stands at an input.
    expect(usersOf(design, id).map((step) => step.id)).deep.equal([ball]);
    expect(moveTrouble(design, ball, 0)).contain('It is made from');
    // A mass and an angle have their own quantity.
    stepOf(design, ball).set.diameter = `Heavy * 1 mm / 1 g`;
    const heavy = keep(design, 'measure-mass', {});
    renameStep(design, heavy, 'Heavy');
    expect(await complaintsOf(design, ball)).deep.equal({
      diameter: '“Heavy” is measured further down: it can be used in the steps below it.',
    });
    design.steps.push(
      design.steps.splice(
        design.steps.findIndex((step) => step.id === ball),
        1,
      )[0]!,
    );
    near(await diameter(), await measured(design, heavy), 1e-9);
    removeStep(design, heavy);
    expect(Object.keys(await complaintsOf(design, ball))).deep.equal(['diameter']);
  });

  it('that is measured of what is made with it goes in a circle, and says so', async () => {
    const design = bent();
    const id = keep(design, 'measure-length', { what: 'along', place: 'start', toPlace: 'end' });
    renameStep(design, id, 'long');
    const path = design.steps.splice(
      design.steps.findIndex((step) => step.id === 'path'),
      1,
    )[0]!;
    design.steps.push(path);
    path.set.radius = 'long / 10';
    expect((await complaintsOf(design, 'path')).radius).contain('“long”');
  });
});
