import { expect } from 'chai';
import { Box2, Box3, OrthographicCamera, Vector2, Vector3 } from 'three';
import type { LineMark } from '@nematos/core/kind/mark';
import { dimensionOf, overallOf, roomOf } from '../src/workbench/stage/dimension';
import { roomLight } from '../src/render/light';
import { quality } from '../src/render/quality';
import type { View } from '../src/render/view';

/** A flat view that looks along −from, ten pixels a millimetre, its middle at (400, 300). */
function view(from: Vector3, up: Vector3, width = 800): View {
  const camera = new OrthographicCamera(-40, 40, 30, -30, 0, 1000);
  camera.up.copy(up);
  camera.position.copy(from).multiplyScalar(100);
  camera.lookAt(0, 0, 0);
  camera.updateMatrixWorld();
  return {
    camera,
    toEye: () => from.clone().normalize(),
    mmPerPixel: () => 0.1,
    project: (point: Vector3) => {
      const at = point.clone().project(camera);
      return new Vector2(400 + at.x * 400, 300 - at.y * 300);
    },
    contains: ({ x, y }: Vector2) => x >= 20 && x <= width - 20 && y >= 20 && y <= 580,
  } as unknown as View;
}

const front = () => view(new Vector3(0, -1, 0), new Vector3(0, 0, 1));
const top = () => view(new Vector3(0, 0, 1), new Vector3(0, 1, 0));
const aslant = () => view(new Vector3(1, -1, 0.8), new Vector3(0, 0, 1));

const height: LineMark = {
  field: 'height',
  type: 'along',
  from: [0, 0, 0],
  to: [0, 0, 20],
  axis: [0, 0, 1],
  clear: 8,
  radius: 0,
  outward: 1,
};
const foot: LineMark = {
  field: 'diameter',
  type: 'across',
  from: [0, 0, -1],
  to: [0, 0, -1],
  axis: [0, 0, 1],
  clear: 8,
  radius: 7,
  outward: -1,
};
const crown: LineMark = { ...foot, field: 'endDiameter', from: [0, 0, 21], to: [0, 0, 21], outward: 1 };

describe('dimension lines', () => {
  it('a height stands beside the part, as long as it is, and grows upwards', () => {
    const { from, to, pull } = dimensionOf(height, front())!;
    expect(from.distanceTo(to)).closeTo(200, 1e-6);
    expect(from.x).closeTo(to.x, 1e-6);
    expect(from.x).above(400 + 80);
    // Ten pixels up are one millimetre more; sideways is nothing.
    expect(pull(0, -10)).closeTo(1, 1e-9);
    expect(pull(10, 0)).closeTo(0, 1e-9);
  });

  it('a height stands on the other side where its figure would be cut off', () => {
    const seen = (width: number) =>
      dimensionOf(height, view(new Vector3(0, -1, 0), new Vector3(0, 0, 1), width))!;
    const wide = seen(800).label.x;
    expect(wide).above(480);
    expect(seen(Math.round(wide) + 40).label.x).closeTo(800 - wide, 1);
  });

  it('figures cover no others: their lines stand further out, or where they would anyway where nothing helps', () => {
    const first = dimensionOf(height, front())!;
    const taken = [roomOf(first)];
    for (let i = 0; i < 3; i++) {
      const next = dimensionOf(height, front(), taken)!;
      for (const room of taken) expect(room.intersectsBox(roomOf(next))).equal(false);
      taken.push(roomOf(next));
    }
    const all = new Box2(new Vector2(-1e4, -1e4), new Vector2(1e4, 1e4));
    expect(dimensionOf(height, front(), [all])!.label.x).closeTo(first.label.x, 1e-9);
  });

  it('a box has its overall size along all that is seen of it', () => {
    const box = new Box3(new Vector3(-8, -8, 0), new Vector3(8, 8, 20));
    const told = overallOf(box, front());
    // Its depth is seen end on from the front.
    expect(told.map(({ way, value }) => [way, value])).deep.equal([
      ['x', 16],
      ['z', 20],
    ]);
    expect(told[0]!.from.distanceTo(told[0]!.to)).closeTo(160, 1e-6);
    expect(told[1]!.from.distanceTo(told[1]!.to)).closeTo(200, 1e-6);
  });

  it('a height is not drawn where it is seen end on', () => {
    expect(dimensionOf(height, top())).equal(undefined);
  });

  it('a diameter lies below the foot and above the crown, and grows by twice the pull', () => {
    const below = dimensionOf(foot, front())!;
    expect(below.to.x - below.from.x).closeTo(140, 1e-6);
    expect(below.from.y).above(300 + 10);
    expect(below.pull(10, 0)).closeTo(2, 1e-9);
    const above = dimensionOf(crown, front())!;
    expect(above.from.y).below(300 - 210);
  });

  it('seen from above, a diameter lies towards the reader, clear of the part', () => {
    const { from, to } = dimensionOf(foot, top())!;
    expect(from.y).closeTo(to.y, 1e-6);
    expect(from.y).above(300 + 80);
  });

  it('aslant, foot and crown keep clear of each other, and extension lines lead back to the part', () => {
    const [below, above] = [dimensionOf(foot, aslant())!, dimensionOf(crown, aslant())!];
    expect(below.from.y).above(above.from.y + 150);
    for (const [a, b] of below.extensions) expect(a.distanceTo(b)).above(5);
  });
});

describe('the room that metal mirrors', () => {
  /** Brightness of the middle of a face, 0 to 255: faces in the order +x, −x, +y, −y, +z, −z. */
  const middle = (roughness: number, face: number): number => {
    const { data, width } = (
      roomLight(roughness).images as unknown as { image: { data: Uint8Array; width: number } }[]
    )[face]!.image;
    return data[4 * ((width / 2) * width + width / 2)]!;
  };

  it('has a pale ceiling and a dark floor', () => {
    expect(middle(0.3, 4)).above(middle(0.3, 5) + 60);
  });

  it('is painted once for a roughness', () => {
    expect(roomLight(0.31)).equal(roomLight(0.29));
    expect(roomLight(0.3)).not.equal(roomLight(0.6));
  });
});

describe('quality', () => {
  after(() => Reflect.deleteProperty(globalThis, 'window'));

  it('is read from the address, within reason', () => {
    Object.assign(globalThis, { window: { location: { search: '' }, devicePixelRatio: 3 } });
    expect(quality('')).deep.equal({ dpr: 2, antialias: true, shadows: true });
    expect(quality('?dpr=0.5&aa=0&shadows=0')).deep.equal({ dpr: 0.5, antialias: false, shadows: false });
    expect(quality('?dpr=-1')).deep.equal({ dpr: 1, antialias: true, shadows: true });
    expect(quality('?dpr=x')).deep.equal({ dpr: 1, antialias: true, shadows: true });
  });
});
