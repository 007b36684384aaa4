import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import type { Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import type { CombinedBody } from '../src/solid/body/body';
import { points } from './bodies';
import { complaintsOf, toldOf } from './helpers';
import { inLong } from './runs';

const go = async () => {};
/** Outside and bore of the tube, mm. */
const [R, r] = [10, 8];
/** Along no axis, 70 mm. */
const ASLANT: readonly Vec3[] = [
  [0, 0, 0],
  [20, 30, 60],
];

function tubeAlong(design: Design, places = ASLANT, wall = '2 mm'): string {
  const path = addStep(design, 'run', design.steps.length);
  stepOf(design, path).rows = { points: points(...places) as never };
  const section = addStep(design, 'tube', design.steps.length, { outer: '20 mm', wall });
  const id = addStep(design, 'sweep', design.steps.length);
  stepOf(design, id).from = { path, section };
  return id;
}

/** A tube with ends made of it, one after another. */
function ended(...ends: readonly Record<string, string>[]): { design: Design; id: string } {
  const design = emptyDesign('Ended');
  const id = ends.reduce((before, set) => {
    const next = addStep(design, 'tube-end', design.steps.length, set);
    setInput(design, next, 'tube', before);
    return next;
  }, tubeAlong(design));
  return { design, id };
}

const told = ({ design, id }: { design: Design; id: string }) => toldOf<CombinedBody>(design, id);

const disc = (radius: number, long: number) => Math.PI * radius ** 2 * long;
const frustum = (a: number, b: number, long: number) => (Math.PI / 3) * (a * a + a * b + b * b) * long;
const tube = disc(R, 70) - disc(r, 70);

describe('an end of a tube', () => {
  for (const [name, ends, want, bores] of [
    [
      'a flange with six holes',
      [{ form: 'flange', diameter: '50 mm', thickness: '5 mm', holes: '6', circle: '36 mm', hole: '4.5 mm' }],
      tube + disc(25, 5) - disc(R, 5) - 6 * disc(2.25, 5),
      7,
    ],
    [
      'a socket',
      [{ form: 'socket', long: '15 mm', wall: '3 mm', play: '0.4 mm' }],
      // Its shoulder is cut a tenth of what it is wider into the tube’s end.
      disc(R, 67) + disc(13.2, 18 - 0.22) - disc(r, 70 - 0.22) - disc(10.2, 15),
      1,
    ],
    [
      'a spigot',
      [{ form: 'spigot', diameter: '18 mm', long: '12 mm', wall: '2.5 mm' }],
      tube + disc(9, 12) - disc(6.5, 12),
      1,
    ],
    [
      'a spigot whose bore is wider than the tube’s',
      [{ form: 'spigot', diameter: '19 mm', long: '12 mm', wall: '1 mm' }],
      // Here it is a tenth of half a millimetre.
      tube + disc(9.5, 12) - disc(8.5, 12.05) + disc(r, 0.05),
      1,
    ],
    [
      'a reducer',
      [{ form: 'reducer', diameter: '12 mm', long: '20 mm', straight: '5 mm', wall: '1.5 mm' }],
      tube + disc(R, 5) - disc(r, 5) + frustum(R, 6, 20) - frustum(r, 4.5, 20) + disc(6, 5) - disc(4.5, 5),
      1,
    ],
    [
      'wider at its start, with a flange on that',
      [
        { form: 'reducer', at: 'start', diameter: '30 mm', long: '10 mm', straight: '4 mm', wall: '3 mm' },
        { form: 'flange', at: 'start', diameter: '60 mm', thickness: '3 mm', holes: '0' },
      ],
      tube +
        disc(R, 4) -
        disc(r, 4) +
        frustum(R, 15, 10) -
        frustum(r, 12, 10) +
        disc(15, 4) -
        disc(12, 4) +
        disc(30, 3) -
        disc(15, 3),
      1,
    ],
  ] as const)
    it(`is closed, and holds what it must: ${name}`, async () => {
      const { figures, findings, body } = await told(ended(...ends));
      const { value, within } = figures.volume!;
      expect(Math.abs(value - want), `${value} ± ${within} for ${want}`).lessThan(within! + 1e-4 * want);
      expect(within! / want).lessThan(2e-3);
      expect(Object.values(findings).map(({ level }) => level)).deep.equal(
        Object.values(findings).map(() => 'good'),
      );
      for (const tolerance of [0.3, 0.05]) {
        const solid = await body.solid(tolerance, go);
        // As many ways through it as it has holes.
        expect(inspectMesh(solid)).deep.include({ openEdges: 0, degenerate: 0, euler: 2 - 2 * bores });
        expect(await meshCrossing(solid, go)).equal(undefined);
      }
    });

  it('reaches exactly as far as its flange', async () => {
    const design = emptyDesign('Upright');
    const upright = tubeAlong(design, [
      [0, 0, 0],
      [0, 0, 70],
    ]);
    const id = addStep(design, 'tube-end', design.steps.length, { diameter: '52 mm', circle: '40 mm' });
    setInput(design, id, 'tube', upright);
    const { figures } = await told({ design, id });
    for (const [name, value] of [
      ['extentX', 52],
      ['extentY', 52],
      ['extentZ', 70],
    ] as const)
      expect(figures[name]!.value).closeTo(value, 1e-9);
    expect(figures.endDiameter!.value).closeTo(52, 1e-9);
    expect(figures.endBore!.value).closeTo(16, 1e-9);
  });

  inLong('stays a tube that others are joined to, where it stands or is placed', async () => {
    const { design, id } = ended(
      { form: 'reducer', diameter: '14 mm', long: '12 mm', straight: '4 mm', wall: '1 mm' },
      {
        form: 'flange',
        at: 'start',
        diameter: '50 mm',
        thickness: '5 mm',
        holes: '6',
        circle: '36 mm',
        hole: '4 mm',
      },
    );
    const branch = tubeAlong(
      design,
      [
        [10, 15, 30],
        [70, 15, 10],
      ],
      '4 mm',
    );
    const joint = addStep(design, 'join', design.steps.length);
    stepOf(design, joint).from = { tubes: [id, branch] };
    const first = await told({ design, id: joint });
    // Three mouths and six holes: of so many ways in two are ways through one bore.
    expect(inspectMesh(await first.body.solid(0.1, go))).deep.include({
      openEdges: 0,
      euler: 2 - 2 * (2 + 6),
    });
    expect(first.findings.bore!.level).equal('good');
    // By its start a core comes out; by its end the reducer holds it.
    expect(first.findings.core1!.says).deep.equal(['A core comes out of the bore of tube 1 by its start']);
    // Its holes are none of the bore.
    const bore = disc(r, 70) + disc(r, 4) + frustum(r, 6, 12) + disc(6, 4);
    const alone = addStep(design, 'join', design.steps.length);
    stepOf(design, alone).from = { tubes: [id] };
    const single = await told({ design, id: alone });
    expect(single.figures.boreVolume!.value / bore).closeTo(1, 2e-4);
    const side = 2 * Math.PI * (r * 74 + 6 * 4) + Math.PI * (r + 6) * Math.hypot(r - 6, 12);
    expect(single.figures.innerSurface!.value / side).closeTo(1, 2e-3);

    const placed = addStep(design, 'place', design.steps.length, { moveX: '15 mm', turn: '30 deg' });
    setInput(design, placed, 'of', id);
    stepOf(design, alone).from = { tubes: [placed] };
    design.steps.push(
      ...design.steps.splice(
        design.steps.findIndex((step) => step.id === alone),
        1,
      ),
    );
    const moved = await told({ design, id: alone });
    expect(moved.figures.boreVolume!.value / single.figures.boreVolume!.value).closeTo(1, 1e-4);
    expect(moved.figures.volume!.value / single.figures.volume!.value).closeTo(1, 2e-4);
  });

  it('is made of joined tubes: of each at its open ends, not where it is inside another', async () => {
    const design = emptyDesign('Branched');
    const trunk = tubeAlong(design, [
      [-40, 0, 0],
      [40, 0, 0],
    ]);
    const branch = tubeAlong(design, [
      [0, 0, 0],
      [0, 0, 50],
    ]);
    const joint = addStep(design, 'join', design.steps.length);
    stepOf(design, joint).from = { tubes: [trunk, branch] };
    const flange = { form: 'flange', diameter: '44 mm', thickness: '5 mm', holes: '0' };
    const end = addStep(design, 'tube-end', design.steps.length, { ...flange, of: '2', at: 'start' });
    setInput(design, end, 'tube', joint);
    expect(await complaintsOf(design, end)).deep.equal({
      at: 'This end of tube 2 is inside tube 1. Choose the other end, or another tube.',
    });
    stepOf(design, end).set.at = 'end';
    const [plain, made] = [await told({ design, id: joint }), await told({ design, id: end })];
    const ring = disc(22, 5) - disc(R, 5);
    const [before, after] = [plain.figures.volume!, made.figures.volume!];
    expect(after.value - before.value).closeTo(ring, after.within! + before.within! + 1e-3 * ring);
    // Three mouths of one bore, as before.
    expect(inspectMesh(await made.body.solid(0.1, go))).deep.include({ openEdges: 0, euler: -2 });
    const more = addStep(design, 'tube-end', design.steps.length, { ...flange, of: '1', at: 'start' });
    setInput(design, more, 'tube', end);
    const both = await told({ design, id: more });
    expect(both.figures.volume!.value - after.value).closeTo(ring, after.within! + 2e-3 * ring);
    stepOf(design, more).set.of = '3';
    expect((await complaintsOf(design, more)).of).match(/from 1 to 2/);
  });

  inLong('holds a core where it is narrower at both ends', async () => {
    const narrow = { form: 'reducer', diameter: '14 mm', long: '12 mm', straight: '4 mm', wall: '2 mm' };
    const { design, id } = ended(narrow, { ...narrow, at: 'start' });
    const joint = addStep(design, 'join', design.steps.length);
    stepOf(design, joint).from = { tubes: [id] };
    const { findings } = await told({ design, id: joint });
    expect(findings.core1!.says).deep.equal(['No core can be pulled out of the bore of tube 1']);
    expect(String(findings.core1!.detail)).match(/^it is narrower towards its open end/);
  });

  it('says what cannot be, at its place', async () => {
    const says = async (set: Record<string, string>) => {
      const { design, id } = ended(set);
      return complaintsOf(design, id);
    };
    expect((await says({ form: 'flange', diameter: '19 mm' })).diameter).match(
      /its tube, which is 20 mm across/,
    );
    const circle = { form: 'flange', diameter: '50 mm', hole: '6 mm' };
    expect((await says({ ...circle, circle: '25 mm' })).circle).match(/between 26 mm and 44 mm across/);
    expect((await says({ ...circle, circle: '36 mm', holes: '20' })).holes).match(/run into one another/);
    expect((await says({ form: 'spigot', diameter: '20 mm' })).diameter).match(
      /between 16 mm and 20 mm across/,
    );
    expect((await says({ form: 'reducer', diameter: '4 mm' })).wall).match(/must stay under 2 mm/);
    const design = emptyDesign('Solid');
    const solid = addStep(design, 'cylinder', 0);
    const end = addStep(design, 'tube-end', 1);
    setInput(design, end, 'tube', solid);
    expect((await complaintsOf(design, end)).tube).match(/^This is no tube with open ends/);
  });
});
