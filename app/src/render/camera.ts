/** A camera before a pane: where it stands, what it looks at, and how large that is seen. */
import { MOUSE, OrthographicCamera, PerspectiveCamera, TOUCH, Vector2, Vector3 } from 'three';
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

const UP = new Vector3(0, 0, 1);

const FIELD = 26;
const HALF_FIELD = Math.tan((FIELD * Math.PI) / 360);

/** What is to be taken hold of keeps so far from the edge of a pane, CSS pixels. */
const EDGE = 20;

/** The camera of a view and what turns it by mouse and touch; lengths in mm, places in the pane in CSS pixels. */
export class PaneCamera {
  readonly camera: PerspectiveCamera | OrthographicCamera;
  protected readonly controls: OrbitControls;
  /** Looks along an axis, and is shifted, not turned. */
  protected readonly flat: boolean;
  protected width = 1;
  protected height = 1;
  /** Half of the height that is seen of a parallel view before it is zoomed. */
  private half = 50;

  constructor(
    readonly name: ViewName,
    pane: HTMLElement,
    parallel: boolean,
  ) {
    this.flat = name !== 'space';
    this.camera = this.flat || parallel ? new OrthographicCamera() : new PerspectiveCamera(FIELD);
    this.camera.up.copy(FROM[name].up);
    this.camera.position.copy(FROM[name].from);
    if (!this.flat) this.camera.layers.enable(SPACE_ONLY);
    this.controls = new OrbitControls(this.camera, pane);
    this.controls.enableRotate = !this.flat;
    if (this.flat) {
      this.controls.mouseButtons.LEFT = MOUSE.PAN;
      this.controls.touches.ONE = TOUCH.PAN;
      this.controls.touches.TWO = TOUCH.DOLLY_PAN;
    }
    this.controls.zoomToCursor = true;
    this.controls.enableDamping = false;
  }

  /** Width and height of its pane, px. */
  size(): readonly [number, number] {
    return [this.width, this.height];
  }

  /** Takes the size of its pane. */
  resize(width: number, height: number): void {
    this.width = Math.max(1, width);
    this.height = Math.max(1, height);
    this.reshape();
  }

  private reshape() {
    const { camera, half } = this;
    const aspect = this.width / this.height;
    if (camera instanceof PerspectiveCamera) camera.aspect = aspect;
    else {
      camera.top = half;
      camera.bottom = -half;
      camera.left = -half * aspect;
      camera.right = half * aspect;
    }
    camera.updateProjectionMatrix();
  }

  /** Sees so much about a place, half of the pane's height, from a direction. */
  protected see(target: Vector3, half: number, direction: Vector3): void {
    const { camera, controls } = this;
    const distance = half / HALF_FIELD;
    controls.target.copy(target);
    camera.position.copy(target).addScaledVector(direction, distance);
    // An orthographic view also shows what lies behind the eye.
    camera.near = camera instanceof OrthographicCamera ? -distance * 60 : distance / 200;
    camera.far = distance * 60;
    this.half = half;
    if (camera instanceof OrthographicCamera) camera.zoom = 1;
    this.reshape();
    controls.update();
  }

  /** How much is to be seen of a ball for it to fill the pane as far as can be told, and how little at least. */
  protected halfFor(radius: number): readonly [half: number, least: number] {
    const { camera, width, height } = this;
    if (camera instanceof OrthographicCamera) return [1.4 * radius * Math.max(1, height / width), 0];
    const narrow = Math.atan(HALF_FIELD * Math.min(1, camera.aspect));
    return [((1.17 * radius) / Math.sin(narrow)) * HALF_FIELD, 1.2 * radius * HALF_FIELD];
  }

  /** How far points reach in the pane, of what they may: 1 where they are as far out as they should be. */
  protected fills(points: readonly Vector3[], [x, y]: readonly [x: number, y: number]): number {
    this.camera.updateMatrixWorld();
    return points.reduce((most, point) => {
      const at = point.clone().project(this.camera);
      return Math.max(most, Math.abs(at.x) / x, Math.abs(at.y) / y);
    }, 0.05);
  }

