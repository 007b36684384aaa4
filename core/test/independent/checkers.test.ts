/** The checkers themselves, on things that are wrong: what cannot fail proves nothing. */
import { expect } from 'chai';
import { meshCrossing } from '../../src/mesh/verify/crossing';
import { unsound } from '../../src/mesh/verify/exportable';
import type { Mesh } from '../../src/mesh/data/mesh';
import { carried, points, straight } from '../bodies';
import { boxes } from '../boxes';
import { runs } from '../runs';
import { figuresOf } from './figures';
import { chance, nearness } from './nearness';
import { referencesOf } from './reference';
import { pairsOf } from './tree';
import { faultsOf, NO_FAULTS } from './triangles';

const poll = async () => {};

const moved = (mesh: Mesh, vertex: number, by: readonly number[]): Mesh => {
  const positions = mesh.positions.slice();
  by.forEach((x, k) => (positions[3 * vertex + k] = positions[3 * vertex + k]! + x));
  return { ...mesh, positions };
};

describe('checks of triangles', () => {
  it('look once at every pair whose boxes meet', () => {
    const any = chance(1);
    for (const count of [0, 1, 7, 40, 150]) {
      const corners = Float64Array.from(
        { length: 9 * count },
        (_x, i) => 5 * ((Math.floor(i / 9) * 0.377 + (i % 3) * 0.61) % 1) + any(),
      );
      const box = (t: number, way: 'min' | 'max', k: number) =>
        Math[way](corners[9 * t + k]!, corners[9 * t + 3 + k]!, corners[9 * t + 6 + k]!);
      const meet = (s: number, t: number) =>
        [0, 1, 2].every((k) => box(s, 'min', k) <= box(t, 'max', k) && box(t, 'min', k) <= box(s, 'max', k));
      const all = Array.from(
        { length: count * count },
        (_x, i) => [Math.floor(i / count), i % count] as const,
      )
        .filter(([s, t]) => s < t && meet(s, t))
        .map(String);
      const seen: string[] = [];
      pairsOf({ corners, count }, (s, t) => void seen.push(String([Math.min(s, t), Math.max(s, t)])));
      expect(seen).to.have.members(all);
    }
  });

  it('pass boxes that stand apart, and see the least that two of them share', async () => {
    const apart = boxes([0, 0, 0, 2], [2.0001, 0, 0, 2]);
    expect(faultsOf(apart)).deep.equal(NO_FAULTS);
    expect(await meshCrossing(apart, poll)).equal(undefined);
    const into = boxes([0, 0, 0, 2], [1.9999, 0.5, 0.5, 1]);
    expect(faultsOf(into).crossing).above(0);
    expect(await meshCrossing(into, poll)).not.equal(undefined);
  });

  it('see a corner that touches a face', async () => {
    const touching = boxes([0, 0, 0, 2], [2, 0.5, 0.5, 1]);
    const tip = moved(boxes([0, 0, 0, 2], [2.5, 0.5, 0.5, 1]), 8, [-0.5, 0.3, 0.2]);
    expect(faultsOf(touching).crossing).above(0);
    expect(faultsOf(tip).crossing).above(0);
    expect(await meshCrossing(tip, poll)).not.equal(undefined);
  });

  it('see a hole, a face turned round, a doubled face, a fold and a face without area', () => {
    const box = boxes([0, 0, 0, 2]);
    expect(faultsOf({ ...box, triangles: box.triangles.slice(3) }).open).equal(3);
    const turned = box.triangles.slice();
    [turned[0], turned[1]] = [turned[1]!, turned[0]!];
    expect(faultsOf({ ...box, triangles: turned }).open).equal(3);
    expect(
      faultsOf({ ...box, triangles: Uint32Array.from([...box.triangles, ...box.triangles.slice(0, 3)]) })
        .doubled,
    ).equal(1);
    // A corner of a face moved over the diagonal within its plane, and onto it.
    expect(faultsOf(moved(box, 2, [1.9, -1.5, 0])).folded).above(0);
    const flat = moved(boxes([0, 0, 0, 2]), 2, [1, -1, 0]);
    expect(faultsOf(flat).flat).above(0);
  });
});

