/** Outlines cast on bodies that are known by their triangles, against flat faces and the exact cast on a cylinder. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, referToLast, setInput, stepOf } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import { distance, type Vec3 } from '../src/geometry/vector';
import type { Path } from '../src/path/path';
import { asFile, type Made } from './as-file';
import { surfacesOf } from '../src/exchange/surfaces';
import { faired } from '../src/geometry/fair';
import { weld } from '../src/mesh/data/topology';
import { packed } from '../src/mesh/data/packed';
import type { Body } from '../src/solid/body/body';
import { complaintsOf, toldOf, valueOf } from './helpers';
import { chances } from './hostile';
import { runs } from './runs';

type Outline = readonly [kind: string, set: Record<string, string>];

/** A circle in the plane of the cast, seen from above. */
const ROUND: Outline = ['loop', { shape: 'circle', size: '16 mm' }];

/** Casts an outline on the part, seen from above where nothing else is said. */
function withCast(design: Design, [kind, set]: Outline, cast: Record<string, string> = {}): Design {
  const outline = addStep(design, kind, design.steps.length, set);
  const id = addStep(design, 'cast', design.steps.length, { host: 'body', slope: '90 deg', ...cast });
  setInput(design, id, 'path', outline);
  setInput(design, id, 'body', design.steps[0]!.id);
  return design;
}

const castOf = async (design: Design) => (await valueOf(design, 'cast')) as Path;
const placesOf = (path: Path, many = 97): Vec3[] =>
  Array.from({ length: many }, (_x, i) => path.at((path.length * i) / (many - 1)).position);

const BLOCK: Made[] = [['block', { width: '60 mm', depth: '50 mm', height: '12 mm' }]];
/** A block with a step down to half its height, at x = 0. */
const STEPPED: Made[] = [
  ...BLOCK,
  ['block', { width: '60 mm', depth: '60 mm', height: '20 mm', originX: '30 mm', originZ: '6 mm' }],
  ['subtract'],
];

