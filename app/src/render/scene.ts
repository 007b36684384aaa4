/** What stands on the stage: bodies in their materials, paths as lines, light, and a soft shadow. */
import {
  BackSide,
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  Group,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  PCFShadowMap,
  PlaneGeometry,
  Scene,
  ShadowMaterial,
  Sphere,
  Vector3,
  WebGLRenderer,
  type Material,
  type Object3D,
} from 'three';
import type { Hatch, Material as BodyMaterial } from '@nematos/core/measure/materials';
import type { Mesh as BodyMesh } from '@nematos/core/mesh/mesh';
import type { Step } from '@nematos/core/design/schema';
import { colourOf } from '@nematos/core/view/made-of';
import type { CutFace } from '@nematos/core/mesh/cut';
import type { Opening } from '@nematos/core/view/opening';
import type { Theme } from '../ui/theme';
import type { Drawn, Looks } from '../worker/messages';
import { takeDown } from '../worker/spent';
import { clipping, hatched, makeCaps } from './caps';
import { roomLight } from './light';
import { outermostOf } from './outermost';

/** Layer of what only the view in space shows. */
export const SPACE_ONLY = 1;

const INK: Record<Theme, { line: string; aside: string; ghost: string; edge: string; shadow: number }> = {
  light: { edge: '#1d2b2f', line: '#3a4a9f', aside: '#b3623f', ghost: '#3a4a9f', shadow: 0.12 },
  dark: { edge: '#10181b', line: '#97a4f5', aside: '#e0997a', ghost: '#97a4f5', shadow: 0.34 },
};

/** Triangles seen from inside. */
const INSIDE = '#a83a3a';

/** Steps with the colour they give to what comes through them, as far as they have one. */
export type Colours = readonly Pick<Step, 'id' | 'colour'>[];

/** Bodies laid over what is shown: faintly, or in an ink of their own. */
export interface Layer {
  readonly drawn: readonly Drawn[];
  readonly ink?: string;
}

export interface StageScene {
  readonly scene: Scene;
  /** Shows what is drawn; bodies whose picture is the same are kept. Steps that are chosen stand out. */
  show(drawn: readonly Drawn[], chosen: readonly string[], colours: Colours): void;
  /** Keeps the present bodies as a faint ghost, or drops it. */
  ghost(on: boolean): void;
  /** Shows other bodies as faint ghosts, or none. */
  imagine(layers: readonly Layer[]): void;
  dress(theme: Theme): void;
  /** Draws the edges of all triangles, and hatches those that are seen from inside. */
  triangles(on: boolean): void;
  /** Cuts the bodies open, or closes them; by plane, the cut faces of each body. */
  open(opening: StageOpening | undefined): CutFace[][];
  /** Turns the room with the reader, who looks from this direction: the part is always well lit. */
  face(toEye: Vector3): void;
  /** Extent of all that is shown. */
  readonly extent: Box3;
  /** Points of it that reach farthest. */
  outermost(): readonly Vector3[];
  extentOf(step: string): Box3 | undefined;
  readonly pickable: readonly Object3D[];
  dispose(): void;
}

/** Planes that the bodies are cut by; with `shell`, what is cut away is still seen through. */
export interface StageOpening extends Opening {
  readonly shell: boolean;
}

/** A renderer with a clear ground and soft shadows. */
export function makeRenderer(antialias: boolean): WebGLRenderer {
  const renderer = new WebGLRenderer({ antialias, alpha: true, powerPreference: 'high-performance' });
  renderer.setClearColor(0, 0);
  // Asking a driver for errors makes it wait for the shader; ours are three's own.
  renderer.debug.checkShaderErrors = false;
  renderer.localClippingEnabled = true;
  renderer.shadowMap.enabled = true;
  renderer.shadowMap.type = PCFShadowMap;
  renderer.shadowMap.autoUpdate = false;
  return renderer;
}

