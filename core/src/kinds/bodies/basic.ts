/** Outlines of what is turned from plain figures, beside the axis: x is the distance from it, y the height. */
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

/** What lies between bore and outside, from the foot (height 0) up; radii in mm. */
export function wallOf(bore: number, foot: number, top: number, height: number): Section {
  const corners = [
    { x: bore, y: 0 },
    { x: foot, y: 0 },
    { x: top, y: height },
    { x: bore, y: height },
  ].filter(({ x }, i) => (i === 1 ? x > bore : i === 2 ? x > bore : true));
  return sectionOf('wall', [cornered(corners, { field: () => 'height' })], { symmetry: 1, corners });
}
