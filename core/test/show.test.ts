import { expect } from 'chai';
import { strFromU8, unzipSync } from 'fflate';
import { addStep, removeStep, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { inGroup, newGroup, setColour, setGroup, setHidden } from '../src/design/show';
import { readDesign, writeDesign } from '../src/exchange/design-json';
import { partFile } from '../src/exchange/files';
import { chainsOf, colourOf } from '../src/view/made-of';
import { demo } from './demo';

const go = async () => {};

async function chains(design: Design, id: string) {
  const { steps } = await evaluate(design, createCache(), go, 'shape');
  return chainsOf(design.steps, (step) => steps.find((one) => one.id === step)?.value, id);
}

const balls = (): Design => {
  const design = emptyDesign('Balls');
  addStep(design, 'ball', 0, { diameter: '10 mm' });
  addStep(design, 'ball', 1, { diameter: '12 mm', originX: '20 mm' });
  return design;
};

describe('how steps are shown', () => {
  it('faces of a combination know the steps they came through, through copies and changes', async () => {
    const design = demo('lid-knob.json');
    const found = await chains(design, 'whole');
    expect(found).length(1 + 12 + 12);
    expect(found[0]).deep.equal(['whole', 'held', 'knob']);
    for (const chain of found.slice(1, 13)) expect(chain).deep.equal(['whole', 'held', 'dimples', 'ball']);
    for (const chain of found.slice(13)) expect(chain).deep.equal(['whole', 'studs', 'stud']);
  });

  it('the colour of the last step that has one is theirs', async () => {
    const design = demo('lid-knob.json');
    const [plain, dimple] = await chains(design, 'whole');
    setColour(design, ['ball'], '#5d8a4e');
    expect(colourOf(design.steps, dimple!)).equal('#5d8a4e');
    expect(colourOf(design.steps, plain!)).equal(undefined);
    setColour(design, ['dimples'], '#7a4a2b');
    expect(colourOf(design.steps, dimple!)).equal('#7a4a2b');
    setColour(design, ['ball', 'dimples'], undefined);
    expect(colourOf(design.steps, dimple!)).equal(undefined);
    expect(JSON.stringify(design)).equal(JSON.stringify(demo('lid-knob.json')));
  });

  it('colours go out with the bodies, and hidden ones stay', async () => {
    const design = balls();
    setColour(design, ['ball-2'], '#5f93b5');
    const model = async () => {
      const { bytes } = await partFile(design, '3mf', go);
      return strFromU8(unzipSync(bytes)['3D/3dmodel.model']!);
    };
    const text = await model();
    const bases = [...text.matchAll(/displaycolor="(#[0-9A-F]{6})"/g)].map((found) => found[1]);
    expect(bases).length(2);
    expect(bases[1]).equal('#5F93B5');
    const objects = [...text.matchAll(/<object [^>]*name="([^"]*)"[^>]*pindex="(\d)"/g)];
    expect(objects.map((found) => [found[1], found[2]])).deep.equal([
      ['Ball', '0'],
      ['Ball 2', '1'],
    ]);
    setHidden(design, ['ball'], true);
    expect([...(await model()).matchAll(/<object /g)]).length(1);
    setHidden(design, ['ball'], false);
    expect([...(await model()).matchAll(/<object /g)]).length(2);
  });

  it('and those of the faces of one body too', async () => {
    const design = balls();
    stepOf(design, 'ball-2').set.originX = '8 mm';
    addStep(design, 'subtract', 2);
    setColour(design, ['ball-2'], '#b3623f');
    const { bytes, sent } = await partFile(design, '3mf', go);
    const text = strFromU8(unzipSync(bytes)['3D/3dmodel.model']!);
    const bases = [...text.matchAll(/displaycolor="(#[0-9A-F]{6})"/g)].map((found) => found[1]);
    expect(bases).length(2).include('#B3623F');
    // The hollow is of the second ball: as many triangles have its colour as lie on it.
    const { positions, triangles } = sent[0]!.mesh;
    let on = 0;
    for (let t = 0; t < triangles.length; t += 3) {
      const off = [0, 1, 2].map((corner) => {
        const v = 3 * triangles[t + corner]!;
        return Math.abs(Math.hypot(positions[v]! - 8, positions[v + 1]!, positions[v + 2]!) - 6);
      });
      if (Math.max(...off) < 0.03) on++;
    }
    const coloured = [...text.matchAll(new RegExp(`p1="${bases.indexOf('#B3623F')}"`, 'g'))].length;
    expect(coloured).equal(on).above(10);
    expect([...text.matchAll(/ p1="/g)].length).equal(triangles.length / 3);
    const lines = new TextDecoder().decode((await partFile(design, 'obj', go)).bytes).split('\n');
    const colours = lines.filter((line) => line.startsWith('v ')).map((line) => line.split(' ').slice(4));
    const red = [0xb3, 0x62, 0x3f].map((part) => String(Number((part / 255).toFixed(4)))).join();
    const corners = lines
      .filter((line) => line.startsWith('f '))
      .map((line) => line.slice(2).split(' '))
      .map((face) => face.map((corner) => colours[parseInt(corner) - 1]!.join() === red));
    expect(corners.filter((face) => face.every(Boolean)).length).equal(on);
    expect(corners.filter((face) => face.some(Boolean)).length).equal(on);
    const glb = await partFile(design, 'glb', go);
    const { asset, meshes, materials } = JSON.parse(
      strFromU8(glb.bytes.subarray(20, 20 + new DataView(glb.bytes.buffer).getUint32(12, true))),
    ) as { asset: object; meshes: { primitives: object[] }[]; materials: object[] };
    expect(asset).an('object');
    expect(meshes[0]!.primitives).length(2);
    expect(materials).length(2);
  });

  it('and each place is written once in each colour, however often that comes', async () => {
    const design = balls();
    stepOf(design, 'ball-2').set.originX = '8 mm';
    addStep(design, 'ball', 2, { diameter: '8 mm', originX: '-6 mm' });
    addStep(design, 'subtract', 3);
    stepOf(design, 'subtract').from = { body: 'ball', taken: ['ball-2', 'ball-3'] };
    setColour(design, ['ball-2'], '#b3623f');
    const { bytes, sent } = await partFile(design, 'obj', go);
    // Plain, coloured, plain again.
    expect(sent[0]!.faces).length(3);
    const places = new TextDecoder()
      .decode(bytes)
      .split('\n')
      .filter((line) => line.startsWith('v '));
    expect(new Set(places).size).equal(places.length);
  });

  it('groups are kept in the document as long as they have a step', () => {
    const design = balls();
    const first = newGroup(design, ['ball'], 'Feet');
    const second = newGroup(design, ['ball-2'], 'Heads');
    expect(inGroup(design, first)).deep.equal(['ball']);
    expect(readDesign(writeDesign(design))).deep.equal(design);
    setGroup(design, ['ball-2'], first);
    expect(inGroup(design, first)).deep.equal(['ball', 'ball-2']);
    expect(design.groups!.map(({ id }) => id)).deep.equal([first]);
    expect(second).not.equal(first);
    removeStep(design, 'ball');
    expect(design.groups).length(1);
    setGroup(design, ['ball-2'], undefined);
    expect(design.groups).equal(undefined);
    expect(stepOf(design, 'ball-2').group).equal(undefined);
  });
});
