/** What is asked of the worker of what takes long: an answer that is overtaken and does not end is given up with it. */
import { askDeep, overtakeDeep, stopDeep } from '../worker/client';
import type { Asking } from '../worker/messages';
import type { Timer } from './timer';

/** An answer that newer edits wait for so long, ms, is given up with the worker that does not come to an end of it. */
export const PATIENCE = 3000;

/** Questions of one workbench to that worker. */
export class LongAnswers {
  /** Set where the worker was ended here. */
  ended = false;
  /** Answers that have not come. */
  private open = 0;
  private patience: Timer | undefined;

  /** Asks it. @throws what the worker throws, and where it was ended */
  async ask<R>(question: Parameters<typeof askDeep<R>>[0]): Promise<R> {
    this.open++;
    try {
      return await askDeep(question);
    } finally {
      if (--this.open === 0) this.close();
    }
  }

  /** A newer asking: what is open is no longer wanted. */
  overtake(newer: Asking): void {
    if (!this.open) return;
    overtakeDeep(newer);
    this.patience ??= setTimeout(() => {
      this.ended = true;
      stopDeep();
    }, PATIENCE);
  }

  /** Waits no longer for what is open. */
  close(): void {
    clearTimeout(this.patience);
    this.patience = undefined;
  }
}
