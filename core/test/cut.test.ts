import { expect } from 'chai';
import fc from 'fast-check';
import { createCache, evaluate } from '../src/design/evaluate';
import { addStep } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import type { Plane } from '../src/geometry/plane';
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../src/geometry/vector';
import { hatchOf, MATERIALS } from '../src/measure/materials';
import { meshVolume } from '../src/mesh/data/topology';
import { cutFrame, cutterOf, facesOfLoops, filledFace, inSpace, type Face } from '../src/mesh/cut/cut';
import { cutResults, cutWithin, thinnestWall } from '../src/mesh/cut/cut-results';
import { isWithinLoop } from '../src/mesh/data/loops';
import type { Mesh } from '../src/mesh/data/mesh';
import { triangleSizes } from '../src/mesh/query/triangle-sizes';
import { cutSheet } from '../src/exchange/cut-drawing';
import { sheetDxf } from '../src/exchange/sheet-dxf';
import { sheetSvg } from '../src/exchange/sheet-svg';
import { readOutline } from '../src/exchange/outline-in';
import type { Section } from '../src/section/section';
import { isOpen, planeOf, type CutPlane } from '../src/view/opening';
import type { Body } from '../src/solid/body/body';
import { crossSection } from '../src/view/cross-section';
import { cutMeasures } from '../src/view/cut-measures';
import { DEMO, demo } from './demo';
import { near } from './bodies';
import { run } from './helpers';
import { evenly } from './numbers';
import { inLong, runs } from './runs';

const go = async () => {};

async function meshOf(kind: string, set: Record<string, string>, tolerance = 0.001): Promise<Mesh> {
  const design = emptyDesign('Cut');
  addStep(design, kind, 0, set);
  const { steps } = await run(design);
  return (steps[0]!.value as Body).mesh(tolerance, 400_000);
}

const anyWay = fc
  .tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1))
  .filter((way) => norm(way) > 0.1)
  .map((way): Vec3 => unit(way));

/** Area of the triangles that fill a face, however they lie. */
function areaFilled(face: Face): number {
  const points = [face.outline, ...face.holes].flatMap((loop) => [...loop]);
  const corners = filledFace(face);
  let filled = 0;
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = corners.slice(t, t + 3).map((i) => [points[2 * i]!, points[2 * i + 1]!] as const);
    filled += Math.abs((b![0] - a![0]) * (c![1] - a![1]) - (b![1] - a![1]) * (c![0] - a![0])) / 2;
  }
  return filled;
}

