/** The editor of every kind, by its name in documents. */
import type { Editor } from './editor';
import { cage } from './cage';
import { cast } from './cast';
import { chain } from './chain';
import { helix } from './helix';
import { loop } from './loop';
import { part } from './part';
import { round } from './round';
import { run } from './run';
import { smooth } from './smooth';
import { spiral } from './spiral';
import { stationed } from './stationed';
import { sweep } from './sweep';
import { twoView } from './two-view';
import { winding } from './winding';
import { wrap } from './wrap';
import { wrung } from './wrung';

export const EDITORS: Readonly<Record<string, Editor>> = {
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
  sweep,
};
