import { expect } from 'chai';
import { addStep } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { near } from './bodies';
import { complaintsOf } from './helpers';

import { expectSound, figuresOf, hollowDesign, type Made } from './hollowed';

describe('the rim of a hollowed body', () => {
  it('has its rims rounded from wall to wall: of a cup by Pappus, of a leaning side by slices', async () => {
    const cup = async (open: string) =>
      figuresOf(
        hollowDesign([['cylinder', { diameter: '50 mm', height: '40 mm' }]], {
          wall: '4 mm',
          floor: '3 mm',
          open,
          rim: 'rounded',
        }),
      );
    // A ring of 4 mm up to 2 mm below the rim, and half a torus on it.
    const [above, both] = [await cup('end'), await cup('both')];
    const ring = Math.PI * (25 ** 2 - 21 ** 2);
    const half = 2 * Math.PI * 23 * ((Math.PI * 2 ** 2) / 2);
    near(above.volume!, Math.PI * 25 ** 2 * 3 + ring * 35 + half);
    near(both.volume!, ring * 36 + 2 * half);
    near(above.extentZ!, 40);
    // It holds what is within the wall, and over the inner half of the rim: the square about that quarter less the quarter, by Pappus.
    const quarter = { area: Math.PI, from: (4 * 2) / (3 * Math.PI) };
    const over = 2 * Math.PI * (2 * 2 * 22 - quarter.area * (23 - quarter.from));
    near(above.capacity!, Math.PI * 21 ** 2 * 37 + over);
    await expectSound(above.body, 2);
    await expectSound(both.body, 0);
    // A cone that opens upwards: its wall ends in a round about the middle of it.
    const cone = await figuresOf(
      hollowDesign([['cone', { diameter: '40 mm', top: '60 mm', height: '40 mm' }]], {
        wall: '4 mm',
        floor: '3 mm',
        open: 'end',
        rim: 'rounded',
      }),
    );
    const lean = Math.atan(10 / 40);
    const centre = { y: 38, x: 20 + 38 / 4 - 2 / Math.cos(lean) };
    const slices = 40_000;
    let [volume, within] = [0, 0];
    for (let i = 0; i < slices; i++) {
      const y = ((i + 0.5) * 40) / slices;
      const side = 20 + y / 4;
      // Past where the round touches a side it is the round that bounds it: outside lower, inside higher on this cone.
      const wide = Math.sqrt(Math.max(0, 4 - (y - centre.y) ** 2));
      const outer = y > centre.y - 2 * Math.sin(lean) ? centre.x + wide : side;
      const inner = y > centre.y + 2 * Math.sin(lean) ? centre.x - wide : side - 4 / Math.cos(lean);
      const hollow = ((Math.PI * 40) / slices) * (y < 3 ? 0 : inner ** 2);
      volume += ((Math.PI * 40) / slices) * outer ** 2 - hollow;
      within += hollow;
    }
    near(cone.volume!, volume, 1e-6);
    near(cone.capacity!, within, 1e-6);
    near(cone.extentZ!, 40);
    await expectSound(cone.body, 2);
  });

  it('says where a rim cannot be rounded', async () => {
    const says = async (made: readonly Made[], set: Record<string, string>) => {
      const { design, id } = hollowDesign(made, { rim: 'rounded', ...set });
      return (await complaintsOf(design, id)).rim;
    };
    const low: Made = ['cylinder', { diameter: '40 mm', height: '4 mm' }];
    expect(await says([low], { wall: '9 mm', floor: '1 mm' })).match(/too short to be rounded/);
    expect(await says([low], { wall: '2 mm', floor: '1 mm' })).equal(undefined);
    // Of what was bent there is no rim that is told from the rest.
    const bent = hollowDesign(
      [
        ['block', {}],
        ['reshape', { way: 'bend' }],
      ],
      { wall: '2 mm', rim: 'rounded' },
    );
    expect((await complaintsOf(bent.design, bent.id)).rim).match(/hollow it before that/);
    // Up to its rim a side that is rounder than its wall is thick: within there is none that follows it.
    const design = emptyDesign('Round');
    addStep(design, 'outline', 0);
    design.steps[0]!.rows = {
      points: [
        { x: '0 mm', y: '0 mm' },
        { x: '30 mm', y: '0 mm' },
        { x: '30 mm', y: '40 mm', arc: '2.5 mm' },
        { x: '30 mm', y: '46 mm' },
        { x: '0 mm', y: '46 mm' },
      ],
      bores: [],
    };
    addStep(design, 'turn', 1, { away: '0 mm' });
    addStep(design, 'hollow', 2, { wall: '4 mm', floor: '3 mm', open: 'end', rim: 'rounded' });
    const complaints = await complaintsOf(design, 'hollow');
    expect(complaints.rim).match(/no side follows the one that leads to the rim/);
  });
});
