import { expect } from 'chai';
import { createCache, evaluate } from '../src/design/evaluate';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { emptyDesign, type Design, type Step } from '../src/design/schema';
import { runNow } from '../src/geometry/task';
import type { Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import { boxOf, type Mesh } from '../src/mesh/data/mesh';
import type { Body } from '../src/solid/body/body';
import type { SweptBody } from '../src/sweep/body';
import { copiesAmong } from '../src/sweep/carry/copies';
import { sweptMesh } from '../src/sweep/skin/mesh';
import { carried, points, type Carried } from './bodies';
import { valueOf } from './helpers';
import { reshapeDesign, done, expectClosed, turned } from './deforming';
import { inLong, LONG } from './runs';

const placesOf = ({ positions: p }: Mesh): Vec3[] =>
  Array.from({ length: p.length / 3 }, (_x, i) => [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!]);

/** Which wires of a body are drawn as copies, and of which. */
const copiesOf = ({ swept }: SweptBody) => copiesAmong(swept).map((copy) => copy?.original);

/** A ball of six meridians and two parallels, the meridians open at the top. */
const ball = (set: Record<string, string> = {}): Carried['path'] => ({
  kind: 'cage',
  set: { shape: 'ball', diameter: '80 mm', opening: '20 mm', meridians: '6', parallels: '2', ...set },
});
const WIRE = { kind: 'round', set: { diameter: '3 mm' } };
const STRIP = { kind: 'rectangle', set: { width: '4 mm', height: '1 mm' } };

/** How far a place is from a meridian of the ball, that by number. */
function fromMeridian([x, y, z]: Vec3, i: number, of: number): number {
  const [u, v] = turned([x, y, z], (-2 * Math.PI * i) / of);
  return Math.hypot(Math.hypot(u, z) - 40, v);
}

describe('wires that are others of them, moved', () => {
  it('are meshed once: each meridian lies about its own great circle', async () => {
    for (const [set, count, turns] of [
      [{}, 6, 6],
      // Opposite ones go over the top as one.
      [{ opening: '0 mm' }, 3, 6],
    ] as const) {
      const body = await carried({ path: ball(set), section: WIRE });
      const meridians = Array.from({ length: count }, (_x, i) => (i ? 0 : undefined));
      expect(copiesOf(body)).deep.equal([...meridians, undefined, undefined]);
      const meshes = runNow(body.meshes(0.05, 100_000));
      for (let i = 0; i < count; i++) {
        const far = placesOf(meshes[i]!).map((place) => fromMeridian(place, i, turns));
        // A circle's corners stand as far outside it as its sides go inside.
        expect(Math.max(...far)).within(1.5, 1.55);
        await expectClosed(meshes[i]!);
      }
    }
  });

  it('are drawn where each would be by itself, however the section is held', async () => {
    for (const sweep of [
      { hold: 'free' },
      { hold: 'free', turned: '30 deg' },
      { hold: 'seated' },
      { hold: 'facing', facingX: '0.9', facingY: '0.4', facingZ: '0' },
      { startShape: 'flush', endShape: 'flush', flushX: '1', flushZ: '0.3' },
    ])
      for (const section of [STRIP, WIRE]) {
        const body = await carried({ path: ball({ meridians: '5', parallels: '0' }), section, sweep });
        const meshes = runNow(body.meshes(0.05, 100_000));
        body.swept.forEach((one, i) => {
          const alone = placesOf(runNow(sweptMesh(one, 0.05, 100_000 / 5)));
          const places = placesOf(meshes[i]!);
          expect(places.length).equal(alone.length);
          // What is round may be held another way about its path.
          if (!one.round) places.forEach((place, k) => expectNear(place, alone[k]!));
        });
      }
  });

  it('are told from those that stand otherwise on their path', async () => {
    const repeated = async (
      path: string,
      set: Record<string, string>,
      { hold = 'free', section = STRIP }: { hold?: string; section?: typeof WIRE | typeof STRIP } = {},
    ): Promise<SweptBody> => {
      const design = emptyDesign('Copies');
      const base = put(design, path, path === 'loop' ? { size: '30 mm', originX: '7 mm' } : {});
      if (path === 'run') base.rows = { points: points(FOOT, HEAD) };
      put(design, 'repeat', set, { of: path });
      put(design, section.kind, section.set);
      put(design, 'sweep', { hold }, { path: 'repeat', section: section.kind });
      return (await valueOf(design, 'sweep')) as SweptBody;
    };
    const round = { way: 'round', copies: '3', span: '360 deg' };
    const none = [undefined, undefined, undefined];
    const row = { way: 'row', copies: '3', apart: '20 mm' };
    const hoops = await repeated('loop', row);
    expect(copiesOf(hoops)).deep.equal([undefined, 0, 0]);
    runNow(hoops.meshes(0.05, 100_000)).forEach((mesh, i) => {
      const alone = placesOf(runNow(sweptMesh(hoops.swept[i]!, 0.05, 100_000 / 3)));
      placesOf(mesh).forEach((place, k) => expectNear(place, alone[k]!));
    });
    expect(copiesOf(await repeated('run', round))).deep.equal([undefined, 0, 0]);
    // Sections that lie level do not turn with their paths; whether what faces one way does is not looked into.
    for (const section of [STRIP, WIRE])
      expect(copiesOf(await repeated('run', round, { hold: 'level', section }))).deep.equal(none);
    expect(copiesOf(await repeated('loop', row, { hold: 'facing' }))).deep.equal(none);
  });
});

/** Ends of a slanted straight, mm. */
const FOOT: Vec3 = [20, 0, 0];
const HEAD: Vec3 = [30, 5, 30];

function put(
  design: Design,
  kind: string,
  figures: Record<string, string>,
  from: Record<string, string> = {},
): Step {
  const id = addStep(design, kind, design.steps.length, figures);
  for (const [slot, of] of Object.entries(from)) setInput(design, id, slot, of);
  return stepOf(design, id);
}

const expectNear = (a: Vec3, b: Vec3): void => {
  a.forEach((x, k) => expect(x).closeTo(b[k]!, 2e-5));
};

describe('wires that are reshaped', () => {
  /** Six quarter circles that stand on a circle, reshaped between heights about an axis beside theirs by so much, mm. */
  const dome = (set: Record<string, string>, beside: number) => {
    const design = reshapeDesign(
      [
        ['round', { diameter: '3 mm' }],
        [
          'cage',
          {
            ...ball({ shape: 'dome', height: '40 mm', parallels: '0' }).set!,
            originX: `${beside} mm`,
          },
        ],
        ['sweep', {}, { section: 'round', path: 'cage' }],
      ],
      { from: '5 mm', to: '35 mm', ease: '0.25', ...set },
    );
    return evaluate(design, createCache()).then(({ steps }) => steps.at(-1)!.value as Body);
  };

  inLong('lie about their own circles, wrung or tapered back, whatever the axis', async () => {
    for (const beside of LONG ? [0, 6] : [6])
      for (const [set, back] of [
        [
          { way: 'wring', angle: '50 deg' },
          (place: Vec3, part: number) => turned(place, (-50 * Math.PI * part) / 180),
        ],
        [
          { way: 'taper', size: '1.4' },
          ([x, y, z]: Vec3, part: number): Vec3 => [x / (1 + 0.4 * part), y / (1 + 0.4 * part), z],
        ],
      ] as const) {
        const mesh = (await dome(set, beside)).mesh(0.1, 200_000);
        await expectClosed(mesh);
        const wires = new Set<number>();
        for (const place of placesOf(mesh)) {
          const [x, y, z] = back(place, done((place[2] - 5) / 30, 0.25));
          const far = Array.from({ length: 6 }, (_x, i) => fromMeridian([x - beside, y, z], i, 6));
          const nearest = Math.min(...far);
          wires.add(far.indexOf(nearest));
          expect(nearest).lessThan(1.6);
        }
        expect(wires.size).equal(6);
      }
  });

  it('stand where each of them would be by itself, some turned about the axis and some not', async () => {
    const BESIDE = 80;
    /** A slanted wire, or copies of it: three round the axis, and the same once more beside them. */
    const slanted = async (set: Record<string, string>, turns: number, beside: number, copies: boolean) => {
      const design = emptyDesign('Slanted');
      const at = (place: Vec3) => {
        const [x, y, z] = turned(place, (2 * Math.PI * turns) / 3);
        return [x + beside, y, z] as const;
      };
      put(design, 'run', {}).rows = { points: points(at(FOOT), at(HEAD)) };
      if (copies) {
        put(design, 'repeat', { way: 'round', copies: '3', span: '360 deg' }, { of: 'run' });
        const row = { way: 'row', copies: '2', apart: `${BESIDE} mm`, axisX: '1', axisZ: '0' };
        put(design, 'repeat', row, { of: 'repeat' });
      }
      put(design, 'round', WIRE.set);
      put(design, 'sweep', {}, { path: copies ? 'repeat-2' : 'run', section: 'round' });
      put(design, 'reshape', { from: '5 mm', to: '25 mm', ease: '0.25', ...set }, { body: 'sweep' });
      const mesh = ((await valueOf(design, 'reshape')) as Body).mesh(0.05, 400_000);
      return { box: boxOf(mesh), volume: inspectMesh(mesh).volume };
    };
    for (const set of [
      { way: 'wring', angle: '50 deg' },
      { way: 'taper', size: '1.3' },
      { way: 'stretch', by: '12 mm' },
      { way: 'bend', angle: '6 deg' },
    ]) {
      const whole = await slanted(set, 0, 0, true);
      const each: Awaited<ReturnType<typeof slanted>>[] = [];
      for (const turns of [0, 1, 2])
        for (const beside of [0, BESIDE]) each.push(await slanted(set, turns, beside, false));
      const end = (which: 0 | 1, k: number, of: (...all: number[]) => number) =>
        expect(whole.box[which][k]).closeTo(of(...each.map(({ box }) => box[which][k]!)), 0.1);
      for (const k of [0, 1, 2]) {
        end(0, k, Math.min);
        end(1, k, Math.max);
      }
      const volume = each.reduce((sum, one) => sum + one.volume, 0);
      expect(whole.volume).closeTo(volume, 0.02 * volume);
    }
  });
});
