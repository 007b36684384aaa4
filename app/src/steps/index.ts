/** The editor of every kind, by its name in documents: a kind without one does not compile. */
import type { KindName } from '@nematos/core/design/registry';
import type { Editor } from '../fields/editor';
import { add } from './add';
import { angle } from './angle';
import { ball } from './ball';
import { block } from './block';
import { cone } from './cone';
import { cylinder } from './cylinder';
import { extrude } from './extrude';
import { partFromFile } from './part-from-file';
import { place } from './place';
import { repeat } from './repeat';
import { ring } from './ring';
import { turn } from './turn';
import { arc } from './arc';
import { channel } from './channel';
import { involute } from './involute';
import { spherical } from './spherical';
import { cage } from './cage';
import { cast } from './cast';
import { centreLine } from './centre-line';
import { faceAxis } from './face-axis';
import { chain } from './chain';
import { common } from './common';
import { compression } from './compression';
import { helix } from './helix';
import { measureArea, measureMass, measureVolume } from './amounts';
import { measureAngle } from './measure-angle';
import { measureLength } from './measure-length';
import { loop } from './loop';
import { part } from './part';
import { round } from './round';
import { tube } from './tube';
import { ellipse } from './ellipse';
import { rectangle } from './rectangle';
import { boxTube } from './box-tube';
import { obround } from './obround';
import { polygon } from './polygon';
import { star } from './star';
import { strip } from './strip';
import { vee } from './vee';
import { outline } from './outline';
import { run } from './run';
import { smooth } from './smooth';
import { spiral } from './spiral';
import { stationed } from './stationed';
import { blade } from './blade';
import { weld } from './weld';
import { groove } from './groove';
import { hollow } from './hollow';
import { reshape } from './reshape';
import { setIn } from './set-in';
import { thread } from './thread';
import { tubeEnd } from './tube-end';
import { join } from './join';
import { subtract } from './subtract';
import { sweep } from './sweep';
import { twoView } from './two-view';
import { winding } from './winding';
import { wrap } from './wrap';
import { wrung } from './wrung';

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
  wrung,
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
  weld,
  groove,
  hollow,
  reshape,
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
