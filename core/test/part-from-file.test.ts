/** Parts out of files: closed triangles, and whatever is made of them. */
import { expect } from 'chai';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { addStep, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { figureName, namesUsed } from '../src/design/measured-names';
import { emptyDesign, type Design } from '../src/design/schema';
import { partFile } from '../src/exchange/files';
import { surfacesOf } from '../src/exchange/surfaces';
import { readThreeMf } from '../src/exchange/threemf-in';
import { Complaint } from '../src/measure/words';
import { inspectMesh } from '../src/mesh/data/topology';
import { joinMeshes } from '../src/mesh/data/mesh';
import { packed, unpacked } from '../src/mesh/data/packed';
import type { Body } from '../src/solid/body/body';
import { near } from './bodies';
import { boxes, boxSoup, frameSoup } from './boxes';
import { complaintsOf, figureOf, toldOf, valueOf } from './helpers';
import { inLong } from './runs';
import { readBinary } from './stl-reader';

const inward = (soup: Float32Array): Float32Array =>
  Float32Array.from({ length: soup.length }, (_x, i) => {
    const [t, corner, k] = [Math.floor(i / 9), Math.floor(i / 3) % 3, i % 3];
    return soup[9 * t + 3 * (2 - corner) + k]!;
  });
const together = (...soups: Float32Array[]): Float32Array =>
  Float32Array.from(soups.flatMap((one) => [...one]));

const CUBE = boxSoup([0, 0, 0], [10, 10, 10]);

function fromFile(soup: Float32Array, set: Record<string, string> = {}): Design {
  const design = emptyDesign('From a file');
  addStep(design, 'part-from-file', 0, { file: 'cube.stl', triangles: packed(surfacesOf(soup)), ...set });
  return design;
}

const refusal = (soup: Float32Array): string => {
  try {
    surfacesOf(soup);
  } catch (error) {
    if (error instanceof Complaint) return error.message;
    throw error;
  }
  return '';
};

describe('triangles out of a file', () => {
  it('are kept as text, and come back as they were', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.float({ noNaN: true, noDefaultInfinity: true }), fc.nat(), fc.nat()), {
          minLength: 1,
          maxLength: 60,
        }),
        (rows) => {
          const positions = Float32Array.from(rows.flatMap(([x, y, z]) => [x, y / 7, z / 3]));
          const triangles = Uint32Array.from(
            rows.flatMap(([, a, b]) => [a, b, a + b].map((i) => i % rows.length)),
          );
          expect(unpacked(packed({ positions, triangles }))).deep.equal({ positions, triangles });
        },
      ),
    );
  });

  it('are told damaged where the text was cut or changed', async () => {
    const design = fromFile(CUBE);
    const { set } = stepOf(design, 'part-from-file');
    const whole = set.triangles!;
    for (const bad of [
      '',
      'x',
      'äöü',
      whole.slice(0, -12),
      whole.slice(0, 40),
      `${whole.slice(0, 8)}AAAA${whole.slice(12)}`,
    ]) {
      set.triangles = bad;
      expect((await complaintsOf(design, 'part-from-file')).file, bad).match(/bring the file in again/);
    }
    const { positions, triangles } = surfacesOf(CUBE);
    set.triangles = packed({ positions, triangles: triangles.map((corner) => corner + 1) });
    expect((await complaintsOf(design, 'part-from-file')).file).match(/are damaged/);
    set.triangles = packed({ positions: positions.map((x) => x / 0), triangles });
    expect((await complaintsOf(design, 'part-from-file')).file).match(/are damaged/);
    // More of them than are ever kept: a few kB of text, and what unpacks to far more than its counts say.
    const many = new Uint32Array(3 * 100_001);
    set.triangles = packed({ positions, triangles: many });
    expect((await complaintsOf(design, 'part-from-file')).file).match(/are damaged/);
    set.triangles = packed({ positions: new Float32Array(2e6 + 1), triangles });
    expect((await complaintsOf(design, 'part-from-file')).file).match(/are damaged/);
    delete set.triangles;
    expect(await complaintsOf(design, 'part-from-file')).deep.equal({
      file: 'No file was brought in yet. Choose one below.',
    });
  });

  it('that no longer close are refused, wherever they were changed', async () => {
    const { positions, triangles } = surfacesOf(CUBE);
    const design = fromFile(CUBE, { triangles: packed({ positions, triangles: triangles.slice(3) }) });
    expect((await complaintsOf(design, 'part-from-file')).file).match(/bound no solid/);
    const over = fromFile(CUBE, { triangles: packed({ positions, triangles: triangles.slice().reverse() }) });
    expect((await complaintsOf(over, 'part-from-file')).file).match(/bound no solid/);
    const [around, within] = [boxes([0, 0, 0, 10]), boxes([2, 2, 2, 3])];
    const twice = fromFile(CUBE, { triangles: packed(joinMeshes([around, within])) });
    expect((await complaintsOf(twice, 'part-from-file')).file).match(/bound no solid/);
  });

  it('share their corners, and look outward', () => {
    for (const soup of [CUBE, inward(CUBE)]) {
      const found = surfacesOf(soup);
      expect(found.positions.length).equal(3 * 8);
      expect(inspectMesh(found)).deep.include({ openEdges: 0, triangles: 12, volume: 1000 });
    }
  });

  it('without an area between two corners are left out', () => {
    const needle = Float32Array.of(0, 0, 0, 10, 0, 0, 0, 0, 0);
    expect(surfacesOf(together(CUBE, needle)).triangles.length).equal(36);
  });

  it('share corners that were rounded differently, and no others', () => {
    const rounded = (by: number) =>
      fc.property(fc.array(fc.double({ min: -by, max: by, noNaN: true }), { minLength: 1 }), (offs) => {
        const soup = together(boxSoup([-3, -4, 2], [10, 20, 70]), boxSoup([20, 0, 0], [30, 9, 70])).map(
          (x, i) => x + 70 * offs[i % offs.length]!,
        );
        const { openEdges, volume, triangles } = inspectMesh(surfacesOf(soup));
        expect({ openEdges, triangles }).deep.equal({ openEdges: 0, triangles: 24 });
        near(volume, 13 * 24 * 68 + 10 * 9 * 70, 1e-5);
      });
    fc.assert(rounded(4.5e-7));
    const apart = CUBE.slice();
    apart[0]! += 2e-5;
    expect(refusal(apart)).match(/a triangle on one side only/);
  });

  it('may be several shells, and hollows in them', () => {
    const hollow = together(CUBE, inward(boxSoup([1, 1, 1], [9, 9, 9])), boxSoup([20, 0, 0], [21, 1, 1]));
    near(inspectMesh(surfacesOf(hollow)).volume, 1000 - 512 + 1);
  });

  it('may stand in the hollow of another, or touch another at a corner', () => {
    const [around, hollow] = [CUBE, inward(boxSoup([1, 1, 1], [9, 9, 9]))];
    const within = together(
      around,
      hollow,
      boxSoup([2, 2, 2], [8, 8, 8]),
      inward(boxSoup([3, 3, 3], [7, 7, 7])),
    );
    near(inspectMesh(surfacesOf(within)).volume, 1000 - 512 + 216 - 64);
    // Looked at the other way round they are the same parts.
    near(inspectMesh(surfacesOf(inward(within))).volume, 1000 - 512 + 216 - 64);
    near(inspectMesh(surfacesOf(together(around, boxSoup([10, 10, 10], [12, 12, 12])))).volume, 1008);
    near(
      inspectMesh(surfacesOf(together(around, hollow, boxSoup([1, 1, 1], [2, 2, 2])))).volume,
      1000 - 512 + 1,
    );
  });

  it('are refused where one fills what is solid or empty already', () => {
    const frame = frameSoup(30, 10, 10);
    const small = boxSoup([12, 12, 2], [18, 18, 8]);
    near(inspectMesh(surfacesOf(frame)).volume, (30 ** 2 - 10 ** 2) * 10);
    near(inspectMesh(surfacesOf(together(frame, small))).volume, (30 ** 2 - 10 ** 2) * 10 + 216);
    // In the bore of the frame there is nothing to be hollowed.
    expect(refusal(together(frame, inward(small)))).match(/turned inside out/);
    expect(refusal(together(frame, boxSoup([2, 2, 2], [4, 4, 4])))).match(/lies within another/);
    near(
      inspectMesh(surfacesOf(together(frame, inward(boxSoup([2, 2, 2], [4, 4, 4]))))).volume,
      (30 ** 2 - 10 ** 2) * 10 - 8,
    );
    const hollow = inward(boxSoup([1, 1, 1], [9, 9, 9]));
    expect(refusal(together(CUBE, hollow, inward(boxSoup([2, 2, 2], [3, 3, 3]))))).match(/turned inside out/);
    // One that is turned, and hangs on the other by a corner alone.
    expect(refusal(together(CUBE, inward(boxSoup([10, 10, 10], [12, 12, 12]))))).match(/turned inside out/);
    expect(refusal(together(CUBE, boxSoup([0, 0, 0], [0.5, 0.5, 0.5])))).match(/lies within another/);
  });

  it('are refused in words where they bound no solid, with the place', () => {
    expect(refusal(new Float32Array())).match(/^There are no triangles in this file: /);
    expect(refusal(CUBE.subarray(9))).match(
      /does not close: 3 edges have a triangle on one side only, the first near \d+, \d+, \d+\./,
    );
    expect(refusal(together(CUBE, boxSoup([10, 10, 0], [20, 20, 10])))).match(
      /1 edge has more than two triangles, the first near 10, 10, 5\./,
    );
    const turned = CUBE.slice();
    turned.set(inward(CUBE.subarray(0, 9)));
    expect(refusal(turned)).match(/3 edges have triangles that face against each other/);
    expect(refusal(together(CUBE, inward(boxSoup([20, 0, 0], [21, 1, 1]))))).match(/turned inside out/);
    expect(refusal(together(CUBE, inward(CUBE)))).match(/no volume|more than two/);
    const wrong = CUBE.slice();
    wrong[4] = NaN;
    expect(refusal(wrong)).match(/no numbers/);
    expect(refusal(new Float32Array(9 * 100_001))).match(/100001 triangles, more than the 100000/);
  });
});

