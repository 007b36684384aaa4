/** Bodies turned about an axis, and those made of plain figures: against closed forms. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import { centreOfMass, inertiaOf } from '../src/geometry/mass';
import { integrate } from '../src/geometry/numeric';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import { meshMass } from '../src/mesh/data/mass';
import { boxAbout, roughBounds, type Body } from '../src/solid/body/body';
import { complaintsOf, valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const go = async () => {};

/** A step of that kind alone on the sheet, by its figures in mm. */
async function alone(kind: string, set: Record<string, number | string>): Promise<Body> {
  const design = emptyDesign('Alone');
  const id = addStep(design, kind, 0, texts(set));
  return (await valueOf(design, id)) as Body;
}
const texts = (set: Record<string, number | string>): Record<string, string> =>
  Object.fromEntries(
    Object.entries(set).map(([field, value]) => [field, typeof value === 'number' ? `${value} mm` : value]),
  );

function near(value: number, wanted: number, size = wanted, within = 1e-9): void {
  expect(Math.abs(value - wanted), `${value} for ${wanted}`).at.most(within * Math.abs(size));
}

/** Closed, oriented, its triangles within the tolerance of a body of that volume and surface. */
async function expectMeshed(body: Body, tolerance: number): Promise<void> {
  const mesh = body.mesh(tolerance, 2e6);
  const report = inspectMesh(mesh);
  expect(report).deep.include({ openEdges: 0, degenerate: 0 });
  expect(await meshCrossing(mesh, go)).equal(undefined);
  expect(Math.abs(report.volume - body.volume)).below(body.surface * tolerance);
  expect(Math.abs(meshMass(mesh).surface - body.surface)).below(0.05 * body.surface);
  // Normals look the way of their triangles.
  const { positions: p, normals: n, triangles: t } = mesh;
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [t[i]!, t[i + 1]!, t[i + 2]!].map((v) => [p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!]) as [
      number[],
      number[],
      number[],
    ];
    const [u, v] = [b.map((x, k) => x - a[k]!), c.map((x, k) => x - a[k]!)] as [number[], number[]];
    const face = [0, 1, 2].map((k) => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!);
    const at = [t[i]!, t[i + 1]!, t[i + 2]!];
    const shown = [0, 1, 2].map((k) => at.reduce((sum, corner) => sum + n[3 * corner + k]!, 0));
    expect(face.reduce((sum, x, k) => sum + x * shown[k]!, 0)).above(0);
  }
}

/** Surface of an ellipsoid of half axes a > b > c, by Legendre's integrals (Bowman, Introduction to Elliptic Functions). */
function ellipsoidSurface(a: number, b: number, c: number): number {
  const phi = Math.acos(c / a);
  const k = (a * Math.sqrt(b * b - c * c)) / (b * Math.sqrt(a * a - c * c));
  const root = (t: number) => Math.sqrt(1 - (k * Math.sin(t)) ** 2);
  const [first, second] = [(t: number) => 1 / root(t), root].map((f) => integrate(f, 0, phi, 40));
  const share = Math.sin(phi) ** 2;
  return (
    2 * Math.PI * c * c + ((2 * Math.PI * a * b) / Math.sin(phi)) * (second! * share + first! * (1 - share))
  );
}

