/** One view of the stage: its camera, and how that is fitted to the part or set by the reader. */
import { Sphere, Vector3, type Box3 } from 'three';
import { PaneCamera, type ViewName } from './camera';

/** What is left free on every side of a part that is fitted, CSS pixels. */
export interface Margin {
  readonly x: number;
  readonly y: number;
}
/** There stand its dimensions. At least so much of the pane it fills. */
const FREE: Margin = { x: 82, y: 74 };
const LEAST_FILLED = 0.4;
const NOWHERE: Margin = { x: 0, y: 0 };

/** Nearer what is nearer is larger too: so the fit is improved this many times. */
const CLOSER = 4;

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

/** What a view reports: that it turned, and that the user released it. */
export interface ViewCalls {
  onChange(): void;
  onEnd(): void;
}

/** A view in a pane. */
export class View extends PaneCamera {
  /** Set by the reader, no longer as it was fitted. */
  private own = false;
  /** Size and place of the part when the reader set the view; empty where that is not known. */
  private readonly setFor = new Sphere();
  private readonly sphere = new Sphere();

  constructor(
    name: ViewName,
    pane: HTMLElement,
    private readonly calls: ViewCalls,
    parallel: boolean,
  ) {
    super(name, pane, parallel);
    let before = '';
    this.controls.addEventListener('change', () => calls.onChange());
    this.controls.addEventListener('start', () => void (before = String(this.state())));
    this.controls.addEventListener('end', () => {
      // A mere click moves nothing.
      if (String(this.state()) === before) return;
      this.own = true;
      calls.onEnd();
    });
  }

  /**
   * Brings everything in a box into view: those points of it, or its corners, with what is left free about them: for
   * dimension lines, unless told otherwise.
   */
  fit(extent: Box3, points: readonly Vector3[] = cornersOf(extent), free = FREE): void {
    if (extent.isEmpty()) return;
    this.own = free !== FREE;
    extent.getBoundingSphere(this.sphere);
    this.setFor.copy(this.sphere);
    const direction = this.flat ? this.from() : this.toEye();
    const filled = (margin: number, size: number) => Math.max(LEAST_FILLED, 1 - (2 * margin) / size);
    const wanted = [filled(free.x, this.width), filled(free.y, this.height)] as const;
    const [first, least] = this.halfFor(Math.max(this.sphere.radius, 1e-4));
    let half = first;
    this.see(this.sphere.center, half, direction);
    for (let i = 0; i < CLOSER; i++) {
      half = Math.max(least, half * this.fills(points, wanted));
      this.see(this.sphere.center, half, direction);
    }
    this.calls.onChange();
  }

  /**
   * Whether what is shown has outgrown the view, or become small in it: by a little where the view is as it was fitted,
   * by much where the reader is pulling something (`loosely`) or has set it, and there only once the part is another one:
   * who looks closely at a place stays there. `points` are those that reach farthest.
   */
  misfits(extent: Box3, points: () => readonly Vector3[], loosely: boolean): boolean {
    if (extent.isEmpty()) return false;
    const { sphere, setFor, width, height } = this;
    extent.getBoundingSphere(sphere);
    const across = (2 * sphere.radius) / this.mmPerPixel();
    const small = across < 0.3 * Math.min(width, height);
    if (this.own && setFor.isEmpty()) {
      // Found again as it was left.
      setFor.copy(sphere);
      return small || !sphere.containsPoint(this.controls.target);
    }
    if (!this.own) setFor.copy(sphere);
    else if (alike(sphere, setFor)) return false;
    const inside = (point: Vector3, { x, y }: Margin) => {
      const at = this.project(point);
      return at && at.x >= x && at.y >= y && at.x <= width - x && at.y <= height - y;
    };
    // Its dimensions stand beside it, and the bars above.
    const room = { x: Math.min(FREE.x / 2, width / 8), y: Math.min(FREE.y / 2, height / 8) };
    if (!this.own && !loosely)
      return across < 0.5 * Math.min(width, height) || !points().every((point) => inside(point, room));
    return small || !inside(sphere.center, NOWHERE) || across > 1.7 * Math.max(width, height);
  }

  /** Brings a place of what is shown before the reader, and near. */
  lookAt(place: Vector3, extent: Box3): void {
    const size = extent.getSize(new Vector3()).length();
    if (!(size > 0)) return;
    const out = place.clone().sub(extent.getCenter(new Vector3()));
    this.see(place, NEAR * size, this.flat ? this.from() : facing(out, this.toEye()));
    this.isSet();
  }

  override step(x: number, y: number): void {
    super.step(x, y);
    this.isSet();
  }

  override zoom(factor: number): void {
    super.zoom(factor);
    this.isSet();
  }

  override restore(state: readonly number[]): boolean {
    const restored = super.restore(state);
    this.own ||= restored;
    return restored;
  }

  /** Whether it is as it was fitted, and nobody has set it since. */
  isFitted(): boolean {
    return !this.own;
  }

  private isSet() {
    this.own = true;
    this.calls.onChange();
    this.calls.onEnd();
  }
}
