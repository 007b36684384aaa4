/** What the workbench knows of its design, and what can be done to it. */
import type { Design } from '@nematos/core/design/schema';
import type { History } from '@nematos/core/design/history';
import type { Checked } from '@nematos/core/kind/kind';
import type { Vec3 } from '@nematos/core/geometry/vector';
import type { Level, Limit } from '@nematos/core/kind/value';
import type { Lengthwise } from '@nematos/core/view/lengthwise';
import type { ViewState } from '../data/store';
import type { Drawn, Seen } from '../worker/messages';
import type { Saved } from './keeper';

/** A place of a step that was pointed at: in space, or at a part of its line. */
export interface Pointed {
  readonly step: string;
  readonly at: Vec3 | number;
}

/** A finding whose place is marked on the stage. */
export interface Pinned {
  readonly step: string;
  readonly finding: string;
  readonly place: Vec3;
  readonly level: Level;
}

/** What is calculated after an edit. */
export type Task = 'shape' | 'results' | 'findings' | 'fine shape';

export interface Calculating {
  readonly task: Task;
  /** When it began, ms as `Date.now` has it. */
  readonly since: number;
  /** The step that it is at, where that is known, and how much of that step's work is done, 0 to 1. */
  readonly step?: string;
  readonly done: number;
}

/** What is picked on the part next, and the step it is for: a station, the place of a face, an input, or where a note belongs. */
export interface Picking {
  readonly step: string;
  readonly what: 'sizes' | 'twists' | 'place' | 'input' | 'note';
  /** Of an input: which, and what can stand there. */
  readonly slot?: string;
  readonly at?: number;
  readonly candidates?: readonly string[];
}

export interface Bench {
  readonly id: string;
  /** Set where the design can only be looked at. */
  readonly reading: boolean;
  readonly history: History;
  readonly view: ViewState;
  readonly saved: Saved;
  /** Set while it is off the shelf. */
  readonly removed: boolean;
  readonly seen: Seen | undefined;
  readonly checked: Readonly<Record<string, Checked>>;
  /** The state of the design that the findings are of. */
  readonly checkedOf: Design | undefined;
  /** Latest good picture of every step. */
  readonly drawn: ReadonlyMap<string, Drawn>;
  /** A place that a finding was led to. */
  readonly pinned: Pinned | undefined;
  /** The part as it would be with a figure at its limit, faintly shown. */
  readonly imagined: { readonly limit: Limit; readonly drawn: readonly Drawn[] } | undefined;
  /** Set while places are pointed at to be measured: those that were, two at most. */
  readonly probing: readonly Pointed[] | undefined;
  /** Charts along the path that is looked at, of the step they belong to. */
  readonly charts: { readonly step: string; readonly key: string; readonly data: Lengthwise } | undefined;
  /** Sample of the charts that is pointed at, there or on the stage. */
  readonly cursor: number | undefined;
  /** What is to be picked on the part. */
  readonly picking: Picking | undefined;
  /** Set while a figure is scrubbed or pulled: the stage shows the state before as a ghost. */
  readonly scrubbing: boolean;
  /** Set from an edit until all is there that it changes: picture, figures and findings, and the fine picture. */
  readonly working: boolean;
  /** What is calculated, once that takes longer than a moment. */
  readonly progress: Calculating | undefined;
  /** Set where the user stopped the calculation: what was not finished is of an earlier state, or missing. */
  readonly halted: boolean;
  /** What went wrong in the worker, beyond the user's figures. */
  readonly trouble: string | undefined;
  /** Stops what is calculated; what is there stays. */
  halt(): void;
  /** Calculates what is missing since it was stopped. */
  resume(): void;
  edit(says: string, recipe: (draft: Design) => void, group?: string): void;
  /** Changes notes: also where the design can only be looked at. */
  annotate(says: string, recipe: (draft: Design) => void, group?: string): void;
  undo(): void;
  redo(): void;
  look(view: Partial<ViewState>): void;
  pin(pinned: Pinned | undefined): void;
  /** Shows the part faintly with a figure at its limit, or no longer. */
  imagine(limit: Limit | undefined): void;
  probe(pointed: readonly Pointed[] | undefined): void;
  scrub(on: boolean): void;
  point(cursor: number | undefined): void;
  pick(picking: Bench['picking']): void;
}
