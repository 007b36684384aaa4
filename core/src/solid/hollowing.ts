/** What is told of how a body is hollowed. */

/** How a body is hollowed, lengths in mm. */
export interface Hollowing {
  readonly wall: number;
  /** Thickness of what closes an end. */
  readonly floor: number;
  /** Which ends are open: of a turned body the lower and the upper one. */
  readonly open: { readonly start: boolean; readonly end: boolean };
}
