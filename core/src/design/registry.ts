/** All kinds of step. A new kind is added here, in its own file, and in its editor; nowhere else. */
import { helix } from '../path/helix';
import { loop } from '../path/loop';
import { run } from '../path/run';
import { smooth } from '../path/smooth';
import { spiral } from '../path/spiral';
import { stationed } from '../path/stationed';
import { twoView } from '../path/two-view';
import { round } from '../section/round';
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
  round,
  sweep,
};

export const kindNamed = (kind: string): AnyKind | undefined =>
  Object.hasOwn(KINDS, kind) ? KINDS[kind] : undefined;
