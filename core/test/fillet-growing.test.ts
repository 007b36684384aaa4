import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { eased, easedAt, zoneOf } from '../src/geometry/ease';
import { valley } from '../src/geometry/numeric';
import { distance, type Vec3 } from '../src/geometry/vector';
import type { PointMark } from '../src/kind/mark';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import type { FilletedBody } from '../src/solid/body/body';
import { demo } from './demo';
import { complaintsOf } from './helpers';
import { follow, marked } from './led';
import { PIN, PLATE, stripOf, turnedCorner, weldDesign, welded, type Made } from './fillets';
import { inLong } from './runs';

const BORE = 10;
const TOP = 10;

/** A ball that rests beside the pin and on the plate, by its angle about the pin, its size told by where it is. */
interface Ball {
  readonly centre: Vec3;
  readonly radius: number;
}

/** How the radius is told by a place: from 1.5 to 4 mm, eased at both ends of what `far` is between two figures. */
const growing =
  (far: (place: Vec3) => number, from: number, to: number) =>
  (place: Vec3): number => {
    const part = (far(place) - from) / (to - from);
    return 1.5 + 2.5 * eased(part, 0.3, zoneOf(part, easedAt(0.3)))[0];
  };

/** The ball there: out from the pin (a hollow) or into the plate (the rim of a bore). */
function ballAt(angle: number, size: (place: Vec3) => number, up: 1 | -1): Ball {
  let radius = 2;
  let centre: Vec3 = [0, 0, 0];
  for (let i = 0; i < 60; i++) {
    const out = BORE + radius;
    centre = [out * Math.cos(angle), out * Math.sin(angle), TOP + up * radius];
    radius = size(centre);
  }
  return { centre, radius };
}

/** How far a place is from what all the balls leave: outside all of them where that is more than 0. */
function offBalls(place: Vec3, size: (place: Vec3) => number, up: 1 | -1): number {
  const about = Math.atan2(place[1], place[0]);
  const far = (angle: number) => {
    const { centre, radius } = ballAt(angle, size, up);
    return distance(place, centre) - radius;
  };
  return far(valley(far, about - 0.7, about + 0.7, 1e-9));
}

/** The volume between pin, plate and balls, column by column on the plate. */
function volumeLaid(size: (place: Vec3) => number): number {
  const [rounds, outs] = [180, 40];
  let volume = 0;
  for (let i = 0; i < rounds; i++) {
    const angle = ((i + 0.5) / rounds) * 2 * Math.PI;
    const { radius } = ballAt(angle, size, 1);
    for (let k = 0; k < outs; k++) {
      // The column is steep beside the pin: places stand closer there.
      const t = (k + 0.5) / outs;
      const out = BORE + radius * t * t;
      const [x, y] = [out * Math.cos(angle), out * Math.sin(angle)];
      const under = (a: number) => {
        const { centre, radius: r } = ballAt(a, size, 1);
        const beside = Math.hypot(centre[0] - x, centre[1] - y);
        return beside < r ? centre[2] - TOP - Math.sqrt(r * r - beside * beside) : r + (beside - r);
      };
      const high = under(valley(under, angle - 0.25, angle + 0.25, 1e-7));
      volume += high * out * (2 * radius * t) * (1 / outs) * ((2 * Math.PI) / rounds);
    }
  }
  return volume;
}

const ALONG_X = { axisX: '1', axisZ: '0' };
/** Along x the joint of the pin goes from −10 to 10; away from an axis that stands 30 mm beside it, from 20 to 40. */
const WAYS = [
  ['along an axis', { grows: 'along', ...ALONG_X }, growing(([x]) => x, -10, 10)],
  [
    'away from an axis',
    { grows: 'away', originX: '-30 mm' },
    growing(([x, y]) => Math.hypot(x + 30, y), 20, 40),
  ],
] as const;
const GROWN = { radius: '1.5 mm', end: '4 mm' };

