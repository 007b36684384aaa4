/** The one geometry worker of this tab, made when first needed, and made anew should it break. */
import * as Comlink from 'comlink';
import type { GeometryWorker } from './geometry';

interface Standing {
  readonly remote: Comlink.Remote<GeometryWorker>;
  /** Rejects when the worker breaks (out of memory, say): its open answers would never come. */
  readonly broken: Promise<never>;
}

let standing: Standing | undefined;

function stand(): Standing {
  const worker = new Worker(new URL('./geometry.ts', import.meta.url), { type: 'module', name: 'geometry' });
  const broken = new Promise<never>((_resolve, reject) => {
    worker.addEventListener('error', (event) => {
      worker.terminate();
      standing = undefined;
      reject(new Error(event.message || 'the geometry worker broke'));
    });
  });
  broken.catch(() => undefined); // told to those who wait for an answer
  return { remote: Comlink.wrap<GeometryWorker>(worker), broken };
}

/** Loads the worker before its first answer is wanted. */
export const wakeGeometry = (): void => void (standing ??= stand());

/** Asks the worker. Rejects where the worker breaks over it. */
export function ask<T>(question: (geometry: Comlink.Remote<GeometryWorker>) => Promise<T>): Promise<T> {
  const { remote, broken } = (standing ??= stand());
  return Promise.race([question(remote), broken]);
}

/** A function to be called from the worker. */
export const callback = <T extends (...args: never[]) => unknown>(call: T): T => Comlink.proxy(call);
