/** One view of the stage: a camera, the pane it is seen in, and how it is turned and fitted. */
import {
  OrthographicCamera,
  PerspectiveCamera,
  Sphere,
  Vector2,
  Vector3,
  type Box3,
  MOUSE,
  TOUCH,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { SPACE_ONLY } from './scene';

export type ViewName = 'front' | 'top' | 'side' | 'space';
export const VIEW_NAMES: readonly ViewName[] = ['front', 'top', 'side', 'space'];

/** From where each view looks, and what is up in it. */
const FROM: Record<ViewName, { from: Vector3; up: Vector3 }> = {
  front: { from: new Vector3(0, -1, 0), up: new Vector3(0, 0, 1) },
  top: { from: new Vector3(0, 0, 1), up: new Vector3(0, 1, 0) },
  side: { from: new Vector3(1, 0, 0), up: new Vector3(0, 0, 1) },
  space: { from: new Vector3(0.62, -0.72, 0.33).normalize(), up: new Vector3(0, 0, 1) },
};

const FIELD = 26;
const HALF_FIELD = Math.tan((FIELD * Math.PI) / 360);
/** What is left free on every side of a part that is fitted, CSS pixels. */
export interface Margin {
  readonly x: number;
  readonly y: number;
}
/** There stand its dimensions. At least so much of the pane it fills. */
const FREE: Margin = { x: 82, y: 74 };
const LEAST_FILLED = 0.4;

/** What is to be taken hold of keeps so far from the edge of a pane, CSS pixels. */
const EDGE = 20;

/** Half of what is seen about a place that is looked at, as a part of the size of all. */
const NEAR = 0.22;

/** A way to look at a place that lies off the middle by `out`: from outside of it, and a little from above. */
function facing(out: Vector3, now: Vector3): Vector3 {
  const level = new Vector3(out.x, out.y, 0);
  if (level.length() < 0.02 * out.length() || out.lengthSq() === 0) return now;
  const [beside, ahead] = [new Vector3(-level.y, level.x, 0).normalize(), level.normalize()];
  return ahead
    .addScaledVector(beside, 0.35)
    .add(new Vector3(0, 0, 0.35 + 0.4 * Math.sign(Math.round((4 * out.z) / out.length()))))
    .normalize();
}

/** Whether a part is about as large as another, and about where that is. */
const alike = (one: Sphere, other: Sphere): boolean =>
  Math.abs(Math.log(one.radius / other.radius)) < 0.4 &&
  one.center.distanceTo(other.center) < other.radius / 2;

const cornersOf = ({ min, max }: Box3): Vector3[] =>
  [min.x, max.x].flatMap((x) =>
    [min.y, max.y].flatMap((y) => [min.z, max.z].map((z) => new Vector3(x, y, z))),
  );

export interface View {
  readonly name: ViewName;
  readonly camera: PerspectiveCamera | OrthographicCamera;
  /** Takes the size of its pane, in CSS pixels. */
  resize(width: number, height: number): void;
  /**
   * Sees what stands in a box as a whole: those points of it, or its corners, with what is left free about them: for
   * dimension lines, unless told otherwise.
   */
  fit(extent: Box3, points?: readonly Vector3[], free?: Margin): void;
  /**
   * Whether what is shown has outgrown the view, or become small in it: by a little where the view is as it was fitted,
   * by much where the reader is pulling something (`loosely`) or has set it, and there only once the part is another one:
   * who looks closely at a place stays there. `points` are those that reach farthest.
   */
  misfits(extent: Box3, points: () => readonly Vector3[], loosely: boolean): boolean;
  /** Brings a place of what is shown before the reader, and near. */
  lookAt(place: Vector3, extent: Box3): void;
  /** Turns (in space) or shifts by steps of the arrow keys; zooms by a factor. */
  step(x: number, y: number): void;
  zoom(factor: number): void;
  /** Turns the reader round what is looked at, rad. */
  turn(by: number): void;
  /** Place of a point in the pane, in CSS pixels; undefined behind the camera. */
  project(point: Vector3): Vector2 | undefined;
  /** Whether a place in the pane is within it, and not right at its edge. */
  contains(at: Vector2): boolean;
  /** Direction from the middle of what is seen to the eye. */
  toEye(): Vector3;
  /** Millimetres a CSS pixel at the middle of what is seen. */
  mmPerPixel(): number;
  /** Whether it is as it was fitted, and nobody has set it since. */
  isFitted(): boolean;
  state(): number[];
  restore(state: readonly number[]): void;
  dispose(): void;
}

/** A view in a pane; `onChange` when it turned, `onEnd` when the reader let go. */
export function makeView(
  name: ViewName,
  pane: HTMLElement,
  onChange: () => void,
  onEnd: () => void,
  parallel: boolean,
): View {
  const flat = name !== 'space';
  const camera = flat || parallel ? new OrthographicCamera() : new PerspectiveCamera(FIELD);
  const { from, up } = FROM[name];
  camera.up.copy(up);
  if (!flat) camera.layers.enable(SPACE_ONLY);
  const controls = new OrbitControls(camera, pane);
  controls.enableRotate = !flat;
  if (flat) {
    controls.mouseButtons.LEFT = MOUSE.PAN;
    controls.touches.ONE = TOUCH.PAN;
    controls.touches.TWO = TOUCH.DOLLY_PAN;
  }
  controls.zoomToCursor = true;
  controls.enableDamping = false;
  controls.addEventListener('change', onChange);
  /** Set by the reader, no longer as it was fitted. */
  let own = false;
  /** Size and place of the part when the reader set the view; empty where that is not known. */
  const setFor = new Sphere();
  let before = '';
  controls.addEventListener('start', () => void (before = String(view.state())));
  controls.addEventListener('end', () => {
    // A mere click moves nothing.
    if (String(view.state()) === before) return;
    own = true;
    onEnd();
  });
  let width = 1;
  let height = 1;
  const sphere = new Sphere();

  const look = (target: Vector3, distance: number, direction: Vector3) => {
    controls.target.copy(target);
    camera.position.copy(target).addScaledVector(direction, distance);
    // Without perspective what lies behind the eye is seen as well.
    camera.near = camera instanceof OrthographicCamera ? -distance * 60 : distance / 200;
    camera.far = distance * 60;
    camera.updateProjectionMatrix();
    controls.update();
  };

  /** How far points reach in the pane, of what they may: 1 where they are as far out as they should be. */
  const fills = (points: readonly Vector3[], free: Margin): number => {
    camera.updateMatrixWorld();
    const filled = (margin: number, size: number) => Math.max(LEAST_FILLED, 1 - (2 * margin) / size);
    const [x, y] = [filled(free.x, width), filled(free.y, height)];
    return points.reduce((most, point) => {
      const at = point.clone().project(camera);
      return Math.max(most, Math.abs(at.x) / x, Math.abs(at.y) / y);
    }, 0.05);
  };

  const view: View = {
    name,
    camera,
    resize(w, h) {
      width = Math.max(1, w);
      height = Math.max(1, h);
      if (camera instanceof PerspectiveCamera) camera.aspect = width / height;
      else {
        const half = camera.userData.half ?? 50;
        camera.top = half;
        camera.bottom = -half;
        camera.left = (-half * width) / height;
        camera.right = (half * width) / height;
      }
      camera.updateProjectionMatrix();
    },
    fit(extent, points = cornersOf(extent), free = FREE) {
      if (extent.isEmpty()) return;
      own = free !== FREE;
      extent.getBoundingSphere(sphere);
      setFor.copy(sphere);
      const r = Math.max(sphere.radius, 1e-4);
      const direction = flat ? from : view.toEye();
      if (camera instanceof PerspectiveCamera) {
        const halfAngle = (FIELD / 2) * (Math.PI / 180);
        const narrow = Math.min(halfAngle, Math.atan(Math.tan(halfAngle) * camera.aspect));
        let distance = (r / Math.sin(narrow)) * 1.17;
        look(sphere.center, distance, direction);
        // Nearer what is nearer is larger too: a few times it is brought closer to what is wanted.
        for (let i = 0; i < 4; i++) {
          distance = Math.max(1.2 * r, distance * fills(points, free));
          look(sphere.center, distance, direction);
        }
      } else {
        camera.zoom = 1;
        camera.userData.half = r * 1.4 * Math.max(1, height / width);
        look(sphere.center, r * 6, direction);
        view.resize(width, height);
        camera.userData.half *= fills(points, free);
        view.resize(width, height);
      }
      onChange();
    },
    misfits(extent, points, loosely) {
      if (extent.isEmpty()) return false;
      extent.getBoundingSphere(sphere);
      const across = (2 * sphere.radius) / view.mmPerPixel();
      const small = across < 0.3 * Math.min(width, height);
      if (own && setFor.isEmpty()) {
        // Found again as it was left.
        setFor.copy(sphere);
        return small || !sphere.containsPoint(controls.target);
      }
      if (!own) setFor.copy(sphere);
      else if (alike(sphere, setFor)) return false;
      const inside = (point: Vector3) => {
        const at = view.project(point);
        return at && at.x >= 0 && at.y >= 0 && at.x <= width && at.y <= height;
      };
      if (!own && !loosely) return across < 0.5 * Math.min(width, height) || !points().every(inside);
      return small || !inside(sphere.center) || across > 1.7 * Math.max(width, height);
    },
    lookAt(place, extent) {
      const size = extent.getSize(new Vector3()).length();
      if (!(size > 0)) return;
      const direction = flat
        ? from.clone()
        : facing(place.clone().sub(extent.getCenter(new Vector3())), view.toEye());
      if (camera instanceof OrthographicCamera) {
        camera.zoom = 1;
        camera.userData.half = NEAR * size;
        look(place, 3 * size, direction);
        view.resize(width, height);
      } else look(place, (NEAR * size) / HALF_FIELD, direction);
      own = true;
      onChange();
      onEnd();
    },
    step(x, y) {
      if (flat) {
        const by = 40 * view.mmPerPixel();
        const right = new Vector3().setFromMatrixColumn(camera.matrixWorld, 0).multiplyScalar(-x * by);
        const above = new Vector3().setFromMatrixColumn(camera.matrixWorld, 1).multiplyScalar(y * by);
        controls.target.add(right).add(above);
        camera.position.add(right).add(above);
      } else {
        const offset = camera.position.clone().sub(controls.target);
        offset.applyAxisAngle(new Vector3(0, 0, 1), x * 0.12);
        const side = new Vector3().crossVectors(new Vector3(0, 0, 1), offset).normalize();
        const tilted = offset.clone().applyAxisAngle(side, -y * 0.12);
        if (Math.abs(tilted.z) < 0.998 * tilted.length()) offset.copy(tilted);
        camera.position.copy(controls.target).add(offset);
      }
      controls.update();
      own = true;
      onChange();
      onEnd();
    },
    turn(by) {
      const offset = camera.position
        .clone()
        .sub(controls.target)
        .applyAxisAngle(new Vector3(0, 0, 1), by);
      camera.position.copy(controls.target).add(offset);
      controls.update();
    },
    zoom(factor) {
      if (camera instanceof OrthographicCamera) {
        camera.zoom *= factor;
        camera.updateProjectionMatrix();
      } else camera.position.sub(controls.target).divideScalar(factor).add(controls.target);
      controls.update();
      own = true;
      onChange();
      onEnd();
    },
    project(point) {
      const at = point.clone().project(camera);
      if (at.z > 1 || !Number.isFinite(at.x)) return undefined;
      return new Vector2(((at.x + 1) / 2) * width, ((1 - at.y) / 2) * height);
    },
    contains: ({ x, y }) => x > EDGE && y > EDGE && x < width - EDGE && y < height - EDGE,
    toEye() {
      const direction = camera.position.clone().sub(controls.target);
      return direction.lengthSq() > 0 ? direction.normalize() : from.clone();
    },
    mmPerPixel() {
      if (camera instanceof OrthographicCamera) return (camera.top - camera.bottom) / camera.zoom / height;
      return (2 * camera.position.distanceTo(controls.target) * HALF_FIELD) / height;
    },
    state() {
      const { target } = controls;
      const at = camera.position.clone();
      // Without perspective the distance stands for how much is seen: with it, as much would be.
      if (camera instanceof OrthographicCamera)
        at.sub(target)
          .setLength(camera.top / camera.zoom / HALF_FIELD)
          .add(target);
      return [...at.toArray(), ...target.toArray(), 1];
    },
    isFitted: () => !own,
    restore(state) {
      if (state.length < 7 || state.some((x) => !Number.isFinite(x))) return;
      const target = new Vector3(state[3], state[4], state[5]);
      const position = new Vector3(state[0], state[1], state[2]);
      const distance = position.distanceTo(target);
      own = true;
      if (!(distance > 0)) return;
      if (camera instanceof OrthographicCamera) {
        camera.zoom = 1;
        camera.userData.half = distance * HALF_FIELD;
        view.resize(width, height);
      }
      look(target, distance, position.sub(target).normalize());
    },
    dispose: () => controls.dispose(),
  };
  camera.position.copy(from);
  return view;
}