describe('the measure of a mesh against its body', () => {
  const held = { hold: 'free' } as const;
  const bend = {
    path: {
      kind: 'run',
      set: { radius: '15 mm' },
      rows: { points: points([0, 0, 0], [60, 0, 0], [60, 50, 20]) },
    },
    section: { kind: 'rectangle', set: { width: '6 mm', height: '4 mm', radius: '0.5 mm' } },
  };

  it('sees a corner that is moved, inward or outward, and a notch', async () => {
    const body = await carried(bend);
    const references = referencesOf(body, held);
    const mesh = body.mesh(0.05, 60_000);
    const off = (one: Mesh) => {
      const found = nearness(references, one, runs(10_000), 0.05, chance(1));
      return Math.max(found.mesh, found.surface);
    };
    expect(off(mesh)).most(0.05);
    // All corners that stand in the place of one are moved, so that the mesh stays closed.
    const place = [...mesh.positions.subarray(3 * 40, 3 * 40 + 3)];
    for (const size of [2, -2]) {
      let broken = mesh;
      for (let v = 0; v < mesh.positions.length / 3; v++)
        if (place.every((x, k) => mesh.positions[3 * v + k] === x))
          broken = moved(
            broken,
            v,
            [...mesh.normals.subarray(120, 123)].map((x) => size * 0.25 * x),
          );
      expect(off(broken)).above(0.05);
    }
    // The last step drawn together, as where a closed body ends badly.
    const notch = mesh.positions.slice();
    for (let v = 0; v < notch.length / 3; v++)
      if (Math.abs(notch[3 * v]! - 52) < 4) notch[3 * v + 2] = notch[3 * v + 2]! * 0.8;
    expect(off({ ...mesh, positions: notch })).above(0.05);
  });

  it('calculates a box and a torus as books do', async () => {
    const box = await carried({
      path: straight(30),
      section: { kind: 'rectangle', set: { width: '4 mm', height: '2 mm', radius: '0 mm' } },
    });
    const a = figuresOf(referencesOf(box, held));
    expect(a.volume).closeTo(240, 1e-9);
    expect(a.surface).closeTo(2 * (8 + 60 + 120), 1e-9);
    expect(a.second[2]).closeTo((8 * 30 ** 3) / 3, 1e-6);
    const torus = await carried({
      path: { kind: 'loop', set: { size: '40 mm' } },
      section: { kind: 'round', set: { diameter: '6 mm' } },
    });
    const b = figuresOf(referencesOf(torus, held));
    expect(b.volume).closeTo(2 * Math.PI ** 2 * 20 * 9, 1e-7);
    expect(b.surface).closeTo(4 * Math.PI ** 2 * 20 * 3, 1e-7);
    // About its axis: m(R² + ¾r²) (E. W. Weisstein), of unit density.
    expect(b.second[0]! + b.second[1]!).closeTo(b.volume * (20 ** 2 + 0.75 * 9), 1e-4);
  });
});

describe('what is sent out', () => {
  const wire = async () =>
    carried({
      path: { kind: 'loop', set: { size: '40 mm' } },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });

  it('is told from what is open, of the wrong size, inside out or crossing', async () => {
    const body = await wire();
    const mesh = body.mesh(0.05, 100_000);
    const meant = { volume: body.volume, surface: body.surface };
    const wrong = async (one: Mesh) => (await unsound([one], meant, one, poll))?.says;
    expect(await wrong(mesh)).equal(undefined);
    expect(await wrong({ ...mesh, triangles: mesh.triangles.slice(3) })).match(/not closed/);
    const large = { ...mesh, positions: mesh.positions.map((x) => 1.01 * x) };
    expect(await wrong(large)).match(/does not bound what it should/);
    const out = mesh.triangles.slice();
    for (let t = 0; t < out.length; t += 3) [out[t], out[t + 1]] = [out[t + 1]!, out[t]!];
    expect(await wrong({ ...mesh, triangles: out })).match(/does not bound what it should/);
    const two = boxes([0, 0, 0, 2], [1, 1, 1, 2]);
    expect((await unsound([two], { volume: 16, surface: 48 }, two, poll))?.says).match(/runs through itself/);
    // A notch of a twentieth of the round is seen by its volume.
    const notch = mesh.positions.slice();
    for (let v = 0; v < notch.length / 3; v++)
      if (Math.abs(Math.atan2(notch[3 * v + 1]!, notch[3 * v]!)) < 0.15)
        notch[3 * v + 2] = 0.3 * notch[3 * v + 2]!;
    expect(await wrong({ ...mesh, positions: notch })).match(/does not bound what it should/);
  });
});
