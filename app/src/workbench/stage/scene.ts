/** What stands on the stage: bodies in their materials, paths as lines, light, and a soft shadow. */
import {
  AmbientLight,
  BackSide,
  Box3,
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  Group,
  Line,
  LineBasicMaterial,
  Mesh,
  MeshBasicMaterial,
  MeshStandardMaterial,
  PCFShadowMap,
  PlaneGeometry,
  PMREMGenerator,
  Scene,
  ShadowMaterial,
  Sphere,
  Vector3,
  WebGLRenderer,
  type Object3D,
} from 'three';
import { materialOf } from '@nematos/core/measure/materials';
import type { Theme } from '../../ui/theme';
import type { Drawn } from '../../worker/messages';

/** Layer of what only the view in space shows. */
export const SPACE_ONLY = 1;

const INK: Record<Theme, { line: string; ghost: string; shadow: number; exposure: number }> = {
  light: { line: '#3a4a9f', ghost: '#3a4a9f', shadow: 0.16, exposure: 1 },
  dark: { line: '#97a4f5', ghost: '#97a4f5', shadow: 0.4, exposure: 0.92 },
};

export interface Shop {
  readonly scene: Scene;
  /** Puts up what is to be seen; bodies whose picture is the same are kept. */
  show(drawn: readonly Drawn[], selected: string | undefined): void;
  /** Keeps the present bodies as a faint ghost, or drops it. */
  ghost(on: boolean): void;
  dress(theme: Theme): void;
  /** Extent of all that is shown. */
  readonly extent: Box3;
  readonly pickable: readonly Object3D[];
  dispose(): void;
}

export function makeRenderer(antialias: boolean): WebGLRenderer {
  const renderer = new WebGLRenderer({ antialias, alpha: true, powerPreference: 'high-performance' });
  renderer.setClearColor(0, 0);
  renderer.shadowMap.enabled = true;
  renderer.shadowMap.type = PCFShadowMap;
  renderer.shadowMap.autoUpdate = false;
  return renderer;
}

export function makeShop(renderer: WebGLRenderer, environment: boolean, first: Theme): Shop {
  const scene = new Scene();
  const bodies = new Group();
  const lines = new Group();
  const ghosts = new Group();
  const sun = new DirectionalLight('#fff6e6', environment ? 0.7 : 2.4);
  sun.castShadow = true;
  sun.shadow.mapSize.set(1024, 1024);
  sun.shadow.radius = 7;
  sun.shadow.bias = -0.002;
  const ground = new Mesh(new PlaneGeometry(1, 1), new ShadowMaterial({ opacity: INK[first].shadow }));
  ground.receiveShadow = true;
  ground.layers.set(SPACE_ONLY);
  scene.add(bodies, lines, ghosts, ground, sun, sun.target);
  if (environment) scene.environment = studio(renderer);
  else scene.add(new AmbientLight('#ffffff', 1.1));

  const up = new Map<string, { key: string; object: Mesh | Line; type: Drawn['type'] }>();
  const extent = new Box3();
  let theme = first;

  const drop = (id: string) => {
    const found = up.get(id);
    if (!found) return;
    found.object.removeFromParent();
    if (!ghosts.children.some((ghost) => (ghost as Mesh).geometry === found.object.geometry)) found.object.geometry.dispose();
    (found.object.material as MeshStandardMaterial).dispose();
    up.delete(id);
  };

  const measure = () => {
    extent.makeEmpty();
    const shown = bodies.children.length ? bodies : lines;
    for (const object of shown.children) extent.expandByObject(object);
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
    get pickable() {
      return [...bodies.children, ...lines.children];
    },
    show(drawn, selected) {
      const wanted = new Set(drawn.map(({ step }) => step));
      for (const id of [...up.keys()]) if (!wanted.has(id)) drop(id);
      for (const one of drawn) {
        const standing = up.get(one.step);
        if (standing?.key !== one.key || standing.type !== one.type) {
          drop(one.step);
          const object = one.type === 'body' ? bodyObject(one, environment) : lineObject(one.line, INK[theme].line);
          object.userData.step = one.step;
          (one.type === 'body' ? bodies : lines).add(object);
          up.set(one.step, { key: one.key, object, type: one.type });
        }
        const { object } = up.get(one.step)!;
        if (one.type === 'line') (object.material as LineBasicMaterial).opacity = one.step === selected ? 1 : 0.65;
      }
      measure();
    },
    ghost(on) {
      for (const ghost of [...ghosts.children]) {
        ghost.removeFromParent();
        const { geometry } = ghost as Mesh;
        if (![...up.values()].some(({ object }) => object.geometry === geometry)) geometry.dispose();
      }
      if (!on) return;
      for (const body of bodies.children) {
        const material = new MeshBasicMaterial({ color: INK[theme].ghost, transparent: true, opacity: 0.13, depthWrite: false });
        ghosts.add(new Mesh((body as Mesh).geometry, material));
      }
    },
    dress(next) {
      theme = next;
      (ground.material as ShadowMaterial).opacity = INK[theme].shadow;
      renderer.toneMappingExposure = INK[theme].exposure;
      for (const line of lines.children) ((line as Line).material as LineBasicMaterial).color.set(INK[theme].line);
    },
    dispose() {
      for (const id of [...up.keys()]) drop(id);
      scene.environment?.dispose();
      sun.dispose();
    },
  };
}

