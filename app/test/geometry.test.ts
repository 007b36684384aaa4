import { expect } from 'chai';
import { addStep, setInput, stepOf } from '@nematos/core/design/edit';
import { OFFERS } from '@nematos/core/design/offers';
import { kindNamed, yieldsOf } from '@nematos/core/design/registry';
import { emptyDesign, type Design } from '@nematos/core/design/schema';
import { partFile } from '@nematos/core/exchange/files';
import { inspectMesh, meshVolume } from '@nematos/core/mesh/data/topology';
import { buffersOf } from '@nematos/core/mesh/data/mesh';
import { readBinary } from '../../core/test/stl-reader';
import './a-browser';
import { demo } from './demo';
import type { Drawn } from '../src/worker/messages';

const { ask, askDeep, handOver, nextOf } = await import('../src/worker/client');

/** Askings of this file, one session, in the order of their numbers. */
const asked = (revision: number) => ({ session: 'test', revision });
const live = (
  design: Design,
  revision: number,
  have: Record<string, string> = {},
  spent: ArrayBuffer[] = [],
) => ask((geometry) => geometry.live(design, asked(revision), { have }, handOver(spent)));
const keysOf = (drawn: readonly Drawn[]) => Object.fromEntries(drawn.map(({ step, key }) => [step, key]));
const meshOf = (drawn: readonly Drawn[], step: string) => {
  const one = drawn.find((each) => each.step === step);
  if (one?.type !== 'body') throw new Error(`${step} is not drawn as a body`);
  return one.mesh;
};