describe('the area that is cut of combined bodies', () => {
  inLong('of the manifold agrees with its tube within a band of at most 2 %', async () => {
    const { steps } = await run(demo('settling-manifold.json'));
    const manifold = steps.findLast(({ value }) => value?.type === 'body')!.value as Body;
    for (const lean of [0, 0.2]) {
      // Between the upright and the slanting branch, square to the trunk or aslant: an ellipse is as much longer.
      const normal: Vec3 = [Math.cos(lean), Math.sin(lean), 0];
      const { area, second } = (await cutMeasures([manifold], { point: [-70, 0, 0], normal }, go))!;
      const { value, within } = area;
      const truth = (Math.PI * (17 ** 2 - 15.5 ** 2)) / Math.cos(lean);
      expect(Math.abs(value - truth), `${value} ± ${within} for ${truth}`).below(within);
      expect(within / truth).below(0.02);
      // About the centroid of a ring, each way, and as much more where it is drawn out to an ellipse.
      const least = (Math.PI * (17 ** 4 - 15.5 ** 4)) / 4 / Math.cos(lean);
      for (const [i, moment] of [least / Math.cos(lean) ** 2, least].entries())
        expect(Math.abs(second[i]!.value - moment), `${i}: ${second[i]!.value}`).below(second[i]!.within);
    }
    const along = await cutMeasures([manifold], { point: [0, 0, 0], normal: [0, 1, 0] }, go);
    expect(along!.area.within / along!.area.value, 'along its walls').below(0.02);
  });

  it('along thin walls is that of closed forms, and nothing where nothing is met', () =>
    fc.assert(
      fc.asyncProperty(evenly(12, 18), evenly(0.8, 2), evenly(20, 60), async (outer, wall, high) => {
        const design = emptyDesign('Tube and ball');
        addStep(design, 'tube', 0, { outer: `${2 * outer} mm`, wall: `${wall} mm` });
        addStep(design, 'extrude', 1, { height: `${high} mm` });
        addStep(design, 'ball', 2, { diameter: '10 mm', originX: '40 mm' });
        addStep(design, 'add', 3);
        const body = (await run(design)).steps[3]!.value as Body;
        const { area } = (await cutMeasures([body], { point: [0, 0, 0], normal: [0, 1, 0] }, go))!;
        const truth = 2 * wall * high + Math.PI * 25;
        expect(Math.abs(area.value - truth), `${area.value} ± ${area.within} for ${truth}`).below(
          area.within,
        );
        expect(area.within / truth).below(0.02);
        expect(await cutMeasures([body], { point: [0, 0, -9], normal: [0, 0, 1] }, go)).equal(undefined);
      }),
      { numRuns: runs(10) },
    ));

  inLong('of balls added to each other is that of closed forms', () =>
    fc.assert(
      fc.asyncProperty(evenly(6, 14), evenly(3, 9), evenly(-0.5, 0.5), async (R, apart, at) => {
        const design = emptyDesign('Balls');
        addStep(design, 'ball', 0, { diameter: `${2 * R} mm` });
        addStep(design, 'ball', 1, { diameter: `${2 * R} mm`, originX: `${apart} mm` });
        addStep(design, 'add', 2);
        const body = (await run(design)).steps[2]!.value as Body;
        const plane: Plane = { point: [0, 0, at * R], normal: [0, 0, 1] };
        const { value, within } = (await cutMeasures([body], plane, go))!.area;
        const r = R * Math.sqrt(1 - at * at);
        const half = Math.acos(apart / 2 / r);
        const truth = 2 * Math.PI * r * r - (2 * half - Math.sin(2 * half)) * r * r;
        expect(Math.abs(value - truth), `${value} ± ${within} for ${truth}`).below(within + 1e-6 * truth);
        expect(within / truth).below(0.01);
      }),
      { numRuns: runs(8) },
    ),
  );
});

