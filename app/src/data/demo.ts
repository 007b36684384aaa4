/** Designs of the Thistle Hill honey house, laid on an empty shelf at the first visit, with their pictures. */
import { readDesign } from '@nematos/core/exchange/design-json';
import { fetchSetting, keepPicture, keepSetting, putOnShelf } from './store';

/** Texts of the designs, and addresses of their pictures, by file; the pictures are made by `npm run pictures`. */
const TEXTS = import.meta.glob<string>('../../../demo/*.json', {
  eager: true,
  query: '?raw',
  import: 'default',
});
const PICTURES = import.meta.glob<string>('./pictures/*.webp', {
  eager: true,
  query: '?url',
  import: 'default',
});

/** In the order of the shelf, by group. */
const ORDER = [
  'gate-spring',
  'lid-bumper',
  'press-spring',
  'nest-spring',
  'lid-springs',
  'settling-manifold',
  'melting-coil',
  'warming-spiral',
  'tank-drain',
  'extractor-stand',
  'stand-pair',
  'frame-basket',
  'swarm-hook',
  'candle-guide',
  'lid-clasp',
  'skep-cage',
  'keepers-ring',
  'bored-ring',
  'show-ribbon',
  'swirl-drop',
  'swirl-jar',
  'honey-pot',
  'puffed-skep',
  'taper-candle',
  'syrup-feeder',
  'bayonet-neck',
  'pump-wheel',
  'creaming-ribbon',
  'press-auger',
  'honey-spinner',
  'filler-plug',
  'lid-knob',
  'tap-lever',
  'press-hook',
];

/** Saves the shipped picture of a demo design. If it cannot be fetched, the shelf draws one. */
async function putPicture(file: string, id: string, changed: number): Promise<void> {
  const address = PICTURES[`./pictures/${file}.webp`];
  const answer = address === undefined ? undefined : await fetch(address).catch(() => undefined);
  if (answer?.ok) await keepPicture(id, changed, 'light', await answer.blob());
}

/** Puts the demo designs on an empty shelf, and remembers which they are. */
export async function putDemo(): Promise<void> {
  if (await fetchSetting('demo')) return;
  await keepSetting('demo', true);
  const now = Date.now();
  const ids: string[] = [];
  for (const [i, file] of ORDER.entries()) {
    const { id, changed } = await putOnShelf(readDesign(TEXTS[`../../../demo/${file}.json`]!), now - i);
    await putPicture(file, id, changed);
    ids.push(id);
  }
  await keepSetting('demo', ids);
}