/** The lights, the ground and what is shown of a design. */
export function makeStageScene(renderer: WebGLRenderer, first: Theme): StageScene {
  const scene = new Scene();
  const bodies = new Group();
  const lines = new Group();
  const ghosts = new Group();
  const imagined = new Group();
  const shells = new Group();
  const wires = new Group();
  const wire = new MeshBasicMaterial({ wireframe: true, transparent: true, opacity: 0.5 });
  const inside = hatched(
    INSIDE,
    new Color('#ffffff'),
    { hatch: 'single', k: 0 },
    renderer.getPixelRatio(),
    BackSide,
  );
  let wired = false;
  const caps = makeCaps(renderer.getPixelRatio());
  let opened: StageOpening | undefined;
  const sun = new DirectionalLight('#fff6e6', 2);
  sun.castShadow = true;
  sun.shadow.mapSize.set(1024, 1024);
  sun.shadow.radius = 7;
  sun.shadow.bias = -0.002;
  const ground = new Mesh(new PlaneGeometry(1, 1), new ShadowMaterial({ opacity: INK[first].shadow }));
  ground.receiveShadow = true;
  ground.layers.set(SPACE_ONLY);
  scene.add(bodies, lines, ghosts, imagined, shells, wires, caps.group, ground, sun, sun.target);
  scene.add(new HemisphereLight('#fffdf6', '#8d8577', 1.5));

  const up = new Map<string, { key: string; object: Mesh | LineSegments; type: Drawn['type'] }>();
  const extent = new Box3();
  let theme = first;

  // Made once and kept: a renderer builds its program anew for a material it has not seen.
  const materials = new Map<string, Material>();
  const materialFor = (
    { look: [own, ...matt], hatch, clear, by }: Looks[number],
    colours: Colours,
  ): Material => {
    if (clear) return shell;
    const look = [colourOf(colours, by) ?? own, ...matt] as const;
    const key = `${look.join()} ${hatch}`;
    let found = materials.get(key);
    if (!found) {
      materials.set(key, (found = surface(look)));
      found.userData.hatch = hatch;
      clip(found);
    }
    return found;
  };
  /** What is cut away of a surface is not drawn. */
  const clip = (material: Material) => {
    material.clippingPlanes = opened?.planes.map(clipping) ?? [];
    material.clipIntersection = opened?.corner ?? false;
    material.clipShadows = true;
    // By the side that is lit: a foot that is thinner than the shadow's bias would leave a bright edge on the ground.
    material.shadowSide = DoubleSide;
  };
  const plainLine = new LineBasicMaterial({ transparent: true, opacity: 0.65 });
  const chosenLine = new LineBasicMaterial();
  const asideLine = new LineBasicMaterial({ transparent: true, opacity: 0.75 });
  /** What is taken away from a body, until it is. */
  const shell = new MeshBasicMaterial({ transparent: true, opacity: 0.22, depthWrite: false });
  const ghostly = new MeshBasicMaterial({ transparent: true, opacity: 0.13, depthWrite: false });
  /** What is cut away, where it is still to be seen. */
  const cutAway = new MeshBasicMaterial({ transparent: true, opacity: 0.1, depthWrite: false });

  const takeAway = (geometry: BufferGeometry) => {
    geometry.dispose();
    if (geometry.userData.mesh) takeDown(geometry.userData.mesh as BodyMesh);
  };
  const drop = (id: string) => {
    const found = up.get(id);
    if (!found) return;
    found.object.removeFromParent();
    if (!ghosts.children.some((ghost) => (ghost as Mesh).geometry === found.object.geometry))
      takeAway(found.object.geometry);
    up.delete(id);
  };

  const wireUp = () => {
    wires.clear();
    if (wired)
      for (const body of bodies.children)
        wires.add(...[wire, inside].map((material) => new Mesh((body as Mesh).geometry, material)));
  };

  const shownAll = () => (bodies.children.length ? bodies : lines).children;
  let outermost: readonly Vector3[] | undefined;
  const measure = () => {
    extent.makeEmpty();
    outermost = undefined;
    for (const object of shownAll()) extent.expandByObject(object);
    if (extent.isEmpty()) return;
    const sphere = extent.getBoundingSphere(new Sphere());
    const r = Math.max(sphere.radius, 1e-6);
    ground.position.set(sphere.center.x, sphere.center.y, extent.min.z - r * 0.002);
    ground.scale.setScalar(r * 12);
    sun.position.copy(sphere.center).add(new Vector3(-0.5 * r, 0.35 * r, 3 * r));
    sun.target.position.copy(sphere.center);
    const { camera } = sun.shadow;
    camera.left = camera.bottom = -1.7 * r;
    camera.right = camera.top = 1.7 * r;
    camera.near = 0.1 * r;
    camera.far = 8 * r;
    camera.updateProjectionMatrix();
    renderer.shadowMap.needsUpdate = true;
  };

  return {
    scene,
    extent,
    outermost: () => (outermost ??= outermostOf(shownAll())),
    get pickable() {
      const own = lines.children.filter(({ userData }) => !userData.loose);
      return [...bodies.children, ...own, ...caps.group.children];
    },
    extentOf(step) {
      const object = up.get(step)?.object;
      return object && new Box3().setFromObject(object);
    },
    show(drawn, chosen, colours) {
      const wanted = new Set(drawn.map(({ step }) => step));
      for (const id of [...up.keys()]) if (!wanted.has(id)) drop(id);
      for (const one of drawn) {
        const standing = up.get(one.step);
        if (standing?.key !== one.key || standing.type !== one.type) {
          drop(one.step);
          const object = one.type === 'body' ? bodyObject(one) : lineObject(one.lines, plainLine);
          if (one.type === 'line' && one.aside) object.add(lineObject(one.aside, asideLine));
          object.userData.step = one.step;
          object.userData.loose = one.type === 'line' && one.loose;
          (one.type === 'body' ? bodies : lines).add(object);
          up.set(one.step, { key: one.key, object, type: one.type });
        }
        const { object } = up.get(one.step)!;
        if (one.type === 'body') {
          const [only, ...more] = one.looks.map((look) => materialFor(look, colours)) as [Material];
          object.material = more.length ? [only, ...more] : only;
        } else {
          const isChosen = chosen.includes(one.step);
          object.material = isChosen ? chosenLine : plainLine;
          for (const beside of object.children) beside.visible = isChosen;
        }
      }
      measure();
      wireUp();
    },
    triangles(on) {
      wired = on;
      wireUp();
    },
    open(opening) {
      if (!opened && !opening) return [];
      opened = opening;
      for (const material of [...materials.values(), wire, inside]) clip(material);
      shells.clear();
      if (opening?.shell) {
        cutAway.clippingPlanes = opening.planes.map((plane) => clipping(plane).negate());
        cutAway.clipIntersection = !opening.corner;
        for (const body of bodies.children) shells.add(new Mesh((body as Mesh).geometry, cutAway));
      }
      renderer.shadowMap.needsUpdate = true;
      return caps.lay(
        bodies.children.map((body) => {
          const { geometry, material, userData } = body as Mesh;
          const [only] = [material].flat() as [Material];
          const hatch = (only.userData.hatch as Hatch | undefined) ?? 'single';
          const colour = (only.userData.colour as string | undefined) ?? '#9aa3a8';
          return { step: userData.step as string, mesh: geometry.userData.mesh as BodyMesh, colour, hatch };
        }),
        opening,
      );
    },
    ghost(on) {
      for (const ghost of [...ghosts.children]) {
        ghost.removeFromParent();
        const { geometry } = ghost as Mesh;
        if (![...up.values()].some(({ object }) => object.geometry === geometry)) takeAway(geometry);
      }
      if (!on) return;
      for (const body of bodies.children) {
        ghosts.add(new Mesh((body as Mesh).geometry, ghostly));
      }
    },
    imagine(layers) {
      for (const one of imagined.children as Mesh[]) {
        takeAway(one.geometry);
        if (one.material !== ghostly) (one.material as Material).dispose();
      }
      imagined.clear();
      layers.forEach(({ drawn, ink }, i) => {
        for (const one of drawn)
          if (one.type === 'body') {
            const { geometry } = bodyObject(one);
            geometry.clearGroups();
            if (ink === undefined) imagined.add(new Mesh(geometry, ghostly));
            else imagined.add(...layersOf(geometry, ink, i));
          }
      });
    },
    dress(next) {
      theme = next;
      ghostly.color.set(INK[theme].ghost);
      shell.color.set(INK[theme].ghost);
      (ground.material as ShadowMaterial).opacity = INK[theme].shadow;
      cutAway.color.set(INK[theme].ghost);
      wire.color.set(INK[theme].edge);
      caps.dress(INK[theme].edge);
      for (const line of [plainLine, chosenLine]) line.color.set(INK[theme].line);
      asideLine.color.set(INK[theme].aside);
    },
    face(toEye) {
      const azimuth = Math.hypot(toEye.x, toEye.y) > 1e-3 ? Math.atan2(toEye.y, toEye.x) : -Math.PI / 2;
      for (const material of materials.values())
        if (material instanceof MeshBasicMaterial) material.envMapRotation.set(0, 0, azimuth);
    },
    dispose() {
      for (const id of [...up.keys()]) drop(id);
      caps.dispose();
      wire.dispose();
      inside.dispose();
      [...materials.values(), shell, ghostly, cutAway, plainLine, chosenLine, asideLine].forEach((material) =>
        material.dispose(),
      );
      sun.dispose();
    },
  };
}