describe('a mesh cut by a plane', () => {
  const some = { numRuns: runs(12) };

  it('shows a disc of a ball, whatever the way of the plane', async () => {
    const R = 10;
    const cut = cutterOf(await meshOf('ball', { diameter: '20 mm' }));
    await fc.assert(
      fc.asyncProperty(anyWay, evenly(-0.9, 0.9), async (normal, part) => {
        const point = scale(normal, part * R);
        const { loops, frame } = cut({ point, normal });
        const r = R * Math.sqrt(1 - part * part);
        const { area, perimeter, centroid, second } = cutResults(loops);
        expect(loops).length(1);
        near(area, Math.PI * r * r, 2e-3);
        near(perimeter, 2 * Math.PI * r, 2e-3);
        near(second.xx, (Math.PI * r ** 4) / 4, 4e-3);
        near(second.yy, (Math.PI * r ** 4) / 4, 4e-3);
        expect(Math.abs(second.xy)).below(1e-3 * second.xx);
        inSpace(frame, ...centroid).forEach((x, k) => expect(x).closeTo(point[k]!, 2e-3));
        // Seen from where nothing is kept.
        expect(dot(cross(frame.ex, frame.ey), normal)).closeTo(-1, 1e-12);
      }),
      some,
    );
  });

  it('shows a block as it is where the plane runs through its corners and faces, too', async () => {
    const cut = cutterOf(await meshOf('block', { width: '30 mm', depth: '20 mm', height: '10 mm' }));
    const at = (point: Vec3, normal: Vec3) => cutResults(cut({ point, normal }).loops);
    const level = at([0, 0, 4], [0, 0, 1]);
    near(level.area, 600, 1e-6);
    near(level.perimeter, 100, 1e-6);
    near(level.second.xx, (30 * 20 ** 3) / 12, 1e-6);
    near(level.second.yy, (20 * 30 ** 3) / 12, 1e-6);
    // Along the diagonal of its plan, through four of its corners.
    near(at([0, 0, 0], unit([20, -30, 0])).area, 10 * Math.hypot(30, 20), 1e-6);
    // In a face what lies in the plane counts as kept: nothing is cut off, and seen from the other side all of it is.
    expect(at([0, 0, 0], [0, 0, 1]).area).equal(0);
    near(at([0, 0, 10], [0, 0, 1]).area, 600, 1e-6);
    expect(at([0, 0, 11], [0, 0, 1]).area).equal(0);
  });

  it('shows the wall of a tube: an outline with its hole', async () => {
    const design = emptyDesign('Tube');
    addStep(design, 'tube', 0, { outer: '20 mm', wall: '2 mm' });
    addStep(design, 'extrude', 1, { height: '40 mm' });
    const { steps } = await run(design);
    const mesh = (steps[1]!.value as Body).mesh(0.001, 400_000);
    const { loops } = cutterOf(mesh)({ point: [0, 0, 13], normal: [0, 0, 1] });
    const [face, ...more] = facesOfLoops(loops);
    expect(more).length(0);
    expect(face!.holes).length(1);
    expect(isWithinLoop(face!.outline, 0, 0)).equal(true);
    near(cutResults(loops).area, Math.PI * (100 - 64), 1e-3);
    // What fills it covers the wall, and nothing of the hole.
    near(areaFilled(face!), cutResults(loops).area, 1e-9);
    // Along its axis: two strips, a wall each.
    const along = cutterOf(mesh)({ point: [0, 0, 0], normal: [0, 1, 0] });
    expect(facesOfLoops(along.loops).map(({ holes }) => holes.length)).deep.equal([0, 0]);
    near(cutResults(along.loops).area, 2 * 2 * 40, 2e-3);
    expect(thinnestWall(facesOfLoops(along.loops))).equal(undefined);
    // Its wall, and that of a bore off the middle, where it is thinnest; and between two bores.
    expect(Math.abs(thinnestWall([face!])! - 2)).below(2 * 0.001);
    const circle = (x: number, r: number) =>
      Float64Array.from(
        Array.from({ length: 2000 }, (_x, i) => {
          const turn = (Math.PI * 2 * (i >> 1)) / 1000;
          return i % 2 ? r * Math.sin(turn) : x + r * Math.cos(turn);
        }),
      );
    near(thinnestWall([{ outline: circle(0, 10), holes: [circle(3, 5)] }])!, 2, 1e-4);
    near(thinnestWall([{ outline: circle(0, 30), holes: [circle(-8, 5), circle(4, 4)] }])!, 3, 1e-4);
    const square = (r: number) => Float64Array.from([-r, -r, r, -r, r, r, -r, r]);
    near(thinnestWall([{ outline: square(10), holes: [square(7)] }])!, 3);
  });
});

describe('the hatching of a cut', () => {
  it('tells steel from brass and both from plastic', () => {
    const of = (name: keyof typeof MATERIALS) => hatchOf(MATERIALS[name]);
    expect(['spring-steel', 'stainless', 'aluminium'].map((name) => of(name as 'brass'))).deep.equal(
      Array.from({ length: 3 }, () => 'single'),
    );
    expect([of('brass'), of('copper'), of('bronze')]).deep.equal(['paired', 'paired', 'paired']);
    expect(of('pla')).equal('crossed');
  });
});

