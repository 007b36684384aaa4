/** What the geometry worker and the main thread tell each other. */
import type { GivenResult } from '@nematos/core/design/givens';
import type { EvaluatedStep } from '@nematos/core/design/evaluate';
import type { Mark } from '@nematos/core/kind/mark';
import type { Result, SingleType } from '@nematos/core/kind/value';
import type { Vec3 } from '@nematos/core/geometry/vector';
import type { Hatch, Material } from '@nematos/core/measure/materials';
import type { Section } from '@nematos/core/section/section';
import type { Mesh } from '@nematos/core/mesh/data/mesh';

/** A step's result without its value, which stays in the worker. */
export type SeenStep = Omit<EvaluatedStep, 'value' | 'madeFrom'> & {
  /** What it makes. */
  readonly yields?: SingleType;
  /** How many of them, where it is a set. */
  readonly members?: number;
  /** Of a path that closes, or a set all of whose paths do. */
  readonly closed?: true;
};

/** How far a worker is with what a session asked for last. */
export interface Progress {
  readonly session: string;
  /** The step that it is at, where that is known. */
  readonly step?: string;
  /** How much of that step's work is done, 0 to 1, as far as that is known. */
  readonly done: number;
}

/** Who asks, and which asking it is: the next of the same session overtakes it. Each view of a design is a session. */
export interface Asking {
  readonly session: string;
  readonly revision: number;
}

export interface Seen {
  readonly givens: readonly GivenResult[];
  readonly steps: readonly SeenStep[];
  readonly made: number;
  /** Results of all bodies of the part together, where there are several and all are measured. */
  readonly whole?: readonly Result[];
}

/** How triangles look: all of them, or so many from one on. */
export type Looks = readonly {
  readonly look: Material['look'];
  readonly hatch: Hatch;
  /** The steps they came through, of which one may give them a colour. */
  readonly by: readonly string[];
  /** Set where it is only seen through. */
  readonly clear?: true;
  readonly first?: number;
  readonly count?: number;
}[];

interface DrawnBase {
  readonly step: string;
  /** Key of the value; ends in "!" when it is drawn finely, in "!!" when it is as exported, in "?" when it is a preview of what the kernel makes. */
  readonly key: string;
  readonly marks: readonly Mark[];
}
export type Drawn = DrawnBase &
  (
    | {
        readonly type: 'body';
        readonly mesh: Mesh;
        readonly looks: Looks;
        readonly extent: readonly [Vec3, Vec3];
        /** Set where a limit on triangles made the fine picture coarser than it should be. */
        readonly coarse?: true;
      }
    | {
        readonly type: 'line';
        /** Points as xyz, of one path or a set. */
        readonly lines: readonly Float32Array<ArrayBuffer>[];
        /** Points that a section is drawn by, mm. */
        readonly corners?: Section['corners'];
        /** Set where it is only shown, and not pointed at. */
        readonly loose?: true;
        /** Shown faintly beside it while it is chosen. */
        readonly aside?: readonly Float32Array<ArrayBuffer>[];
      }
  );

export interface LiveAnswer {
  readonly seen: Seen;
  readonly drawn: Drawn[];
}
