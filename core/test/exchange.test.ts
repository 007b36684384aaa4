import { expect } from 'chai';
import { inspectMesh, meshVolume } from '../src/mesh/data/topology';
import { createCache, evaluate } from '../src/design/evaluate';
import { readDesign, sizeTrouble, writeDesign } from '../src/exchange/design-json';
import { report } from '../src/exchange/report';
import { solidsToSend } from '../src/exchange/solid';
import { asciiStl, binaryStl } from '../src/exchange/stl';
import { springDesign } from './helpers';
import { readAscii, readBinary } from './stl-reader';

const poll = async () => {};
const solid = async (design: ReturnType<typeof springDesign>) => {
  const cache = createCache();
  return (await solidsToSend(design, await evaluate(design, cache), cache, poll))[0]!.mesh;
};

describe('design files', () => {
  it('come back as they went out', () => {
    const design = springDesign({ duty: { ends: 'ground' } });
    expect(readDesign(writeDesign(design))).deep.equal(design);
  });

  it('of an older version are brought to the present one', () => {
    const { version: _version, tolerance: _tolerance, steps, ...rest } = springDesign();
    const old = { ...rest, version: 0, steps: steps.map(({ set, ...step }) => ({ ...step, figures: set })) };
    expect(readDesign(JSON.stringify(old)).steps).deep.equal(steps);
  });

  const good = () => JSON.parse(writeDesign(springDesign())) as Record<string, unknown>;
  const broken: [string, () => string, RegExp][] = [
    ['no JSON', () => 'solid x', /not valid JSON/],
    ['cut off', () => writeDesign(springDesign()).slice(0, 200), /not valid JSON\. Line \d+, column \d+/],
    ['another program’s', () => '{"type":"FeatureCollection"}', /not a Nematos design/],
    ['a list', () => '[]', /not a Nematos design/],
    [
      'newer',
      () => JSON.stringify({ ...good(), version: 9 }),
      /version 9; this Nematos reads up to version 3/,
    ],
    ['without version', () => JSON.stringify({ ...good(), version: 'x' }), /which version/],
    [
      'damaged',
      () => JSON.stringify({ ...good(), steps: [{ id: 'a', kind: 'round' }] }),
      /damaged at steps → 1 → set/,
    ],
    ['with a foreign field', () => JSON.stringify({ ...good(), extra: 1 }), /damaged at the top/],
    [
      'of an unknown kind',
      () => JSON.stringify({ ...good(), steps: [{ id: 'a', kind: 'loom', set: {} }] }),
      /Step 1 is of the kind “loom”/,
    ],
    [
      'with a misspelt figure',
      () => JSON.stringify({ ...good(), steps: [{ id: 'a', kind: 'round', set: { diametre: '16 mm' } }] }),
      /Step 1 \(“a”\) has a figure “diametre” that a .* does not know: did you mean “diameter”\?/,
    ],
    [
      'with a foreign input',
      () => JSON.stringify({ ...good(), steps: [{ id: 'a', kind: 'round', set: {}, from: { path: 'b' } }] }),
      /has an input “path” that .* it knows none/,
    ],
    [
      'with a misspelt table',
      () => JSON.stringify({ ...good(), steps: [{ id: 'a', kind: 'run', set: {}, rows: { point: [] } }] }),
      /table “point” .* did you mean “points”\?/,
    ],
    [
      'with a misspelt column',
      () =>
        JSON.stringify({
          ...good(),
          steps: [{ id: 'a', kind: 'run', set: {}, rows: { points: [{ x: '0' }, { x: '1', radios: '3' }] } }],
        }),
      /column “radios” in row 2 of its points .* did you mean “radius”\?/,
    ],
    [
      'of version 0, with nothing for a step',
      () => JSON.stringify({ ...good(), version: 0, steps: [null] }),
      /damaged at steps → 1/,
    ],
    [
      'with doubled ids',
      () => JSON.stringify({ ...good(), steps: [1, 2].map(() => ({ id: 'a', kind: 'round', set: {} })) }),
      /two steps/,
    ],
  ];
  for (const [name, text, says] of broken)
    it(`${name}: told in words`, () => expect(() => readDesign(text())).to.throw(says));

  it('of 160 MB are refused unread', () => {
    expect(sizeTrouble(160 * 1024 * 1024)).match(/160 MB/);
    expect(() => readDesign(' '.repeat(105_000_000))).to.throw(/100 MB; a design has at most 50 MB/);
  });

  it('with a choice that there is not: the choices are named, and the nearest', async () => {
    const { complaints } = await report(springDesign({ coil: { hand: 'rihgt' } }));
    expect(complaints.map(({ field, says }) => ({ field, says }))).deep.include({
      field: 'hand',
      says: 'Choose one of these: right, left. Did you mean “right”?',
    });
  });

  it('what a finding tells in detail stands in the report', async () => {
    const told = await report(springDesign({ coil: { turns: '12', height: '10 mm' } }));
    expect(told.findings.find(({ name }) => name === 'clearance')!.detail).match(
      /exported as one clean solid/,
    );
  });
});

describe('print meshes', () => {
  it('binary: count, size and volume are those of the body', async () => {
    const design = springDesign({ coil: { turns: '6', height: '32 mm' } });
    const mesh = await solid(design);
    const bytes = binaryStl(mesh);
    expect(bytes.length).equal(84 + (50 * mesh.triangles.length) / 3);
    const read = readBinary(bytes);
    expect(inspectMesh(read).openEdges).equal(0);
    const exact = (await report(design)).figures.find(({ name }) => name === 'volume')!.value;
    const surface = (await report(design)).figures.find(({ name }) => name === 'surface')!.value;
    expect(Math.abs(meshVolume(read.positions, read.triangles) - exact)).below(surface * 0.02);
  });

  it('text: the same triangles, and a plain name', async () => {
    const mesh = await solid(springDesign({ coil: { turns: '1' } }));
    const text = asciiStl(mesh, 'Ställ\nspring');
    expect(text).match(/^solid St ll spring\n/);
    const read = readAscii(text);
    expect(read.triangles.length).equal(mesh.triangles.length);
    expect(meshVolume(read.positions, read.triangles)).closeTo(
      meshVolume(mesh.positions, mesh.triangles),
      1e-4,
    );
  });

  const refused: [
    string,
    Parameters<typeof springDesign>[0],
    (design: ReturnType<typeof springDesign>) => void,
    RegExp,
  ][] = [
    ['a figure in fault', { wire: 'x' }, () => {}, /Wire is not made yet/],
    ['no body', {}, (design) => void design.steps.splice(2, 1), /no body yet/],
    ['a tolerance of nothing', {}, (design) => void (design.tolerance = '0 mm'), /must (lie|be) between/],
    ['a tolerance in degrees', {}, (design) => void (design.tolerance = '3 deg'), /a length is wanted/],
    [
      'too many triangles',
      { wire: '3 mm', coil: { turns: '1900', diameter: '80 mm', height: '9000 mm' } },
      (design) => void (design.tolerance = '0.0005 mm'),
      /more than 4 million triangles/,
    ],
  ];
  for (const [name, given, change, says] of refused)
    it(`${name}: refused with the reason`, async () => {
      const design = springDesign(given);
      change(design);
      let message = '';
      await solid(design).catch(
        (error: { says: unknown[] }) =>
          (message = error.says.map((part) => (typeof part === 'string' ? part : '#')).join('')),
      );
      expect(message).match(says);
    });
});
