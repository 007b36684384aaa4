/** What the interface says, in the common words: those that are ruled out are looked for in every text of the program. */
import { expect } from 'chai';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { counted, pluralOf } from '@nematos/core/measure/words';

const ROOT = join(import.meta.dirname, '../..');

/** Ruled out, and what is said instead. */
const RULED_OUT: readonly (readonly [RegExp, string])[] = [
  [/\b(?:send|sends|sent|sending) out\b/i, 'export'],
  [/\b(?:take|takes|taken|taking) in a (?:file|design)\b|\btaken in again\b/i, 'import'],
  [/\bgone over\b/i, 'reviewed'],
  [/\bwants? mending\b/i, 'what is wrong'],
  [/\bcame to no end\b/i, 'took too long and was stopped'],
  [/\bnothing any more\b/i, 'no longer exists'],
  [/\btoo wild\b/i, 'too complex'],
  [/\blet it go\b/i, 'clear'],
  [/\bnear to what is chosen\b/i, 'zoom to selection'],
  [/\bwithout perspective\b/i, 'orthographic'],
  [/\b(?:not )?kept: (?:the|storage)\b/i, 'not saved'],
  [/\bas they are sent out\b/i, 'export mesh'],
  [/\bhow it was made\b/i, 'replay'],
  [/\bsee the rest through\b/i, 'show the cut-away part'],
  [/\bset aside\b/i, 'move to recovery'],
  [/\bnone of the figures changes it\b/i, 'no figure on the sheet affects this result'],
  [/\bgoes over how\b/i, 'step through'],
  [/\bmend (?:it|the|that)\b|\bto be mended\b/i, 'fix'],
];

/** The same of comments and documents, which are looked through whole. */
const ALSO_IN_COMMENTS: typeof RULED_OUT = [
  [/\banew\b/i, 'again'],
  [/\bat hand\b/i, 'cached, available'],
  [/\b(?:is|are|be|was|were) had\b|\bhad sooner\b/i, 'is available, is faster'],
  [/\blets? go\b/i, 'release, remove'],
  [/\bwhat stands\b/i, 'the objects, by name'],
  [/\bwhat is wanted\b/i, 'the wanted value'],
  [/\bto no end\b/i, 'does not finish'],
  [/\btaken up\b/i, 'used, imported'],
  [/\bwhat comes of\b|\bcomes of it\b/i, 'the result'],
  [/\bin no time\b/i, 'fast'],
];

/** A program without its comments. */
const withoutComments = (text: string): string =>
  text.replace(/\/\*[^]*?\*\//g, '').replace(/(^|[\s;{}(),])\/\/.*$/gm, '$1');

function* filesIn(folder: string): Generator<string> {
  for (const name of readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' }))
    if (/\.tsx?$/.test(name)) yield join(folder, name);
}

describe('the words of the interface', () => {
  it('contain no phrase that is ruled out', () => {
    const found: string[] = [];
    let files = 0;
    for (const folder of ['app/src', 'core/src', 'server/src'])
      for (const file of filesIn(folder)) {
        files++;
        withoutComments(readFileSync(join(ROOT, file), 'utf8'))
          .split('\n')
          .forEach((line) => {
            for (const [words, instead] of RULED_OUT)
              if (words.test(line)) found.push(`${file}: “${line.trim()}”: say ${instead}`);
          });
      }
    expect(files).above(400);
    expect(found).deep.equal([]);
  });

  it('are the words of comments and documents too', () => {
    const found: string[] = [];
    const pages = readdirSync(join(ROOT, 'docs'), { recursive: true, encoding: 'utf8' })
      .filter((name) => name.endsWith('.md'))
      .map((name) => join('docs', name));
    const programs = ['app/src', 'core/src', 'server/src', 'bench/src'].flatMap((folder) => [
      ...filesIn(folder),
    ]);
    const files = ['README.md', ...pages, ...programs];
    for (const file of files)
      for (const [i, line] of readFileSync(join(ROOT, file), 'utf8').split('\n').entries())
        for (const [words, instead] of [...RULED_OUT, ...ALSO_IN_COMMENTS])
          if (words.test(line)) found.push(`${file}:${i + 1}: “${line.trim()}”: say ${instead}`);
    expect(pages.length).above(5);
    expect(found).deep.equal([]);
  });

  it('count as people do', () => {
    expect([1, 0, 2].map((count) => counted(count, 'step'))).deep.equal(['1 step', '0 steps', '2 steps']);
    expect(['copy', 'body', 'way', 'box', 'mesh', 'point', 'path'].map(pluralOf)).deep.equal([
      'copies',
      'bodies',
      'ways',
      'boxes',
      'meshes',
      'points',
      'paths',
    ]);
  });
});
