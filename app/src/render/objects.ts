/** The objects on a stage, built from the worker's answers: bodies as triangles, paths as lines. */
import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  Sphere,
  Vector3,
  type Material,
} from 'three';
import type { Drawn } from '../worker/messages';

/**
 * Clear, and in one ink all over: of itself only what is before, of what was laid before it (`order`) all is seen through it.
 */
export function layersOf(geometry: BufferGeometry, ink: string, order: number): Mesh[] {
  const depth = new Mesh(geometry, new MeshBasicMaterial({ colorWrite: false, transparent: true }));
  depth.onBeforeRender = (renderer) => renderer.clearDepth();
  const colour = new MeshLambertMaterial({ color: ink, transparent: true, opacity: 0.55, depthWrite: false });
  const seen = new Mesh(geometry, colour);
  depth.renderOrder = 2 * order + 1;
  seen.renderOrder = 2 * order + 2;
  return [depth, seen];
}

/** The triangles; what they look like is put on when they are shown. */
export function bodyObject({ mesh, looks, extent }: Extract<Drawn, { type: 'body' }>): Mesh {
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

/** Polylines as one object. */
export function lineObject(lines: readonly Float32Array<ArrayBuffer>[], material: Material): LineSegments {
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
