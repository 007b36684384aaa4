import { expect } from 'chai';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { emptyDesign } from '../src/design/schema';
import { writeDesign } from '../src/exchange/design-json';
import { takeIn, writeShelf } from '../src/exchange/shelf';
import { springDesign } from './helpers';
import { LONG } from './runs';

describe('a shelf as one file', () => {
  const designs = [springDesign(), emptyDesign('Twin'), emptyDesign('Twin'), emptyDesign('ä/ö …')];

  it('comes in as it went out, designs of one name too', () => {
    const { designs: back, refused } = takeIn('shelf.zip', writeShelf(designs));
    expect(refused).deep.equal([]);
    expect(back).deep.equal(designs);
  });

  it('a single design is taken in as before, with a mark before its text too', () => {
    expect(takeIn('one.json', strToU8(`\ufeff${writeDesign(designs[0]!)}`)).designs).deep.equal([designs[0]]);
  });

  it('what cannot be read is told by its name, and the rest taken in', () => {
    const bytes = zipSync({
      'good.json': strToU8(writeDesign(designs[0]!)),
      'bad.json': strToU8('{'),
      'picture.png': strToU8('png'),
    });
    const { designs: back, refused } = takeIn('mixed.zip', bytes);
    expect(back).deep.equal([designs[0]]);
    expect(refused).deep.equal([
      {
        name: 'mixed.zip → bad.json',
        says: 'The file is not valid JSON. Line 1, column 2: expected a name in quotation marks, or }.',
      },
      { name: 'mixed.zip → picture.png', says: 'This is not a design: designs end in .json.' },
    ]);
  });

  it('what is no shelf is told in words', () => {
    const says = (bytes: Uint8Array) => takeIn('x.zip', bytes).refused.map((one) => one.says);
    expect(says(writeShelf(designs).slice(0, 200))[0]).match(/cut off/);
    expect(says(zipSync({ 'a.txt': strToU8('a') }))[0]).match(/no design in it/);
    const many = Object.fromEntries(
      Array.from({ length: 5001 }, (_x, i) => [`${i}.json`, new Uint8Array(0)]),
    );
    expect(says(zipSync(many, { level: 0 }))[0]).match(/5001 files of 0 MB; at most 5000 files/);
  });

  it('two designs in files of one name are both taken in', () => {
    // zipSync knows a name once: the second is written over the first, in the directory too.
    const bytes = zipSync({
      'a.json': strToU8(writeDesign(designs[1]!)),
      'b.json': strToU8(writeDesign(designs[2]!)),
    });
    for (let i = 0; i < bytes.length - 6; i++)
      if (strFromU8(bytes.subarray(i, i + 6)) === 'b.json') bytes[i] = 97;
    expect(takeIn('twins.zip', bytes)).deep.equal({ designs: [designs[1], designs[2]], refused: [] });
  });

  it('no single bit that is wrong goes unnoticed: every design comes in as it was, or it is told', () => {
    const whole = writeShelf([emptyDesign('One'), emptyDesign('Two'), emptyDesign('Three')]);
    const good = JSON.stringify(takeIn('x.zip', whole).designs);
    let [noticed, rest] = [0, 0];
    const step = LONG ? 1 : 7;
    for (let bit = 0; bit < 8 * whole.length; bit += step) {
      const bytes = whole.slice();
      bytes[bit >> 3]! ^= 1 << (bit & 7);
      const { designs: found, refused } = takeIn('x.zip', bytes);
      if (!refused.length) expect(JSON.stringify(found), `bit ${bit}`).equal(good);
      else {
        noticed++;
        expect(refused[0]!.says).match(/^\S.*\.$/);
        if (found.length) rest++;
      }
    }
    // Of most of them the other two designs are taken in.
    expect(noticed).above((4 * whole.length) / step);
    expect(rest).above(noticed / 2);
  });
});
