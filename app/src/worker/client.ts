/** The one geometry worker of this tab, made when first needed. */
import * as Comlink from 'comlink';
import type { GeometryWorker } from './geometry';

let made: Comlink.Remote<GeometryWorker> | undefined;

export function geometry(): Comlink.Remote<GeometryWorker> {
  made ??= Comlink.wrap<GeometryWorker>(
    new Worker(new URL('./geometry.ts', import.meta.url), { type: 'module', name: 'geometry' }),
  );
  return made;
}

/** Calls a worker function that takes a callback last. */
export const callback = <T extends (...args: never[]) => unknown>(call: T): T => Comlink.proxy(call);
