import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import fc from 'fast-check';
import type { SweptBody } from '../src/sweep/body';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { readDesign } from '../src/exchange/design-json';
import { partFile } from '../src/exchange/files';
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../src/geometry/vector';
import { sayWords } from '../src/measure/format';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import { meshMass } from '../src/mesh/data/mass';
import type { Mesh } from '../src/mesh/data/mesh';
import type { CombinedBody } from '../src/solid/body/body';
import { placedBody } from '../src/solid/body/placed';
import { combinedBody } from '../src/solid/combine/combined';
import type { Operation } from '../src/solid/kernel/volumes';
import { carried, points } from './bodies';
import { evenly } from './numbers';
import { inLong, runs } from './runs';

const go = async () => {};

const bar = (from: Vec3, to: Vec3, section: Parameters<typeof carried>[0]['section']) =>
  carried({ path: { kind: 'run', rows: { points: points([...from], [...to]) } }, section });
const rod = (from: Vec3, to: Vec3, diameter: number) =>
  bar(from, to, { kind: 'round', set: { diameter: `${diameter} mm` } });
const block = (from: Vec3, to: Vec3, side: number) =>
  bar(from, to, { kind: 'rectangle', set: { width: `${side} mm`, height: `${side} mm`, radius: '0 mm' } });

async function made(operation: Operation, ...bodies: (SweptBody | CombinedBody)[]): Promise<CombinedBody> {
  const body = combinedBody(operation, bodies);
  await body.measured(go);
  return body;
}

/** Closed, oriented, not running through itself, and of about that volume. */
async function expectSound(body: CombinedBody, volume: number, tolerance = 0.02): Promise<Mesh> {
  const mesh = await body.solid(tolerance, go);
  const report = inspectMesh(mesh);
  expect(report).deep.include({ openEdges: 0, degenerate: 0 });
  expect(await meshCrossing(mesh, go)).equal(undefined);
  expect(Math.abs(report.volume - volume)).below(meshMass(mesh).surface * tolerance);
  return mesh;
}

