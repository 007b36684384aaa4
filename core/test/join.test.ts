import { expect } from 'chai';
import { addStep, stepOf } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import { add, cross, scale, squareTo, sub, unit, type Vec3 } from '../src/geometry/vector';
import { rayHits } from '../src/mesh/query/ray';
import type { CombinedBody } from '../src/solid/body/body';
import { saddleLoops } from '../src/exchange/saddle-drawing';
import { saddlesIn } from '../src/kinds/bodies/join';
import { points } from './bodies';
import { complaintsOf, toldOf } from './helpers';
import { inLong } from './runs';

const go = async () => {};
type Leg = readonly [from: Vec3, to: Vec3, outer: number, wall: number];

/** Tubes along straights, joined. */
function joined(...legs: readonly Leg[]): { design: Design; id: string } {
  const design = emptyDesign('Joined');
  const tubes = legs.map(([from, to, outer, wall]) => tubeAlong(design, [from, to], outer, wall));
  const id = addStep(design, 'join', design.steps.length);
  stepOf(design, id).from = { tubes };
  return { design, id };
}

function tubeAlong(design: Design, places: readonly Vec3[], outer: number, wall: number): string {
  const path = addStep(design, 'run', design.steps.length, { corners: 'bent', radius: '15 mm' });
  stepOf(design, path).rows = { points: points(...places) as never };
  const section = addStep(design, 'tube', design.steps.length, { outer: `${outer} mm`, wall: `${wall} mm` });
  const id = addStep(design, 'sweep', design.steps.length);
  stepOf(design, id).from = { path, section };
  return id;
}

const told = ({ design, id }: { design: Design; id: string }) => toldOf<CombinedBody>(design, id);

/** ∫ f(y) dy from −r to r, where f behaves as √(r² − y²) at both ends. */
const across = (r: number, f: (y: number) => number): number =>
  integral((t) => f(r * Math.sin(t)) * r * Math.cos(t), -Math.PI / 2, Math.PI / 2);
const integral = (f: (x: number) => number, a: number, b: number): number => {
  const n = 2000;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += f(a + ((i + 0.5) * (b - a)) / n);
  return (sum * (b - a)) / n;
};

/** What a cylinder of radius r that starts on the axis of one of radius R, at an angle, has in common with it. */
const shared = (r: number, R: number, angle: number) =>
  across(r, (y) => 2 * Math.sqrt(r * r - y * y) * Math.sqrt(R * R - y * y)) / Math.sin(angle);
/** The part of the surface of the one of radius R that lies in it. */
const mouthOn = (r: number, R: number, angle: number) =>
  across(r, (y) => (2 * Math.sqrt(r * r - y * y) * R) / Math.sqrt(R * R - y * y)) / Math.sin(angle);
/** The side of the one of radius r, H long, beyond the other. */
const sideBeyond = (r: number, R: number, angle: number, H: number) =>
  integral((phi) => r * (H - Math.sqrt(R * R - (r * Math.sin(phi)) ** 2) / Math.sin(angle)), 0, 2 * Math.PI);

/** A trunk along x with branches from its middle, at angles to it, each turned about it. */
const LONG = 160;
const branch = (angle: number, turn: number, H: number, at = 0): readonly [Vec3, Vec3] => {
  const way: Vec3 = [Math.cos(angle), -Math.sin(angle) * Math.sin(turn), Math.sin(angle) * Math.cos(turn)];
  return [
    [at, 0, 0],
    [at + H * way[0], H * way[1], H * way[2]],
  ];
};
const trunk = (outer: number, wall: number): Leg => [[-LONG / 2, 0, 0], [LONG / 2, 0, 0], outer, wall];

interface Given {
  readonly trunk: readonly [outer: number, wall: number];
  readonly legs: readonly {
    readonly outer: number;
    readonly wall: number;
    readonly angle: number;
    readonly turn?: number;
    readonly at?: number;
  }[];
}

