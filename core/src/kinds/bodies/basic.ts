/** Outlines of what is turned from plain figures, beside the axis: x is the distance from it, y the height. */
import { choice, length } from '../../kind/kind';
import { arc, line } from '../../path/curve';
import { pathOf } from '../../path/path';
import { circle, cornered } from '../../section/contour';
import { sectionOf, type Section } from '../../section/section';

/** Half a disc of that radius, mm. */
export const halfDisc = (r: number): Section =>
  sectionOf(
    'ball',
    [pathOf([arc([0, 0, 0], [0, -1, 0], [1, 0, 0], r, Math.PI), line([0, r, 0], [0, -r, 0])])],
    {
      symmetry: 1,
    },
  );

/** A disc of radius r whose middle is so far from the axis. */
export const discAway = (r: number, away: number): Section =>
  sectionOf('ring', [circle(away, 0, r)], { symmetry: 1 });

/** How rims are finished, by so much (mm): the radius, or how far a chamfer goes from the edge on both sides. */
export interface Rims {
  readonly edges: 'sharp' | 'rounded' | 'chamfered';
  readonly edge: number;
}
/** Figures of kinds whose rims can be finished. */
export const RIMS = { edges: choice('sharp', 'rounded', 'chamfered'), edge: length({ atLeast: 0 }) };
export const RIMS_DEFAULTS = { edges: 'sharp', edge: '1 mm' };

/** What lies between bore and outside, from the foot (height 0) up; radii in mm. @throws Complaint at "edge" where rims have no room */
export function wallOf(
  bore: number,
  foot: number,
  top: number,
  height: number,
  { edges, edge }: Rims = { edges: 'sharp', edge: 0 },
): Section {
  const finish = edges === 'rounded' ? { radius: edge } : edges === 'chamfered' ? { chamfer: edge } : {};
  const corners = [
    { x: bore, y: 0 },
    { x: foot, y: 0 },
    { x: top, y: height },
    { x: bore, y: height },
  ]
    .filter(({ x }, i) => (i === 1 ? x > bore : i === 2 ? x > bore : true))
    // What lies on the axis is no rim.
    .map((corner) => (corner.x > 0 ? { ...corner, ...finish } : corner));
  return sectionOf(
    'wall',
    [cornered(corners, { field: () => (edges === 'sharp' ? 'height' : 'edge'), called: () => 'This rim' })],
    { symmetry: 1, corners },
  );
}
