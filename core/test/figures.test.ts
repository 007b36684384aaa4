import { expect } from 'chai';
import fc from 'fast-check';
import { inspectMesh, meshVolume } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import { bodyLengthwise } from '../src/view/lengthwise';
import { unit, type Vec3 } from '../src/geometry/vector';
import { centreOfMass, inertiaOf } from '../src/geometry/mass';
import { clipMesh } from '../src/mesh/cut/clip';
import { facesOver } from '../src/mesh/build/faces';
import type { Triangles } from '../src/mesh/data/mesh';
import { CLOSED, LAWS, OPEN, SECTIONS } from './any-body';
import { bodyDesign, straight, carried, near, type Carried, points } from './bodies';
import { boxes } from './boxes';
import { complaintsOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

/** Volume, its first and second moments, and the surface of a mesh, tetrahedron by tetrahedron from the origin. */
function momentsOf({ positions: p, triangles }: Triangles) {
  let [volume, surface] = [0, 0];
  const first = [0, 0, 0];
  const second = [0, 0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => {
      const i = 3 * triangles[t + k]!;
      return [p[i]!, p[i + 1]!, p[i + 2]!] as const;
    }) as [Vec3, Vec3, Vec3];
    const v =
      (a[0] * (b[1] * c[2] - b[2] * c[1]) +
        a[1] * (b[2] * c[0] - b[0] * c[2]) +
        a[2] * (b[0] * c[1] - b[1] * c[0])) /
      6;
    volume += v;
    for (let k = 0; k < 3; k++) {
      const [x, y, z] = [a[k]!, b[k]!, c[k]!];
      first[k]! += (v * (x + y + z)) / 4;
      second[k]! += (v * (x * x + y * y + z * z + x * y + y * z + z * x)) / 10;
    }
    const [u, w] = [
      [b[0] - a[0], b[1] - a[1], b[2] - a[2]],
      [c[0] - a[0], c[1] - a[1], c[2] - a[2]],
    ] as const;
    surface +=
      Math.hypot(
        u[1]! * w[2]! - u[2]! * w[1]!,
        u[2]! * w[0]! - u[0]! * w[2]!,
        u[0]! * w[1]! - u[1]! * w[0]!,
      ) / 2;
  }
  return { volume, surface, first, second };
}

async function expectFigures(what: Carried): Promise<void> {
  const body = await carried(what);
  const mesh = body.mesh(0.01, 600_000);
  const found = momentsOf(mesh);
  const says = JSON.stringify(what);
  const [low, high] = body.extent;
  const size = Math.max(...high.map((x, k) => x - low[k]!));
  expect(Math.abs(found.surface / body.surface - 1), `surface ${says}`).below(0.01);
  const centre = centreOfMass(body.mass);
  for (let k = 0; k < 3; k++) {
    expect(Math.abs(found.first[k]! / found.volume - centre[k]!), `centre ${says}`).below(3e-3 * size);
    let [least, most] = [Infinity, -Infinity];
    for (let i = k; i < mesh.positions.length; i += 3) {
      least = Math.min(least, mesh.positions[i]!);
      most = Math.max(most, mesh.positions[i]!);
    }
    expect(Math.abs(least - low[k]!), `extent ${says}`).below(0.03);
    expect(Math.abs(most - high[k]!), `extent ${says}`).below(0.03);
  }
  const own = found.second.map((x, k) => x - found.first[k]! ** 2 / found.volume);
  const inertia = inertiaOf(body.mass);
  for (let k = 0; k < 3; k++) {
    const of = own.reduce((sum, x, i) => (i === k ? sum : sum + x), 0);
    expect(Math.abs(of - inertia[k]!), `inertia ${says}`).below(0.01 * Math.max(...inertia));
  }
}