/** Volume, bore and its surface of branches that do not reach each other, by quadrature. */
function truth({ trunk: [outer, wall], legs }: Given, H: number) {
  const [R, B] = [outer / 2, outer / 2 - wall];
  let volume = Math.PI * R * R * LONG;
  let bore = Math.PI * B * B * LONG;
  let inner = 2 * Math.PI * B * LONG;
  for (const leg of legs) {
    const [r, b] = [leg.outer / 2, leg.outer / 2 - leg.wall];
    volume += Math.PI * r * r * H - shared(r, R, leg.angle);
    bore += Math.PI * b * b * H - shared(b, B, leg.angle);
    inner += sideBeyond(b, B, leg.angle, H) - mouthOn(b, B, leg.angle);
  }
  return { volume: volume - bore, boreVolume: bore, innerSurface: inner };
}

const deg = (x: number) => (x * Math.PI) / 180;
const H = 60;

describe('tubes that are joined', () => {
  const cases: readonly (readonly [name: string, given: Given])[] = [
    ['equal pipes at 90°', { trunk: [30, 2], legs: [{ outer: 30, wall: 2, angle: deg(90) }] }],
    ['equal pipes at 60°', { trunk: [30, 2], legs: [{ outer: 30, wall: 2, angle: deg(60) }] }],
    ['a thinner pipe at 45°', { trunk: [34, 1.5], legs: [{ outer: 22, wall: 1.5, angle: deg(45) }] }],
    [
      'a thicker wall in a thin one at 90°',
      { trunk: [34, 1], legs: [{ outer: 20, wall: 4, angle: deg(90) }] },
    ],
    [
      'three legs in a plane',
      {
        trunk: [30, 2],
        legs: [
          { outer: 20, wall: 1.5, angle: deg(60), at: -30 },
          { outer: 16, wall: 1, angle: deg(90), at: 35 },
        ],
      },
    ],
    [
      'legs out of a plane',
      {
        trunk: [32, 2],
        legs: [
          { outer: 20, wall: 2, angle: deg(70), at: -35 },
          { outer: 18, wall: 1.5, angle: deg(90), turn: deg(110), at: 30 },
        ],
      },
    ],
  ];
  for (const [name, given] of cases)
    it(`are one wall with one clean bore: ${name}`, async () => {
      const legs = given.legs.map(({ outer, wall, angle, turn = 0, at }): Leg => [
        ...branch(angle, turn, H, at),
        outer,
        wall,
      ]);
      const all = [trunk(...given.trunk), ...legs];
      const { figures, findings, body } = await told(joined(...all));
      for (const [figure, want] of Object.entries(truth(given, H))) {
        const { value, within } = figures[figure]!;
        expect(Math.abs(value - want), `${figure} ${value} ± ${within} for ${want}`).below(
          within! + 1e-9 * want,
        );
        expect(within, figure).below(4e-3 * want);
      }
      expect(findings.bore).include({ level: 'good', value: 1 });
      expect(findings.closed!.level).equal('good');
      // Nothing of any wall stands in any bore.
      const solid = await body.solid(body.checkedAt, go);
      for (const [from, to, outer, wall] of all) {
        const axis = unit(sub(to, from));
        const out = squareTo(axis);
        const aside = cross(axis, out);
        for (let i = 0; i < 1200; i++) {
          const part = (i * 0.61803398875) % 1;
          const [r, phi] = [(outer / 2 - wall - 0.1) * Math.sqrt((i * 0.7548776662) % 1), i * 2.399963];
          const place = add(
            add(from, scale(sub(to, from), 0.001 + 0.998 * part)),
            add(scale(out, r * Math.cos(phi)), scale(aside, r * Math.sin(phi))),
          );
          expect(rayHits(solid, place, [0.31, 0.57, 0.76]).length % 2, `${place}`).equal(0);
        }
      }
    });

  it('let a core be pulled out where the bore is straight, by the ends that are open', async () => {
    const { findings } = await told(joined(trunk(30, 2), [...branch(deg(90), 0, H), 20, 2]));
    expect(findings.core1!.says.join('')).match(/tube 1 by either end/);
    expect(findings.core2!.says.join('')).match(/tube 2 by its end/);
    const design = emptyDesign('Bent');
    const bent = tubeAlong(
      design,
      [
        [0, 0, 0],
        [0, 0, 60],
        [50, 0, 60],
      ],
      20,
      2,
    );
    const straight = tubeAlong(
      design,
      [
        [-60, 0, 0],
        [60, 0, 0],
      ],
      30,
      2,
    );
    const closedIn = tubeAlong(
      design,
      [
        [-20, 0, 0],
        [20, 0, 0],
      ],
      12,
      1,
    );
    const id = addStep(design, 'join', design.steps.length);
    stepOf(design, id).from = { tubes: [bent, straight, closedIn] };
    const held = await told({ design, id });
    expect(held.findings.core1).include({ level: 'note' });
    // The bend begins 45 mm up.
    expect(held.findings.core1!.place![2]).closeTo(45, 15);
    expect(held.findings.core3!.detail!.join('')).match(/both its ends/);
  });

  it('say what is wrong with them where they have no bore, or one that is closed', async () => {
    const { design, id } = joined(trunk(30, 2), [...branch(deg(90), 0, H), 20, 2]);
    const tubes = design.steps.filter(({ kind }) => kind === 'tube');
    const sweeps = design.steps.filter(({ kind }) => kind === 'sweep');
    sweeps[1]!.set.endWall = '2 mm';
    expect((await complaintsOf(design, id)).tubes).match(/Body 2 of these is closed/);
    delete sweeps[1]!.set.endWall;
    for (const tube of tubes) {
      const rod = addStep(design, 'round', 0, { diameter: '20 mm' });
      sweeps.filter(({ from }) => from!.section === tube.id).forEach((sweep) => (sweep.from!.section = rod));
    }
    expect((await complaintsOf(design, id)).tubes).match(/None of these has a bore/);
  });

  it('let no core out where something stands before the mouth', async () => {
    const { design, id } = joined([[0, 0, 0], [60, 0, 0], 20, 2]);
    const tubes = stepOf(design, id).from!.tubes as string[];
    const before = design.steps.findIndex((step) => step.id === id);
    // A foot under the tube that goes on, and a post on it before the end; then one before the start.
    const foot = addStep(design, 'block', before, {
      width: '160 mm',
      depth: '10 mm',
      height: '4 mm',
      originX: '30 mm',
      originZ: '-13 mm',
    });
    const post = (x: number) =>
      addStep(design, 'block', before, {
        width: '6 mm',
        depth: '10 mm',
        height: '8 mm',
        originX: `${x} mm`,
        originZ: '-10 mm',
      });
    tubes.push(foot, post(80));
    const one = await told({ design, id });
    expect(one.findings.core1!.says).deep.equal(['A core comes out of the bore of tube 1 by its start']);
    tubes.push(post(-25));
    const both = await told({ design, id });
    expect(both.findings.core1!.says).deep.equal(['No core can be pulled out of the bore of tube 1']);
    expect(both.findings.core1!.detail).deep.equal(['something stands before its mouth']);
    expect(both.findings.core1!.place![0]).closeTo(-22, 1e-3);
    // Farther off than the core is long it is in nobody’s way.
    const third = tubes.pop()!;
    stepOf(design, third).set.originX = '-45 mm';
    tubes.push(third);
    expect((await told({ design, id })).findings.core1!.level).equal('note');
    stepOf(design, foot).set.width = '260 mm';
    stepOf(design, third).set.originX = '-70 mm';
    expect((await told({ design, id })).findings.core1!.says).deep.equal([
      'A core comes out of the bore of tube 1 by its start',
    ]);
  });

  it('take a solid flange that the bore goes through', async () => {
    const { design, id } = joined(trunk(30, 2));
    const flange = addStep(design, 'cylinder', design.steps.length - 1, {
      diameter: '60 mm',
      height: '8 mm',
      originX: `${LONG / 2 - 8} mm`,
      axisX: '1',
      axisZ: '0',
    });
    (stepOf(design, id).from!.tubes as string[]).push(flange);
    const { figures, findings } = await told({ design, id });
    const want = Math.PI * ((225 - 169) * (LONG - 8) + (900 - 169) * 8);
    expect(Math.abs(figures.volume!.value - want)).below(figures.volume!.within!);
    expect(findings.closed!.level).equal('good');
  });

  it('have saddles where they sit on others, flat, as closed forms have them', async () => {
    for (const [R, r, angle] of [
      [15, 15, 90],
      [17, 11, 60],
      [20, 6, 45],
    ] as const) {
      const [from, to] = branch(deg(angle), 0, H);
      const { madeFrom, figures } = await told(joined(trunk(2 * R, 2), [from, to, 2 * r, 1.5]));
      const saddles = (await saddlesIn(madeFrom, go))!;
      expect(saddles.map(({ tube, end }) => ({ tube, end }))).deep.equal([{ tube: 1, end: 'start' }]);
      const [{ points: flat, longest }] = saddles as [(typeof saddles)[0]];
      // Seen from the free end, which it is measured from.
      const axis = unit(sub(from, to));
      const right = squareTo(axis);
      const up = cross(axis, right);
      for (const [around, along] of flat) {
        const side = add(scale(right, r * Math.cos(around / r)), scale(up, r * Math.sin(around / r)));
        // y² + z² = R² on the trunk: of both places of the line the upper one.
        const z = Math.sqrt(R * R - side[1] ** 2);
        const want = (to[2] + side[2] - z) / Math.sin(deg(angle));
        expect(Math.abs(along - want), `${R} ${r} ${angle} at ${around}`).below(1e-6);
      }
      expect(flat.at(-1)![0]).closeTo(2 * Math.PI * r, 1e-9);
      expect(figures.cutLength2!.value).equal(longest);
      expect(figures.cutLength1!.value).closeTo(LONG, 1e-9);
      // As a drawing: as wide as the tube is round, and the saddle its upper side.
      const [loop, ...more] = saddleLoops(saddles);
      expect(more).length(0);
      const xs = loop!.filter((_x, k) => k % 2 === 0);
      const ys = loop!.filter((_x, k) => k % 2 === 1);
      expect(Math.max(...xs)).closeTo(2 * Math.PI * r, 1e-9);
      const heights = flat.map(([, along]) => along);
      expect(Math.max(...ys) - 15).closeTo(Math.max(...heights) - Math.min(...heights), 1e-9);
    }
  });

  it('hold a core in a bore that is wider in the middle than at both ends, and let it out where it only grows', async () => {
    const sized = async (widths: readonly string[]) => {
      const { design, id } = joined(trunk(30, 2), [...branch(deg(90), 0, H), 20, 2]);
      const sweep = design.steps.filter(({ kind }) => kind === 'sweep')[0]!;
      Object.assign(sweep.set, { size: 'stations', sizeRun: 'linear' });
      sweep.rows = {
        sizes: widths.map((width, i) => ({ part: `${i / (widths.length - 1)}`, width })),
      };
      return (await told({ design, id })).findings.core1!;
    };
    const barrel = await sized(['30 mm', '36 mm', '30 mm']);
    expect(barrel.level).equal('note');
    expect(barrel.detail!.join('')).match(/narrower/);
    expect((await sized(['36 mm', '33 mm', '30 mm'])).says.join('')).match(/by its start/);
  });

  inLong(
    'three equal tubes in a T measure alike, and as surely, when a direction is off by rounding',
    async () => {
      const tee = (off: number) =>
        told(
          joined(
            [[0, 0, 0], [-60, 0, 0], 24, 2],
            [[0, 0, 0], [60, off, off / 2], 24, 2],
            [[0, 0, 0], [off, 0, 60], 24, 2],
          ),
        );
      const even = await tee(0);
      for (const off of [60e-15, 6e-14, -6e-13]) {
        const one = await tee(off);
        for (const name of ['volume', 'surface'] as const) {
          const [a, b] = [even.figures[name]!, one.figures[name]!];
          expect(Math.abs(a.value - b.value) / a.value, name).below(1e-4);
          expect(b.within! / b.value, `${name} by ${off}`).below(2e-3);
        }
      }
    },
  );
});