describe('the geometry worker', () => {
  it('draws what is not at hand, and nothing that is', async () => {
    const design = demo('gate-spring');
    const first = (await live(design, 1))!;
    expect(first.drawn.map(({ step }) => step)).members(['wire', 'coil', 'spring']);
    const again = (await live(design, 2, keysOf(first.drawn)))!;
    expect(again.drawn).lengthOf(0);
    stepOf(design, 'spring').set.material = 'copper';
    const changed = (await live(design, 3, keysOf(first.drawn)))!;
    expect(changed.drawn.map(({ step }) => step)).deep.equal(['spring']);
  });

  it('gives up a question as soon as another is asked', async () => {
    const [slow, quick] = [demo('melting-coil'), demo('gate-spring')];
    stepOf(slow, 'coil').set.turns = '60.5';
    const [overtaken, answered] = await Promise.all([live(slow, 10), live(quick, 11)]);
    expect(overtaken).equal(undefined);
    expect(answered!.seen.steps.map(({ state }) => state)).deep.equal(['ready', 'ready', 'ready', 'ready']);
    expect(await ask((geometry) => geometry.settle(slow, asked(10), { have: {} }))).equal(undefined);
  });

  it('works at two designs at once: neither takes the other’s answer away', async () => {
    const [one, two] = [demo('melting-coil'), demo('gate-spring')];
    stepOf(one, 'coil').set.turns = '30.5';
    const ask1 = (session: string, design: Design) =>
      ask((geometry) => geometry.live(design, nextOf(session), { have: {} }, []));
    const [first, second, overtaken, third] = await Promise.all([
      ask1('one', one),
      ask1('two', two),
      ask((geometry) => geometry.picture(one, nextOf('picture'))),
      ask((geometry) => geometry.picture(two, nextOf('picture'))),
    ]);
    expect(first!.drawn.map(({ step }) => step)).include('body');
    expect(second!.drawn.map(({ step }) => step)).include('spring');
    expect(overtaken).equal(undefined);
    expect(third).lengthOf(1);
  });

  it('draws small pictures to a thousandth of the part: less than a pixel, and no finer', async () => {
    const design = emptyDesign('Disc');
    addStep(design, 'cylinder', 0, { diameter: '40 mm', height: '10 mm' });
    const drawn = (await askDeep((kernel) => kernel.picture(design, nextOf('small'))))!;
    const { positions } = meshOf(drawn, 'cylinder');
    const rims = Array.from({ length: positions.length / 3 }, (_x, i) =>
      Math.hypot(positions[3 * i]!, positions[3 * i + 1]!),
    );
    // Corners stand out of the round by less than half of that, and by more than they do on the stage.
    expect(Math.max(...rims) - 20).within(0.01, 0.02);
  });

  it('draws a small picture of every kind that needs nothing else', async () => {
    const alone = OFFERS.flatMap(({ kind }) => {
      const known = kind && kindNamed(kind);
      const needs = known && Object.values(known.inputs).some(({ optional }) => !optional);
      return known && !needs && kind !== 'part-from-file' ? [kind] : [];
    });
    expect(alone).include.members(['helix', 'spherical', 'run', 'ball', 'blade']);
    for (const kind of alone) {
      const design = emptyDesign(kind);
      const id = addStep(design, kind, 0);
      if (yieldsOf(design.steps[0]!, design.steps) === 'section') continue;
      const drawn = (await askDeep((kernel) => kernel.picture(design, nextOf(kind))))!;
      expect(
        drawn.map(({ step }) => step),
        kind,
      ).deep.equal([id]);
    }
  });

  it('draws in small pictures what is measured, where all bodies are hidden', async () => {
    const design = emptyDesign('Gap');
    const from = { of: addStep(design, 'ball', 0), to: addStep(design, 'ball', 1, { originX: '80 mm' }) };
    const id = addStep(design, 'measure-length', 2, { what: 'gap' });
    stepOf(design, id).from = from;
    for (const ball of Object.values(from)) stepOf(design, ball).hidden = true;
    const drawn = (await askDeep((kernel) => kernel.picture(design, nextOf('measured'))))!;
    expect(drawn.map(({ step, type }) => [step, type])).deep.equal([[id, 'line']]);
  });

  it('shows triangles as they are sent out: finer where coils are close, clean where they overlap, copied too', async () => {
    for (const height of ['2.74 mm', '2.6 mm'])
      for (const copied of [false, true]) {
        const design: Design = { ...demo('gate-spring'), tolerance: '0.3 mm' };
        design.steps.pop();
        const ends = { closedStart: '0', closedEnd: '0' };
        Object.assign(stepOf(design, 'coil').set, { ...ends, turns: '1.5', height });
        const last = copied ? addStep(design, 'place', 3, { moveX: '30 mm', turn: '40 deg' }) : 'spring';
        if (copied) setInput(design, last, 'of', 'spring');
        const wish = { have: {}, looked: [last], sent: true };
        const mesh = meshOf((await askDeep((kernel) => kernel.settle(design, nextOf('sent'), wish)))!, last);
        const { bytes } = await partFile(design, 'stl', async () => {});
        expect(mesh.triangles.length / 3, `${height} ${copied}`).equal(
          readBinary(bytes).triangles.length / 3,
        );
      }
  });

  it('a fine picture is closer to the volume than a coarse one, and as closed', async () => {
    const design = demo('press-spring');
    const coarse = (await live(design, 20))!;
    const fine = (await ask((geometry) =>
      geometry.settle(design, asked(20), { have: keysOf(coarse.drawn) }),
    ))!;
    expect(coarse.seen.steps.find(({ id }) => id === 'spring')!.awaited).equal(true);
    const { steps } = (await ask((geometry) => geometry.figures(design, asked(20))))!;
    const volume = steps
      .find(({ id }) => id === 'spring')!
      .results.find(({ name }) => name === 'volume')!.value;
    const [off, less] = [coarse.drawn, fine].map((drawn) => {
      const mesh = meshOf(drawn, 'spring');
      expect(inspectMesh(mesh).openEdges).equal(0);
      return Math.abs(meshVolume(mesh.positions, mesh.triangles) / volume - 1);
    });
    expect(off!).below(0.01);
    expect(less!).below(off! / 3);
  });

  it('lays the next mesh into memory that is handed over', async () => {
    const design = demo('gate-spring');
    const spring = stepOf(design, 'spring').set;
    [spring.startShape, spring.endShape] = ['flat', 'flat'];
    const sizes = buffersOf(meshOf((await live(design, 30))!.drawn, 'spring')).map(
      ({ byteLength }) => byteLength,
    );
    // Of sizes that fresh memory never has.
    const spent = sizes.map((size, i) => new ArrayBuffer(size + 4 * (i + 1)));
    spring.hold = 'facing';
    const next = meshOf((await live(design, 31, {}, spent))!.drawn, 'spring');
    expect(spent.map(({ byteLength }) => byteLength)).deep.equal([0, 0, 0]);
    expect(buffersOf(next).map(({ byteLength }) => byteLength)).members(sizes.map((n, i) => n + 4 * (i + 1)));
  });

  it('shows a body under every hold it can have', async () => {
    const design = demo('press-spring');
    const holds = ['free', 'facing', 'seated', 'level', 'guided'];
    const pictures = (await ask((geometry) => geometry.holds(design, 'spring', holds, nextOf('holds'))))!;
    expect(pictures.map((one) => one?.type)).deep.equal(['body', 'body', 'body', undefined, undefined]);
    const [free, , seated] = pictures.map((one) => (one ? meshOf([one], 'spring') : undefined));
    // Held free, the flat of a coil's section leans; seated it does not.
    expect(meshVolume(free!.positions, free!.triangles)).closeTo(
      meshVolume(seated!.positions, seated!.triangles),
      0.02 * meshVolume(seated!.positions, seated!.triangles),
    );
    expect(free!.positions).not.deep.equal(seated!.positions);
    expect(design.steps.find(({ id }) => id === 'spring')!.set.hold).equal('seated');
  });

  it('a small picture is of the bodies that are not hidden, or of the paths where there is none', async () => {
    const design = demo('gate-spring');
    const picture = () => ask((geometry) => geometry.picture(design, nextOf('picture')));
    expect((await picture())!.map(({ step }) => step)).deep.equal(['spring']);
    stepOf(design, 'spring').hidden = true;
    expect((await picture())!.map(({ step }) => step)).deep.equal(['coil']);
  });

  it('points along a path as a table, or in words why there are none', async () => {
    const design = demo('gate-spring');
    const table = await ask((geometry) => geometry.points(design, 'coil', nextOf('points')));
    const rows = table!.text!.trim().split('\n');
    const [x, y] = rows[1]!.split(/[,;\t]/).map(Number);
    expect(Math.hypot(x!, y!)).closeTo(14.4 / 2, 1e-6);
    expect(await ask((geometry) => geometry.points(design, 'spring', nextOf('points')))).deep.equal({
      refused: 'Choose a single path on the sheet first.',
    });
  });

  it('charts what has a length, and nothing else', async () => {
    const design = demo('gate-spring');
    Object.assign(stepOf(design, 'coil').set, { closedStart: '0', closedEnd: '0' });
    await live(design, 40);
    const charts = (step: string) => ask((geometry) => geometry.lengthwise(design, step, asked(40)));
    const { s, channels } = (await charts('coil'))!;
    expect(s.at(-1)).closeTo(Math.hypot(7.5 * Math.PI * 14.4, 32), 1e-3);
    // Curvature of a helix: r / (r² + c²), c the rise by an angle of one.
    const [r, c] = [7.2, 32 / (7.5 * 2 * Math.PI)];
    const curvature = channels.find(({ name }) => name === 'curvature')!.values;
    for (const value of curvature) expect(value).closeTo(r / (r * r + c * c), 1e-6);
    expect(await charts('wire')).equal(undefined);
  });

  it('findings are of every step that has a value', async () => {
    const design = demo('gate-spring');
    await live(design, 50);
    const checked = (await ask((geometry) => geometry.check(design, asked(50))))!;
    expect(Object.keys(checked)).members(['wire', 'coil', 'spring', 'duty']);
    expect(checked.spring!.findings.find(({ name }) => name === 'closed')!.level).equal('good');
  });

  it('a sheet without steps, or with faults only, is answered like any other', async () => {
    expect((await live(emptyDesign('Empty'), 60))!.drawn).lengthOf(0);
    const design = emptyDesign('Faulty');
    addStep(design, 'round', 0, { diameter: '−2 mm' });
    const { seen, drawn } = (await live(design, 61))!;
    expect(drawn).lengthOf(0);
    expect(seen.steps[0]!.state).equal('fault');
    expect(await ask((geometry) => geometry.check(design, asked(61)))).deep.equal({});
    expect(await ask((geometry) => geometry.picture(design, nextOf('picture')))).lengthOf(0);
  });
});