describe('3MF packages that come in', () => {
  const mesh = (soup: Float32Array): string => {
    const { positions: p, triangles: t } = surfacesOf(soup);
    const all = (n: number, of: (i: number) => string) =>
      Array.from({ length: n }, (_x, i) => of(i)).join('');
    const vertices = all(
      p.length / 3,
      (i) => `<vertex x="${p[3 * i]}" y="${p[3 * i + 1]}" z="${p[3 * i + 2]}"/>`,
    );
    const triangles = all(
      t.length / 3,
      (i) => `<triangle v1="${t[3 * i]}" v2="${t[3 * i + 1]}" v3="${t[3 * i + 2]}"/>`,
    );
    return `<mesh><vertices>${vertices}</vertices><triangles>${triangles}</triangles></mesh>`;
  };
  const CORE = 'http://schemas.microsoft.com/3dmanufacturing/core/2015/02';
  const pack = (unit: string, objects: string, items: string): Uint8Array =>
    zipSync({
      '3D/3dmodel.model': strToU8(
        `<?xml version="1.0"?><model ${unit} xmlns="${CORE}"><resources>${objects}</resources><build>${items}</build></model>`,
      ),
    });
  const volumeIn = (bytes: Uint8Array): number => inspectMesh(surfacesOf(readThreeMf(bytes).corners)).volume;

  it('give what they build, where it stands, in their unit', () => {
    const one = pack(
      'unit="inch"',
      `<object id="7" type="model">${mesh(CUBE)}</object>`,
      '<item objectid="7"/>',
    );
    expect(readThreeMf(one).unit).equal(25.4);
    near(volumeIn(one), 1000);
    // A cube of 10, and an object of two: the cube again at half its size, and mirrored.
    const two = pack(
      '',
      `<object id="1">${mesh(CUBE)}</object><object id="2"><components><component objectid="1" transform="0.5 0 0 0 0.5 0 0 0 0.5 0 0 30"/><component objectid="1" transform="-1 0 0 0 1 0 0 0 1 0 0 0"/></components></object><object id="3">${mesh(boxSoup([0, 0, 0], [99, 99, 99]))}</object>`,
      '<item objectid="1" transform="1 0 0 0 1 0 0 0 1 50 0 0"/><item objectid="2"/>',
    );
    const { corners, unit } = readThreeMf(two);
    expect(unit).equal(1);
    near(volumeIn(two), 1000 + 125 + 1000);
    expect([Math.min(...corners), Math.max(...corners)]).deep.equal([-10, 60]);
  });

  it('of our own are read back', async () => {
    const design = emptyDesign('Ball');
    addStep(design, 'ball', 0, { diameter: '6 mm' });
    const { bytes } = await partFile(design, '3mf', async () => {});
    expect(Math.abs(volumeIn(bytes) / ((4 / 3) * Math.PI * 27) - 1)).below(0.02);
  });

  it('are refused in words where they are damaged', () => {
    const object = `<object id="1">${mesh(CUBE)}</object>`;
    // Ten of ten of ten …: without end, and without a triangle.
    const nested = Array.from(
      { length: 10 },
      (_x, i) =>
        `<object id="${i}"><components>${(i ? `<component objectid="${i - 1}"/>` : '').repeat(10)}</components></object>`,
    ).join('');
    for (const [bytes, says] of [
      [strToU8('PK nothing'), /zip archive is damaged/],
      [zipSync({ 'a.txt': strToU8('a') }), /no 3MF file/],
      [pack('', object, '<item objectid="2"/>'), /no 3MF file/],
      [pack('', object, '<item objectid="1" transform="1 0 0"/>'), /no 3MF file/],
      [pack('', object.replace('v1="', 'v1="9'), '<item objectid="1"/>'), /no 3MF file/],
      [
        pack(
          '',
          '<object id="1"><components><component objectid="1"/></components></object>',
          '<item objectid="1"/>',
        ),
        /no 3MF file/,
      ],
      [pack('unit="constructor"', object, '<item objectid="1"/>'), /unit of this file is not known here/],
      [pack('', nested, '<item objectid="9"/>'), /more than 10000 objects/],
      [pack('unit="ell"', object, '<item objectid="1"/>'), /unit of this file is not known here: ell/],
      [pack('', object, ''), /no triangles/],
    ] as const)
      expect(() => volumeIn(bytes)).throw(Complaint, says);
  });
});

