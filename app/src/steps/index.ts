/** The editor of every kind, by its name in documents. */
import type { Editor } from './editor';
import { helix } from './helix';
import { round } from './round';
import { sweep } from './sweep';

export const EDITORS: Readonly<Record<string, Editor>> = { helix, round, sweep };
