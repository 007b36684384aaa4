/** The scene on the stage: bodies in their materials, paths as lines, light, and a soft shadow. */
import {
  Box3,
  DirectionalLight,
  Group,
  HemisphereLight,
  Mesh,
  PCFShadowMap,
  PlaneGeometry,
  Scene,
  ShadowMaterial,
  Sphere,
  Vector3,
  WebGLRenderer,
  type BufferGeometry,
  type LineSegments,
  type Material,
  type Object3D,
} from 'three';
import type { Hatch } from '@nematos/core/measure/materials';
import type { Mesh as BodyMesh } from '@nematos/core/mesh/data/mesh';
import type { CutFace } from '@nematos/core/mesh/cut/cut';
import type { Opening } from '@nematos/core/view/opening';
import type { Theme } from '../ui/theme';
import type { Drawn } from '../worker/messages';
import { takeDown } from '../worker/spent';
import { makeCaps, type Caps } from './caps';
import { Materials, type Colours } from './materials';
import { bodyObject, layersOf, lineObject } from './objects';
import { outermostOf } from './outermost';

/**
 * Lights at the reader's left and right, by azimuth from him (rad), height for 1 sideways, and strength: without them an upright
 * face of matt stuff is as bright as any other.
 */
const BESIDE = [
  [-1.15, 0.7, 1.5],
  [1.3, 0.25, 0.45],
] as const;

/** Layer of what only the view in space shows. */
export const SPACE_ONLY = 1;

/** Bodies laid over what is shown: faintly, or in an ink of their own. */
export interface Layer {
  readonly drawn: readonly Drawn[];
  readonly ink?: string;
}

/** Planes that the bodies are cut by; with `shell`, what is cut away is still seen through. */
export interface StageOpening extends Opening {
  readonly shell: boolean;
}

/** A renderer with a clear ground and, unless told otherwise, soft shadows. */
export function makeRenderer(antialias: boolean, shadows = true): WebGLRenderer {
  const renderer = new WebGLRenderer({ antialias, alpha: true, powerPreference: 'high-performance' });
  renderer.setClearColor(0, 0);
  // Asking a driver for errors makes it wait for the shader; ours are three's own.
  renderer.debug.checkShaderErrors = false;
  renderer.localClippingEnabled = true;
  renderer.shadowMap.enabled = shadows;
  renderer.shadowMap.type = PCFShadowMap;
  renderer.shadowMap.autoUpdate = false;
  return renderer;
}

/** A step as it stands on the stage. */
interface Standing {
  readonly key: string;
  readonly type: Drawn['type'];
  readonly object: Mesh | LineSegments;
}

/** The lights, the ground and what is shown of a design. */
export class StageScene {
  readonly scene = new Scene();
  /** Extent of all that is shown, mm. */
  readonly extent = new Box3();
  private readonly bodies = new Group();
  private readonly lines = new Group();
  private readonly ghosts = new Group();
  private readonly imagined = new Group();
  private readonly shells = new Group();
  private readonly wires = new Group();
  private readonly materials: Materials;
  private readonly caps: Caps;
  private readonly sun = sunlight();
  private readonly beside = BESIDE.map(([azimuth, height, strength]) => ({
    light: new DirectionalLight('#ffffff', strength),
    azimuth,
    height,
  }));
  private readonly ground = new Mesh(new PlaneGeometry(1, 1), new ShadowMaterial());
  private readonly standing = new Map<string, Standing>();
  private opened: StageOpening | undefined;
  private wired = false;
  private farthest: readonly Vector3[] | undefined;

  constructor(private readonly renderer: WebGLRenderer) {
    const { bodies, lines, ghosts, imagined, shells, wires, ground, sun } = this;
    this.materials = new Materials(renderer.getPixelRatio());
    this.caps = makeCaps(renderer.getPixelRatio());
    ground.receiveShadow = true;
    ground.layers.set(SPACE_ONLY);
    this.scene.add(bodies, lines, ghosts, imagined, shells, wires, this.caps.group, ground, sun, sun.target);
    this.scene.add(new HemisphereLight('#fffdf6', '#8d8577', 0.95));
    for (const { light } of this.beside) this.scene.add(light, light.target);
  }

