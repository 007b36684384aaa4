/** The wires of a body that is carried along several paths, each by itself. */
import type { Motion } from '../geometry/motion';
import { sweptBody, type SweptBody } from './body';
import { copiesAmong } from './carry/copies';

export interface Wire {
  readonly body: SweptBody;
  /** Of all the wires together, how long this one is. */
  readonly share: number;
  /** Set where it is another of them, moved. */
  readonly copy: { readonly of: SweptBody; readonly by: Motion } | undefined;
}

/** Of bodies: what is drawn of a wire is kept by it. */
const WIRES = new WeakMap<SweptBody, readonly Wire[]>();

/** The wires of a body; the same each time it is asked. */
export function wiresOf(body: SweptBody): readonly Wire[] {
  const wires = WIRES.get(body) ?? found(body);
  WIRES.set(body, wires);
  return wires;
}

function found({ swept, section, material, length }: SweptBody): Wire[] {
  const copies = copiesAmong(swept);
  const bodies = swept.map((one) => sweptBody([one], section, material));
  return bodies.map((body, i) => {
    const copy = copies[i];
    return { body, share: body.length / length, copy: copy && { of: bodies[copy.original]!, by: copy.by } };
  });
}
