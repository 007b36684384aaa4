/** What a part has to do, calculated: no body, but figures and findings. */
import type { SpringResults } from './spring/compression';

export interface Duty {
  readonly type: 'duty';
  readonly spring: SpringResults;
  /** Wire diameter, mm. */
  readonly wire: number;
  /** Stress that its material is not to be loaded beyond, MPa, where that is known. */
  readonly strength?: number;
  /** Ends as they are calculated, and as they are drawn. */
  readonly ends: Ends;
  readonly drawn: Ends;
}

/** Coils at start and end that do not work, and whether the ends are ground. */
export interface Ends {
  readonly dead: readonly [start: number, end: number];
  readonly ground: readonly [start: boolean, end: boolean];
}