describe('exact figures against a fine mesh', () => {
  it('surface, centre of mass, moments of inertia and extent, on open paths under any law', async () => {
    await fc.assert(
      fc.asyncProperty(OPEN, SECTIONS, LAWS, async (path, section, sweep) =>
        expectFigures({ path, section, sweep }),
      ),
      { numRuns: runs(40) },
    );
  });
  it('and on closed ones', async () => {
    await fc.assert(
      fc.asyncProperty(CLOSED, SECTIONS, async (path, section) => expectFigures({ path, section })),
      { numRuns: runs(30) },
    );
  });
  it('also where one corner of the section takes over from another at the furthest place', async () => {
    await expectFigures({
      path: {
        kind: 'helix',
        set: { diameter: '79.279 mm', turns: '1.828', pitch: '18 mm' },
        without: ['height'],
      },
      section: { kind: 'outline', set: {} },
    });
  });
  it('and with a dome, a wall, ground ends', async () => {
    const path = { kind: 'helix', set: { diameter: '50 mm', turns: '1.3', height: '30 mm' } };
    const round = { kind: 'round', set: { diameter: '6 mm' } };
    const tube = { kind: 'tube', set: { outer: '7 mm', wall: '1 mm' } };
    await expectFigures({
      path,
      section: round,
      sweep: { startShape: 'domed', startSize: '4 mm', endShape: 'flush' },
    });
    await expectFigures({
      path,
      section: tube,
      sweep: { startWall: '3 mm', endShape: 'flush', endFlush: '1 mm' },
    });
    await expectFigures({
      path,
      section: { kind: 'rectangle', set: { width: '6 mm', height: '4 mm', radius: '0.5 mm' } },
      sweep: { hold: 'seated', startShape: 'flush', endShape: 'flush' },
    });
  });
  it('counts how fast a section passes into another, also where a plane cuts it: a cone', async () => {
    const cone = {
      path: straight(8),
      section: { kind: 'round', set: { diameter: '4 mm' } },
      into: { kind: 'round', set: { diameter: '12 mm' } },
    };
    const sweep = { intoFrom: '0', intoTo: '1', intoRun: 'linear' };
    const whole = await carried({ ...cone, sweep });
    const faces = (r: number) => Math.PI * (4 + r * r);
    near(whole.surface, faces(6) + Math.PI * 8 * Math.hypot(8, 4));
    for (const off of [2, 5]) {
      const cut = await carried({ ...cone, sweep: { ...sweep, endShape: 'flush', endFlush: `${off} mm` } });
      const [h, r] = [8 - off, 6 - off / 2];
      near(cut.surface, faces(r) + Math.PI * (2 + r) * Math.hypot(h, r - 2), 1e-8);
      near(cut.volume, (Math.PI * h * (4 + 2 * r + r * r)) / 3);
    }
  });
  it('and of bars that planes cut aslant at either end, however deep', async () => {
    const part = evenly(0, 1);
    await fc.assert(
      fc.asyncProperty(SECTIONS, LAWS, part, part, part, part, async (section, laws, at, deep, x, y) => {
        const depth = 14 + 20 * deep;
        await expectFigures({
          path: straight(60),
          section,
          sweep: {
            ...laws,
            ...(at > 0.15 && { startShape: 'flush', startFlush: `${(depth * at).toFixed(3)} mm` }),
            ...(at < 0.85 && { endShape: 'flush', endFlush: `${(depth * (1 - at)).toFixed(3)} mm` }),
            ...{ flushX: `${x - 0.5}`, flushY: `${y - 0.5}`, flushZ: '1' },
          },
        });
      }),
      { numRuns: runs(30) },
    );
  });
  it('and where a plane cuts a passage aslant', async () => {
    await expectFigures({
      path: straight(30),
      section: { kind: 'rectangle', set: { width: '5 mm', height: '4 mm', radius: '0.5 mm' } },
      into: { kind: 'round', set: { diameter: '14 mm' } },
      sweep: {
        ...{ intoFrom: '0.2', intoTo: '0.9', intoRun: 'smooth' },
        ...{ endShape: 'flush', endFlush: '9 mm', flushX: '0.3', flushY: '0.2', flushZ: '1' },
      },
    });
  });
});

