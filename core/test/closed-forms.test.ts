import type { SweptBody } from '../src/sweep/body';
import { expect } from 'chai';
import fc from 'fast-check';
import { centreOfMass, inertiaOf } from '../src/geometry/mass';
import { type Carried, bodyDesign, carried, near, points, straight } from './bodies';
import { figureOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

/* Bodies whose figures stand in books: volume, surface, centre of mass and moments of inertia, of unit density. */

interface Known {
  readonly volume: number;
  readonly surface: number;
  readonly centre: readonly [number, number, number];
  /** About axes through the centre of mass: the one along z, and the sum of the other two. */
  readonly along: number;
  readonly across: number;
}

function expectKnown(body: SweptBody, { volume, surface, centre, along, across }: Known): void {
  near(body.volume, volume);
  near(body.surface, surface, 1e-8);
  const [low, high] = body.extent;
  const size = Math.max(...high.map((x, k) => x - low[k]!));
  centreOfMass(body.mass).forEach((x, k) => expect(x).closeTo(centre[k]!, 1e-9 * size));
  const [x, y, z] = inertiaOf(body.mass);
  near(z, along, 1e-8);
  near(x + y, across, 1e-8);
}

const given = (figures: Record<string, number>): Record<string, string> =>
  Object.fromEntries(Object.entries(figures).map(([name, value]) => [name, `${value} mm`]));
const round = (r: number): Carried['section'] => ({ kind: 'round', set: given({ diameter: 2 * r }) });

/** Anything of even section straight up: from its area, perimeter and polar second moment. */
const bar = (area: number, perimeter: number, polar: number, h: number): Known => ({
  volume: area * h,
  surface: perimeter * h + 2 * area,
  centre: [0, 0, h / 2],
  along: polar * h,
  across: polar * h + (area * h ** 3) / 6,
});

/** One property over a few random figures. */
const always = <T extends unknown[]>(
  figures: { [K in keyof T]: fc.Arbitrary<T[K]> },
  holds: (...values: T) => Promise<void>,
): Promise<void> =>
  fc.assert(
    fc.asyncProperty(fc.tuple<T>(...figures), (values) => holds(...values)),
    { numRuns: runs(25) },
  );

describe('bodies in closed form', () => {
  it('rods and tubes', () =>
    always([evenly(0.5, 20), evenly(0.05, 0.9), evenly(1, 90)], async (r, part, h) => {
      const rod = await carried({ path: straight(h), section: round(r) });
      expectKnown(rod, bar(Math.PI * r * r, 2 * Math.PI * r, (Math.PI * r ** 4) / 2, h));
      const bore = Number((r * (1 - part)).toFixed(6));
      const tube = await carried({
        path: straight(h),
        section: { kind: 'tube', set: given({ outer: 2 * r, wall: r - bore }) },
      });
      expectKnown(
        tube,
        bar(
          Math.PI * (r * r - bore * bore),
          2 * Math.PI * (r + bore),
          (Math.PI * (r ** 4 - bore ** 4)) / 2,
          h,
        ),
      );
    }));

  it('bars of rectangle, of ellipse by its area and moment, of any regular polygon', () =>
    always(
      [evenly(1, 20), evenly(1, 20), evenly(1, 60), fc.integer({ min: 3, max: 12 })],
      async (w, t, h, n) => {
        const box = await carried({
          path: straight(h),
          section: { kind: 'rectangle', set: given({ width: w, height: t, radius: 0 }) },
        });
        expectKnown(box, bar(w * t, 2 * (w + t), (w * t * (w * w + t * t)) / 12, h));
        const oval = await carried({
          path: straight(h),
          section: { kind: 'ellipse', set: given({ width: w, height: t }) },
        });
        near(oval.volume, (Math.PI / 4) * w * t * h);
        near(inertiaOf(oval.mass)[2], ((Math.PI / 4) * w * t * h * (w * w + t * t)) / 16, 1e-8);
        // Triangles from the middle to each side, R across a corner.
        const [R, half] = [w / 2, Math.PI / n];
        const [side, flat] = [2 * R * Math.sin(half), R * Math.cos(half)];
        const area = (n * side * flat) / 2;
        const prism = await carried({
          path: straight(h),
          section: {
            kind: 'polygon',
            set: { sides: String(n), size: `${w} mm`, across: 'corners', radius: '0 mm' },
          },
        });
        expectKnown(prism, bar(area, n * side, area * (flat ** 2 / 2 + side ** 2 / 24), h));
      },
    ));

  it('rings: of wire a torus, of strip a hollow cylinder', () =>
    always([evenly(10, 60), evenly(0.5, 8), evenly(0.5, 8)], async (R, r, t) => {
      const loop: Carried['path'] = { kind: 'loop', set: given({ size: 2 * R }) };
      const torus = await carried({ path: loop, section: round(r) });
      const m = 2 * Math.PI ** 2 * R * r * r;
      expectKnown(torus, {
        volume: m,
        surface: 4 * Math.PI ** 2 * R * r,
        centre: [0, 0, 0],
        along: m * (R * R + 0.75 * r * r),
        across: 2 * m * ((R * R) / 2 + 0.625 * r * r),
      });
      expect(torus.extent[1][2]).closeTo(r, 1e-9);
      expect(torus.extent[0][1]).closeTo(-R - r, 1e-7);

      const band = await carried({
        path: loop,
        section: { kind: 'rectangle', set: given({ width: r, height: t, radius: 0 }) },
      });
      // Which side lies along the radius is the frame's to say.
      const tall = 2 * band.extent[1][2];
      const thick = r + t - tall;
      const [out, inner] = [R + thick / 2, R - thick / 2];
      const M = 2 * Math.PI * R * r * t;
      expectKnown(band, {
        volume: M,
        surface: 2 * Math.PI * (out + inner) * tall + 2 * Math.PI * (out * out - inner * inner),
        centre: [0, 0, 0],
        along: (M * (out * out + inner * inner)) / 2,
        across: (M * (3 * (out * out + inner * inner) + tall * tall)) / 6,
      });
    }));

  it('coils: about their axis by the disk of the wire, which is nearer to it on its inner side', () =>
    always(
      [evenly(8, 40), evenly(0.3, 2), fc.integer({ min: 1, max: 6 }), evenly(5, 12)],
      async (R, r, turns, pitch) => {
        const body = await carried({
          path: {
            kind: 'helix',
            set: { ...given({ diameter: 2 * R, pitch }), turns: String(turns) },
            without: ['height'],
          },
          section: round(r),
        });
        const c = pitch / (2 * Math.PI);
        const square = R * R + c * c;
        const m = Math.PI * r * r * 2 * Math.PI * turns * Math.sqrt(square);
        near(body.volume, m);
        near(body.surface, 2 * Math.PI * r * (m / (Math.PI * r * r)) + 2 * Math.PI * r * r, 1e-8);
        // Curvature R/(R² + c²); the disk leans out of the level by the pitch angle, sin² = c²/(R² + c²).
        const { second } = body.mass;
        near(
          second[0] + second[1],
          m * (R * R + (r * r * (1 + (2 * R * R) / square + (c * c) / square)) / 4),
          1e-8,
        );
        expect(centreOfMass(body.mass)[2]).closeTo((turns * pitch) / 2, 1e-8);
      },
    ));

  it('tapers: a frustum has the moments of one', () =>
    always([evenly(2, 15), evenly(0.2, 0.95), evenly(5, 60)], async (R, part, h) => {
      const body = await carried({
        path: straight(h),
        section: round(R),
        sweep: { size: 'taper', endScale: String(part), sizeRun: 'linear' },
      });
      const r = R * part;
      const m = (Math.PI * h * (R * R + R * r + r * r)) / 3;
      const z = (h * (R * R + 2 * R * r + 3 * r * r)) / (4 * (R * R + R * r + r * r));
      // ∫ π ρ⁴/4 + π ρ² x² dx by Simpson's rule on thirds of thirds: ρ is linear, the sum of the fourth degree.
      let about = 0;
      const n = 600;
      for (let i = 0; i <= n; i++) {
        const x = (h * i) / n;
        const rho = R + ((r - R) * i) / n;
        const weight = i === 0 || i === n ? 1 : i % 2 ? 4 : 2;
        about += (weight * (h / n) * ((Math.PI * rho ** 4) / 2 + 2 * Math.PI * rho * rho * x * x)) / 3;
      }
      expectKnown(body, {
        volume: m,
        surface: Math.PI * (R + r) * Math.hypot(h, R - r) + Math.PI * (R * R + r * r),
        centre: [0, 0, z],
        along: (3 * m * (R ** 5 - r ** 5)) / (10 * (R ** 3 - r ** 3)),
        across: about - 2 * m * z * z,
      });
    }));

  it('a twist leaves a bar its moment about its axis, and the sum of those across it', () =>
    always([evenly(2, 9), evenly(2, 9), evenly(20, 80), evenly(-400, 400)], async (w, t, h, twist) => {
      const body = await carried({
        path: straight(h),
        section: { kind: 'rectangle', set: given({ width: w, height: t, radius: 0 }) },
        sweep: { twistBy: 'total', twist: `${twist} deg` },
      });
      const [x, y, z] = inertiaOf(body.mass);
      const known = bar(w * t, 0, (w * t * (w * w + t * t)) / 12, h);
      near(body.volume, known.volume);
      near(z, known.along, 1e-8);
      near(x + y, known.across, 1e-8);
    }));

  it('a rod with round ends is a cylinder and a ball', () =>
    always([evenly(1, 10), evenly(5, 60)], async (r, h) => {
      const body = await carried({
        path: straight(h),
        section: round(r),
        sweep: { startShape: 'domed', endShape: 'domed', ...given({ startSize: r, endSize: r }) },
      });
      const [rod, ball] = [Math.PI * r * r * h, (4 / 3) * Math.PI * r ** 3];
      near(body.volume, rod + ball);
      near(body.surface, 2 * Math.PI * r * h + 4 * Math.PI * r * r, 1e-8);
      near(inertiaOf(body.mass)[2], (rod * r * r) / 2 + 0.4 * ball * r * r, 1e-8);
      expect(body.extent[1][2] - body.extent[0][2]).closeTo(h + 2 * r, 1e-8);
    }));

  it('a bent pipe: its legs, and a bend whose centre of mass lies outside its centre line', () =>
    always([evenly(8, 20), evenly(1, 6), evenly(30, 60), evenly(30, 60)], async (R, r, a, b) => {
      const body = await carried({
        path: {
          kind: 'run',
          set: { corners: 'bent', ...given({ radius: R }) },
          rows: { points: points([0, 0, 0], [a, 0, 0], [a, b, 0]) },
        },
        section: round(r),
      });
      const disk = Math.PI * r * r;
      const bend = (disk * Math.PI * R) / 2;
      // Of a quarter of a torus, either way from its middle: ∫(ρ cos φ)(ρ dA dφ) = A (R² + r²/4).
      const off = (disk * (R * R + (r * r) / 4)) / bend;
      const parts = [
        { volume: disk * (a - R), x: (a - R) / 2, y: 0 },
        { volume: bend, x: a - R + off, y: R - off },
        { volume: disk * (b - R), x: a, y: (b + R) / 2 },
      ];
      const whole = parts.reduce((sum, { volume }) => sum + volume, 0);
      const mean = (of: (part: (typeof parts)[number]) => number) =>
        parts.reduce((sum, part) => sum + part.volume * of(part), 0) / whole;
      near(body.volume, whole);
      const centre = centreOfMass(body.mass);
      expect(centre[0]).closeTo(
        mean(({ x }) => x),
        1e-7,
      );
      expect(centre[1]).closeTo(
        mean(({ y }) => y),
        1e-7,
      );
    }));

  it('mass is volume by density, whatever the unit of the sheet', async () => {
    const design = bodyDesign({ path: straight(100), section: round(5), sweep: { material: 'copper' } });
    const mass = await figureOf(design, 'sweep', 'mass');
    near(mass, Math.PI * 25 * 100 * 8.96e-3, 1e-2);
    design.unit = 'in';
    expect(await figureOf(design, 'sweep', 'mass')).equal(mass);
  });
});

describe('a section on a plane path', () => {
  it('tells how far it reaches in the plane and across it, and changes both by a quarter turn', async () => {
    const spiral: Carried['path'] = { kind: 'spiral', set: { inner: '20 mm', outer: '60 mm', turns: '4' } };
    const section: Carried['section'] = { kind: 'rectangle', set: { width: '3 mm', height: '1 mm' } };
    const sides = async (set: Record<string, string>) => {
      const design = bodyDesign({ path: spiral, section, sweep: set });
      return [await figureOf(design, 'sweep', 'inPlane'), await figureOf(design, 'sweep', 'acrossPlane')];
    };
    const [within, across] = await sides({});
    expect([within, across].sort()).deep.equal([1, 3]);
    expect(await sides({ turned: '90 deg' })).deep.equal([across, within]);
    await figureOf(
      bodyDesign({ path: spiral, section, sweep: { turned: '30 deg' } }),
      'sweep',
      'inPlane',
    ).then(
      () => expect.fail('neither in the plane nor across it'),
      () => undefined,
    );
  });
});
