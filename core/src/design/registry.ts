/** All kinds of step. A new kind is added here, in its own file, and in its editor; nowhere else. */
import { helix } from '../kinds/paths/helix';
import { arc } from '../kinds/paths/arc';
import { involute } from '../kinds/paths/involute';
import { spherical } from '../kinds/paths/spherical';
import { angle } from '../kinds/sections/angle';
import { channel } from '../kinds/sections/channel';
import { cage } from '../kinds/paths/cage';
import { cast } from '../kinds/paths/cast';
import { centreLine } from '../kinds/paths/centre-line';
import { faceAxis } from '../kinds/paths/face-axis';
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
import { twisted } from '../kinds/paths/twisted';
import { round } from '../kinds/sections/round';
import { tube } from '../kinds/sections/tube';
import { ellipse } from '../kinds/sections/ellipse';
import { rectangle } from '../kinds/sections/rectangle';
import { boxTube } from '../kinds/sections/box-tube';
import { obround } from '../kinds/sections/obround';
import { polygon } from '../kinds/sections/polygon';
import { star } from '../kinds/sections/star';
import { strip } from '../kinds/sections/strip';
import { vee } from '../kinds/sections/vee';
import { outline } from '../kinds/sections/outline';
import { add } from '../kinds/bodies/add';
import { ball } from '../kinds/bodies/ball';
import { block } from '../kinds/bodies/block';
import { common } from '../kinds/bodies/common';
import { cone } from '../kinds/bodies/cone';
import { cylinder } from '../kinds/bodies/cylinder';
import { extrude } from '../kinds/bodies/extrude';
import { partFromFile } from '../kinds/bodies/part-from-file';
import { ring } from '../kinds/bodies/ring';
import { setIn } from '../kinds/bodies/set-in';
import { thread } from '../kinds/bodies/thread';
import { tubeEnd } from '../kinds/bodies/tube-end';
import { blade } from '../kinds/bodies/blade';
import { fillet } from '../kinds/bodies/fillet';
import { groove } from '../kinds/bodies/groove';
import { hollow } from '../kinds/bodies/hollow';
import { deform } from '../kinds/bodies/deform';
import { join } from '../kinds/bodies/join';
import { subtract } from '../kinds/bodies/subtract';
import { sweep } from '../kinds/bodies/sweep';
import { turn } from '../kinds/bodies/turn';
import { place } from '../kinds/changes/place';
import { repeat } from '../kinds/changes/repeat';
import { compression } from '../kinds/duties/compression';
import { measureArea, measureMass, measureVolume } from '../kinds/measures/amounts';
import { measureAngle } from '../kinds/measures/measure-angle';
import { measureLength } from '../kinds/measures/measure-length';
import { typesAt, type AnyKind, type Input } from '../kind/kind';
import type { SingleType } from '../kind/value';
import { sourcesAt, type Step } from './schema';

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
} satisfies Readonly<Record<string, AnyKind>>;

export type KindName = keyof typeof ALL;
export const KINDS: Readonly<Record<string, AnyKind>> = ALL;

/** The kind of that name in documents; undefined where there is none. */
export const kindNamed = (kind: string): AnyKind | undefined =>
  Object.hasOwn(KINDS, kind) ? KINDS[kind] : undefined;

/** What a step makes, as far as that can be told without evaluating it; of some kinds it is what they take. */
export function yieldsOf(step: Step, steps: readonly Step[]): SingleType | undefined {
  // As many steps may stand between as there are: beyond that they go in a circle.
  let at: Step | undefined = step;
  for (let i = 0; at && i <= steps.length; i++) {
    const yields: AnyKind['yields'] | undefined = kindNamed(at.kind)?.yields;
    if (yields === undefined || typeof yields === 'string') return yields;
    const [source] = sourcesAt(at, yields.like);
    at = steps.find(({ id }) => id === source);
  }
  return undefined;
}

/** Whether what a step makes follows a path: a path itself, or a section carried along one. */
export const followsPath = (step: Step, steps: readonly Step[]): boolean =>
  yieldsOf(step, steps) === 'path' || kindNamed(step.kind)?.changesAlong !== undefined;

/** Ids of the steps that are used up by a step: all its inputs except those it only refers to. */
export const usedIn = (step: Step): string[] =>
  Object.entries(kindNamed(step.kind)?.inputs ?? {})
    .filter(([, { beside }]) => !beside)
    .flatMap(([slot]) => sourcesAt(step, slot));

/** Whether what a step makes fits an input. */
export function fits(step: Step, steps: readonly Step[], input: Input): boolean {
  const yields = yieldsOf(step, steps);
  return yields !== undefined && typesAt(input).includes(yields);
}
