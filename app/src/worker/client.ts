/** The workers of this tab, each started when first needed, and again if it breaks. */
import * as Comlink from 'comlink';
import type { ExchangeWorker } from './exchange';
import type { GeometryWorker } from './geometry';
import { KERNEL } from './kernel-name';
import type { Asking, Progress } from './messages';
import type { ReadingWorker } from './reading';

interface Standing<T> {
  readonly remote: Comlink.Remote<T>;
  /** Rejects when the worker breaks (out of memory, say), or is ended: its open answers would never come. */
  readonly broken: Promise<never>;
  end(says: string): void;
}

/** One worker that is made by `start`; `made` is told of each one. */
function keeper<T>(
  name: string,
  start: () => Worker,
  made: (remote: Comlink.Remote<T>) => unknown = () => undefined,
) {
  let standing: Standing<T> | undefined;
  const stand = (): Standing<T> => {
    const worker = start();
    let end: Standing<T>['end'] = () => undefined;
    const broken = new Promise<never>((_resolve, reject) => {
      end = (says) => {
        worker.terminate();
        standing = undefined;
        reject(new Error(says));
      };
      worker.addEventListener('error', (event) => end(event.message || `the ${name} worker broke`));
    });
    broken.catch(() => undefined); // told to those who wait for an answer
    const remote = Comlink.wrap<T>(worker);
    made(remote);
    return { remote, broken, end };
  };
  return {
    wake: (): void => void (standing ??= stand()),
    /** Ends the worker with all it is doing; the next question makes another. */
    end: (says = 'stopped'): void => standing?.end(says),
    /** Tells it something, where it stands; nothing is made for it. */
    tell: (say: (remote: Comlink.Remote<T>) => Promise<unknown>): void =>
      void (standing && say(standing.remote).catch(() => undefined)),
    ask<R>(question: (remote: Comlink.Remote<T>) => Promise<R>): Promise<R> {
      const { remote, broken } = (standing ??= stand());
      return Promise.race([question(remote), broken]);
    },
  };
}

const geometryWorker = (name: string) =>
  keeper<GeometryWorker>(
    name,
    () => new Worker(new URL('./geometry-worker.ts', import.meta.url), { type: 'module', name }),
    (remote) => remote.watch(callback(report)).catch(() => undefined),
  );
/** Who is told how far the workers are, by session. */
const watching = new Map<string, (progress: Progress) => void>();
const report = (progress: Progress): void => watching.get(progress.session)?.(progress);
/** Tells how far the workers are with what a session asks for, until what is given back is called. */
export function watch(session: string, tell: (progress: Progress) => void): () => void {
  watching.set(session, tell);
  return () => void watching.delete(session);
}
/** What the picture waits for, and nothing else: it never waits for what takes long. */
const geometry = geometryWorker('geometry');
/** What takes long: exact figures, findings, fine pictures, and all that the mesh kernel makes. */
const deep = geometryWorker(KERNEL);
const exchange = keeper<ExchangeWorker>(
  'exchange',
  () => new Worker(new URL('./exchange.ts', import.meta.url), { type: 'module', name: 'exchange' }),
);

const reading = keeper<ReadingWorker>(
  'reading',
  () => new Worker(new URL('./reading.ts', import.meta.url), { type: 'module', name: 'reading' }),
);

/** Loads the geometry worker before its first answer is wanted. */
export const wakeGeometry = geometry.wake;
/** Asks the worker of quick answers. Rejects where it breaks over it. */
export const ask = geometry.ask;
/** Ends what that worker is doing, where it does not let itself be overtaken: what was asked of it rejects. */
export const stopGeometry = geometry.end;
/** Loads the worker of what takes long, with the mesh kernel, before it is asked anything. */
export const wakeDeep = deep.wake;
/** Asks that worker. Rejects where it breaks over it. */
export const askDeep = deep.ask;
export const stopDeep = deep.end;
/** Tells the workers that a session is closed. */
export function leave(session: string): void {
  for (const { tell } of [geometry, deep]) tell((remote) => remote.leave(session));
}
/** Tells it that what it does for a session is not wanted any more, where there is one. */
export const overtakeDeep = (asking: Asking): void => deep.tell((remote) => remote.overtake(asking));
/** The same of the worker of quick answers. */
export const overtakeQuick = (asking: Asking): void => geometry.tell((remote) => remote.overtake(asking));
/** Asks the worker that makes files. */
export const askExchange = exchange.ask;
/** Ends what that worker is doing, however deep it is in it: what was asked of it rejects. */
export const stopExchange = exchange.end;
/** Asks the worker that reads files. */
export const askReading = reading.ask;
/** Ends it: what was asked of it rejects with these words. */
export const stopReading = reading.end;

let askings = 0;
/** The next asking of a session: it overtakes the ones before it. */
export const nextOf = (session: string): Asking => ({ session, revision: ++askings });

/** Memory that goes to the worker and is gone here. */
export const handOver = (buffers: ArrayBuffer[]): ArrayBuffer[] => Comlink.transfer(buffers, buffers);

/** A function to be called from the worker. */
export const callback = <T extends (...args: never[]) => unknown>(call: T): T => Comlink.proxy(call);
