/** What a section is once it is ready to be carried along one path, and what has to be said for it. */
import type { Plane } from '../../geometry/plane';
import type { Vec3 } from '../../geometry/vector';
import type { Path } from '../../path/path';
import type { Pair } from '../../section/match';
import type { Placement } from '../../section/place';
import type { Section } from '../../section/section';
import type { Carrier, Hold } from './carrier';
import type { Law } from './laws';

/** One end of a body. */
export interface End {
  readonly shape: 'flat' | 'domed' | 'chamfered' | 'flush' | 'rounded';
  /** Height of a dome or of a rounded rim, length of a chamfer along the path, or how far a flush plane lies inside the path's end, mm. */
  readonly size: number;
  /** Thickness of a wall that closes the holes of the section at this end; 0 leaves them open. */
  readonly wall: number;
}

export interface SweepPlan {
  readonly hold: Hold;
  readonly facing: Vec3;
  readonly guide?: Path;
  readonly guideSizes: boolean;
  readonly corners: 'mitred' | 'rounded' | 'bent';
  readonly bendRadius: number;
  readonly placement: Placement;
  /** Side of the body that the path is: seen from the middle of its bend. */
  readonly pathIs: 'inside' | 'middle' | 'outside';
  /** Turn of the section in its plane, rad. */
  readonly turned: number;
  /** Of the path as it is carried along: lengths are its own. */
  laws(length: number, closed: boolean): { width: Law; height: Law; twist: Law; mix: Law };
  readonly into?: Section;
  /** How it passes into that, place for place, where it is known: both are carried as they stand. */
  readonly pairs?: readonly (readonly Pair[])[];
  readonly ends: readonly [start: End, end: End];
  /** Direction square to the planes that ends are flush with. */
  readonly flush: Vec3;
}

export interface Swept {
  /** What it was made of: the section as it came, and the plan. */
  readonly asked: { readonly section: Section; readonly plan: SweepPlan };
  /** The path as the step was given it. */
  readonly original: Path;
  readonly carrier: Carrier;
  readonly section: Section;
  readonly into?: Section;
  readonly pairs?: readonly (readonly Pair[])[];
  /** Pieces along which each contour runs. */
  readonly ranges: readonly { readonly from: number; readonly to: number }[];
  /** Heights of domes at both ends, 0 where there is none. */
  readonly domes: readonly [number, number];
  /** How high a rounded rim stands on its end, mm; 0 where there is none. */
  readonly lip: number;
  readonly ends: SweepPlan['ends'];
  /** Planes that cut it off at its start and end; what is on the side they look to is kept. */
  readonly planes: readonly (Plane | undefined)[];
  /** Turn of the section along the path beside its hold’s, rad. */
  readonly twist: Law;
  /** Set where a turn of the section about the path changes nothing. */
  readonly round: boolean;
  readonly first: Vec3;
  /** Greatest size along the path, as a multiple of the section's own. */
  readonly scale: number;
  /** How far the section, or the one it passes into, reaches from the path as it is drawn, mm. */
  readonly reach: number;
  /** Centroid of the outline’s face, holes closed. */
  middle(mix: number): readonly [number, number];
}