describe('bodies of plain figures', () => {
  it('a ball has the volume, surface, inertia and extent of one', async () => {
    await fc.assert(
      fc.asyncProperty(evenly(0.5, 80), evenly(-50, 50), async (d, x) => {
        const body = await alone('ball', { diameter: d, originX: x });
        const r = d / 2;
        await body.measured(go);
        near(body.volume, (4 / 3) * Math.PI * r ** 3);
        near(body.surface, 4 * Math.PI * r * r);
        near(centreOfMass(body.mass)[0], x, d);
        for (const one of inertiaOf(body.mass)) near(one, (2 / 5) * body.volume * r * r, r ** 5);
        const [least, most] = body.extent;
        near(least[0], x - r, d);
        near(most[2], r, d);
        await expectMeshed(body, d / 400);
      }),
      { numRuns: runs(8) },
    );
  });

  it('a cylinder whose rims are rounded or chamfered, with a bore too', async () => {
    await fc.assert(
      fc.asyncProperty(evenly(8, 40), evenly(0.3, 0.6), evenly(0.05, 0.2), async (R, bored, part) => {
        const [b, h] = [bored * R, 1.2 * R];
        const e = part * (R - b);
        // What a rim lacks, and how far from the edge its middle lies (Pappus).
        const lacks = { rounded: e * e * (1 - Math.PI / 4), chamfered: (e * e) / 2 };
        const off = { rounded: (e * (10 - 3 * Math.PI)) / (12 - 3 * Math.PI), chamfered: e / 3 };
        for (const edges of ['rounded', 'chamfered'] as const) {
          const turned = 4 * Math.PI * lacks[edges];
          const solid = await alone('cylinder', { diameter: 2 * R, height: h, edge: e, edges });
          near(solid.volume, Math.PI * R * R * h - turned * (R - off[edges]));
          const sleeve = await alone('cylinder', { diameter: 2 * R, bore: 2 * b, height: h, edge: e, edges });
          await sleeve.measured(go);
          near(
            sleeve.volume,
            Math.PI * (R * R - b * b) * h - turned * (R - off[edges]) - turned * (b + off[edges]),
          );
          near(sleeve.extent[1][0], R);
          await expectMeshed(sleeve, R / 150);
        }
      }),
      { numRuns: runs(5) },
    );
  });

  it('a cylinder with a bore, a cone cut off, a ring, and a block too', async () => {
    await fc.assert(
      fc.asyncProperty(evenly(2, 60), evenly(0.1, 0.9), evenly(1, 70), async (d, part, h) => {
        const [r, b] = [d / 2, (part * d) / 2];
        const cylinder = await alone('cylinder', { diameter: d, bore: 2 * b, height: h });
        await cylinder.measured(go);
        const area = Math.PI * (r * r - b * b);
        near(cylinder.volume, area * h);
        near(cylinder.surface, 2 * area + 2 * Math.PI * (r + b) * h);
        near(inertiaOf(cylinder.mass)[2], (cylinder.volume * (r * r + b * b)) / 2);
        near(cylinder.extent[1][2], h);
        await expectMeshed(cylinder, d / 300);

        const cone = await alone('cone', { diameter: d, top: 2 * b, height: h });
        await cone.measured(go);
        near(cone.volume, (Math.PI * h * (r * r + r * b + b * b)) / 3);
        near(cone.surface, Math.PI * (r * r + b * b + (r + b) * Math.hypot(h, r - b)));
        await expectMeshed(cone, d / 300);

        const ring = await alone('ring', { inner: d, thickness: 2 * b });
        await ring.measured(go);
        near(ring.volume, 2 * Math.PI ** 2 * (r + b) * b * b);
        near(ring.surface, 4 * Math.PI ** 2 * (r + b) * b);
        near(ring.extent[0][0], -(r + 2 * b));
        await expectMeshed(ring, d / 300);

        const block = await alone('block', { width: d, depth: 2 * b, height: h });
        await block.measured(go);
        near(block.volume, d * 2 * b * h);
        near(block.surface, 2 * (d * 2 * b + d * h + 2 * b * h));
        near(block.extent[1][0], r, d);
        await expectMeshed(block, d / 300);
      }),
      { numRuns: runs(6) },
    );
  });

  it('between two points they are as high as those are apart, and stand on the first', async () => {
    const points = { placing: 'points', originX: 3, originY: 4, originZ: 0, toX: 3, toY: 4, toZ: -12 };
    for (const [kind, area] of [
      ['cylinder', Math.PI * 100],
      ['cone', (Math.PI * 100) / 3],
      ['block', 600],
    ] as const) {
      const body = await alone(kind, points);
      await body.measured(go);
      near(body.volume, 12 * area);
      near(body.extent[0][2], -12);
      near(body.extent[1][2], 0, 1);
    }
  });

  it('a pointed cone ends in one point, upright and upside down', async () => {
    for (const set of [
      { diameter: 20, top: 0 },
      { diameter: 0, top: 20 },
    ]) {
      const cone = await alone('cone', { ...set, height: 30 });
      near(cone.volume, (Math.PI * 100 * 30) / 3);
      await expectMeshed(cone, 0.05);
    }
  });
});

/** A section turned, beside a further path where one is given. */
function turnedDesign(
  section: string,
  set: Record<string, string>,
  turn: Record<string, number | string>,
  outline?: Record<string, string>,
): Design {
  const design = emptyDesign('Turned');
  addStep(design, section, 0, set);
  if (outline) addStep(design, 'loop', 1, outline);
  const id = addStep(design, 'turn', design.steps.length, texts(turn));
  if (outline) setInput(design, id, 'outline', 'loop');
  return design;
}
const turnedOf = async (...of: Parameters<typeof turnedDesign>): Promise<Body> => {
  const body = (await valueOf(turnedDesign(...of), 'turn')) as Body;
  await body.measured(go);
  return body;
};

