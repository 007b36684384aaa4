import { expect } from 'chai';
import fc from 'fast-check';
import { addStep } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { inspectMesh } from '../src/mesh/data/topology';
import type { SweptBody } from '../src/sweep/body';
import { near } from './bodies';
import { complaintsOf, valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const DEGREE = Math.PI / 180;
const mm = (x: number) => `${x} mm`;

interface Extruded {
  readonly section: string;
  readonly set?: Record<string, string>;
  readonly rows?: Record<string, Record<string, string>[]>;
  readonly height: number;
  /** In degrees. */
  readonly draft?: number;
  readonly twist?: number;
}

function designOf({ section, set = {}, rows, height, draft = 0, twist = 0 }: Extruded) {
  const design = emptyDesign('Extruded');
  addStep(design, section, 0, set);
  if (rows) design.steps[0]!.rows = rows;
  addStep(design, 'extrude', 1, { height: mm(height), draft: `${draft} deg`, twist: `${twist} deg` });
  return design;
}
const extruded = async (what: Extruded) => (await valueOf(designOf(what), 'extrude')) as SweptBody;

/**
 * Each side leans in by the draft: so does every normal of the mesh but those of the two ends, and what the sides cover seen
 * from above is what the end is smaller by.
 */
function expectDrafted(body: SweptBody, areas: readonly [start: number, end: number], draft: number): void {
  const lean = Math.sin(draft * DEGREE);
  near(body.surface, areas[0] + areas[1] + (areas[0] - areas[1]) / lean, 1e-8);
  const mesh = body.mesh(0.002, 200_000);
  expect(inspectMesh(mesh)).include({ openEdges: 0 });
  let sides = 0;
  for (let i = 2; i < mesh.normals.length; i += 3) {
    const up = mesh.normals[i]!;
    if (Math.abs(up) > 0.999999) continue;
    sides++;
    // Corners of round sides stand a little off, within the tolerance.
    expect(up).closeTo(lean, 3e-3 * Math.abs(lean));
  }
  expect(sides).above(8);
}

/** ∫ A over the height, A being of the second degree in it at most (Simpson). */
const solid = (height: number, areaAt: (part: number) => number): number =>
  (height / 6) * (areaAt(0) + 4 * areaAt(0.5) + areaAt(1));

describe('extruded bodies', () => {
  const some = { numRuns: runs(8) };
  const drafts = evenly(-12, 12).filter((draft) => Math.abs(draft) > 0.5);

  it('of a block with rounded edges, as of a round, are what closed forms say', () =>
    fc.assert(
      fc.asyncProperty(evenly(20, 40), evenly(16, 30), evenly(4, 7), drafts, async (w, d, r, draft) => {
        const height = 15;
        const back = height * Math.tan(draft * DEGREE);
        const set = { width: mm(w), height: mm(d), radius: mm(r) };
        const areaAt = (part: number) => {
          const by = part * back;
          return (w - 2 * by) * (d - 2 * by) - (4 - Math.PI) * (r - by) ** 2;
        };
        const block = await extruded({ section: 'rectangle', set, height, draft });
        near(block.volume, solid(height, areaAt), 1e-9);
        expectDrafted(block, [areaAt(0), areaAt(1)], draft);
        const roundAt = (part: number) => Math.PI * (w / 2 - part * back) ** 2;
        const rod = await extruded({ section: 'round', set: { diameter: mm(w) }, height, draft });
        near(rod.volume, solid(height, roundAt), 1e-9);
        expectDrafted(rod, [roundAt(0), roundAt(1)], draft);
      }),
      some,
    ));

  it('widen what is hollow as they draw in what is around it', async () => {
    const [R, r, height, draft] = [20, 12, 25, 4];
    const back = height * Math.tan(draft * DEGREE);
    const areaAt = (part: number) => Math.PI * ((R - part * back) ** 2 - (r + part * back) ** 2);
    const tube = await extruded({
      section: 'tube',
      set: { outer: mm(2 * R), wall: mm(R - r) },
      height,
      draft,
    });
    near(tube.volume, solid(height, areaAt), 1e-9);
    expectDrafted(tube, [areaAt(0), areaAt(1)], draft);
  });

  it('lean alike on all sides of an angle, a star and an ellipse', async () => {
    const height = 10;
    for (const [section, set] of [
      ['angle', {}],
      ['star', { tips: '5', size: '30 mm' }],
      ['star', { tips: '7', size: '30 mm', radius: '2 mm', valleyRadius: '3 mm' }],
      ['obround', { width: '20 mm', height: '9 mm' }],
      ['ellipse', { width: '30 mm', height: '18 mm' }],
    ] as const)
      for (const draft of [3, -3]) {
        const body = await extruded({ section, set, height, draft });
        const end = body.swept[0]!.into ?? body.section;
        expectDrafted(body, [body.section.area, end.area], draft);
        // Area falls by the outline's length at first; to the second order it depends on the corners alone.
        const back = height * Math.tan((draft / 100) * DEGREE);
        const little = await extruded({ section, set, height, draft: draft / 100 });
        const left = little.swept[0]!.into!.area;
        expect(Math.abs(body.section.area - back * body.section.perimeter - left)).below(20 * back * back);
      }
  });

  it('twisted with a draft stay closed, and keep their volume', async () => {
    const set = { width: '20 mm', height: '12 mm', radius: '3 mm' };
    const plain = await extruded({ section: 'rectangle', set, height: 30, draft: 3 });
    const twisted = await extruded({ section: 'rectangle', set, height: 30, draft: 3, twist: 140 });
    near(twisted.volume, plain.volume, 1e-9);
    expect(inspectMesh(twisted.mesh(0.02, 100_000))).include({ openEdges: 0 });
  });

  it('say how much draft they can take, and where none is even', async () => {
    const slab = (draft: number) =>
      designOf({
        section: 'rectangle',
        set: { width: '20 mm', height: '6 mm', radius: '2 mm' },
        height: 30,
        draft,
      });
    // The corners have 2 mm to give.
    const most = Math.atan(2 / 30) / DEGREE;
    expect((await complaintsOf(slab(most + 0.01), 'extrude')).draft).match(/up to 3\.81/);
    expect(await complaintsOf(slab(most - 0.01), 'extrude')).deep.equal({});
    const bulged = designOf({
      section: 'outline',
      rows: {
        points: [
          { x: '0 mm', y: '0 mm' },
          { x: '20 mm', y: '0 mm' },
          { x: '20 mm', y: '10 mm', arc: '3 mm' },
          { x: '0 mm', y: '10 mm' },
        ],
        bores: [],
      },
      height: 10,
      draft: 2,
    });
    expect((await complaintsOf(bulged, 'extrude')).draft).match(/curved side ends in a sharp corner/);
  });
});
