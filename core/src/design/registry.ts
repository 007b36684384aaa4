/** All kinds of step. A new kind is added here, in its own file, and in its editor; nowhere else. */
import { helix } from '../kinds/paths/helix';
import { arc } from '../kinds/paths/arc';
import { involute } from '../kinds/paths/involute';
import { spherical } from '../kinds/paths/spherical';
import { angle } from '../kinds/sections/angle';
import { channel } from '../kinds/sections/channel';
import { cage } from '../kinds/paths/cage';
import { cast } from '../kinds/paths/cast';
import { chain } from '../kinds/paths/chain';
import { loop } from '../kinds/paths/loop';
import { part } from '../kinds/paths/part';
import { run } from '../kinds/paths/run';
import { smooth } from '../kinds/paths/smooth';
import { spiral } from '../kinds/paths/spiral';
import { stationed } from '../kinds/paths/stationed';
import { twoView } from '../kinds/paths/two-view';
import { winding } from '../kinds/paths/winding';
import { wrap } from '../kinds/paths/wrap';
import { wrung } from '../kinds/paths/wrung';
import { round } from '../kinds/sections/round';
import { tube } from '../kinds/sections/tube';
import { ellipse } from '../kinds/sections/ellipse';
import { rectangle } from '../kinds/sections/rectangle';
import { obround } from '../kinds/sections/obround';
import { polygon } from '../kinds/sections/polygon';
import { star } from '../kinds/sections/star';
import { strip } from '../kinds/sections/strip';
import { vee } from '../kinds/sections/vee';
import { outline } from '../kinds/sections/outline';
import { add } from '../kinds/bodies/add';
import { common } from '../kinds/bodies/common';
import { subtract } from '../kinds/bodies/subtract';
import { sweep } from '../kinds/bodies/sweep';
import { compression } from '../kinds/duties/compression';
import type { AnyKind } from '../kind/kind';

const ALL = {
  helix,
  spiral,
  stationed,
  run,
  'two-view': twoView,
  loop,
  arc,
  involute,
  spherical,
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
  angle,
  channel,
  outline,
  sweep,
  add,
  subtract,
  common,
  compression,
} satisfies Readonly<Record<string, AnyKind>>;

export type KindName = keyof typeof ALL;
export const KINDS: Readonly<Record<string, AnyKind>> = ALL;

/** The kind of that name in documents; undefined where there is none. */
export const kindNamed = (kind: string): AnyKind | undefined =>
  Object.hasOwn(KINDS, kind) ? KINDS[kind] : undefined;
