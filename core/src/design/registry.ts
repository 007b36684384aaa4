/** All kinds of step. A new kind is added here, in its own file, and in its editor; nowhere else. */
import { helix } from '../path/helix';
import { spiral } from '../path/spiral';
import { round } from '../section/round';
import { sweep } from '../sweep/sweep';
import type { AnyKind } from './kind';

export const KINDS: Readonly<Record<string, AnyKind>> = { helix, spiral, round, sweep };

export const kindNamed = (kind: string): AnyKind | undefined =>
  Object.hasOwn(KINDS, kind) ? KINDS[kind] : undefined;
