/** Parts as other programs write them. */
import { expect } from 'chai';
import { addStep } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { partFile } from '../src/exchange/files';
import { inspectMesh } from '../src/mesh/data/topology';
import { unpacked } from '../src/mesh/data/packed';
import { refusal } from './refusal';
import { readPart } from '../src/exchange/part-in';

const bytesOf = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);

async function volumeIn(name: string, bytes: Uint8Array): Promise<number> {
  const { triangles } = await readPart(name, bytes);
  const { openEdges, volume } = inspectMesh(unpacked(triangles));
  expect(openEdges).equal(0);
  return volume;
}

/** A wedge 4 wide, 3 deep and 2 high, with faces of three and four corners, as exporters write them. */
const WEDGE = `# made up
o wedge
v 0 0 0
v 4 0 0
v 4 3 0
v 0 3 0
v 0 0 2
v 0 3 2
vn 0 0 -1
l 1 2
f 4//1 3//1 2//1 1//1
f 1 2 5
f 3 4 6
f 2 3 6 5
f -6 -2 -1 -3
`;

const TETRAHEDRON = [
  ['0 0 0', '0 6 0', '6 0 0'],
  ['0 0 0', '6 0 0', '0 0 6'],
  ['6 0 0', '0 6 0', '0 0 6'],
  ['0 0 0', '0 0 6', '0 6 0'],
];
const STL = `solid four sides
${TETRAHEDRON.map((corners) => `facet normal 0 0 0\nouter loop\n${corners.map((one) => `vertex ${one}`).join('\n')}\nendloop\nendfacet`).join('\n')}
endsolid`;

describe('files with parts in them', () => {
  it('are read: OBJ with faces of any number of corners, STL as text', async () => {
    expect(await volumeIn('wedge.obj', bytesOf(WEDGE))).closeTo(12, 1e-6);
    expect(await volumeIn('Four sides.STL', bytesOf(STL))).closeTo(36, 1e-6);
  });

  it('of our own are read back in every format', async () => {
    const design = emptyDesign('Plug');
    addStep(design, 'cone', 0);
    const volumes: number[] = [];
    for (const [format, name] of [
      ['stl', 'plug.stl'],
      ['stl-text', 'plug.stl'],
      ['obj', 'plug.obj'],
      ['3mf', 'plug.3mf'],
    ] satisfies [string, string][]) {
      const { bytes } = await partFile(design, format, async () => {});
      volumes.push(await volumeIn(name, new Uint8Array(bytes)));
    }
    for (const volume of volumes) expect(volume / volumes[0]!).closeTo(1, 1e-5);
  });

  it('say their unit where they have one', async () => {
    const design = emptyDesign('Plug');
    addStep(design, 'block', 0);
    const { bytes } = await partFile(design, '3mf', async () => {});
    expect((await readPart('block.3mf', new Uint8Array(bytes))).unit).equal('1 mm');
    expect((await readPart('wedge.obj', bytesOf(WEDGE))).unit).equal(undefined);
  });

  it('are refused in words where they are none, or cut off', async () => {
    const design = emptyDesign('Plug');
    addStep(design, 'block', 0);
    const { bytes } = await partFile(design, 'stl', async () => {});
    for (const [name, content, says] of [
      ['part.step', bytesOf('ISO-10303-21;'), /Only 3MF, STL and OBJ files/],
      ['part', bytesOf(''), /Only 3MF, STL and OBJ files/],
      ['part.stl', bytesOf(''), /not an STL file/],
      ['part.stl', new Uint8Array(bytes.slice(0, 400)), /has 400 bytes, and its 12 triangles would need 684/],
      ['part.stl', bytesOf(STL.slice(0, -60)), /cut off/],
      ['part.stl', bytesOf(STL.replace('6 0 0', '6,5 0 0')), /Line 6 has a decimal comma \(“6,5”\)/],
      ['part.stl', bytesOf(STL.replace('6 0 0', 'six 0 0')), /Line 6: “six” is not a number/],
      ['part.obj', bytesOf('nothing of that sort'), /no triangles/],
      ['part.obj', bytesOf(WEDGE.replace('v 4 3 0', 'v 4,75 3 0')), /Line 5 has a decimal comma \(“4,75”\)/],
      ['part.obj', bytesOf(WEDGE.replace('f 1 2 5', 'f 1 2 9')), /Line 12: the face names a corner “9”/],
      ['part.obj', bytesOf(WEDGE.replace('f 1 2 5\n', '')), /3 edges have a triangle on one side only/],
    ] as const) {
      expect(await refusal(readPart(name, content)), name).match(says);
    }
  });

  it('are the same in any encoding, on one line, and with lines that go on', async () => {
    const marked = (text: string) => new Uint8Array(Buffer.from(`\ufeff${text}`, 'utf16le'));
    expect(await volumeIn('wide.stl', marked(STL))).closeTo(36, 1e-6);
    expect(await volumeIn('wide.obj', marked(WEDGE))).closeTo(12, 1e-6);
    expect(await volumeIn('line.stl', bytesOf(STL.replaceAll('\n', ' ')))).closeTo(36, 1e-6);
    expect(await volumeIn('long.obj', bytesOf(WEDGE.replace('f 2 3 6 5', 'f 2 3 \\\n 6 5')))).closeTo(
      12,
      1e-6,
    );
    expect(await volumeIn('windows.obj', bytesOf(WEDGE.replaceAll('\n', '\r\n')))).closeTo(12, 1e-6);
  });
});
