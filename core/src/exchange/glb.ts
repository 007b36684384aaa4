/** Meshes as binary glTF 2.0 with their material. glTF is in metres, with y upwards. */
import { Document, WebIO, type Material as GltfMaterial } from '@gltf-transform/core';
import type { Material } from '../measure/materials';
import { materialKey, type Sent } from './solid';
import { rgbOf } from './text';

/** From mm and z upwards to metres and y upwards: a turn about x, and a scale. */
const UPRIGHT: [number, number, number, number] = [-Math.SQRT1_2, 0, 0, Math.SQRT1_2];
const METRES: [number, number, number] = [1e-3, 1e-3, 1e-3];

/** Bodies, in mm, as a binary glTF, a node of its own name and material each. */
export async function glb(bodies: readonly Sent[], title: string): Promise<Uint8Array<ArrayBuffer>> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Nematos';
  const buffer = document.createBuffer();
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const looks = new Map<string, GltfMaterial>();
  const looksOf = (material: Material): GltfMaterial => {
    const { name, look } = material;
    const [colour, roughness, metalness] = look;
    const key = materialKey(material);
    const known = looks.get(key);
    if (known) return known;
    const made = document
      .createMaterial(name)
      .setBaseColorFactor([...linear(colour), 1])
      .setRoughnessFactor(roughness)
      .setMetallicFactor(metalness);
    looks.set(key, made);
    return made;
  };
  const scene = document.createScene(title);
  for (const { mesh: made, material, name, faces } of bodies) {
    const [places, normals] = [accessor('VEC3', made.positions), accessor('VEC3', unitNormals(made.normals))];
    const mesh = document.createMesh(name);
    for (const [look, triangles] of byLook(made.triangles, material, faces))
      mesh.addPrimitive(
        document
          .createPrimitive()
          .setAttribute('POSITION', places)
          .setAttribute('NORMAL', normals)
          .setIndices(accessor('SCALAR', triangles))
          .setMaterial(looksOf(look)),
      );
    scene.addChild(document.createNode(name).setMesh(mesh).setRotation(UPRIGHT).setScale(METRES));
  }
  return new Uint8Array(await new WebIO().writeBinary(document));
}

/** Triangles by what they look like, however they are mixed. */
function byLook(
  triangles: Uint32Array,
  material: Material,
  faces: Sent['faces'],
): readonly (readonly [Material, Uint32Array])[] {
  if (!faces) return [[material, triangles]];
  const runs = new Map<string, { material: Material; corners: number[] }>();
  for (const { material: look, first, count } of faces) {
    const run = runs.get(materialKey(look)) ?? { material: look, corners: [] };
    runs.set(materialKey(look), run);
    for (let i = 3 * first; i < 3 * (first + count); i++) run.corners.push(triangles[i]!);
  }
  return Array.from(runs.values(), (run) => [run.material, Uint32Array.from(run.corners)]);
}

/** Colours of glTF are linear; ours are written as sRGB. */
const linear = (hex: string) =>
  rgbOf(hex).map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)) as [
    number,
    number,
    number,
  ];

/** Unit to the last bit that Float32 has: validators ask for it. */
function unitNormals(normals: Float32Array): Float32Array {
  const out = new Float32Array(normals.length);
  for (let i = 0; i < normals.length; i += 3) {
    const size = Math.hypot(normals[i]!, normals[i + 1]!, normals[i + 2]!) || 1;
    for (let k = 0; k < 3; k++) out[i + k] = normals[i + k]! / size;
  }
  return out;
}