describe('joints whose radius grows', () => {
  for (const [name, set, size] of WAYS)
    it(`${name} are what balls leave that grow as they go`, async () => {
      const { body, figure } = await welded([PLATE, PIN], { ...GROWN, ...set });
      const tolerance = 0.03;
      const { places } = await stripOf(body, tolerance);
      let on = 0;
      let most = 0;
      const some = places.filter((_x, i) => i % 5 === 0);
      for (const place of some) {
        const off = offBalls(place, size, 1);
        // At its ends it goes down into the faces.
        expect(off).greaterThan(-2 * tolerance);
        expect(off).lessThan(2 * tolerance);
        if (Math.abs(off) < tolerance / 4) on++;
        most = Math.max(most, Math.hypot(place[0], place[1]) - BORE);
      }
      expect(on / some.length).greaterThan(0.3);
      // They end a little above the plate, at three quarters of the tolerance.
      expect(most).closeTo(4 - Math.sqrt(2 * 4 * 0.75 * tolerance), 0.05);
      const laid = figure('weldVolume');
      const want = volumeLaid(size);
      expect(laid.value / want).closeTo(1, 0.006);
      expect(Math.abs(laid.value - want)).lessThan(laid.within! + 1e-3 * want);
    });

  inLong('are taken off a rim, too', async () => {
    const { body } = await welded([PLATE, PIN], { ...GROWN, where: 'ridges', ...WAYS[0][1] }, 'subtract');
    // The lower rim of the bore is a ridge as well: both grow along the same axis.
    const { places } = await stripOf(body, 0.03, 0);
    for (const place of places.filter((_x, i) => i % 5 === 0)) {
      const [x, y, z] = place;
      // What lies below is looked at from above.
      const off = offBalls([x, y, z < TOP / 2 ? TOP - z : z], WAYS[0][2], -1);
      expect(Math.abs(off)).lessThan(0.06);
    }
  });

  it('turn about the corners of a block', async () => {
    const block: Made = ['block', { width: '20 mm', depth: '14 mm', height: '30 mm' }];
    const { body, figure } = await welded([PLATE, block], { ...GROWN, ...WAYS[0][1] });
    await stripOf(body, 0.05);
    // Both ends, a quarter round at each corner, and the sides, whose strips lean a little.
    const square = 1 - Math.PI / 4;
    const corner = (r: number) => turnedCorner(0, r) / 2;
    let sides = 0;
    for (let i = 0; i < 100; i++) sides += square * WAYS[0][2]([-10 + (i + 0.5) / 5, 0, 0]) ** 2 * (2 / 5);
    const want = square * 14 * (1.5 ** 2 + 4 ** 2) + sides + corner(1.5) + corner(4);
    expect(figure('weldVolume').value / want).closeTo(1, 0.04);
  });

  it('are alike at every copy round their axis, and flat where that is wanted', async () => {
    const pin: Made = ['cylinder', { diameter: '10 mm', height: '30 mm', originX: '16 mm' }];
    const laid = async (copies: string, face: string) => {
      const design = weldDesign([PLATE, pin], { radius: '1 mm', end: '2 mm', grows: 'away', face });
      addStep(design, 'repeat', 2, { copies, span: '360 deg' });
      setInput(design, 'repeat', 'of', 'cylinder');
      stepOf(design, 'add').from = { bodies: ['block', 'repeat'] };
      const { results } = (await evaluate(design, createCache())).steps.at(-1)!;
      return results.find(({ name }) => name === 'weldVolume')!.value;
    };
    const one = await laid('1', 'round');
    expect((await laid('3', 'round')) / one).closeTo(3, 1e-3);
    // A triangle instead of what is beside a quarter of a round.
    expect((await laid('1', 'flat')) / one).closeTo(0.5 / (1 - Math.PI / 4), 0.1);
  });

  inLong('have a grip at both ends', async () => {
    const design = weldDesign([PLATE, PIN], { ...GROWN, ...WAYS[0][1] });
    expect(await follow(design, 'weld')).deep.equal(['point end', 'point radius']);
    const { marks } = await marked(design, 'weld');
    const places = marks.map((mark) => (mark as PointMark).at);
    const [begin, end] = places.map(([x, y, z]): Vec3 => [Math.hypot(x, y), z, x]);
    for (const [[out, high, x], radius, way] of [
      [begin!, 1.5, -1],
      [end!, 4, 1],
    ] as const) {
      expect([out - BORE, high - TOP].map((far) => Math.abs(far - radius) < 0.02)).deep.equal([true, true]);
      // Edges of the joint are an eighth of a radian long.
      expect((way * x) / out).greaterThan(Math.cos(0.13));
    }
  });

  inLong('say where they cannot grow, and what they take', async () => {
    const says = (set: Record<string, string>) => complaintsOf(weldDesign([PLATE, PIN], set), 'weld');
    expect((await says({ ...GROWN, grows: 'along' })).grows).match(
      /^The joint where bodies 1 and 2 meet near .* begins and ends at the same place of the axis/,
    );
    const taken = (said: string) => {
      const [, from, to] = /: from ([\d.]+) mm to ([\d.]+) mm it can be rolled/.exec(said)!;
      return [Number(from), Number(to)] as const;
    };
    const large = await says({ radius: '20 mm', end: '22 mm', ...WAYS[0][1] });
    // From the pin to the edge of the plate there are 20 mm; triangles are let lean over it a little.
    const [from, to] = taken(large.radius!);
    expect(to).within(19.7, 20.7);
    expect(to / from).closeTo(1.1, 0.01);
    // Where it grows faster and faster, what it leaves folds at last.
    const fast = await says({ radius: '0.5 mm', end: '14 mm', ...WAYS[0][1] });
    expect(fast.end).match(/^The radius grows too fast where bodies 1 and 2 meet near /);
    const [less, more] = taken(fast.end!);
    expect(more).greaterThan(7);
    const set = { radius: `${less * 0.99} mm`, end: `${more * 0.99} mm`, ...WAYS[0][1] };
    await stripOf((await welded([PLATE, PIN], set)).body, 0.1);
  });

  inLong('are made finer where rounding lays slivers across each other', async () => {
    const design = demo('pump-wheel.json');
    const wheel = design.steps.find(({ kind }) => kind === 'weld')!;
    // As fine as the radius wants it, a blade's root crosses itself at this height of the hub.
    stepOf(design, 'hub').set.height = `${26 * (1 + 5e-5)} mm`;
    const { steps } = await evaluate(design, createCache(), async () => {}, 'shape');
    const { value } = steps.find(({ id }) => id === wheel.id)!;
    const body = value as FilletedBody;
    const solid = await body.solid(body.checkedAt, async () => {});
    expect([solid.parts, solid.skins, inspectMesh(solid).openEdges]).deep.equal([1, 0, 0]);
    expect(await meshCrossing(solid, async () => {})).equal(undefined);
  });
});
