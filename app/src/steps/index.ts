/** The editor of every kind, by its name in documents: a kind without one does not compile. */
import type { KindName } from '@nematos/core/design/registry';
import type { Editor } from '../fields/editor';
import { add } from './bodies/add';
import { angle } from './sections/angle';
import { ball } from './bodies/ball';
import { block } from './bodies/block';
import { cone } from './bodies/cone';
import { cylinder } from './bodies/cylinder';
import { extrude } from './bodies/extrude';
import { partFromFile } from './bodies/part-from-file';
import { place } from './changes/place';
import { repeat } from './changes/repeat';
import { ring } from './bodies/ring';
import { turn } from './bodies/turn';
import { arc } from './paths/arc';
import { channel } from './sections/channel';
import { involute } from './paths/involute';
import { spherical } from './paths/spherical';
import { cage } from './paths/cage';
import { cast } from './paths/cast';
import { centreLine } from './paths/centre-line';
import { faceAxis } from './paths/face-axis';
import { chain } from './paths/chain';
import { common } from './bodies/common';
import { compression } from './measures/compression';
import { helix } from './paths/helix';
import { measureArea, measureMass, measureVolume } from './measures/amounts';
import { measureAngle } from './measures/measure-angle';
import { measureLength } from './measures/measure-length';
import { loop } from './paths/loop';
import { part } from './paths/part';
import { round } from './sections/round';
import { tube } from './sections/tube';
import { ellipse } from './sections/ellipse';
import { rectangle } from './sections/rectangle';
import { boxTube } from './sections/box-tube';
import { obround } from './sections/obround';
import { polygon } from './sections/polygon';
import { star } from './sections/star';
import { strip } from './sections/strip';
import { vee } from './sections/vee';
import { outline } from './sections/outline';
import { run } from './paths/run';
import { smooth } from './paths/smooth';
import { spiral } from './paths/spiral';
import { stationed } from './paths/stationed';
import { blade } from './bodies/blade';
import { fillet } from './bodies/fillet';
import { groove } from './bodies/groove';
import { hollow } from './bodies/hollow';
import { deform } from './bodies/deform';
import { setIn } from './bodies/set-in';
import { thread } from './bodies/thread';
import { tubeEnd } from './bodies/tube-end';
import { join } from './bodies/join';
import { subtract } from './bodies/subtract';
import { sweep } from './bodies/sweep';
import { twoView } from './paths/two-view';
import { winding } from './paths/winding';
import { wrap } from './paths/wrap';
import { twisted } from './paths/twisted';

const EDITORS = {
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
  wrung: twisted,
  cage,
  'centre-line': centreLine,
  'face-axis': faceAxis,
  chain,
  part,
  round,
  tube,
  ellipse,
  rectangle,
  'box-tube': boxTube,
  obround,
  polygon,
  star,
  strip,
  vee,
  angle,
  channel,
  outline,
  sweep,
  turn,
  extrude,
  ball,
  cylinder,
  cone,
  ring,
  block,
  'part-from-file': partFromFile,
  place,
  repeat,
  add,
  subtract,
  join,
  blade,
  weld: fillet,
  groove,
  hollow,
  reshape: deform,
  thread,
  'tube-end': tubeEnd,
  'set-in': setIn,
  common,
  compression,
  'measure-length': measureLength,
  'measure-angle': measureAngle,
  'measure-area': measureArea,
  'measure-volume': measureVolume,
  'measure-mass': measureMass,
} satisfies Readonly<Record<KindName, Editor>>;

/** The editor of a kind; undefined where this application does not know it. */
export const editorOf = (kind: string): Editor | undefined =>
  Object.hasOwn(EDITORS, kind) ? EDITORS[kind as KindName] : undefined;