describe('meshes cut by a plane', () => {
  it('both parts close, and together hold the whole, wherever the plane lies', async () => {
    const direction = fc
      .tuple(...([0, 1, 2].map(() => evenly(-1, 1)) as [never, never, never]))
      .filter((d) => Math.hypot(...(d as number[])) > 0.2)
      .map((d) => unit(d as unknown as Vec3));
    await fc.assert(
      fc.asyncProperty(OPEN, SECTIONS, direction, evenly(0.1, 0.9), async (path, section, normal, part) => {
        const body = await carried({ path, section });
        const mesh = body.mesh(0.1, 60_000);
        const [low, high] = body.extent;
        const point = low.map((x, k) => x + part * (high[k]! - x)) as unknown as Vec3;
        const back: Vec3 = [-normal[0], -normal[1], -normal[2]];
        const parts = [normal, back].map((n) => clipMesh(mesh, { point, normal: n }));
        let sum = 0;
        for (const one of parts) {
          if (!one.triangles.length) continue;
          const report = inspectMesh(one);
          expect(report.openEdges, JSON.stringify({ path, section, normal, part })).equal(0);
          sum += report.volume;
        }
        const whole = meshVolume(mesh.positions, mesh.triangles);
        expect(sum).closeTo(whole, 2e-5 * whole);
      }),
      { numRuns: runs(60) },
    );
  });
});

describe('flat faces', () => {
  it('use every point, also those in line, and have the area of what they fill', () => {
    const square = [0, 0, 1, 0, 2, 0, 3, 0, 3, 3, 2, 3, 0, 3, 0, 1.5];
    const hole = [1, 1, 1, 1.5, 1, 2, 2, 2, 2, 1];
    const faces = facesOver([square, hole], true);
    const all = [...square, ...hole];
    expect(new Set(faces).size).equal(13);
    let area = 0;
    for (let t = 0; t < faces.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => [all[2 * faces[t + k]!]!, all[2 * faces[t + k]! + 1]!] as const);
      const mine = ((b![0] - a![0]) * (c![1] - a![1]) - (b![1] - a![1]) * (c![0] - a![0])) / 2;
      expect(mine).least(0);
      area += mine;
    }
    expect(area).closeTo(8, 1e-12);
    expect(facesOver([square], false).length).equal(3 * 6);
  });
});

describe('a mesh against itself', () => {
  const twoBoxes = (x: number, y: number, z: number) => boxes([0, 0, 0, 1], [x, y, z, 1]);
  const go = async () => {};
  it('finds where it runs through itself, and nothing where it only comes near', async () => {
    const place = await meshCrossing(twoBoxes(0.5, 0.4, 0.3), go);
    expect(place).not.equal(undefined);
    for (const x of place!) expect(x).within(0.29, 1.01);
    expect(await meshCrossing(twoBoxes(1.001, 0.2, 0.1), go)).equal(undefined);
    expect(await meshCrossing(twoBoxes(5, 5, 5), go)).equal(undefined);
  });
});

