import { expect } from 'chai';
import { addStep } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { cutSheet } from '../src/exchange/cut-drawing';
import { designOfFile } from '../src/exchange/design-of-file';
import { partFile } from '../src/exchange/files';
import {
  FORMATS,
  acceptOf,
  namesOf,
  readableFormats,
  readerFor,
  writableFormats,
} from '../src/exchange/formats';
import { run } from './helpers';
import { refusal } from './refusal';

describe('file formats', () => {
  it('are named, read by one reader for an ending, and told on the help page', () => {
    expect(new Set(FORMATS.map(({ id }) => id)).size).equal(FORMATS.length);
    for (const { name, endings, media, help } of FORMATS) {
      for (const ending of endings) expect(ending).match(/^[a-z0-9]+$/);
      expect(media).match(/^[a-z]+\/[\w.+-]+$/);
      expect(`${name} ${help}`).match(/^\S.*\.$/);
    }
    const endings = FORMATS.filter(({ read }) => read).flatMap((one) => one.endings);
    expect(new Set(endings).size, 'one reader for an ending').equal(endings.length);
    for (const { label, note } of writableFormats('part')) expect([label, note]).not.include(undefined);
  });

  it('are found by the endings of names, in any letters, and listed in sentences', () => {
    expect(readerFor('Jar lid.STL', 'part')?.id).equal('stl');
    expect(readerFor('lid.stl', 'outline')).equal(undefined);
    // Scenes for viewers are written only.
    expect(readerFor('lid.glb', 'part')).equal(undefined);
    expect(readerFor('stl', 'part')).equal(undefined);
    expect(acceptOf('outline')).equal('.svg,.dxf');
    expect(namesOf(readableFormats('part'), 'or')).equal('3MF, STL or OBJ');
    expect(namesOf(readableFormats('design'), 'or')).equal('Design, JSON');
  });

  const block = emptyDesign('Spacer');
  addStep(block, 'block', 0, { width: '20 mm', depth: '10 mm', height: '4 mm' });

  for (const { id, endings } of writableFormats('part').filter(({ read }) => read))
    it(`${id} files become a design of the same part`, async () => {
      const { bytes } = await partFile(block, id, async () => {});
      const design = await designOfFile(`Spacer 20.${endings[0]}`, bytes);
      expect(design.name).equal('Spacer 20');
      const { results } = (await run(design)).steps[0]!;
      expect(results.find(({ name }) => name === 'volume')!.value).closeTo(800, 1e-3);
    });

  for (const { id, endings, write } of writableFormats('outline'))
    it(`${id} files become a design of the same section`, async () => {
      const drawing = await write(cutSheet([Float64Array.of(0, 0, 30, 0, 30, 12, 0, 12)], 'Plate'));
      const design = await designOfFile(`plate.${endings[0]}`, new TextEncoder().encode(drawing));
      const { results } = (await run(design)).steps[0]!;
      expect(results.find(({ name }) => name === 'area')!.value).closeTo(360, 1e-6);
    });

  it('others are refused with those that are read', async () => {
    expect(await refusal(designOfFile('part.step', new Uint8Array()))).equal(
      'This file cannot become a design. Choose a 3MF, STL, OBJ, SVG or DXF file.',
    );
  });
});