describe('an outline cast on a body', () => {
  it('lies on a flat face as it is, on the side that is seen first or last', async () => {
    for (const [side, z] of [
      ['near', 12],
      ['far', 0],
    ] as const) {
      const design = withCast((await asFile(BLOCK)).design, ROUND, { side, right: '9 mm', up: '-4 mm' });
      const { body: path, figures } = await toldOf<Path>(design, 'cast');
      for (const place of placesOf(path)) {
        expect(place[2]).to.be.closeTo(z, 1e-4);
        expect(Math.hypot(place[0] - 9, place[1] + 4)).to.be.closeTo(8, 1e-3);
      }
      expect(path.closed).to.equal(true);
      // Where it begins it goes on as it does elsewhere.
      expect(path.corners).to.deep.equal([]);
      expect(path.at(0).curvature).to.be.closeTo(1 / 8, 1e-3);
      expect(path.length).to.be.closeTo(16 * Math.PI, 1e-3);
      expect(figures.outlineLength!.value).to.be.closeTo(16 * Math.PI, 1e-9);
      expect(figures.stretch!.value).to.be.closeTo(1, 1e-4);
    }
  });

  it('keeps the corners of its outline', async () => {
    const square: Outline = ['loop', { shape: 'polygon', sides: '4', size: '20 mm', radius: '0 mm' }];
    const path = await castOf(withCast((await asFile(BLOCK)).design, square));
    const flat = (await valueOf(withCast((await asFile(BLOCK)).design, square), 'loop')) as Path;
    expect(path.corners.length).to.equal(4);
    expect(path.length).to.be.closeTo(flat.length, 1e-4);
    const bent = withCast((await asFile(BLOCK)).design, ['run', { radius: '0 mm' }]);
    stepOf(bent, 'run').rows = {
      points: [
        { x: '-20 mm', y: '-10 mm', z: '0 mm' },
        { x: '0 mm', y: '-10 mm', z: '0 mm' },
        { x: '0 mm', y: '15 mm', z: '0 mm' },
      ],
    };
    const open = await castOf(bent);
    expect(open.corners.map((s) => Math.round(1e4 * s) / 1e4)).to.deep.equal([20]);
    expect(open.length).to.be.closeTo(45, 1e-6);
  });

  it('goes over a round body as the exact cast on that cylinder does', async () => {
    const rod: Made[] = [['cylinder', { diameter: '40 mm', height: '60 mm', originZ: '-30 mm' }]];
    const outline: Outline = ['loop', { shape: 'ellipse', size: '24 mm', ratio: '0.6' }];
    const seen = { slope: '10 deg', turned: '30 deg' };
    const { design } = await asFile(rod, 0.02);
    const path = await castOf(withCast(design, outline, seen));
    const exact = await castOf(
      withCast((await asFile(rod)).design, outline, { ...seen, host: 'cylinder', diameter: '40 mm' }),
    );
    expect(path.length).to.be.closeTo(exact.length, 2e-4 * exact.length);
    const [mine, theirs] = [placesOf(path), placesOf(exact)];
    for (const [i, place] of mine.entries()) {
      expect(Math.hypot(place[0], place[1])).to.be.closeTo(20, 0.01);
      expect(distance(place, theirs[i]!)).to.be.below(0.03);
    }
  });

  it('is a straight over a slope, longer by its angle', async () => {
    const line: Outline = ['run', { radius: '0 mm' }];
    const wedge: Made[] = [['cone', { diameter: '80 mm', top: '20 mm', height: '30 mm' }]];
    const design = withCast((await asFile(wedge, 0.001)).design, line);
    stepOf(design, 'run').rows = {
      points: [
        { x: '15 mm', y: '0 mm', z: '0 mm' },
        { x: '35 mm', y: '0 mm', z: '0 mm' },
      ],
    };
    const path = await castOf(design);
    // Along a line of the cone: as long as over 20 mm at a slope of 45°.
    expect(path.length).to.be.closeTo(20 * Math.SQRT2, 5e-3);
    expect(distance(path.at(0).position, [15, 0, 25])).to.be.below(5e-3);
    expect(distance(path.at(path.length).position, [35, 0, 5])).to.be.below(5e-3);
  });

  it('is on the last body above it, where no other is chosen', () => {
    const design = emptyDesign('Cast');
    for (const kind of ['ball', 'block', 'loop', 'cast', 'cylinder'])
      addStep(design, kind, design.steps.length);
    const step = stepOf(design, 'cast');
    referToLast(design, step, 'body', 'body');
    expect(step.from!.body).to.equal('block');
    addStep(design, 'ring', 2);
    referToLast(design, step, 'body', 'body');
    expect(step.from!.body, 'it stays what was chosen').to.equal('block');
    delete step.from!.body;
    referToLast(design, step, 'body', 'body', 'ring');
    expect(step.from!.body, 'but for one').to.equal('block');
  });

  it('says where it misses, where it would leap, and that a body is wanted', async () => {
    const complaint = (design: Design) => complaintsOf(design, 'cast');
    const missing = withCast((await asFile(BLOCK)).design, ROUND, { right: '26 mm' });
    expect((await complaint(missing)).path).to.match(
      /^The outline misses the body [\d.]+ mm along it, of 50\.27 mm: move it, make it smaller, or cast it from elsewhere\.$/,
    );
    const leaping = withCast((await asFile(STEPPED)).design, ROUND);
    expect((await complaint(leaping)).path).to.match(
      /^The surface breaks off below the outline [\d.]+ mm along it/,
    );
    const without = withCast((await asFile(BLOCK)).design, ROUND);
    delete stepOf(without, 'cast').from!.body;
    expect(await complaint(without)).to.deep.equal({ body: 'Choose the body that this is cast on.' });
  });

  it('on an uneven body bends too tightly for any wire, and is made fair within a tolerance', async () => {
    // A ball whose corners stand in or out by up to 0.15 mm.
    const design = emptyDesign('Uneven');
    addStep(design, 'ball', 0, { diameter: '60 mm' });
    const ball = (await valueOf(design, 'ball')) as Body;
    const { positions, triangles } = ball.mesh(0.15, 40_000);
    const same = weld(positions);
    const noise = chances(11);
    const out = Array.from(same, () => 1 + (noise() - 0.5) / 100);
    const corners = new Float32Array(3 * triangles.length);
    triangles.forEach((v, i) => {
      for (let k = 0; k < 3; k++) corners[3 * i + k] = positions[3 * same[v]! + k]! * out[same[v]!]!;
    });
    const made = emptyDesign('Cast');
    addStep(made, 'part-from-file', 0, { file: 'uneven.stl', triangles: packed(surfacesOf(corners)) });
    const tightest = async (fairing: string, outline: Outline) => {
      const { body: path, figures } = await toldOf<Path>(
        withCast(structuredClone(made), outline, { fairing }),
        'cast',
      );
      return { path, radius: figures.tightestRadius!.value, off: figures.off!.value };
    };
    expect((await tightest('0 mm', ['loop', { shape: 'circle', size: '40 mm' }])).radius).below(1);
    for (const outline of [
      ['loop', { shape: 'circle', size: '40 mm' }],
      ['arc', { radius: '20 mm', angle: '150 deg' }],
    ] as Outline[]) {
      const fair = await tightest('0.4 mm', outline);
      expect(fair.radius, 'made fair').above(8);
      expect(fair.off).below(0.45);
      // However fair it is made, it closes, or ends where it was cast.
      const less = await tightest('0.3 mm', outline);
      expect(less.off).below(fair.off);
      expect(fair.path.closed).equal(outline[0] === 'loop');
      if (!fair.path.closed)
        for (const s of [0, 1]) {
          const [one, other] = [fair, less].map(({ path }) => path.at(s * path.length).position);
          expect(distance(one!, other!)).below(1e-5);
        }
    }
  });
});

describe('places made fair', () => {
  it('are moved by no more than is allowed, and bend less, whatever they are', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: 200 }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.boolean(),
        fc.nat(),
        (many, within, closed, seed) => {
          const chance = chances(seed);
          const places = Array.from({ length: many }, (_x, i): Vec3 => {
            const t = (2 * Math.PI * i) / (closed ? many : 2 * many);
            return [30 * Math.cos(t) + chance() - 0.5, 30 * Math.sin(t) + chance() - 0.5, chance() - 0.5];
          });
          const line = closed ? [...places, places[0]!] : places;
          const fair = faired(line, closed, within);
          expect(fair).lengthOf(line.length);
          fair.forEach((place, i) => expect(distance(place, line[i]!)).most(within * (1 + 1e-9)));
          const bending = (some: readonly Vec3[]) =>
            some.slice(2).reduce((sum, c, i) => {
              const [a, b] = [some[i]!, some[i + 1]!];
              return (
                sum + Math.hypot(a[0] - 2 * b[0] + c[0], a[1] - 2 * b[1] + c[1], a[2] - 2 * b[2] + c[2]) ** 2
              );
            }, 0);
          expect(bending(fair)).below(bending(line));
          if (closed) expect(fair.at(-1)).deep.equal(fair[0]);
          else for (const end of [0, -1]) expect(distance(fair.at(end)!, line.at(end)!)).below(1e-6);
        },
      ),
      { numRuns: runs(200) },
    ));
});
