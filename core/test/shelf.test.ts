import { expect } from 'chai';
import { strToU8, zipSync } from 'fflate';
import { emptyDesign } from '../src/design/schema';
import { writeDesign } from '../src/exchange/design-json';
import { takeIn, writeShelf } from '../src/exchange/shelf';
import { springDesign } from './helpers';

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
    ]);
  });

  it('what is no shelf is told in words', () => {
    const says = (bytes: Uint8Array) => takeIn('x.zip', bytes).refused.map((one) => one.says);
    expect(says(writeShelf(designs).slice(0, 200))[0]).match(/cut off/);
    expect(says(zipSync({ 'a.txt': strToU8('a') }))[0]).match(/no design in it/);
    const many = Object.fromEntries(
      Array.from({ length: 5001 }, (_x, i) => [`${i}.json`, new Uint8Array(0)]),
    );
    expect(says(zipSync(many, { level: 0 }))[0]).match(/more than 5000 designs/);
  });
});