  /** Turns (in space) or shifts by steps of the arrow keys. */
  step(x: number, y: number): void {
    const { camera, controls } = this;
    if (this.flat) {
      const by = 40 * this.mmPerPixel();
      const right = new Vector3().setFromMatrixColumn(camera.matrixWorld, 0).multiplyScalar(-x * by);
      const above = new Vector3().setFromMatrixColumn(camera.matrixWorld, 1).multiplyScalar(y * by);
      controls.target.add(right).add(above);
      camera.position.add(right).add(above);
    } else {
      const offset = camera.position
        .clone()
        .sub(controls.target)
        .applyAxisAngle(UP, x * 0.12);
      const side = new Vector3().crossVectors(UP, offset).normalize();
      const tilted = offset.clone().applyAxisAngle(side, -y * 0.12);
      if (Math.abs(tilted.z) < 0.998 * tilted.length()) offset.copy(tilted);
      camera.position.copy(controls.target).add(offset);
    }
    controls.update();
  }

  /** Turns the reader round what is looked at, rad. */
  turn(by: number): void {
    const { camera, controls } = this;
    const offset = camera.position.clone().sub(controls.target).applyAxisAngle(UP, by);
    camera.position.copy(controls.target).add(offset);
    controls.update();
  }

  /** Shows what is seen so many times as large. */
  zoom(factor: number): void {
    const { camera, controls } = this;
    if (camera instanceof OrthographicCamera) {
      camera.zoom *= factor;
      camera.updateProjectionMatrix();
    } else camera.position.sub(controls.target).divideScalar(factor).add(controls.target);
    controls.update();
  }

  /** Place of a point in the pane; undefined behind the camera. */
  project(point: Vector3): Vector2 | undefined {
    const at = point.clone().project(this.camera);
    if (at.z > 1 || !Number.isFinite(at.x)) return undefined;
    return new Vector2(((at.x + 1) / 2) * this.width, ((1 - at.y) / 2) * this.height);
  }

  /** Whether a place in the pane is within it, and not right at its edge. */
  contains({ x, y }: Vector2): boolean {
    return x > EDGE && y > EDGE && x < this.width - EDGE && y < this.height - EDGE;
  }

  /** Direction from the middle of what is seen to the eye. */
  toEye(): Vector3 {
    const direction = this.camera.position.clone().sub(this.controls.target);
    return direction.lengthSq() > 0 ? direction.normalize() : this.from();
  }

  /** Direction from which this view looks of its own. */
  protected from(): Vector3 {
    return FROM[this.name].from.clone();
  }

  /** Millimetres a CSS pixel at the middle of what is seen. */
  mmPerPixel(): number {
    const { camera, height } = this;
    if (camera instanceof OrthographicCamera) return (camera.top - camera.bottom) / camera.zoom / height;
    return (2 * camera.position.distanceTo(this.controls.target) * HALF_FIELD) / height;
  }

  /** How it stands now: the place of the eye, that of the target (mm), and a 1. */
  state(): number[] {
    const { target } = this.controls;
    const { camera } = this;
    const at = camera.position.clone();
    // In an orthographic view the distance gives the extent that a perspective view would show.
    if (camera instanceof OrthographicCamera)
      at.sub(target)
        .setLength(camera.top / camera.zoom / HALF_FIELD)
        .add(target);
    return [...at.toArray(), ...target.toArray(), 1];
  }

  /** Stands as it stood then; where that says nothing, as before. Tells whether it does. */
  restore(state: readonly number[]): boolean {
    if (state.length < 7 || state.some((x) => !Number.isFinite(x))) return false;
    const target = new Vector3(state[3], state[4], state[5]);
    const out = new Vector3(state[0], state[1], state[2]).sub(target);
    const distance = out.length();
    if (!(distance > 0)) return false;
    this.see(target, distance * HALF_FIELD, out.normalize());
    return true;
  }

  /** Lets the pane go. */
  dispose(): void {
    this.controls.dispose();
  }
}
