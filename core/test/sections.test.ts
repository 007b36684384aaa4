import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf, swapKind } from '../src/design/edit';
import { emptyDesign, type Row } from '../src/design/schema';
import { polygonOf, areaOf } from '../src/section/polygon-of';
import type { Section } from '../src/section/section';
import { bodyDesign } from './bodies';
import { complaintsOf, figureOf, valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

function sectionDesign(kind: string, set: Record<string, string> = {}, rows?: Record<string, Row[]>) {
  const design = emptyDesign('Section');
  const id = addStep(design, kind, 0, set);
  if (rows) stepOf(design, id).rows = rows;
  return design;
}
const section = async (kind: string, set: Record<string, string> = {}, rows?: Record<string, Row[]>) =>
  (await valueOf(sectionDesign(kind, set, rows), kind)) as Section;

describe('sections', () => {
  it('area, perimeter and second moments of those that have a closed form', async () => {
    const { PI } = Math;
    const near = (got: number, want: number) => expect(got).closeTo(want, 1e-11 * Math.abs(want));
    const round = await section('round', { diameter: '3 mm' });
    near(round.area, (PI * 9) / 4);
    near(round.second.xx, (PI * 81) / 64);
    near(round.perimeter, 3 * PI);
    const tube = await section('tube', { outer: '12 mm', wall: '1.5 mm' });
    near(tube.area, PI * (36 - 20.25));
    near(tube.second.yy, (PI / 4) * (6 ** 4 - 4.5 ** 4));
    const ellipse = await section('ellipse', { width: '8 mm', height: '3 mm' });
    near(ellipse.area, PI * 4 * 1.5);
    near(ellipse.second.xx, (PI / 4) * 4 * 1.5 ** 3);
    near(ellipse.second.yy, (PI / 4) * 4 ** 3 * 1.5);
    const box = await section('rectangle', { width: '5 mm', height: '3 mm', radius: '0 mm' });
    near(box.second.xx, (5 * 27) / 12);
    near(box.second.yy, (3 * 125) / 12);
    const rounded = await section('rectangle', { width: '5 mm', height: '3 mm', radius: '1 mm' });
    near(rounded.area, 15 - (4 - PI));
    near(rounded.perimeter, 2 * (3 + 1) + 2 * PI);
    const slot = await section('obround', { width: '10 mm', height: '4 mm' });
    near(slot.area, 24 + 4 * PI);
    const hexagon = await section('polygon', { sides: '6', size: '4 mm', radius: '0 mm' });
    near(hexagon.area, 6 * 4 * Math.tan(PI / 6));
    const star = await section('star', { tips: '5', size: '20 mm', valley: '0.5' });
    near(star.area, 5 * 10 * 5 * Math.sin(PI / 5));
    const vee = await section('vee', { depth: '3 mm', between: '60 deg', root: '0 mm' });
    near(vee.area, 9 * Math.tan(PI / 6));
    near(vee.centroid[0], 2);
  });

  it('the tube by any two of outer diameter, inner diameter and wall', async () => {
    const design = sectionDesign('tube', { outer: '10 mm', inner: '7 mm' });
    delete stepOf(design, 'tube').set.wall;
    expect(await figureOf(design, 'tube', 'wall')).closeTo(1.5, 1e-12);
    stepOf(design, 'tube').set = { inner: '7 mm', wall: '1.5 mm' };
    expect(await figureOf(design, 'tube', 'outer')).closeTo(10, 1e-12);
    stepOf(design, 'tube').set.outer = '10 mm';
    expect((await complaintsOf(design, 'tube')).wall).match(/leave one of them out/);
    stepOf(design, 'tube').set = { outer: '10 mm', wall: '6 mm' };
    expect((await complaintsOf(design, 'tube')).wall).match(/under 5 mm/);
  });

  it('a corner that cannot take its radius is named with the largest that fits', async () => {
    const box = sectionDesign('rectangle', { width: '5 mm', height: '3 mm', radius: '1.6 mm' });
    expect((await complaintsOf(box, 'rectangle')).radius).match(/Corner 1 cannot take .*up to 1\.5 mm fits/);
    const rows = [
      { x: '0 mm', y: '0 mm' },
      { x: '20 mm', y: '0 mm', radius: '3 mm' },
      { x: '20 mm', y: '4 mm', radius: '5 mm' },
      { x: '0 mm', y: '4 mm' },
    ];
    const own = sectionDesign('outline', {}, { points: rows });
    expect((await complaintsOf(own, 'outline'))['points.2.radius']).match(/Point 3 .*up to 1 mm fits/);
  });

  it('outlines of one’s own: arcs, chamfers, holes, and what is wrong with them', async () => {
    // A half disk: a chord and an arc as high as half of it.
    const half = await section(
      'outline',
      {},
      {
        points: [
          { x: '-5 mm', y: '0 mm' },
          { x: '5 mm', y: '0 mm', arc: '5 mm' },
        ],
      },
    );
    expect(half.area).closeTo((Math.PI * 25) / 2, 1e-9);
    expect(half.centroid[1]).closeTo((4 * 5) / (3 * Math.PI), 1e-9);
    const square = (more: Row = {}): Row[] => [
      { x: '0 mm', y: '0 mm', ...more },
      { x: '0 mm', y: '10 mm' },
      { x: '10 mm', y: '10 mm' },
      { x: '10 mm', y: '0 mm' },
    ];
    const cut = await section('outline', {}, { points: square({ chamfer: '2 mm' }) });
    expect(cut.area).closeTo(98, 1e-11);
    const bored = await section(
      'outline',
      {},
      { points: square(), bores: [{ x: '5 mm', y: '5 mm', diameter: '4 mm' }] },
    );
    expect(bored.area).closeTo(100 - 4 * Math.PI, 1e-10);
    expect(bored.wall).closeTo(3, 1e-3);
    expect(bored.contours).lengthOf(2);
    const wrong = async (rows: Record<string, Row[]>) =>
      Object.values(await complaintsOf(sectionDesign('outline', {}, rows), 'outline'))[0];
    const crossed = square();
    [crossed[1], crossed[2]] = [crossed[2]!, crossed[1]!];
    expect(await wrong({ points: crossed })).match(/crosses itself near/);
    expect(await wrong({ points: square(), bores: [{ x: '10 mm', y: '5 mm', diameter: '4 mm' }] })).match(
      /does not lie inside the outline/,
    );
    expect(await wrong({ points: square().slice(0, 2) })).match(/needs at least 3 points/);
  });

  it('the area that Green’s theorem gives is that of a fine polygon, for any outline', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(evenly(4, 10), { minLength: 4, maxLength: 12 }),
        evenly(0, 0.3),
        async (radii, radius) => {
          const points = radii.map((r, i): Row => {
            const angle = (2 * Math.PI * i) / radii.length;
            return {
              x: `${r * Math.cos(angle)} mm`,
              y: `${r * Math.sin(angle)} mm`,
              radius: `${radius} mm`,
            };
          });
          const found = await section('outline', {}, { points });
          const polygon = polygonOf(found.contours[0]!, 1e-6);
          expect(Math.abs(areaOf(polygon) - found.area)).below(1e-4);
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('another kind of section takes the place of one, and what is carried stays', async () => {
    const design = bodyDesign({
      path: { kind: 'helix', set: { diameter: '30 mm', turns: '2', height: '30 mm' } },
      section: { kind: 'round', set: { diameter: '3 mm' } },
    });
    for (const kind of [
      'polygon',
      'rectangle',
      'obround',
      'tube',
      'star',
      'strip',
      'ellipse',
      'vee',
      'round',
    ]) {
      swapKind(design, 'section', kind);
      expect(stepOf(design, 'sweep').from).include({ path: 'path', section: 'section' });
      const body = await valueOf(design, 'sweep');
      expect(body.type, kind).equal('body');
      setInput(design, 'sweep', 'section', 'section');
    }
  });
});