function bodyObject(one: Extract<Drawn, { type: 'body' }>, environment: boolean): Mesh {
  const { mesh } = one;
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  geometry.setIndex(new BufferAttribute(mesh.triangles, 1));
  const [low, high] = one.extent;
  geometry.boundingBox = new Box3(new Vector3(...low), new Vector3(...high));
  geometry.boundingSphere = geometry.boundingBox.getBoundingSphere(new Sphere());
  const [colour, roughness, metalness] = materialOf(one.material).look;
  const material = new MeshStandardMaterial({ color: colour, roughness, metalness: environment ? metalness : metalness * 0.25 });
  const object = new Mesh(geometry, material);
  object.castShadow = true;
  return object;
}

function lineObject(points: Float32Array<ArrayBuffer>, colour: string): Line {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(points, 3));
  return new Line(geometry, new LineBasicMaterial({ color: colour, transparent: true }));
}

/** A photographer's room: a pale box with bright panels, so that metal shows its form. */
function studio(renderer: WebGLRenderer) {
  const room = new Scene();
  const box = new BoxGeometry();
  const panel = (colour: string, strength: number, size: [number, number, number], at: [number, number, number]) => {
    const object = new Mesh(box, new MeshBasicMaterial({ color: new Color(colour).multiplyScalar(strength) }));
    object.scale.set(...size);
    object.position.set(...at);
    room.add(object);
  };
  const walls = new Mesh(box, new MeshBasicMaterial({ color: new Color('#8f9092').multiplyScalar(0.55), side: BackSide }));
  walls.scale.set(20, 20, 20);
  room.add(walls);
  panel('#fffaf0', 7, [9, 9, 0.2], [0, 0, 9.5]);
  panel('#ffffff', 6, [0.2, 7, 9], [-9.5, 1, 3]);
  panel('#fff3df', 3.2, [0.2, 3, 10], [9.5, -4, 2]);
  panel('#eaf1ff', 3, [10, 0.2, 3], [2, 9.5, 4]);
  panel('#ffffff', 2.4, [3, 0.2, 9], [5, -9.5, 2]);
  panel('#2c3033', 1, [20, 20, 0.2], [0, 0, -9.8]);
  const generator = new PMREMGenerator(renderer);
  // Small: the panels are soft anyway, and software renderers take seconds for a large one.
  const texture = generator.fromScene(room, 0, 0.1, 100, { size: 64 }).texture;
  generator.dispose();
  box.dispose();
  return texture;
}
