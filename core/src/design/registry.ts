/** All kinds of step. A new kind is added here, in its own file, and in its editor; nowhere else. */
import { helix } from '../path/helix';
import { cage } from '../path/cage';
import { cast } from '../path/cast';
import { chain } from '../path/chain';
import { loop } from '../path/loop';
import { part } from '../path/part';
import { run } from '../path/run';
import { smooth } from '../path/smooth';
import { spiral } from '../path/spiral';
import { stationed } from '../path/stationed';
import { twoView } from '../path/two-view';
import { winding } from '../path/winding';
import { wrap } from '../path/wrap';
import { wrung } from '../path/wrung';
import { round } from '../section/round';
import { tube } from '../section/tube';
import { ellipse } from '../section/ellipse';
import { rectangle } from '../section/rectangle';
import { obround } from '../section/obround';
import { polygon } from '../section/polygon';
import { star } from '../section/star';
import { strip } from '../section/strip';
import { vee } from '../section/vee';
import { outline } from '../section/outline';
import { sweep } from '../sweep/sweep';
import type { AnyKind } from './kind';

export const KINDS: Readonly<Record<string, AnyKind>> = {
  helix,
  spiral,
  stationed,
  run,
  'two-view': twoView,
  loop,
  smooth,
  winding,
  wrap,
  cast,
  wrung,
  cage,
  chain,
  part,
  round,
  tube,
  ellipse,
  rectangle,
  obround,
  polygon,
  star,
  strip,
  vee,
  outline,
  sweep,
};

export const kindNamed = (kind: string): AnyKind | undefined =>
  Object.hasOwn(KINDS, kind) ? KINDS[kind] : undefined;
