/** Time spent within the mesh kernel. */
import { kernel } from '@nematos/core/solid/kernel/kernel';

let spent = 0;
let depth = 0;
let wrapped = false;

/** Wraps what the kernel is asked by, once; yields what tells the milliseconds spent within so far. */
export async function kernelTime(): Promise<() => number> {
  const { Manifold, Mesh } = await kernel();
  if (!wrapped) {
    wrap(Manifold as unknown as Asked);
    wrap(Mesh.prototype as unknown as Asked);
    // What it makes answers by what its class was derived from.
    for (
      let holder = Manifold.prototype as unknown as object;
      holder !== Object.prototype;
      holder = Object.getPrototypeOf(holder) as object
    )
      wrap(holder as Asked);
  }
  wrapped = true;
  return () => spent;
}

type Asked = Record<string, unknown>;

function wrap(holder: Asked): void {
  for (const name of Object.getOwnPropertyNames(holder)) {
    const work = Object.getOwnPropertyDescriptor(holder, name)?.value as unknown;
    if (name === 'constructor' || name === 'prototype' || typeof work !== 'function') continue;
    holder[name] = function (this: unknown, ...given: unknown[]): unknown {
      const begun = performance.now();
      depth++;
      try {
        return (work as (...all: unknown[]) => unknown).apply(this, given);
      } finally {
        depth--;
        if (depth === 0) spent += performance.now() - begun;
      }
    };
  }
}