describe('combined bodies', () => {
  const r = 5;
  const x = () => rod([-12, 0, 0], [12, 0, 0], 2 * r);
  const y = () => rod([0, -12, 0], [0, 12, 0], 2 * r);
  // Of two equal cylinders that cross square: Archimedes.
  const shared = (16 * r ** 3) / 3;

  it('common to two rods that cross is what Archimedes says, in volume and surface', async () => {
    const body = await made('common', await x(), await y());
    await expectSound(body, shared);
    expect(body.within.volume).below(2e-3 * shared);
    expect(Math.abs(body.volume - shared)).below(body.within.volume);
    expect(Math.abs(body.surface - 16 * r * r)).below(body.within.surface);
    for (const k of [0, 1, 2]) expect(body.extent[1][k]).closeTo(r, body.within.extent);
  });

  it('added and taken away they agree with inclusion and exclusion', async () => {
    const each = Math.PI * r * r * 24;
    const added = await made('add', await x(), await y());
    await expectSound(added, 2 * each - shared);
    expect(Math.abs(added.volume - (2 * each - shared))).below(added.within.volume);
    expect(added.parts).equal(1);
    const cut = await made('subtract', await x(), await y());
    await expectSound(cut, each - shared);
    expect(Math.abs(cut.volume - (each - shared))).below(cut.within.volume);
    expect(cut.parts).equal(2);
  });

  it('tells how far its figures may be off, whatever the bore', async () => {
    // Of two cylinders that cross square, the thinner wholly within the thicker: the shared volume by quadrature.
    const sharedBy = (R: number, q: number): number => {
      const n = 20_000;
      let sum = 0;
      for (let i = 0; i < n; i++) {
        // By the angle, so that the root at the rim is smooth: h = q sin a.
        const a = -Math.PI / 2 + (Math.PI * (i + 0.5)) / n;
        sum += 4 * Math.sqrt(R * R - (q * Math.sin(a)) ** 2) * q * q * Math.cos(a) ** 2;
      }
      return (sum * Math.PI) / n;
    };
    expect(sharedBy(r, r)).closeTo(shared, 1e-5);
    await fc.assert(
      fc.asyncProperty(evenly(2, 9), evenly(0.2, 0.95), evenly(20, 40), async (R, part, long) => {
        const q = R * part;
        const body = await made(
          'subtract',
          await rod([-long / 2, 0, 0], [long / 2, 0, 0], 2 * R),
          await rod([0, -20, 0], [0, 20, 0], 2 * q),
        );
        const exact = Math.PI * R * R * long - sharedBy(R, q);
        expect(Math.abs(body.volume - exact)).below(body.within.volume);
        expect(body.within.volume).below(3e-3 * exact);
      }),
      { numRuns: runs(20) },
    );
  });

  it('a bore whose ends are flush with the faces leaves no skin behind', async () => {
    const body = await made(
      'subtract',
      await block([0, 0, 0], [0, 0, 20], 16),
      await rod([0, 0, 0], [0, 0, 20], 6),
    );
    const mesh = await expectSound(body, 16 * 16 * 20 - Math.PI * 9 * 20);
    expect(inspectMesh(mesh).euler).equal(0);
    // Of nothing but planes and one cylinder: the mass is on the axis, halfway up.
    const [cx, cy, cz] = body.mass.first.map((one) => one / body.volume) as [number, number, number];
    expect(Math.hypot(cx, cy)).below(1e-4);
    expect(cz).closeTo(10, 1e-4);
    const [xx, yy, zz, xy] = body.mass.second;
    const across = 20 * (16 ** 4 / 12 - (Math.PI * 3 ** 4) / 4);
    expect(xx).closeTo(across, 1e-4 * across);
    expect(yy).closeTo(across, 1e-4 * across);
    expect(zz).closeTo((20 ** 3 / 3) * (256 - 9 * Math.PI), 1);
    expect(xy).closeTo(0, 1);
  });

  it('added they reach as far as their parts, wherever they are moved', async () => {
    const both = await made(
      'add',
      await rod([0, 0, 0], [0, 0, 20], 10),
      await rod([30, 0, 0], [30, 0, 40], 6),
    );
    // A third of a turn about x = y = z takes x to y, y to z and z to x.
    const placed = placedBody(both, { origin: [1, 2, 3], ex: [0, 1, 0], ey: [0, 0, 1], ez: [1, 0, 0] });
    const [least, most] = placed.extent;
    [1, -5 + 2, -5 + 3].forEach((x, k) => expect(least[k]).closeTo(x, 1e-9));
    [41, 33 + 2, 5 + 3].forEach((x, k) => expect(most[k]).closeTo(x, 1e-9));
  });

  it('blocks whose faces coincide become one', async () => {
    const body = await made(
      'add',
      await block([0, 0, 0], [0, 0, 10], 8),
      await block([0, 0, 10], [0, 0, 25], 8),
    );
    const mesh = await expectSound(body, 64 * 25);
    expect(body.parts).equal(1);
    expect(inspectMesh(mesh).euler).equal(2);
    expect(body.volume).closeTo(64 * 25, 1e-3);
    expect(body.surface).closeTo(2 * 64 + 4 * 8 * 25, 1e-2);
  });

  it('ends that are flush leave no skin however they lie in space', async () => {
    const way = fc.tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1)).filter((v) => Math.hypot(...v) > 0.3);
    await fc.assert(
      fc.asyncProperty(
        way,
        evenly(8, 12),
        evenly(2, 5),
        evenly(0.01, 0.05),
        async (v, side, bore, tolerance) => {
          const at = (s: number): Vec3 => [5 + s * v[0], -3 + s * v[1], s * v[2]];
          const long = 20 * Math.hypot(...v);
          const bored = await made(
            'subtract',
            await block(at(0), at(20), side),
            await rod(at(0), at(20), bore),
          );
          const hole = (Math.PI * bore * bore) / 4;
          expect(bored.parts).equal(1);
          expect(inspectMesh(await expectSound(bored, (side * side - hole) * long, tolerance)).euler).equal(
            0,
          );
          const joined = await made('add', await block(at(0), at(20), side), await rod(at(20), at(30), bore));
          expect(joined.parts).equal(1);
          await expectSound(joined, side * side * long + (hole * long) / 2, tolerance);
        },
      ),
      { numRuns: runs(25) },
    );
  });

  it('each triangle keeps the body it came from, and its normals those of that body', async () => {
    const body = await made(
      'subtract',
      await block([0, 0, -10], [0, 0, 10], 20),
      await rod([-20, 0, 0], [20, 0, 0], 8),
    );
    const { positions, normals, triangles, groups } = await body.solid(0.01, go);
    expect(groups.reduce((sum, { count }) => sum + count, 0)).equal(triangles.length / 3);
    expect(new Set(groups.map(({ leaf }) => leaf))).deep.equal(new Set([0, 1]));
    for (const { leaf, first, count } of groups)
      for (let k = 3 * first; k < 3 * (first + count); k++) {
        const v = 3 * triangles[k]!;
        const [px, py, pz] = [positions[v]!, positions[v + 1]!, positions[v + 2]!];
        const [nx, ny, nz] = [normals[v]!, normals[v + 1]!, normals[v + 2]!];
        if (leaf === 1) {
          expect(Math.hypot(py, pz)).closeTo(4, 0.011);
          // Into the bore, towards its axis.
          expect(-(ny * py + nz * pz) / Math.hypot(py, pz)).above(0.999);
        } else {
          expect(Math.max(Math.abs(px), Math.abs(py), Math.abs(pz))).closeTo(10, 1e-4);
          expect(Math.max(Math.abs(nx), Math.abs(ny), Math.abs(nz))).closeTo(1, 1e-5);
        }
      }
  });

  it('a combination can be combined again, and still knows what it was made of', async () => {
    const cross = await made('add', await x(), await y());
    const bored = await made(
      'subtract',
      cross,
      await rod([-12, 0, 0], [12, 0, 0], 4),
      await rod([0, -12, 0], [0, 12, 0], 4),
    );
    const bores = 2 * Math.PI * 4 * 24 - (16 * 8) / 3;
    const mesh = await expectSound(bored, 2 * Math.PI * r * r * 24 - shared - bores);
    expect(new Set(mesh.groups!.map(({ leaf }) => leaf))).deep.equal(new Set([0, 1, 2, 3]));
  });

  it('what runs through itself is made clean first', async () => {
    const coil = await carried({
      path: { kind: 'helix', set: { diameter: '30 mm', turns: '2', height: '6 mm' } },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });
    const whole = await made('add', coil, await rod([0, 0, -20], [0, 0, -10], 4));
    expect(whole.parts).equal(2);
    expect(whole.volume).below(0.99 * (coil.volume + Math.PI * 4 * 10));
    expect(await meshCrossing(await whole.solid(0.05, go), go)).equal(undefined);
  });

  it('what runs through itself is measured as it is, at every tolerance', async () => {
    // A wire that crosses itself square, and a plate across one of its legs.
    const wire = await carried({
      path: {
        kind: 'run',
        set: { corners: 'bent', radius: '6 mm' },
        rows: { points: points([0, 0, 0], [40, 0, 0], [40, 30, 0], [20, 30, 0], [20, -20, 0]) },
      },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });
    const left = await made('subtract', wire, await block([4, -9, 0], [4, 9, 0], 6));
    const truth = wire.volume - (16 * 2 ** 3) / 3 - Math.PI * 4 * 6;
    expect(Math.abs(left.volume - truth), `${left.volume} ± ${left.within.volume} for ${truth}`).below(
      left.within.volume,
    );
    expect(left.within.volume).below(5e-3 * truth);
  });
});