describe('turned bodies', () => {
  it('a part of a turn of a rectangle: Pappus, both faces, and how far it reaches', async () => {
    await fc.assert(
      fc.asyncProperty(
        evenly(1, 20),
        evenly(1, 20),
        evenly(0, 30),
        evenly(5, 355),
        async (w, h, gap, deg) => {
          const away = gap + w / 2;
          const body = await turnedOf(
            'rectangle',
            { width: `${w} mm`, height: `${h} mm`, radius: '0 mm' },
            { away, angle: `${deg} deg` },
          );
          const turn = (deg * Math.PI) / 180;
          near(body.volume, w * h * away * turn);
          const around = 2 * (w + h) * away;
          near(body.surface, around * turn + 2 * w * h);
          const far = away + w / 2;
          // ∬ x² dA over the rectangle, and the arc's own centre.
          const second = (h * (far ** 3 - (away - w / 2) ** 3)) / 3;
          const centre = centreOfMass(body.mass);
          near(centre[0] * body.volume, second * Math.sin(turn), second);
          near(centre[1] * body.volume, second * (1 - Math.cos(turn)), second);
          const reach = (k: (a: number) => number) =>
            Math.max(
              ...Array.from({ length: 7201 }, (_x, i) => k((turn * i) / 7200)).flatMap((x) => [
                x * far,
                x * gap,
              ]),
            );
          near(body.extent[1][0], reach(Math.cos), far, 1e-6);
          near(body.extent[1][1], reach(Math.sin), far, 1e-6);
          near(
            -body.extent[0][0],
            reach((a) => -Math.cos(a)),
            far,
            1e-6,
          );
          await expectMeshed(body, far / 300);
        },
      ),
      { numRuns: runs(12) },
    );
  });

  it('a tube turned is hollow', async () => {
    const body = await turnedOf('tube', { outer: '8 mm', wall: '1 mm' }, { away: 20, angle: '360 deg' });
    near(body.volume, Math.PI * (16 - 9) * 2 * Math.PI * 20);
    await expectMeshed(body, 0.05);
  });

  it('a rectangle carried round an outline is a prism of it', async () => {
    for (const outline of [
      { shape: 'star', sides: '5', size: '50 mm', valley: '0.6', radius: '2 mm', valleyRadius: '2 mm' },
      { shape: 'polygon', sides: '6', size: '40 mm', radius: '0 mm' },
      { shape: 'ellipse', size: '60 mm', ratio: '0.5' },
    ]) {
      const design = turnedDesign(
        'rectangle',
        { width: '20 mm', height: '12 mm', radius: '0 mm' },
        { away: 10 },
        outline,
      );
      const body = (await valueOf(design, 'turn')) as Body;
      await body.measured(go);
      addStep(design, 'outline', 2);
      setInput(design, 'outline', 'path', 'loop');
      design.steps.find(({ id }) => id === 'outline')!.rows = { points: [], bores: [] };
      const face = (await valueOf(design, 'outline')) as unknown as { area: number; perimeter: number };
      near(body.volume, face.area * 12);
      near(body.surface, 2 * face.area + face.perimeter * 12, body.surface, 1e-7);
      await expectMeshed(body, 0.05);
    }
  });

  it('a half disc carried round an ellipse is an ellipsoid, in volume, surface, inertia and extent', async () => {
    const design = emptyDesign('Ellipsoid');
    addStep(design, 'outline', 0);
    design.steps[0]!.rows = {
      points: [
        { x: '0 mm', y: '-10 mm', arc: '10 mm' },
        { x: '0 mm', y: '10 mm' },
      ],
      bores: [],
    };
    addStep(design, 'loop', 1, { shape: 'ellipse', size: '40 mm', ratio: '0.4' });
    addStep(design, 'turn', 2, { away: '0 mm' });
    setInput(design, 'turn', 'outline', 'loop');
    const body = (await valueOf(design, 'turn')) as Body;
    await body.measured(go);
    const [a, b, c] = [20, 8, 10];
    near(body.volume, (4 / 3) * Math.PI * a * b * c);
    near(body.surface, ellipsoidSurface(a, c, b));
    near(inertiaOf(body.mass)[2], (body.volume * (a * a + b * b)) / 5);
    near(body.extent[1][0], a);
    near(body.extent[1][1], b, a);
    near(body.extent[0][2], -c);
    await expectMeshed(body, 0.05);
  });

  it('is bounded closely: by eight sides where it goes once round, by the box of what is left of it where not', async () => {
    for (const [by, past] of [
      ['360 deg', 1 / Math.cos(Math.PI / 8)],
      ['90 deg', Math.SQRT2],
    ] as const) {
      const body = (await valueOf(
        turnedDesign('round', { diameter: '10 mm' }, { away: 15, angle: by }),
        'turn',
      )) as Body;
      const bounds = roughBounds(body);
      const [low, high] = boxAbout(bounds);
      const [least, most] = body.extent;
      for (const k of [0, 1, 2] as const) {
        near(low[k], least[k], 20);
        near(high[k], most[k], 20);
      }
      const farthest = Math.max(...bounds.map(({ at }) => Math.hypot(at[0], at[1])));
      near(farthest, 20 * past, 20, 1e-9);
      expect(
        body.mesh(0.1, 100_000).positions.every((x, i, p) => i % 3 || Math.hypot(x, p[i + 1]!) <= farthest),
      ).equal(true);
    }
  });

  it('says what reaches over the axis, and which outline cannot be followed', async () => {
    const over = turnedDesign('round', { diameter: '10 mm' }, { away: 3 });
    expect((await complaintsOf(over, 'turn')).away).match(/reaches 2 mm over the axis/);
    const aside = turnedDesign(
      'round',
      { diameter: '10 mm' },
      { away: 9 },
      { shape: 'circle', size: '20 mm', originX: '40 mm' },
    );
    expect((await complaintsOf(aside, 'turn')).outline).match(/centre it/);
  });
});