/** Clear, and in one ink all over: of itself only what is before, of what was laid before it all is seen through it. */
function layersOf(geometry: BufferGeometry, ink: string, order: number): Mesh[] {
  const depth = new Mesh(geometry, new MeshBasicMaterial({ colorWrite: false, transparent: true }));
  depth.onBeforeRender = (renderer) => renderer.clearDepth();
  const colour = new MeshLambertMaterial({ color: ink, transparent: true, opacity: 0.55, depthWrite: false });
  const seen = new Mesh(geometry, colour);
  depth.renderOrder = 2 * order + 1;
  seen.renderOrder = 2 * order + 2;
  return [depth, seen];
}

/** The triangles; what they look like is put on when they are shown. */
function bodyObject({ mesh, looks, extent }: Extract<Drawn, { type: 'body' }>): Mesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  geometry.setIndex(new BufferAttribute(mesh.triangles, 1));
  geometry.userData.mesh = mesh;
  const [low, high] = extent;
  geometry.boundingBox = new Box3(new Vector3(...low), new Vector3(...high));
  geometry.boundingSphere = geometry.boundingBox.getBoundingSphere(new Sphere());
  if (looks.length > 1)
    looks.forEach(({ first = 0, count = Infinity }, i) => geometry.addGroup(3 * first, 3 * count, i));
  const object = new Mesh(geometry);
  object.castShadow = true;
  return object;
}

/** Metal mirrors the room in its own colour; what is not metal is lit. */
function surface([colour, roughness, metalness]: BodyMaterial['look']): Material {
  // Matt stuff gives back all around what it takes in: less to the eye than a mirror does.
  const matt = metalness < 0.5;
  const color = new Color(colour).multiplyScalar(matt ? 1.45 : 1.6);
  const made = matt
    ? new MeshLambertMaterial({ color })
    : new MeshBasicMaterial({ color, envMap: roomLight(roughness) });
  made.userData.colour = colour;
  return made;
}

/** Polylines as one object. */
function lineObject(lines: readonly Float32Array<ArrayBuffer>[], material: Material): LineSegments {
  const geometry = new BufferGeometry();
  const points = new Float32Array(lines.reduce((n, line) => n + line.length, 0));
  const segments: number[] = [];
  let at = 0;
  for (const line of lines) {
    points.set(line, 3 * at);
    const count = line.length / 3;
    for (let i = 0; i < count - 1; i++) segments.push(at + i, at + i + 1);
    at += count;
  }
  geometry.setAttribute('position', new BufferAttribute(points, 3));
  geometry.setIndex(segments);
  return new LineSegments(geometry, material);
}
