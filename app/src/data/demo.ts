/** Designs of the Thistle Hill honey house, laid on an empty shelf at the first visit. */
import { readDesign } from '@nematos/core/exchange/design-json';
import gateSpring from '../../../demo/gate-spring.json?raw';
import lidBumper from '../../../demo/lid-bumper.json?raw';
import { fetchSetting, keepSetting, putOnShelf } from './store';

export async function layDemo(): Promise<void> {
  if (await fetchSetting('demo')) return;
  await keepSetting('demo', true);
  const now = Date.now();
  for (const [i, text] of [gateSpring, lidBumper].entries()) await putOnShelf(readDesign(text), now - i);
}
