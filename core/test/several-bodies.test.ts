/** Several bodies in one file: an object each, with its name, its material and its place. */
import { expect } from 'chai';
import { XMLParser } from 'fast-xml-parser';
import { strFromU8, unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import { partFile } from '../src/exchange/files';
import { meshMass } from '../src/mesh/data/mass';
import type { Triangles } from '../src/mesh/data/mesh';
import { readBinary } from './stl-reader';

const go = async () => {};
const volumeOf = (mesh: Triangles) => meshMass(mesh).mass.volume;

/** Three brass balls in a row, and a wax block beside them. */
function several(): Design {
  const design = emptyDesign('Balls & block');
  design.tolerance = '0.05 mm';
  addStep(design, 'ball', 0, { diameter: '6 mm', material: 'brass' });
  addStep(design, 'repeat', 1, { way: 'row', copies: '3', apart: '10 mm', axisX: '1', axisZ: '0' });
  setInput(design, 'repeat', 'of', 'ball');
  delete stepOf(design, 'repeat').set.span;
  stepOf(design, 'repeat').name = 'Row';
  addStep(design, 'block', 2, { material: 'beeswax', originY: '30 mm' });
  return design;
}
const NAMES = ['Row 1', 'Row 2', 'Row 3', 'Block'];
const BALL = (4 / 3) * Math.PI * 27;
const VOLUME = 3 * BALL + 30 * 20 * 10;

describe('several bodies in one file', () => {
  it('are objects of a 3MF, each closed, with its name and material', async () => {
    const { bytes } = await partFile(several(), '3mf', go);
    const parser = new XMLParser({
      ignoreAttributes: false,
      parseAttributeValue: true,
      attributeNamePrefix: '',
    });
    type Row = Record<'x' | 'y' | 'z' | 'v1' | 'v2' | 'v3', number>;
    const { model } = parser.parse(strFromU8(unzipSync(bytes)['3D/3dmodel.model']!)) as {
      model: {
        build: { item: { objectid: number }[] };
        resources: {
          basematerials: { base: { name: string }[] };
          object: {
            id: number;
            name: string;
            pindex: number;
            mesh: { vertices: { vertex: Row[] }; triangles: { triangle: Row[] } };
          }[];
        };
      };
    };
    const { object, basematerials } = model.resources;
    expect(object.map(({ name }) => name)).deep.equal(NAMES);
    expect(object.map(({ pindex }) => basematerials.base[pindex]!.name)).deep.equal(
      ['brass', 'brass', 'brass', 'beeswax'].map(
        (name) => basematerials.base.find((base) => base.name.toLowerCase().includes(name))!.name,
      ),
    );
    expect(model.build.item.map(({ objectid }) => objectid)).deep.equal(object.map(({ id }) => id));
    const volumes = object.map(({ mesh }) =>
      volumeOf({
        positions: Float32Array.from(mesh.vertices.vertex.flatMap(({ x, y, z }) => [x, y, z])),
        triangles: Uint32Array.from(mesh.triangles.triangle.flatMap(({ v1, v2, v3 }) => [v1, v2, v3])),
      }),
    );
    for (const volume of volumes.slice(0, 3)) expect(volume).closeTo(BALL, 4 * Math.PI * 9 * 0.05);
    expect(volumes[3]).closeTo(6000, 1e-3);
    // The second stands where it was put.
    const xs = object[1]!.mesh.vertices.vertex.map(({ x }) => x);
    expect((Math.min(...xs) + Math.max(...xs)) / 2).closeTo(10, 1e-5);
  });

  it('are nodes of a GLB that its validator passes', async () => {
    const { bytes } = await partFile(several(), 'glb', go);
    const { issues, info } = await validateBytes(bytes);
    expect(issues.messages.filter(({ severity }) => severity < 2)).deep.equal([]);
    expect(info).include({ drawCallCount: 4, materialCount: 2 });
    const length = new DataView(bytes.buffer).getUint32(12, true);
    const json = JSON.parse(strFromU8(bytes.subarray(20, 20 + length))) as { nodes: { name: string }[] };
    expect(json.nodes.map(({ name }) => name)).deep.equal(NAMES);
  });

  it('are objects of an OBJ whose numbers run on, and one solid of an STL', async () => {
    const text = new TextDecoder().decode((await partFile(several(), 'obj', go)).bytes);
    const lines = text.split('\n');
    expect(lines.filter((line) => line.startsWith('o '))).deep.equal(
      NAMES.map((name) => `o ${name.replace(' ', '_')}`),
    );
    const places = lines
      .filter((line) => line.startsWith('v '))
      .map((line) => line.slice(2).split(' ').map(Number));
    const faces = lines
      .filter((line) => line.startsWith('f '))
      .flatMap((line) =>
        line
          .slice(2)
          .split(' ')
          .map((corner) => Number(corner.split('/')[0]) - 1),
      );
    const volume = volumeOf({
      positions: Float32Array.from(places.flatMap((place) => place.slice(0, 3))),
      triangles: Uint32Array.from(faces),
    });
    // Two materials, two colours.
    expect(new Set(places.map((place) => place.slice(3).join())).size).equal(2);
    expect(volume).closeTo(VOLUME, 3 * 4 * Math.PI * 9 * 0.05);
    const { positions, triangles } = readBinary((await partFile(several(), 'stl', go)).bytes);
    expect(volumeOf({ positions, triangles })).closeTo(VOLUME, 3 * 4 * Math.PI * 9 * 0.05);
  });

  it('are refused by name where one of them is not made', async () => {
    const design = several();
    stepOf(design, 'block').set.height = '0 mm';
    const refused = await partFile(design, 'stl', go).catch((error: Error) => error.message);
    expect(refused).match(/^Block is not made yet/);
  });
});