  /** Shows what is drawn; bodies whose picture is the same are kept. Steps that are chosen stand out. */
  show(drawn: readonly Drawn[], chosen: readonly string[], colours: Colours): void {
    const wanted = new Set(drawn.map(({ step }) => step));
    for (const id of [...this.standing.keys()]) if (!wanted.has(id)) this.drop(id);
    for (const one of drawn) {
      const { object } = this.stand(one);
      if (one.type === 'body') {
        const [only, ...more] = one.looks.map((look) => this.materials.of(look, colours)) as [Material];
        object.material = more.length ? [only, ...more] : only;
      } else {
        const isChosen = chosen.includes(one.step);
        object.material = isChosen ? this.materials.chosenLine : this.materials.line;
        for (const beside of object.children) beside.visible = isChosen;
      }
    }
    this.measure();
    this.wireUp();
  }

  /** Draws the edges of all triangles, and hatches those that are seen from inside. */
  triangles(on: boolean): void {
    this.wired = on;
    this.wireUp();
  }

  /** Cuts the bodies open, or closes them; by plane, the cut faces of each body. */
  open(opening: StageOpening | undefined): CutFace[][] {
    if (!this.opened && !opening) return [];
    this.opened = opening;
    this.materials.open(opening);
    this.shells.clear();
    if (opening?.shell)
      for (const geometry of this.geometries()) this.shells.add(new Mesh(geometry, this.materials.cutAway));
    this.renderer.shadowMap.needsUpdate = true;
    return this.caps.lay(
      this.bodies.children.map((body) => {
        const { geometry, material, userData } = body as Mesh;
        const [only] = [material].flat() as [Material];
        const hatch = (only.userData.hatch as Hatch | undefined) ?? 'single';
        const colour = (only.userData.colour as string | undefined) ?? '#9aa3a8';
        return { step: userData.step as string, mesh: geometry.userData.mesh as BodyMesh, colour, hatch };
      }),
      opening,
    );
  }

  /** What the bodies are cut by. */
  get opening(): Opening | undefined {
    return this.opened;
  }

  /** Keeps the present bodies as a faint ghost, or drops it. */
  ghost(on: boolean): void {
    for (const ghost of [...this.ghosts.children]) {
      ghost.removeFromParent();
      const { geometry } = ghost as Mesh;
      if (![...this.standing.values()].some(({ object }) => object.geometry === geometry)) takeAway(geometry);
    }
    if (on)
      for (const geometry of this.geometries()) this.ghosts.add(new Mesh(geometry, this.materials.ghost));
  }

  /** Shows other bodies as faint ghosts, or none. */
  imagine(layers: readonly Layer[]): void {
    for (const one of this.imagined.children as Mesh[]) {
      takeAway(one.geometry);
      if (one.material !== this.materials.ghost) (one.material as Material).dispose();
    }
    this.imagined.clear();
    layers.forEach(({ drawn, ink }, i) => {
      for (const one of drawn)
        if (one.type === 'body') {
          const { geometry } = bodyObject(one);
          geometry.clearGroups();
          if (ink === undefined) this.imagined.add(new Mesh(geometry, this.materials.ghost));
          else this.imagined.add(...layersOf(geometry, ink, i));
        }
    });
  }

  /** Takes the inks of a theme. */
  dress(theme: Theme): void {
    const { edge, shadow } = this.materials.dress(theme);
    this.ground.material.opacity = shadow;
    this.caps.dress(edge);
  }

  /** Turns the room and its lights with the reader, who looks from this direction: the part is always well lit. */
  face({ x, y }: Vector3): void {
    const reader = Math.hypot(x, y) > 1e-3 ? Math.atan2(y, x) : -Math.PI / 2;
    this.materials.turnRoom(reader);
    for (const { light, azimuth, height } of this.beside)
      light.position.set(Math.cos(reader + azimuth), Math.sin(reader + azimuth), height);
  }

  /** Whether there is nothing on it. */
  isBare(): boolean {
    return ![this.bodies, this.lines, this.ghosts, this.imagined].some(({ children }) => children.length);
  }