describe('what the kernel makes', () => {
  const bored = (): Design => {
    const design = emptyDesign('Bored');
    addStep(design, 'cylinder', 0, { diameter: '20 mm', height: '30 mm' });
    addStep(design, 'cylinder', 1, { diameter: '8 mm', height: '50 mm', originZ: '-10 mm' });
    addStep(design, 'subtract', 2);
    stepOf(design, 'subtract').from = { body: 'cylinder', taken: ['cylinder-2'] };
    return design;
  };

  it('is seen at once through stand-ins, coarsely when it is made, and finely at last', async () => {
    const asking = () => nextOf('kernel');
    const first = (await ask((geometry) => geometry.live(bored(), asking(), { have: {} }, [])))!;
    const drawn = first.drawn.find(({ step }) => step === 'subtract');
    if (drawn?.type !== 'body') throw new Error('not drawn');
    expect(drawn.key).match(/\?$/);
    expect(drawn.looks.map(({ clear }) => clear)).deep.equal([undefined, true]);
    // It reaches as far as what is left of it will, not as what is taken away.
    expect(drawn.extent[0][2]).closeTo(0, 1e-6);
    // Both bodies, whole.
    expect(meshVolume(drawn.mesh.positions, drawn.mesh.triangles)).closeTo(
      Math.PI * (100 * 30 + 16 * 50),
      60,
    );
    let have = keysOf(first.drawn);
    for (const [pass, ending] of [
      ['coarse', /[^?!]$/],
      ['settle', /!$/],
    ] as const) {
      const next = (await askDeep((kernel) => kernel[pass](bored(), asking(), { have })))!;
      const made = next.find(({ step }) => step === 'subtract');
      if (made?.type !== 'body') throw new Error('not made');
      expect(made.key).match(ending);
      expect(made.looks.some(({ clear }) => clear)).equal(false);
      expect(inspectMesh(made.mesh)).deep.include({ openEdges: 0, euler: 0 });
      expect(meshVolume(made.mesh.positions, made.mesh.triangles)).closeTo(
        Math.PI * 30 * (100 - 16),
        pass === 'coarse' ? 40 : 8,
      );
      have = { ...have, ...keysOf(next) };
    }
    expect((await ask((geometry) => geometry.live(bored(), asking(), { have }, [])))!.drawn).lengthOf(0);
  });

  it('is drawn of bodies that nobody looks at only when it settles', async () => {
    const asking = () => nextOf('looked at');
    const stepsOf = (drawn: readonly Drawn[]) => drawn.map(({ step }) => step);
    const wish = { have: {}, looked: ['subtract', 'cylinder-2'] };
    const { drawn, seen } = (await ask((geometry) => geometry.live(bored(), asking(), wish, [])))!;
    expect(stepsOf(drawn)).deep.equal(['cylinder-2', 'subtract']);
    expect(seen.steps.map(({ state }) => state)).deep.equal(['ready', 'ready', 'ready']);
    const rest = (await askDeep((kernel) => kernel.settle(bored(), asking(), { have: keysOf(drawn) })))!;
    expect(stepsOf(rest)).deep.equal(['cylinder', 'cylinder-2', 'subtract']);
  });

  it('is given up as soon as it is told that newer things are wanted', async () => {
    const old = nextOf('told');
    const newer = nextOf('told');
    await askDeep((kernel) => kernel.figures(bored(), old));
    await askDeep((kernel) => kernel.overtake(newer));
    expect(await askDeep((kernel) => kernel.figures(bored(), old))).equal(undefined);
    expect(await askDeep((kernel) => kernel.figures(bored(), newer))).not.equal(undefined);
  });
});