describe('a part from a file', () => {
  const volumeOf = async (design: Design, id: string): Promise<number> =>
    (await toldOf(design, id)).figures.volume!.value;

  it('has the figures of its triangles, in the unit of the file, where it is placed', async () => {
    const design = fromFile(CUBE, {
      unit: '1 in',
      originX: '5 mm',
      axisX: '1',
      axisZ: '0',
      material: 'brass',
    });
    const { figures, findings } = await toldOf<Body>(design, 'part-from-file');
    const side = 254;
    near(figures.volume!.value, side ** 3);
    near(figures.surface!.value, 6 * side ** 2);
    expect(figures.triangles!.value).equal(12);
    // Its own z lies along x.
    near(figures.centreX!.value, 5 + side / 2);
    for (const axis of ['X', 'Y', 'Z']) near(figures[`extent${axis}`]!.value, side);
    expect(findings.closed).deep.include({ level: 'good' });
  });

  it('is drilled through, and goes out closed', async () => {
    const design = fromFile(CUBE);
    const [foot, middle] = ['-10 mm', '5 mm'];
    addStep(design, 'cylinder', 1, {
      diameter: '4 mm',
      height: '30 mm',
      originX: middle,
      originY: middle,
      originZ: foot,
    });
    addStep(design, 'subtract', 2);
    stepOf(design, 'subtract').from = { body: 'part-from-file', taken: ['cylinder'] };
    near(await volumeOf(design, 'subtract'), 1000 - 40 * Math.PI, 1e-4);
    const { bytes } = await partFile(design, 'stl', async () => {});
    expect(inspectMesh(readBinary(bytes))).deep.include({ openEdges: 0, euler: 0 });
  });

  inLong('is hollowed', async () => {
    const design = fromFile(CUBE);
    addStep(design, 'hollow', 1, { wall: '3 mm', floor: '3 mm', open: 'none' });
    near(await volumeOf(design, 'hollow'), 1000 - 64, 2e-3);
  });

  it('keeps its volume where it is wrung, and twice that with its mirror image', async () => {
    const design = fromFile(CUBE);
    addStep(design, 'reshape', 1, { way: 'wring', from: '0 mm', to: '10 mm', angle: '90 deg' });
    near(await volumeOf(design, 'reshape'), 1000, 1e-6);
    const pair = fromFile(CUBE, { originX: '3 mm' });
    addStep(pair, 'repeat', 1, { way: 'mirror' });
    addStep(pair, 'add', 2);
    near(await volumeOf(pair, 'add'), 2000, 1e-6);
  });

  it('that runs through itself is told, and nothing is made of it', async () => {
    const design = fromFile(together(CUBE, boxSoup([5, 5, 5], [15.5, 15.5, 15.5])));
    const { findings } = await toldOf(design, 'part-from-file');
    expect(findings.closed).deep.include({ level: 'fault', blocks: true });
    addStep(design, 'cylinder', 1);
    addStep(design, 'add', 2);
    stepOf(design, 'add').from = { bodies: ['part-from-file', 'cylinder'] };
    const sent = await partFile(design, 'stl', async () => {}).catch((error: unknown) => error as Error);
    expect(sent).instanceOf(Complaint);
    expect((sent as Complaint).message).match(/runs through itself near/);
  });

  it('is not gone through for names, nor kept again for every place it had', async () => {
    const design = fromFile(
      together(
        ...Array.from({ length: 60 }, (_x, i) => boxSoup([3 * i, i / 7, i / 3], [3 * i + 2, 15 + i / 9, 30])),
      ),
    );
    // A measure that is called as a word in the middle of the text is.
    const { triangles } = stepOf(design, 'part-from-file').set;
    const word = /[+/]([A-Za-z][A-Za-z0-9]{1,8})[+/]/.exec(triangles!)![1]!;
    const measure = addStep(design, 'measure-length', 1);
    stepOf(design, measure).name = word;
    expect(figureName(stepOf(design, measure))).equal(word);
    expect(namesUsed(stepOf(design, 'part-from-file'), [word])).deep.equal([]);
    const cache = createCache();
    for (let i = 0; i < 5; i++) {
      stepOf(design, 'part-from-file').set.originX = `${i} mm`;
      const { steps } = await evaluate(design, cache);
      expect(steps[0]!.state).equal('ready');
    }
    expect(triangles!.length).above(5000);
    for (const key of cache.resolved.keys()) expect(key.length).below(1000);
    // Another file is another part.
    const volume = (one: Design) => figureOf(one, 'part-from-file', 'volume');
    expect(await volume(fromFile(CUBE))).not.equal(await volume(fromFile(boxSoup([0, 0, 0], [10, 10, 11]))));
  });

  it('keeps its triangles to itself, whatever is drawn of it', async () => {
    const body = (await valueOf(fromFile(CUBE), 'part-from-file')) as Body;
    const first = body.mesh(1, 100);
    first.positions.fill(7);
    first.triangles.fill(0);
    expect(inspectMesh(body.mesh(1, 100))).deep.include({ openEdges: 0, volume: 1000 });
  });
});