  /** Points of what is shown that reach farthest. */
  outermost(): readonly Vector3[] {
    return (this.farthest ??= outermostOf(this.shown()));
  }

  /** Extent of a step that is shown. */
  extentOf(step: string): Box3 | undefined {
    const object = this.standing.get(step)?.object;
    return object && new Box3().setFromObject(object);
  }

  /** What can be pointed at. */
  pickable(): readonly Object3D[] {
    const own = this.lines.children.filter(({ userData }) => !userData.loose);
    return [...this.bodies.children, ...own, ...this.caps.group.children];
  }

  /** Takes down all that is shown, closed and in no other way than it begins with. */
  clear(): void {
    this.open(undefined);
    this.triangles(false);
    this.imagine([]);
    for (const id of [...this.standing.keys()]) this.drop(id);
    this.ghost(false);
    this.measure();
    this.materials.thin();
  }

  /** Lets all go that was made for a renderer. */
  dispose(): void {
    this.clear();
    this.caps.dispose();
    this.materials.dispose();
    this.sun.dispose();
  }

  private shown() {
    return (this.bodies.children.length ? this.bodies : this.lines).children;
  }

  private geometries() {
    return this.bodies.children.map((body) => (body as Mesh).geometry);
  }

  /** Puts up what is drawn of a step, where it does not stand already. */
  private stand(one: Drawn): Standing {
    const before = this.standing.get(one.step);
    if (before?.key === one.key && before.type === one.type) return before;
    this.drop(one.step);
    const object = one.type === 'body' ? bodyObject(one) : lineObject(one.lines, this.materials.line);
    if (one.type === 'line' && one.aside) object.add(lineObject(one.aside, this.materials.asideLine));
    object.userData.step = one.step;
    object.userData.loose = one.type === 'line' && one.loose;
    (one.type === 'body' ? this.bodies : this.lines).add(object);
    const next = { key: one.key, object, type: one.type };
    this.standing.set(one.step, next);
    return next;
  }

  private drop(id: string) {
    const found = this.standing.get(id);
    if (!found) return;
    const { geometry } = found.object;
    found.object.removeFromParent();
    if (!this.ghosts.children.some((ghost) => (ghost as Mesh).geometry === geometry)) takeAway(geometry);
    this.standing.delete(id);
  }

  private wireUp() {
    this.wires.clear();
    if (!this.wired) return;
    for (const geometry of this.geometries())
      for (const material of [this.materials.wire, this.materials.inside])
        this.wires.add(new Mesh(geometry, material));
  }

  /** Looks how far it all reaches now, and puts ground and sun about it. */
  private measure() {
    const { extent, sun, ground } = this;
    extent.makeEmpty();
    this.farthest = undefined;
    for (const object of this.shown()) extent.expandByObject(object);
    if (extent.isEmpty()) return;
    const { center, radius } = extent.getBoundingSphere(new Sphere());
    const r = Math.max(radius, 1e-6);
    ground.position.set(center.x, center.y, extent.min.z - r * 0.002);
    ground.scale.setScalar(r * 12);
    sun.position.copy(center).add(new Vector3(-0.5 * r, 0.35 * r, 3 * r));
    sun.target.position.copy(center);
    const { camera } = sun.shadow;
    camera.left = camera.bottom = -1.7 * r;
    camera.right = camera.top = 1.7 * r;
    camera.near = 0.1 * r;
    camera.far = 8 * r;
    camera.updateProjectionMatrix();
    this.renderer.shadowMap.needsUpdate = true;
  }
}

function takeAway(geometry: BufferGeometry) {
  geometry.dispose();
  if (geometry.userData.mesh) takeDown(geometry.userData.mesh as BodyMesh);
}

/** Light from above, with a soft shadow. */
function sunlight(): DirectionalLight {
  const sun = new DirectionalLight('#fff6e6', 1.2);
  sun.castShadow = true;
  sun.shadow.mapSize.set(1024, 1024);
  sun.shadow.radius = 7;
  sun.shadow.bias = -0.002;
  return sun;
}