describe('how a section sits on its path', () => {
  const path: Carried['path'] = {
    kind: 'run',
    rows: {
      points: points([0, 0, 0], [0, 20, 0]),
    },
  };
  const vee: Carried['section'] = { kind: 'vee', set: { depth: '3 mm', between: '60 deg', root: '1 mm' } };
  const at = async (sweep: Record<string, string>) => (await carried({ path, section: vee, sweep })).extent;

  it('by its centroid, by any other of its points, shifted, turned, mirrored', async () => {
    // On a straight along y the first axis is level, along −x, and the second looks up.
    const [low, high] = await at({ by: 'origin' });
    expect([low[0], high[0]].map((x) => Math.round(1e6 * x) / 1e6)).deep.equal([-3, 0]);
    const wide = 0.5 + 3 * Math.tan(Math.PI / 6);
    expect(high[2]).closeTo(wide, 1e-6);
    const middle = await carried({ path, section: vee });
    expect(centreOfMass(middle.mass)[0]).closeTo(0, 1e-9);
    expect(centreOfMass(middle.mass)[2]).closeTo(0, 1e-9);
    expect((await at({ by: 'right' }))[0][0]).closeTo(0, 1e-6);
    expect((await at({ by: 'top' }))[1][2]).closeTo(0, 1e-6);
    expect((await at({ by: 'origin', up: '2 mm' }))[1][2]).closeTo(wide + 2, 1e-6);
    expect((await at({ by: 'origin', right: '1 mm' }))[0][0]).closeTo(-4, 1e-6);
    const turned = await at({ by: 'origin', turned: '90 deg' });
    expect(turned[1][2]).closeTo(3, 1e-6);
    expect((await at({ by: 'origin', mirrored: 'yes' }))[1][0]).closeTo(3, 1e-6);
  });

  it('by any of its corners, as it stood before it was rounded, and the path passes through it', async () => {
    const corners = [
      [3, 2],
      [-3, 2],
      [-3, -2],
      [3, -2],
    ] as const;
    for (const [i, [x, y]] of corners.entries())
      for (const mirrored of ['no', 'yes'])
        for (const radius of ['0 mm', '0.7 mm']) {
          const body = await carried({
            path,
            section: { kind: 'rectangle', set: { width: '6 mm', height: '4 mm', radius } },
            sweep: { by: 'corner', byCorner: String(i + 1), mirrored },
          });
          const right = mirrored === 'yes' ? -x : x;
          const [low, high] = body.extent;
          expect(low[0]).closeTo(right - 3, 1e-6);
          expect(high[0]).closeTo(right + 3, 1e-6);
          expect(low[2]).closeTo(-y - 2, 1e-6);
          // Carried round a circle it holds what its centroid sweeps over: Pappus, with a closed form of its own.
          const ring = await carried({
            path: { kind: 'loop', set: { size: '60 mm' } },
            section: { kind: 'rectangle', set: { width: '6 mm', height: '4 mm', radius } },
            sweep: { by: 'corner', byCorner: String(i + 1), mirrored, hold: 'facing' },
          });
          // Faced upwards the section's own up looks outward.
          near(ring.volume, ring.section.area * 2 * Math.PI * (30 - y), 1e-9);
        }
  });

  it('refuses a corner there is not, at its figure', async () => {
    const of = (section: Carried['section'], byCorner: string) =>
      complaintsOf(bodyDesign({ path, section, sweep: { by: 'corner', byCorner } }), 'sweep');
    expect((await of({ kind: 'polygon', set: { sides: '5' } }, '6')).byCorner).match(/has 5 corners/);
    expect((await of({ kind: 'polygon', set: { sides: '5' } }, '1.5')).byCorner).match(/has 5 corners/);
    expect((await of({ kind: 'round' }, '1')).by).match(/no corners/);
    expect(await of({ kind: 'outline' }, '5')).deep.equal({});
  });
});

describe('charts of a body', () => {
  it('show size and twist along it, and their stations as points to pull', async () => {
    const body = await carried({
      path: straight(80),
      section: { kind: 'rectangle', set: { width: '6 mm', height: '3 mm' } },
      sweep: { size: 'stations', twistBy: 'stations', twistRun: 'linear' },
      rows: {
        sizes: [
          { part: '0', width: '6 mm' },
          { along: '20 mm', width: '9 mm' },
          { part: '1', width: '6 mm' },
        ],
        twists: [
          { part: '0', angle: '0 deg' },
          { part: '1', angle: '90 deg' },
        ],
      },
    });
    const { channels, handles, s } = bodyLengthwise(body);
    const named = (name: string) => channels.find((channel) => channel.name === name)!.values;
    expect(
      handles.map(({ channel, field, s: at, value }) => [channel, field, at, Number(value.toFixed(6))]),
    ).deep.equal([
      ['sectionWidth', 'sizes.0.width', 0, 6],
      ['sectionWidth', 'sizes.1.width', 20, 9],
      ['sectionWidth', 'sizes.2.width', 80, 6],
      ['twist', 'twists.0.angle', 0, 0],
      ['twist', 'twists.1.angle', 80, Number((Math.PI / 2).toFixed(6))],
    ]);
    const middle = s.findIndex((x) => x >= 40);
    expect(named('twist')[middle]).closeTo(((Math.PI / 2) * s[middle]!) / 80, 1e-6);
    // What is left blank follows in proportion.
    const peak = named('sectionHeight').reduce((a, b) => Math.max(a, b));
    expect(peak).closeTo(4.5, 1e-3);
  });
});
