import type { SweptBody } from '../src/sweep/body';
import { expect } from 'chai';
import fc from 'fast-check';
import { inspectMesh } from '../src/mesh/data/topology';
import { stepOf } from '../src/design/edit';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import type { Design, Row } from '../src/design/schema';
import type { Complaint, Told, Words } from '../src/measure/words';
import { CLOSED, SECTIONS } from './any-body';
import { bodyDesign, points, type Carried } from './bodies';
import { run } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

/** The figures in a sentence, in the order they are told. */
const figuresIn = (says: Words): number[] =>
  says.filter((part): part is Told => typeof part !== 'string').map(({ value }) => value);

async function complaintOf(
  design: Design,
  id: string,
): Promise<Pick<Complaint, 'says' | 'field' | 'mends'> | undefined> {
  const result = (await run(design)).steps.find((step) => step.id === id)!;
  return result.complaints[0] as Complaint | undefined;
}

async function findingOf(design: Design, name: string) {
  const cache = createCache();
  const { steps } = await evaluate(design, cache);
  const { findings } = await checkStep(design.steps.at(-1)!, steps.at(-1)!, cache, async () => {});
  return findings.find((finding) => finding.name === name);
}

/** That a figure may be so large, in mm, and no larger. */
async function expectMost(design: Design, step: string, field: string, most: number): Promise<void> {
  for (const [part, fits] of [
    [1 - 1e-9, true],
    [1 + 1e-6, false],
  ] as const) {
    stepOf(design, step).set[field] = `${most * part} mm`;
    expect((await complaintOf(design, step)) === undefined, `${field} of ${most * part} mm`).equal(fits);
  }
}

const num = (min: number, max: number) => evenly(min, max).map((x) => Number(x.toFixed(3)));
const straight: Carried['path'] = { kind: 'run', rows: { points: points([0, 0, 0], [0, 0, 60]) } };

