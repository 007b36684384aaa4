/** Designs of the Thistle Hill honey house, laid on an empty shelf at the first visit. */
import { readDesign } from '@nematos/core/exchange/design-json';
import gateSpring from '../../../demo/gate-spring.json?raw';
import lidBumper from '../../../demo/lid-bumper.json?raw';
import extractorStand from '../../../demo/extractor-stand.json?raw';
import frameBasket from '../../../demo/frame-basket.json?raw';
import keepersRing from '../../../demo/keepers-ring.json?raw';
import skepCage from '../../../demo/skep-cage.json?raw';
import meltingCoil from '../../../demo/melting-coil.json?raw';
import warmingSpiral from '../../../demo/warming-spiral.json?raw';
import bayonetNeck from '../../../demo/bayonet-neck.json?raw';
import swarmHook from '../../../demo/swarm-hook.json?raw';
import candleGuide from '../../../demo/candle-guide.json?raw';
import settlingManifold from '../../../demo/settling-manifold.json?raw';
import showRibbon from '../../../demo/show-ribbon.json?raw';
import taperCandle from '../../../demo/taper-candle.json?raw';
import swirlJar from '../../../demo/swirl-jar.json?raw';
import lidClasp from '../../../demo/lid-clasp.json?raw';
import pressSpring from '../../../demo/press-spring.json?raw';
import nestSpring from '../../../demo/nest-spring.json?raw';
import lidKnob from '../../../demo/lid-knob.json?raw';
import puffedSkep from '../../../demo/puffed-skep.json?raw';
import lidSprings from '../../../demo/lid-springs.json?raw';
import standPair from '../../../demo/stand-pair.json?raw';
import boredRing from '../../../demo/bored-ring.json?raw';
import swirlDrop from '../../../demo/swirl-drop.json?raw';
import honeySpinner from '../../../demo/honey-spinner.json?raw';
import fillerPlug from '../../../demo/filler-plug.json?raw';
import pumpWheel from '../../../demo/pump-wheel.json?raw';
import creamingRibbon from '../../../demo/creaming-ribbon.json?raw';
import pressAuger from '../../../demo/press-auger.json?raw';
import honeyPot from '../../../demo/honey-pot.json?raw';
import syrupFeeder from '../../../demo/syrup-feeder.json?raw';
import tapLever from '../../../demo/tap-lever.json?raw';
import pressHook from '../../../demo/press-hook.json?raw';
import tankDrain from '../../../demo/tank-drain.json?raw';
import { fetchSetting, keepSetting, putOnShelf } from './store';

/** In the order of the shelf. */
const DEMO: readonly string[] = [
  gateSpring,
  lidBumper,
  settlingManifold,
  showRibbon,
  taperCandle,
  swirlJar,
  extractorStand,
  frameBasket,
  keepersRing,
  skepCage,
  meltingCoil,
  warmingSpiral,
  bayonetNeck,
  swarmHook,
  candleGuide,
  lidClasp,
  pressSpring,
  nestSpring,
  lidKnob,
  puffedSkep,
  lidSprings,
  standPair,
  boredRing,
  tapLever,
  pressHook,
  tankDrain,
  swirlDrop,
  honeySpinner,
  fillerPlug,
  pumpWheel,
  creamingRibbon,
  pressAuger,
  honeyPot,
  syrupFeeder,
];

/** Puts the demo designs on an empty shelf, and remembers which they are. */
export async function putDemo(): Promise<void> {
  if (await fetchSetting('demo')) return;
  await keepSetting('demo', true);
  const now = Date.now();
  const ids: string[] = [];
  for (const [i, text] of DEMO.entries()) ids.push((await putOnShelf(readDesign(text), now - i)).id);
  await keepSetting('demo', ids);
}
