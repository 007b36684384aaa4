/** What a workbench waits for, once that takes longer than a moment. */
import type { StoreApi } from 'zustand/vanilla';
import { watch } from '../worker/client';
import type { Bench, Task } from './state';
import type { Timer } from './timer';

/** In the order in which they are told where several are under way. */
const TASKS: readonly Task[] = ['shape', 'results', 'findings', 'fine shape'];
/** What is over sooner, ms, is not told. */
const MOMENT = 400;
/** How far it is, is told so often at most, ms: each time the page is drawn. */
const EVERY = 300;

/** Tells the store what is calculated. */
export class Progress {
  private readonly open = new Set<Task>();
  private since = 0;
  private at: { readonly step?: string; readonly done: number } = { done: 0 };
  private timer: Timer | undefined;
  private next: Timer | undefined;
  private readonly unwatch: () => void;

  constructor(
    private readonly store: StoreApi<Bench>,
    session: string,
  ) {
    this.unwatch = watch(session, ({ step, done }) => {
      this.at = { ...(step !== undefined && { step }), done };
      this.next ??= setTimeout(() => {
        this.next = undefined;
        this.tell();
      }, EVERY);
    });
  }

  /** Starts timing a calculation. */
  begin(): void {
    this.end();
    this.since = Date.now();
    this.timer = setTimeout(() => {
      this.timer = undefined;
      this.tell();
    }, MOMENT);
  }

  /** A task of it. */
  async during<R>(task: Task, work: Promise<R>): Promise<R> {
    this.open.add(task);
    this.tell();
    try {
      return await work;
    } finally {
      this.open.delete(task);
      this.tell();
    }
  }

  /** It is over, or not wanted any more. */
  end(): void {
    clearTimeout(this.timer);
    clearTimeout(this.next);
    this.timer = undefined;
    this.next = undefined;
    this.at = { done: 0 };
    if (this.store.getState().progress) this.store.setState({ progress: undefined });
  }

  close(): void {
    this.end();
    this.unwatch();
  }

  private tell() {
    const { working, progress } = this.store.getState();
    const task = TASKS.find((one) => this.open.has(one)) ?? progress?.task;
    if (this.timer !== undefined || !working || !task) return;
    this.store.setState({ progress: { task, since: this.since, ...this.at } });
  }
}