/** Times a ray from a point meets a mesh, odd within it (T. Möller and B. Trumbore, 1997). */
function crossings({ positions: p, triangles }: Mesh, from: Vec3, way: Vec3): number {
  let met = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => {
      const v = 3 * triangles[t + k]!;
      return [p[v]!, p[v + 1]!, p[v + 2]!] as const;
    }) as [Vec3, Vec3, Vec3];
    const [e, f] = [sub(b, a), sub(c, a)];
    const h = cross(way, f);
    const det = dot(e, h);
    const s = sub(from, a);
    const u = dot(s, h) / det;
    const q = cross(s, e);
    const v = dot(way, q) / det;
    if (u >= 0 && v >= 0 && u + v <= 1 && dot(f, q) / det > 0) met++;
  }
  return met;
}

describe('the settling manifold', () => {
  inLong('holds no point of its bores and every point of its walls', async () => {
    const file = join(import.meta.dirname, '../../demo/settling-manifold.json');
    const { steps } = await evaluate(readDesign(readFileSync(file, 'utf8')), createCache());
    const body = steps.at(-1)!.value as CombinedBody;
    const tolerance = 0.05;
    const mesh = await body.solid(tolerance, go);
    // Six holes of a flange, beside the axis along x.
    const holes = Array.from({ length: 6 }, (_x, i) => {
      const [y, z] = [24 * Math.cos((i * Math.PI) / 3), 24 * Math.sin((i * Math.PI) / 3)];
      return [[70, y, z], [90, y, z], -Infinity, 2.5] as const;
    });
    // Three tubes, one of them reduced, and the flange, by the figures on the sheet: from, to, outside and bore, and their size.
    const tubes: readonly (readonly [Vec3, Vec3, number, number, ((along: number) => number)?])[] = [
      [[-84, 0, 0], [84, 0, 0], 17, 15.5],
      [[-38, 0, 0], [-38, 0, 52], 11, 9.5],
      [[18, 0, 0], [62, 0, 44], 11, 9.5, (along) => 1 - 0.25 * Math.min(1, Math.max(0, (along - 44) / 10))],
      [[78, 0, 0], [84, 0, 0], 31, -Infinity],
      ...holes,
    ];
    /** How deep a point lies in a cylinder; below 0 it is outside. */
    const depth = (at: Vec3, [from, to, , , size = () => 1]: (typeof tubes)[number], radius: number) => {
      const axis = unit(sub(to, from));
      const along = dot(sub(at, from), axis);
      const off = norm(sub(sub(at, from), scale(axis, along)));
      return Math.min(along, norm(sub(to, from)) - along, radius * size(along) - off);
    };
    let tried = 0;
    fc.assert(
      fc.property(evenly(-90, 90), evenly(-30, 30), evenly(-30, 70), (x, y, z) => {
        const at: Vec3 = [x, y, z];
        const out = Math.max(...tubes.map((tube) => depth(at, tube, tube[2])));
        const bore = Math.max(...tubes.map((tube) => depth(at, tube, tube[3])));
        // On its very surface a chord may have it either way.
        if (Math.min(Math.abs(out), Math.abs(bore)) < 1.5 * tolerance) return;
        tried++;
        const within = out > 0 && bore < 0;
        expect(crossings(mesh, at, unit([0.217, 0.581, 0.783])) % 2 === 1, String(at)).equal(within);
      }),
      { numRuns: runs(4000) },
    );
    expect(tried).above(0.8 * runs(4000));
  });
});