describe('a cut sent out as a drawing', () => {
  it('is read back as the same outline, from SVG and from DXF', async () => {
    const design = emptyDesign('Star');
    addStep(design, 'star', 0, { tips: '5', size: '30 mm', radius: '1 mm' });
    addStep(design, 'extrude', 1, { height: '12 mm', draft: '4 deg' });
    const { steps } = await run(design);
    const mesh = (steps[1]!.value as Body).mesh(0.005, 400_000);
    const { loops } = cutterOf(mesh)({ point: [0, 0, 5], normal: [0, 0, -1] });
    const { area } = cutResults(loops);
    for (const [name, text] of [
      ['cut.svg', sheetSvg(cutSheet(loops, 'Star & <cut>'))],
      ['cut.dxf', sheetDxf(cutSheet(loops, 'Star & <cut>'))],
    ] as const) {
      const { points, bores } = await readOutline(name, text);
      expect(bores).length(0);
      const back = emptyDesign('Back');
      const id = addStep(back, 'outline', 0);
      back.steps[0]!.rows = { points, bores };
      const section = (await run(back)).steps.find((step) => step.id === id)!.value as Section;
      near(section.area, area, 1e-5);
    }
  });
});

describe('planes that open a part', () => {
  const plane = (cut: CutPlane) => planeOf(cut)!;
  it('stand where they are said to, and keep one side or the other', () => {
    const x = plane({ by: 'x', at: 4 });
    const open = (place: Vec3, corner = false, ...planes: readonly CutPlane[]) =>
      isOpen({ planes: planes.map(plane), corner }, place);
    expect(x.point).deep.equal([4, 0, 0]);
    expect(open([4.1, 9, 9], false, { by: 'x', at: 4 })).equal(true);
    expect(open([3.9, 9, 9], false, { by: 'x', at: 4 })).equal(false);
    expect(open([3.9, 9, 9], false, { by: 'x', at: 4, turned: true })).equal(true);
    // Aslant: 5 mm along the direction from the origin.
    const own = { by: 'own', way: [3, 0, 4], at: 5 } as const;
    expect(open([3.1, 0, 4], false, own)).equal(true);
    expect(open([2.9, 0, 4], false, own)).equal(false);
    expect(planeOf({ by: 'own', way: [0, 0, 0], at: 5 })).equal(undefined);
    expect(planeOf({ by: 'path', step: 'line', at: 5 })).equal(undefined);
    // Of two planes all that lies beyond either, or the corner beyond both.
    const two = [
      { by: 'x', at: 0 },
      { by: 'z', at: 0 },
    ] as const;
    expect(open([1, 0, -1], false, ...two)).equal(true);
    expect(open([1, 0, -1], true, ...two)).equal(false);
    expect(open([1, 0, 1], true, ...two)).equal(true);
    expect(open([-1, 0, -1], false, ...two)).equal(false);
  });
});

describe('sizes of triangles', () => {
  it('are those of one that is known', () => {
    const positions = Float32Array.from([0, 0, 0, 4, 0, 0, 0, 3, 0]);
    const sizes = triangleSizes([{ positions, triangles: Uint32Array.from([0, 1, 2]) }])!;
    expect(sizes).include({ count: 1, shortest: 3, longest: 5 });
    expect(sizes.thinnest).closeTo(Math.atan2(3, 4), 1e-12);
    expect(triangleSizes([])).equal(undefined);
  });
});

/** Demo designs with a swept body as their part, and of what fineness. */
async function sweptDemos() {
  const found: { name: string; body: Extract<Body, { form: 'swept' }> }[] = [];
  for (const file of DEMO) {
    const { steps } = await evaluate(demo(file), createCache(), go, 'shape');
    const value = steps.findLast((step) => step.value?.type === 'body')?.value;
    if (value?.type === 'body' && value.form === 'swept' && !value.fold)
      found.push({ name: file, body: value });
  }
  return found;
}

