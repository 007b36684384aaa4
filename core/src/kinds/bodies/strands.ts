/** Strands: wires of one body beside each other, and what they leave between them. */
import { Memo } from '../../geometry/memo';
import type { Poll } from '../../geometry/poll';
import { setClearance, type Between } from '../../check/between';
import type { Result } from '../../kind/value';
import type { SweptBody } from '../../sweep/body';

/** Greatest thickness of the body: about the path at its widest place, mm. */
export const thickness = ({ swept }: Pick<SweptBody, 'swept'>): number =>
  2 * Math.max(...swept.map((one) => one.reach * one.scale));

/** Whether it is a wire of one thickness, whose clearance is that of its centre line. */
export const isWire = ({ swept }: Pick<SweptBody, 'swept'>): boolean =>
  swept.every(({ round, carrier, scale }) => round && (carrier.plain || scale === 1));

const KNOWN = new Memo<SweptBody, Between | undefined>();

/** Where two of the paths of a body come nearest to each other; undefined where none come near. */
export const nearestStrands = (body: SweptBody, poll: Poll): Promise<Between | undefined> =>
  KNOWN.later(body, async () =>
    body.paths.length > 1 ? setClearance(body.paths, thickness(body), poll) : undefined,
  );

/** The least gap between wires of a set, of their centre lines; less than 0 where they overlap. It must be measured. */
export function strandResults(body: SweptBody): Result[] {
  const found = KNOWN.get(body);
  if (!found || !isWire(body)) return [];
  return [
    {
      name: 'strandGap',
      label: 'gap between strands, less than 0 where they overlap',
      head: 'Strand gap',
      value: found.distance - thickness(body),
      quantity: 'length',
    },
  ];
}
