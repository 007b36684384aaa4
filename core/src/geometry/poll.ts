/** Lets a long loop give way: rejects when the work is no longer wanted, reports how far it is (0 to 1). */
export type Poll = (done: number) => Promise<void>;