describe('cut faces of the demo parts', () => {
  let demos: Awaited<ReturnType<typeof sweptDemos>>;
  before(async () => {
    demos = await sweptDemos();
  });

  it('add up to the volume over all heights', () => {
    for (const { name, body } of demos) {
      const mesh = body.mesh(Math.max(...body.extent[1].map((x, k) => x - body.extent[0][k]!)) / 500, 40_000);
      const cut = cutterOf(mesh);
      const [low, high] = body.extent;
      const planes = 600;
      const step = (high[2] - low[2]) / planes;
      let sum = 0;
      for (let i = 0; i < planes; i++)
        sum +=
          step * cutResults(cut({ point: [0, 0, low[2] + (i + 0.5) * step], normal: [0, 0, 1] }).loops).area;
      const volume = meshVolume(mesh.positions, mesh.triangles);
      expect(Math.abs(sum - volume), name).below(0.004 * volume);
    }
  });

  it('square to the path are the section that is carried there', async () => {
    expect(demos.length).above(9);
    let [compared, walls] = [0, 0];
    for (const { name, body } of demos) {
      const [low, high] = body.extent;
      const tolerance = norm(sub(high, low)) / 4000;
      const mesh = body.mesh(tolerance, 400_000);
      const cut = cutterOf(mesh);
      for (let i = 0; i < 20; i++) {
        const { length } = crossSection(body, 0)!;
        const found = crossSection(body, length * (0.03 + (0.94 * (i + 0.37)) / 20))!;
        if (!found.figures) continue;
        const { loops } = cut(found.plane);
        // Of all that the plane meets, the loops about the path; other coils are cut as well.
        const reach = body.swept[0]!.reach * body.swept[0]!.scale * 1.02 + 3 * mesh.tolerance;
        const mine = loops.filter((loop) => {
          for (let k = 0; k < loop.length; k += 2)
            if (Math.hypot(loop[k]!, loop[k + 1]!) > reach) return false;
          return true;
        });
        const { area, second, perimeter } = cutResults(mine);
        const within = cutWithin([{ frame: cutFrame(found.plane), loops: mine, tolerance: mesh.tolerance }]);
        expect(Math.abs(area - found.figures.area), `${name}, within what is told`).below(
          within.area + 1e-6 * area,
        );
        expect(Math.abs(area - found.figures.area), `${name} at ${found.s}`).below(
          2 * mesh.tolerance * perimeter + 1e-6 * area,
        );
        const wall = thinnestWall(facesOfLoops(mine));
        if (found.figures.wall !== undefined) {
          expect(Math.abs(wall! - found.figures.wall), `${name}, its wall`).below(3 * mesh.tolerance);
          walls++;
        }
        expect(Math.abs(second.xx + second.yy - (found.figures.second.xx + found.figures.second.yy))).below(
          within.second + 1e-6 * second.xx,
        );
        const polar = second.xx + second.yy;
        const exact = found.figures.second.xx + found.figures.second.yy;
        expect(Math.abs(polar - exact), name).below(4 * mesh.tolerance * perimeter * reach ** 2);
        compared++;
      }
    }
    expect(compared).above(150);
    expect(walls).above(20);
  });

  it('fills what is not convex, however finely it is bent inwards, and not beyond', () => {
    const circle = (n: number, radius: (turn: number) => number) =>
      Float64Array.from(
        Array.from({ length: n }, (_x, i) => (2 * Math.PI * i) / n).flatMap((turn) => [
          radius(turn) * Math.cos(turn),
          radius(turn) * Math.sin(turn),
        ]),
      );
    // Half a ring, one arc outside and one within.
    const half = (n: number) =>
      Float64Array.from(
        Array.from({ length: 2 * n + 2 }, (_x, i) => {
          const turn = (Math.PI * (i <= n ? i : 2 * n + 1 - i)) / n;
          const radius = i <= n ? 10 : 8;
          return [radius * Math.cos(turn), radius * Math.sin(turn)];
        }).flat(),
      );
    const faceted = circle(90, (turn) => 10 + 1e-6 * Math.cos(45 * turn));
    for (const outline of [
      circle(300, () => 10),
      circle(200, (turn) => 10 + Math.cos(5 * turn)),
      half(400),
      faceted,
    ]) {
      near(areaFilled({ outline, holes: [] }), cutResults([outline]).area, 1e-6);
    }
  });
});
