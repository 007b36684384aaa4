/** Lets a long loop give way: rejects when the work is no longer wanted, reports how far it is (0 to 1). */
export interface Poll {
  (done: number): Promise<void>;
  /** Told which step of a design is worked on from here on. */
  readonly at?: (step: string) => void;
}
