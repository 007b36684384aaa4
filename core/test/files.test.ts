import { expect } from 'chai';
import { XMLParser } from 'fast-xml-parser';
import { unzipSync, strFromU8 } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { inspectMesh } from '../src/mesh/data/topology';
import { partFile } from '../src/exchange/files';
import { straight, bodyDesign, type Carried } from './bodies';
import { readBinary } from './stl-reader';

const go = async () => {};
const PARTS: Record<string, Carried> = {
  'twisted star with a dome': {
    path: straight(50),
    section: { kind: 'star' },
    sweep: { twistBy: 'total', twist: '120 deg', endShape: 'domed', endSize: '3 mm', material: 'beeswax' },
  },
  'tube on a coil': {
    path: { kind: 'helix', set: { diameter: '60 mm', turns: '2', height: '40 mm' } },
    section: { kind: 'tube', set: { outer: '8 mm', wall: '1 mm' } },
    sweep: { material: 'copper' },
  },
  'coils that cut into each other': {
    path: { kind: 'helix', set: { diameter: '30 mm', turns: '2.5', height: '8 mm' } },
    section: { kind: 'round', set: { diameter: '4 mm' } },
  },
};

for (const [name, what] of Object.entries(PARTS))
  describe(`files of a part: ${name}`, () => {
    const design = bodyDesign(what);
    design.tolerance = '0.05 mm';

    it('GLB passes the validator of glTF, in metres, with its material', async () => {
      const { bytes } = await partFile(design, 'glb', go);
      const report = await validateBytes(bytes);
      expect(report.issues.messages.filter(({ severity }) => severity < 2)).deep.equal([]);
      expect(report.info).include({ drawCallCount: 1, materialCount: 1 });
      const json = JSON.parse(
        strFromU8(bytes.subarray(20, 20 + new DataView(bytes.buffer).getUint32(12, true))),
      ) as {
        nodes: { scale: number[] }[];
      };
      expect(json.nodes[0]!.scale).deep.equal([1e-3, 1e-3, 1e-3]);
    });

    it('3MF is a package whose model is closed by its own indices, in millimetres', async () => {
      const { bytes, sent } = await partFile(design, '3mf', go);
      const files = unzipSync(bytes);
      expect(Object.keys(files)).members(['[Content_Types].xml', '_rels/.rels', '3D/3dmodel.model']);
      const parser = new XMLParser({
        ignoreAttributes: false,
        parseAttributeValue: true,
        attributeNamePrefix: '',
      });
      const { model } = parser.parse(strFromU8(files['3D/3dmodel.model']!)) as {
        model: {
          unit: string;
          build: { item: { objectid: number } };
          resources: {
            object: {
              id: number;
              mesh: {
                vertices: { vertex: Record<'x' | 'y' | 'z', number>[] };
                triangles: { triangle: Record<'v1' | 'v2' | 'v3', number>[] };
              };
            };
          };
        };
      };
      expect(model.unit).equal('millimeter');
      const { object } = model.resources;
      expect(model.build.item.objectid).equal(object.id);
      const { vertex } = object.mesh.vertices;
      const { triangle } = object.mesh.triangles;
      // Every edge once each way, by index alone: this is what slicers ask for.
      const edges = new Set<string>();
      for (const { v1, v2, v3 } of triangle)
        for (const [a, b] of [
          [v1, v2],
          [v2, v3],
          [v3, v1],
        ]) {
          expect(edges.has(`${a} ${b}`)).equal(false);
          edges.add(`${a} ${b}`);
        }
      for (const edge of edges) expect(edges.has(edge.split(' ').reverse().join(' '))).equal(true);
      const positions = Float32Array.from(vertex.flatMap(({ x, y, z }) => [x, y, z]));
      const triangles = Uint32Array.from(triangle.flatMap(({ v1, v2, v3 }) => [v1, v2, v3]));
      const [here, there] = [inspectMesh({ positions, triangles }), inspectMesh(sent[0]!.mesh)];
      expect(here.volume).closeTo(there.volume, 1e-5 * there.volume);
    });

    it('OBJ holds the same solid, each place once, with a normal for every corner', async () => {
      const { bytes, sent } = await partFile(design, 'obj', go);
      const places: number[] = [];
      const corners: number[] = [];
      let normals = 0;
      for (const line of new TextDecoder().decode(bytes).split('\n')) {
        const [what, ...rest] = line.split(' ');
        if (what === 'v') places.push(...rest.slice(0, 3).map(Number));
        if (what === 'vn') normals++;
        if (what === 'f')
          for (const corner of rest) {
            const [place, normal] = corner.split('//').map(Number);
            corners.push(place! - 1);
            expect(normal).within(1, sent[0]!.mesh.positions.length / 3);
          }
      }
      expect(normals).equal(sent[0]!.mesh.normals.length / 3);
      const report = inspectMesh({
        positions: Float32Array.from(places),
        triangles: Uint32Array.from(corners),
      });
      const there = inspectMesh(sent[0]!.mesh);
      expect(report).deep.include({ openEdges: 0, triangles: there.triangles, euler: there.euler });
      expect(report.vertices).equal(places.length / 3);
      expect(report.volume).closeTo(there.volume, 1e-5 * there.volume);
    });

    it('STL as bytes and as text holds the same solid', async () => {
      const { bytes, sent } = await partFile(design, 'stl', go);
      const read = inspectMesh(readBinary(bytes));
      const there = inspectMesh(sent[0]!.mesh);
      expect(read).deep.include({ openEdges: 0, triangles: there.triangles });
      expect(read.volume).closeTo(there.volume, 1e-9 * there.volume);
      const text = new TextDecoder().decode((await partFile(design, 'stl-text', go)).bytes);
      expect(text.match(/^facet normal/gm)).lengthOf(there.triangles);
    });
  });
