import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign } from '../src/design/schema';
import { meshMass } from '../src/mesh/data/mass';
import type { Body } from '../src/solid/body/body';
import { distance, type Vec3 } from '../src/geometry/vector';
import { near, points } from './bodies';
import { complaintsOf, toldOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

import { expectSound, figuresOf, hollowDesign, type Made } from './hollowed';

describe('a body that is hollowed', () => {
  it('as a cylinder is a cup, a tube, or has a void, as closed forms say', async () => {
    await fc.assert(
      fc.asyncProperty(
        evenly(10, 30),
        evenly(20, 60),
        evenly(0.5, 4),
        evenly(0.5, 6),
        async (R, H, wall, floor) => {
          const of = (open: string) =>
            figuresOf(
              hollowDesign([['cylinder', { diameter: `${2 * R} mm`, height: `${H} mm` }]], {
                wall: `${wall} mm`,
                floor: `${floor} mm`,
                open,
              }),
            );
          const within = (high: number) => Math.PI * (R - wall) ** 2 * high;
          const cup = await of('end');
          near(cup.capacity!, within(H - floor));
          near(cup.volume!, Math.PI * R * R * H - within(H - floor));
          near((await of('start')).volume!, cup.volume!);
          near((await of('both')).capacity!, within(H));
          near((await of('none')).capacity!, within(H - 2 * floor));
          near(cup.surface!, 2 * Math.PI * (R * R + R * H + (R - wall) * (H - floor)));
        },
      ),
      { numRuns: runs(10) },
    );
    const [cup, tube, shut] = await Promise.all(
      ['end', 'both', 'none'].map((open) =>
        figuresOf(hollowDesign([['cylinder', { diameter: '20 mm', height: '30 mm' }]], { open })),
      ),
    );
    await expectSound(cup!.body, 2);
    await expectSound(tube!.body, 0);
    await expectSound(shut!.body, 4);
  });

  it('as a ball is one within another, and a cone keeps its wall square to its side', async () => {
    const ball = await figuresOf(
      hollowDesign([['ball', { diameter: '40 mm' }]], { wall: '3 mm', open: 'none' }),
    );
    near(ball.capacity!, (4 / 3) * Math.PI * 17 ** 3);
    await expectSound(ball.body, 4);
    // A frustum open above: foot 20, top 30, 40 high; the wall leans by atan(10/40).
    const cone = await figuresOf(
      hollowDesign([['cone', { diameter: '40 mm', top: '60 mm', height: '40 mm' }]], {
        wall: '2 mm',
        floor: '3 mm',
        open: 'end',
      }),
    );
    const off = 2 * Math.hypot(1, 10 / 40);
    const [a, b] = [20 + (3 * 10) / 40 - off, 30 - off];
    near(cone.capacity!, ((Math.PI * 37) / 3) * (a * a + a * b + b * b));
    await expectSound(cone.body, 2);
  });

  it('as a turned outline with rounds keeps its wall on them', async () => {
    const design = emptyDesign('Jar');
    const section = addStep(design, 'outline', 0);
    stepOf(design, section).rows = {
      points: [
        { x: '0 mm', y: '0 mm' },
        { x: '30 mm', y: '0 mm', radius: '8 mm' },
        { x: '30 mm', y: '50 mm' },
        { x: '0 mm', y: '50 mm' },
      ] as never,
    };
    const turn = addStep(design, 'turn', 1, { away: '0 mm' });
    setInput(design, turn, 'section', section);
    const id = addStep(design, 'hollow', 2, { wall: '3 mm', floor: '3 mm', open: 'end' });
    setInput(design, id, 'body', turn);
    const { capacity, body } = await figuresOf({ design, id });
    // Within: 27 across, 47 high, its foot rounded by 5. Pappus: what the corner lacks stands (10 − 3π)/(12 − 3π) r off its corner.
    const lacks = 25 * (1 - Math.PI / 4);
    const away = 27 - (5 * (10 - 3 * Math.PI)) / (12 - 3 * Math.PI);
    near(capacity!, Math.PI * 27 ** 2 * 47 - 2 * Math.PI * away * lacks, 1e-9);
    await expectSound(body, 2);
  });

  it('has a sharp corner within where the wall is thicker than the corner is round', async () => {
    const { capacity, body } = await figuresOf(
      hollowDesign(
        [
          ['rectangle', { width: '20 mm', height: '12 mm', radius: '1 mm' }],
          ['extrude', { height: '30 mm' }],
        ],
        { wall: '2 mm', floor: '2 mm', open: 'end' },
      ),
    );
    near(capacity!, 16 * 8 * 28);
    await expectSound(body, 2);
  });

  it('as a section that is carried along a bent path keeps its wall all along', async () => {
    const design = emptyDesign('Duct');
    const path = addStep(design, 'run', 0, { corners: 'bent', radius: '30 mm' });
    stepOf(design, path).rows = { points: points([0, 0, 0], [60, 0, 0], [60, 60, 0]) as never };
    const section = addStep(design, 'rectangle', 1, { width: '20 mm', height: '12 mm', radius: '4 mm' });
    const sweep = addStep(design, 'sweep', 2);
    stepOf(design, sweep).from = { path, section };
    const id = addStep(design, 'hollow', 3, { wall: '1.5 mm', open: 'both' });
    setInput(design, id, 'body', sweep);
    const { capacity, body } = await figuresOf({ design, id });
    const length = 30 + 30 + (30 * Math.PI) / 2;
    near(capacity!, (17 * 9 - (4 - Math.PI) * 2.5 ** 2) * length, 1e-9);
    await expectSound(body, 0);
  });

  it('keeps its wall where its section grows and shrinks along its path, by a law or a guide', async () => {
    const design = emptyDesign('Vase');
    const path = addStep(design, 'run', 0);
    stepOf(design, path).rows = { points: points([0, 0, 0], [0, 0, 80]) as never };
    const section = addStep(design, 'polygon', 1, {
      sides: '6',
      size: '40 mm',
      across: 'flats',
      radius: '4 mm',
    });
    const sweep = addStep(design, 'sweep', 2, { size: 'stations', sizeRun: 'linear' });
    stepOf(design, sweep).from = { path, section };
    stepOf(design, sweep).rows = {
      sizes: [
        { part: '0', width: '40 mm' },
        { part: '0.5', width: '60 mm' },
        { part: '1', width: '30 mm' },
      ],
    };
    const id = addStep(design, 'hollow', 3, { wall: '2 mm', floor: '5 mm', open: 'end' });
    setInput(design, id, 'body', sweep);
    // Across its flats 2a, its corners rounded by r: the area of a hexagon, less what the corners lack.
    const area = (a: number, r: number) => 2 * Math.sqrt(3) * a * a - (2 * Math.sqrt(3) - Math.PI) * r * r;
    const stations = [
      [0, 40],
      [40, 60],
      [80, 30],
    ] as const;
    let want = 0;
    for (const [[z0, d0], [z1, d1]] of [
      [stations[0], stations[1]],
      [stations[1], stations[2]],
    ] as const) {
      const from = Math.max(5, z0);
      const at = (z: number) => {
        const f = (d0 + ((d1 - d0) * (z - z0)) / (z1 - z0)) / 40;
        return area(20 * f - 2, 4 * f - 2);
      };
      // The area is of the second order in z.
      want += ((z1 - from) / 6) * (at(from) + 4 * at((from + z1) / 2) + at(z1));
    }
    const { capacity, surface, body } = await figuresOf({ design, id });
    near(capacity!, want, 1e-8);
    // The slope of the wall's share is in it too.
    near(meshMass(body.mesh(0.002, 2_000_000)).surface, surface!, 2e-5);
    await expectSound(body, 2);
  });

  it('keeps its wall where an extrusion has draft, and where it was placed twice as large', async () => {
    const drafted = hollowDesign(
      [
        ['rectangle', { width: '40 mm', height: '30 mm', radius: '0 mm' }],
        ['extrude', { height: '25 mm', draft: '-4 deg' }],
      ],
      { wall: '2 mm', floor: '3 mm', open: 'end' },
    );
    const { capacity, body } = await figuresOf(drafted);
    // In every plane the hole is the outline set back by 2: from 3 mm up it grows by the tangent of the draft.
    const t = Math.tan((4 * Math.PI) / 180);
    const area = (z: number) => (40 + 2 * z * t - 4) * (30 + 2 * z * t - 4);
    const simpson = (a: number, b: number) => ((b - a) / 6) * (area(a) + 4 * area((a + b) / 2) + area(b));
    near(capacity!, simpson(3, 25), 1e-9);
    await expectSound(body, 2);
    const design = emptyDesign('Twice');
    const of = addStep(design, 'cylinder', 0, { diameter: '20 mm', height: '30 mm' });
    const place = addStep(design, 'place', 1, { scale: '2', moveX: '5 mm' });
    setInput(design, place, 'of', of);
    const id = addStep(design, 'hollow', 2, { wall: '2 mm', floor: '4 mm', open: 'end' });
    setInput(design, id, 'body', place);
    near((await figuresOf({ design, id })).capacity!, Math.PI * 18 ** 2 * 56);
  });

  it('has a wall as thick as wanted all round', async () => {
    const { body } = await figuresOf(
      hollowDesign(
        [
          ['star', { tips: '5', size: '60 mm', valley: '0.6', radius: '3 mm', valleyRadius: '4 mm' }],
          ['extrude', { height: '20 mm' }],
        ],
        { wall: '2.5 mm', open: 'both' },
      ),
    );
    if (body.form !== 'swept') throw new Error('no sweep');
    const [outline, hole] =
      body.section.contours.length > 1 ? body.section.contours : body.swept[0]!.section.contours;
    const fine: Vec3[] = Array.from(
      { length: 4000 },
      (_x, i) => outline!.at((i / 4000) * outline!.length).position,
    );
    let worst = 0;
    for (let i = 0; i < 500; i++) {
      const at = hole!.at(((i + 0.5) / 500) * hole!.length).position;
      const far = Math.min(...fine.map((place) => distance(place, at)));
      worst = Math.max(worst, Math.abs(far - 2.5));
    }
    expect(worst).below(1e-3);
  });

  it('says what is wrong: too thick, hollow already, domed, not flat where it is to be open', async () => {
    const says = async (made: readonly Made[], set: Record<string, string> = {}) => {
      const { design, id } = hollowDesign(made, set);
      return complaintsOf(design, id);
    };
    const cylinder: Made = ['cylinder', { diameter: '20 mm', height: '30 mm' }];
    expect((await says([cylinder], { wall: '12 mm' })).wall).match(/it must stay under 10 mm|9\.99/);
    expect((await says([['ball', { diameter: '20 mm' }]], { open: 'end' })).body).match(/not flat/);
    expect(
      (
        await says([
          ['tube', {}],
          ['extrude', {}],
        ])
      ).body,
    ).match(/hollow already/);
    expect(
      (
        await says([
          ['helix', {}],
          ['round', {}],
          ['sweep', { endShape: 'domed' }],
        ])
      ).body,
    ).match(/domed/);
  });

  it('stays where it stood, though a hole moves the centroid that its section is carried by', async () => {
    const { design, id } = hollowDesign(
      [
        ['vee', { depth: '20 mm', between: '50 deg', root: '30 mm' }],
        ['helix', { diameter: '200 mm', turns: '0.5', height: '30 mm' }],
        ['sweep', {}],
      ],
      { wall: '3 mm', open: 'both' },
    );
    const { steps } = await evaluate(design, createCache());
    const extentOf = (step: string) => {
      const { results } = steps.find((one) => one.id === step)!;
      return ['extentX', 'extentY', 'extentZ'].map((name) => results.find((one) => one.name === name)!.value);
    };
    expect(steps.find((one) => one.id === id)!.state).equal('ready');
    extentOf(id).forEach((far, k) => near(far, extentOf('sweep')[k]!, 1e-9));
  });

  it('tells a floor that leaves no room as one, and a wall that is thicker than its floor', async () => {
    const cylinder: Made = ['cylinder', { diameter: '40 mm', height: '10 mm' }];
    const { design, id } = hollowDesign([cylinder], { wall: '2 mm', floor: '12 mm' });
    expect((await complaintsOf(design, id)).floor).match(/fill the whole height/);
    const thick = await figuresOf(hollowDesign([cylinder], { wall: '8 mm', floor: '1 mm' }));
    near(thick.capacity!, Math.PI * 12 ** 2 * 9);
  });

  it('says so where it goes round without an end, and was to be open', async () => {
    const ring: Made = ['ring', {}];
    const hoop: Made[] = [
      ['loop', { size: '60 mm' }],
      ['round', { diameter: '10 mm' }],
      ['sweep', {}],
    ];
    for (const made of [[ring], hoop]) {
      const noted = async (open: string) => {
        const { design, id } = hollowDesign(made, { wall: '1 mm', open });
        return (await toldOf<Body>(design, id)).findings.openings?.level;
      };
      expect(await noted('end')).equal('note');
      expect(await noted('none')).equal(undefined);
    }
    const { design, id } = hollowDesign([['cylinder', {}]], { wall: '1 mm', open: 'end' });
    expect((await toldOf<Body>(design, id)).findings.openings).equal(undefined);
  });
});

describe('a turned pot whose bottom edge is rounded', () => {
  it('holds what its floor and its walls leave, whichever is thicker', async () => {
    const pots = fc.record({
      R: evenly(20, 60),
      r: evenly(5, 12),
      wall: evenly(0.8, 3),
      more: evenly(0.05, 0.95),
      H: evenly(30, 90),
    });
    await fc.assert(
      fc.asyncProperty(pots, async ({ R, r, wall, more, H }) => {
        // A floor between the wall and the round of the edge.
        const floor = wall + more * (r - wall);
        const design = emptyDesign('Pot');
        addStep(design, 'outline', 0);
        stepOf(design, 'outline').rows = {
          points: [
            { x: '0 mm', y: '0 mm' },
            { x: `${R} mm`, y: '0 mm', radius: `${r} mm` },
            { x: `${R} mm`, y: `${H} mm` },
            { x: '0 mm', y: `${H} mm` },
          ],
          bores: [],
        };
        addStep(design, 'turn', 1, { away: '0 mm' });
        addStep(design, 'hollow', 2, { wall: `${wall} mm`, floor: `${floor} mm`, open: 'end' });
        const { figures } = await toldOf<Body>(design, 'hollow');
        // Above the floor the edge is a round of radius r − wall about the same centre.
        const inside = (y: number) => (y > r ? R - wall : R - r + Math.sqrt((r - wall) ** 2 - (r - y) ** 2));
        const n = 4000;
        let round = 0;
        for (let i = 0; i < n; i++) round += inside(floor + ((i + 0.5) * (r - floor)) / n) ** 2;
        const holds = Math.PI * ((round * (r - floor)) / n + (R - wall) ** 2 * (H - r));
        expect(figures.capacity!.value / holds).closeTo(1, 1e-5);
      }),
      { numRuns: runs(60) },
    );
  });
});
