/** What bodies are: carried along paths, or combined of others. */
import type { Poll } from '../geometry/poll';
import type { Bodily } from '../mesh/bodily';
import { sizeAbout as sweptSize, type SweptBody } from '../sweep/body';
import type { Combination, Operation } from './kernel';

export type Body = SweptBody | CombinedBody;

export interface CombinedBody extends Bodily {
  readonly form: 'combined';
  readonly operation: Operation;
  /** In their order: the first is the one that others are taken from. */
  readonly bodies: readonly Body[];
  /** How far volume (mm³), surface (mm²) and extent (mm) may be off; set once they are measured. */
  readonly within: Within;
  /** How many parts it has that do not hang together; set once it is measured. */
  readonly parts: number;
  /** Chord tolerance of the finer solid it is measured by, mm. */
  readonly checkedAt: number;
  /**
   * Its triangles within `tolerance` (mm); groups say from which of its leaves each comes. Where the bodies are not
   * `trusted` each is looked at first, and made clean where it runs through itself.
   * @throws Complaint where it cannot be made, or nothing is left
   */
  solid(tolerance: number, poll: Poll, trusted?: boolean): Promise<Combination>;
}

/** How far figures may be off: mm³, mm² and mm. */
export interface Within {
  readonly volume: number;
  readonly surface: number;
  readonly extent: number;
}

/** The bodies that it is made of in the end, in their order: groups of its mesh are numbered so. */
export const leavesOf = (body: Body): readonly SweptBody[] =>
  body.form === 'swept' ? [body] : body.bodies.flatMap(leavesOf);

/** Whether from outside it looks like the bodies it is made of, laid beside each other. */
export const looksLikeParts = (body: Body): boolean =>
  body.form === 'swept' || (body.operation === 'add' && body.bodies.every(looksLikeParts));

/** About its largest extent, mm, quickly. */
export const sizeAbout = (body: Body): number =>
  body.form === 'swept' ? sweptSize(body) : Math.max(...body.bodies.map(sizeAbout));
