/** What steps yield, and what they tell of it. */
import type { Quantity } from '../measure/quantity';
import type { Words } from '../measure/words';
import type { Poll } from '../geometry/poll';
import type { Vec3 } from '../geometry/vector';
import type { Path } from '../path/path';
import type { Section } from '../section/section';
import type { Body } from '../solid/body/body';
import type { Duty } from '../trade/duty';

/** What was measured of other steps, and stays on the sheet. Values in the base unit of the quantity. */
export interface Measure {
  readonly type: 'measure';
  readonly quantity: Quantity;
  /** As it is called among results: "centre to centre". */
  readonly label: string;
  /** Undefined while it takes too long to calculate at once; see `find`. */
  found: Found | undefined;
  find(poll: Poll): Promise<Found>;
  /** What it should be, and how far off it may be. */
  readonly wanted?: { readonly value: number; readonly tolerance: number };
}
interface Found {
  readonly value: number;
  /** Set where it is an estimate: by how much it may be off. */
  readonly within?: number;
  /** Where it is seen: along a line from place to place, or at one. */
  readonly places: readonly Vec3[];
}

/** One thing a step makes. */
export type Single = Path | Section | Body | Duty | Measure;
export type SingleType = Single['type'];
export type ValueOf<T extends SingleType> = Extract<Single, { type: T }>;

/** Several of one type, in their order: it stands wherever one of them does. */
export interface SetOf<T extends Single = Single> {
  readonly type: 'set';
  readonly memberType: T['type'];
  readonly members: readonly T[];
  /** What its kind tells of it as a whole. */
  readonly results?: readonly Result[];
  readonly graph?: Graph;
}
export type Value = Single | SetOf;

/** What it is, or what the members of a set are. */
export const typeOf = (value: Value): SingleType => (value.type === 'set' ? value.memberType : value.type);
/** The members of a set, or the one value there is. */
export const membersOf = (value: Value): readonly Single[] =>
  value.type === 'set' ? value.members : [value];
/** The paths of a value: itself, or the members of a set; none where it is something else. */
export const pathsOf = (value: Value | undefined): readonly Path[] =>
  value ? membersOf(value).filter((one) => one.type === 'path') : [];

/** The bodies of a value, in the same way. */
export const bodiesOf = (value: Value | undefined): readonly Body[] =>
  value ? membersOf(value).filter((one) => one.type === 'body') : [];

/** A result of a step, in the base unit of its quantity. */
export interface Result {
  /** As reports name it; stable. */
  readonly name: string;
  /** As people read it. */
  readonly label: string;
  /** Set where it is a main result: as it is headed beside the part. */
  readonly head?: string;
  readonly value: number;
  readonly quantity: Quantity;
  /** Set where it is an estimate: by how much it may be off. */
  readonly within?: number;
}

/** One quantity against another, as a line. */
export interface Graph {
  readonly x: Axis;
  readonly y: Axis;
  /** Rising in x. */
  readonly points: readonly (readonly [x: number, y: number])[];
  /** Where on it the step stands. */
  readonly at?: readonly [x: number, y: number];
}

export interface Axis {
  readonly label: string;
  readonly quantity: Quantity;
}

/** A change that mends something, offered beside it: texts by field, or cell. */
export interface Mend {
  readonly says: Words;
  readonly set: Readonly<Record<string, string>>;
}

export type Level = 'good' | 'note' | 'fault';

/** What a check found. Value, limit and margin are in the base unit of the quantity. */
export interface Finding {
  readonly name: string;
  readonly level: Level;
  readonly says: Words;
  readonly detail?: Words;
  readonly value: number;
  readonly limit: number;
  readonly margin: number;
  readonly quantity: Quantity;
  /** Set if the solid cannot be exported. */
  readonly blocks?: true;
  /** Set where the body overlaps itself, and becomes one clean solid on export. */
  readonly overlaps?: true;
  /** Set where triangles coarser than this, mm, might run into each other over a gap. */
  readonly meshWithin?: number;
  readonly mend?: Mend;
  /** Where on the part it is worst. */
  readonly place?: Vec3;
  /** Set where it is of two bodies: the step of the other. */
  readonly other?: string;
}

/** How far a figure of an earlier step may go before something goes wrong. */
export interface Limit {
  readonly step: string;
  readonly field: string;
  /** "up to 16.8 turns", and what lies beyond: "before the coils touch". */
  readonly says: Words;
  readonly beyond: string;
  readonly value: number;
  readonly side: 'most' | 'least';
  readonly quantity: Quantity;
}