describe('what is said to fit', () => {
  it('fits: the radius of all corners of a section', async () => {
    const kinds = fc.oneof(
      fc.record({ kind: fc.constant('rectangle'), width: num(2, 9), height: num(2, 9) }),
      fc.record({ kind: fc.constant('polygon'), sides: fc.integer({ min: 3, max: 9 }), size: num(2, 9) }),
      fc.record({
        kind: fc.constant('strip'),
        width: num(5, 9),
        thickness: num(1, 4),
        edges: fc.constant('rounded'),
      }),
    );
    await fc.assert(
      fc.asyncProperty(kinds, num(5, 30), async ({ kind, ...figures }, radius) => {
        const set = Object.fromEntries(
          Object.entries(figures).map(([name, value]) => [
            name,
            typeof value === 'string' || name === 'sides' ? String(value) : `${value} mm`,
          ]),
        );
        const design = bodyDesign({
          path: straight,
          section: { kind, set: { ...set, radius: `${radius} mm` } },
        });
        const complaint = (await complaintOf(design, 'section'))!;
        expect(complaint.field).equal('radius');
        const most = figuresIn(complaint.says).at(-1)!;
        await expectMost(design, 'section', 'radius', most);
      }),
      { numRuns: runs(30) },
    );
  });

  it('fits: the radius to which all corners of a path are bent, on whatever straights', async () => {
    const corner = fc.noBias(fc.tuple(num(-40, 40), num(-40, 40), num(-40, 40)));
    await fc.assert(
      fc.asyncProperty(fc.array(corner, { minLength: 3, maxLength: 6 }), async (places) => {
        const design = bodyDesign({
          path: { kind: 'run', set: { corners: 'mitred' }, rows: { points: points(...places) } },
          section: { kind: 'round', set: { diameter: '0.01 mm' } },
          sweep: { corners: 'bent', bendRadius: '500 mm' },
        });
        const path = (await run(design)).steps.find(({ id }) => id === 'path')!;
        fc.pre(path.value?.type === 'path' && path.value.corners.length > 0);
        const complaint = (await complaintOf(design, 'sweep'))!;
        fc.pre(complaint.field === 'bendRadius');
        const most = figuresIn(complaint.says).at(-1)!;
        await expectMost(design, 'sweep', 'bendRadius', most);
      }),
      { numRuns: runs(60) },
    );
  });

  it('fits: the radius of bends of a run, one leg after another', async () => {
    const corner = fc.noBias(fc.tuple(num(-40, 40), num(-40, 40), num(-40, 40), num(1, 60)));
    await fc.assert(
      fc.asyncProperty(fc.array(corner, { minLength: 3, maxLength: 6 }), async (places) => {
        const rows: Row[] = points(...places.map(([x, y, z]): [number, number, number] => [x, y, z])).map(
          (row, i) => ({ ...row, radius: `${places[i]![3]} mm` }),
        );
        const design = bodyDesign({
          path: { kind: 'run', set: { corners: 'bent' }, rows: { points: rows } },
          section: { kind: 'round', set: { diameter: '0.01 mm' } },
        });
        // Each complaint is mended by what it says fits; a leg complains no more than twice for each of its ends.
        for (let i = 0; i < 4 * places.length; i++) {
          const complaint = await complaintOf(design, 'path');
          if (!complaint) return;
          const bends = /bends? at points? (\d+)(?: and (\d+))?/.exec(
            complaint.says.map((part) => (typeof part === 'string' ? part : '·')).join(''),
          );
          fc.pre(bends !== null);
          const largest = figuresIn(complaint.says).at(-1)!;
          for (const which of bends!.slice(1).filter(Boolean)) {
            const row = stepOf(design, 'path').rows!.points![Number(which) - 1]!;
            const now = Number(/[\d.e-]+/.exec(row.radius!)![0]);
            row.radius = `${Math.min(now, largest * (1 - 1e-9))} mm`;
          }
        }
        throw new Error('it complains on and on');
      }),
      { numRuns: runs(60) },
    );
  });

  it('fits: the bend that a section needs, and the section that a bend leaves room for', async () => {
    await fc.assert(
      fc.asyncProperty(num(2, 9), num(0.5, 4), num(20, 160), async (diameter, radius, degrees) => {
        fc.pre(diameter / 2 > radius * 1.01);
        const turn = (degrees * Math.PI) / 180;
        const far = 60;
        const design = bodyDesign({
          path: {
            kind: 'run',
            set: { corners: 'bent', radius: `${radius} mm` },
            rows: {
              points: points([0, 0, 0], [far, 0, 0], [far + far * Math.cos(turn), far * Math.sin(turn), 0]),
            },
          },
          section: { kind: 'round', set: { diameter: `${diameter} mm` } },
        });
        const fold = (await findingOf(design, 'fold'))!;
        const [bends, needs, reaches] = figuresIn(fold.detail!) as [number, number, number];
        expect(bends).closeTo(radius, 1e-9);
        stepOf(design, 'path').set.radius = `${needs * (1 + 1e-6)} mm`;
        expect(await findingOf(design, 'fold')).equal(undefined);
        stepOf(design, 'path').set.radius = `${radius} mm`;
        stepOf(design, 'section').set.diameter = `${2 * reaches * (1 - 1e-6)} mm`;
        expect(await findingOf(design, 'fold')).equal(undefined);
        stepOf(design, 'section').set.diameter = `${2 * reaches * (1 + 1e-4)} mm`;
        expect((await findingOf(design, 'fold'))?.level).equal('fault');
      }),
      { numRuns: runs(30) },
    );
  });

  it('fits: a chamfer, a wall, an inner diameter', async () => {
    await fc.assert(
      fc.asyncProperty(num(2, 9), num(10, 30), async (diameter, more) => {
        const design = bodyDesign({
          path: straight,
          section: { kind: 'round', set: { diameter: `${diameter} mm` } },
          sweep: { endShape: 'chamfered', endSize: `${more} mm` },
        });
        const complaint = (await complaintOf(design, 'sweep'))!;
        expect(complaint.field).equal('endSize');
        const [under] = figuresIn(complaint.says) as [number];
        stepOf(design, 'sweep').set.endSize = `${under * (1 - 1e-6)} mm`;
        expect(await complaintOf(design, 'sweep')).equal(undefined);

        const tube = bodyDesign({
          path: straight,
          section: { kind: 'tube', set: { outer: `${diameter} mm`, wall: `${more} mm` } },
        });
        const wall = (await complaintOf(tube, 'section'))!;
        expect(wall.field).equal('wall');
        stepOf(tube, 'section').set.wall = `${figuresIn(wall.says).at(-1)! * (1 - 1e-6)} mm`;
        expect(await complaintOf(tube, 'section')).equal(undefined);
      }),
      { numRuns: runs(30) },
    );
  });
});

describe('twists that are said to close', () => {
  it('close, the next below and the next above, whatever the section and the path', async () => {
    await fc.assert(
      fc.asyncProperty(CLOSED, SECTIONS, num(-700, 700), async (path, section, twist) => {
        const design = bodyDesign({
          path,
          section,
          sweep: { twistBy: 'total', twist: `${twist} deg` },
        });
        const complaint = await complaintOf(design, 'sweep');
        fc.pre(complaint !== undefined);
        expect(complaint.field).equal('twist');
        const twists = complaint.mends.map(({ set }) => Number(/[-\d.]+/.exec(set.twist!)![0]));
        expect(twists).lengthOf(2);
        expect(twists[0]!).below(twist);
        expect(twists[1]!).above(twist);
        for (const mended of twists) {
          stepOf(design, 'sweep').set.twist = `${mended} deg`;
          const { steps } = await run(design);
          const body = steps.at(-1)!.value as SweptBody;
          expect(inspectMesh(body.mesh(0.2, 50_000))).deep.include({ openEdges: 0, euler: 0 });
          const { symmetry } = body.swept[0]!.section;
          expect(twists[1]! - twists[0]!).closeTo(360 / symmetry, 1e-6);
        }
        // None between them closes.
        const part = twists[0]! + 0.37 * (twists[1]! - twists[0]!);
        stepOf(design, 'sweep').set.twist = `${part} deg`;
        expect((await complaintOf(design, 'sweep'))?.field).equal('twist');
      }),
      { numRuns: runs(40) },
    );
  });
});
