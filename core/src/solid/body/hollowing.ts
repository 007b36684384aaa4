/** What is told of how a body is hollowed. */

import { GeometryError } from '../../geometry/error';

/** How a body is hollowed, lengths in mm. */
export interface Hollowing {
  readonly wall: number;
  /** Thickness of what closes an end. */
  readonly floor: number;
  /** Which ends are open: of a turned body the lower and the upper one. */
  readonly open: { readonly start: boolean; readonly end: boolean };
  /** Set where the rims of open ends are rounded from wall to wall. */
  readonly rounded?: boolean;
}

/** Refuses rounded rims of what has none that are exact. @throws Complaint at "rim" */
export function checkRim({ rounded, open }: Hollowing): void {
  if (rounded && (open.start || open.end))
    throw new GeometryError(
      'rim-not-rounded',
      'Of what was combined or bent the rim cannot be rounded: hollow it before that, or leave the rim sharp.',
    );
}
