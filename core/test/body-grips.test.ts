import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { type Vec3 } from '../src/geometry/vector';
import type { LineMark, PointMark } from '../src/kind/mark';
import { bodyDesign, straight } from './bodies';

import { follow, made, marked, PLACED } from './led';
import { inLong } from './runs';

describe('grips of bodies', () => {
  it('of how a section is carried: off its path, turned, twisted, larger to the end', async () => {
    const design = bodyDesign({
      path: { kind: 'helix', set: { diameter: '60 mm', turns: '2', height: '40 mm' } },
      section: { kind: 'rectangle', set: { width: '8 mm', height: '4 mm' } },
      sweep: {
        right: '2 mm',
        up: '1 mm',
        turned: '30 deg',
        twistBy: 'total',
        twist: '70 deg',
        size: 'taper',
        endScale: '0.6',
      },
    });
    expect(await follow(design, 'sweep')).deep.equal([
      'point endScale',
      'point right',
      'turn turned',
      'turn twist',
    ]);
    const plain = bodyDesign({ path: straight(40), section: { kind: 'round' } });
    expect(await follow(plain, 'sweep')).deep.equal([]);
  });

  for (const [form, lines] of [
    ['flange', ['across diameter', 'along thickness']],
    ['spigot', ['across diameter', 'along long']],
    ['reducer', ['across diameter', 'along long']],
  ] as const)
    it(`measure a tube’s ${form}`, async () => {
      const design = bodyDesign({
        path: straight(80),
        section: { kind: 'tube', set: { outer: '20 mm', wall: '2 mm' } },
      });
      const id = addStep(design, 'tube-end', design.steps.length, {
        form,
        diameter: form === 'flange' ? '60 mm' : '17 mm',
      });
      setInput(design, id, 'tube', 'sweep');
      expect(await follow(design, id)).deep.equal(lines);
    });

  it('tell how deep a groove goes into what it is cut in', async () => {
    for (const side of ['out', 'in']) {
      const design = emptyDesign('Groove');
      const shank = addStep(design, 'cylinder', 0, { diameter: '30 mm', height: '60 mm' });
      const coil = addStep(design, 'helix', 1, {
        diameter: '30 mm',
        turns: '3',
        height: '40 mm',
        originZ: '10 mm',
      });
      const wire = addStep(design, 'round', 2, { diameter: '6 mm' });
      const id = addStep(design, 'groove', 3, { depth: '2 mm', side });
      stepOf(design, id).from = { body: shank, path: coil, section: wire };
      expect(await follow(design, id)).deep.equal(['along depth']);
      const [line] = (await marked(design, id)).marks as LineMark[];
      const far = ({ 0: x, 1: y }: Vec3) => Math.hypot(x, y);
      expect(far(line!.from)).closeTo(15, 1e-9);
      // Its left looks into the surface, or out of it.
      expect(far(line!.to)).closeTo(side === 'out' ? 13 : 17, 0.02);
    }
  });

  it('turn the end of a section that is drawn out twisted', async () => {
    const [design, id] = made(
      'extrude',
      { twist: '30 deg', height: '40 mm', ...PLACED },
      {
        on: { section: ['star', {}] },
      },
    );
    expect(await follow(design, id)).deep.equal(['along height', 'turn twist']);
  });

  it('measure the floor of what is hollowed, at the end that is closed', async () => {
    for (const [open, height] of [
      ['end', 0],
      ['start', 50],
    ] as const) {
      const [design, id] = made(
        'hollow',
        { open, floor: '4 mm' },
        {
          on: { body: ['cylinder', { diameter: '30 mm', height: '50 mm' }] },
        },
      );
      expect(await follow(design, id)).deep.equal(['along floor']);
      const [line] = (await marked(design, id)).marks as LineMark[];
      expect([line!.from[2], line!.to[2]]).deep.equal([height, height ? 46 : 4]);
    }
    const [through, id] = made('hollow', { open: 'both' }, { on: { body: ['cylinder', {}] } });
    expect(await follow(through, id)).deep.equal([]);
  });

  inLong('lead the ball that is rolled along a joint, in a hollow and on a ridge', async () => {
    for (const [kind, where, far] of [
      ['add', 'hollows', 13],
      ['subtract', 'ridges', 13],
    ] as const) {
      const design = emptyDesign('Rounded');
      const plate = addStep(design, 'block', 0, { width: '60 mm', depth: '60 mm', height: '10 mm' });
      const post = addStep(design, 'cylinder', 1, { diameter: '20 mm', height: '40 mm' });
      const both = addStep(design, kind, 2);
      stepOf(design, both).from = kind === 'add' ? { bodies: [plate, post] } : { body: plate, taken: [post] };
      const id = addStep(design, 'weld', 3, { radius: '3 mm', where });
      setInput(design, id, 'body', both);
      expect(await follow(design, id)).deep.equal(['point radius']);
      const { at } = (await marked(design, id)).marks[0] as PointMark;
      expect(Math.hypot(at[0], at[1])).closeTo(far, 0.02);
    }
  });

  it('lead the wall of a seat', async () => {
    for (const [kind, set, wall] of [
      ['cylinder', { diameter: '20 mm', height: '40 mm' }, 10],
      ['ball', { diameter: '24 mm' }, 12],
    ] as const) {
      const design = emptyDesign('Seat');
      const plate = addStep(design, 'block', 0, { width: '60 mm', depth: '60 mm', height: '30 mm' });
      const stone = addStep(design, kind, 1, set);
      const id = addStep(design, 'set-in', 2, { clearance: '0.5 mm' });
      stepOf(design, id).from = { body: plate, taken: [stone] };
      expect(await follow(design, id)).deep.equal(['point clearance']);
      const { at } = (await marked(design, id)).marks[0] as PointMark;
      expect(Math.hypot(at[0], at[1])).closeTo(wall + 0.5, 0.01);
    }
  });
});