/** A block with a rod through it, combined by a step. */
function boredDesign(kind: string, rodSet: Record<string, string> = {}): Design {
  const design = emptyDesign('Test');
  const path = addStep(design, 'run', 0);
  stepOf(design, path).rows = { points: points([0, 0, 0], [0, 0, 20]) };
  const square = addStep(design, 'rectangle', 1, { width: '16 mm', height: '16 mm', radius: '0 mm' });
  const outer = addStep(design, 'sweep', 2, { material: 'brass' });
  setInput(design, outer, 'path', path);
  setInput(design, outer, 'section', square);
  const round = addStep(design, 'round', 3, { diameter: '6 mm', ...rodSet });
  const inner = addStep(design, 'sweep', 4);
  setInput(design, inner, 'path', path);
  setInput(design, inner, 'section', round);
  addStep(design, kind, 5);
  return design;
}

describe('steps that combine bodies', () => {
  it('take the bodies before them, and tell volume and mass with how far they may be off', async () => {
    const design = boredDesign('subtract');
    const { steps } = await evaluate(design, createCache());
    const { results, complaints } = steps.at(-1)!;
    expect(complaints).deep.equal([]);
    const volume = 16 * 16 * 20 - Math.PI * 9 * 20;
    const found = results.find(({ name }) => name === 'volume')!;
    expect(found.within)
      .above(0)
      .and.below(1e-3 * volume);
    expect(Math.abs(found.value - volume)).below(found.within!);
    const mass = results.find(({ name }) => name === 'mass')!;
    expect(mass.value / found.value).closeTo(8.4 / 1000, 2e-4);
  });

  it('say what is not so: nothing left, several parts, a body that leaves no trace', async () => {
    const cache = createCache();
    const says = async (design: Design) => {
      const { steps } = await evaluate(design, cache);
      const last = steps.at(-1)!;
      if (!last.value) return last.complaints.map((one) => `${one.field}: ${sayWords(one.says, 'mm')}`);
      const { findings } = await checkStep(design.steps.at(-1)!, last, cache);
      return findings.filter(({ level }) => level !== 'good').map((one) => sayWords(one.says, 'mm'));
    };
    expect(await says(boredDesign('subtract'))).deep.equal([]);
    expect(await says(boredDesign('subtract', { diameter: '40 mm' }))).deep.equal([
      'body: Nothing is left of it: make what is taken away smaller, or move it.',
    ]);
    expect(await says(boredDesign('add'))).deep.equal(['Nothing of the surface of body 2 is left']);
    const apart = boredDesign('subtract');
    const other = addStep(apart, 'run', 3);
    stepOf(apart, other).rows = { points: points([50, 0, 0], [50, 0, 20]) };
    setInput(apart, 'sweep-2', 'path', other);
    expect(await says(apart)).deep.equal(['Body 1 of those taken away takes nothing away']);
  });

  it('are not sent out with a skin of no thickness beside them', async () => {
    const design = boredDesign('add');
    const beside = addStep(design, 'run', 3);
    stepOf(design, beside).rows = { points: points([50, 0, 0], [50, 0, 20]) };
    const thin = addStep(design, 'rectangle', 4, { width: '16 mm', height: '0.0005 mm', radius: '0 mm' });
    setInput(design, 'sweep-2', 'path', beside);
    setInput(design, 'sweep-2', 'section', thin);
    const cache = createCache();
    const { steps } = await evaluate(design, cache);
    const { findings } = await checkStep(design.steps.at(-1)!, steps.at(-1)!, cache);
    expect(findings.find(({ name }) => name === 'closed')).deep.include({ level: 'fault', blocks: true });
    expect(findings.find(({ name }) => name === 'parts')).deep.include({ value: 1 });
    const refused = await partFile(design, 'stl', go).catch((error: Error) => error.message);
    expect(refused).match(/skins of no thickness/);
  });

  it('go out as a closed solid within the tolerance that was asked for', async () => {
    const design = { ...boredDesign('subtract'), tolerance: '0.01 mm' };
    const { sent } = await partFile(design, 'stl', go);
    expect(sent[0]!.mesh.tolerance).most(0.01 * (1 + 1e-9));
    expect(inspectMesh(sent[0]!.mesh)).deep.include({ openEdges: 0, euler: 0 });
    expect(inspectMesh(sent[0]!.mesh).volume).closeTo(16 * 16 * 20 - Math.PI * 9 * 20, 0.01 * 2500);
  });
});
