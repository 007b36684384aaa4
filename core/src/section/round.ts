import { z } from 'zod';
import { length, sectionKind } from '../design/kind';

/** Round section, full. */
export const round = sectionKind({
  kind: 'round',
  title: 'Wire',
  noun: 'round section',
  words: ['round', 'wire', 'rod', 'bar', 'circle', 'section', 'gauge'],
  inputs: {},
  schema: z.object({ diameter: length({ above: 0 }) }),
  defaults: { diameter: '2 mm' },
  evaluate: ({ diameter }) => {
    const r = diameter / 2;
    return {
      type: 'section',
      name: 'round',
      area: Math.PI * r * r,
      perimeter: 2 * Math.PI * r,
      secondMoment: (Math.PI * r ** 4) / 4,
      reach: r,
      diameter,
      symmetry: Infinity,
      corners: (tolerance) => roundCorners(r, tolerance),
      outline: (corners) => roundOutline(r, corners),
    };
  },
  figures: (section) => [
    { name: 'diameter', label: 'diameter', value: section.diameter, quantity: 'length' },
    { name: 'area', label: 'area', value: section.area, quantity: 'area' },
    { name: 'perimeter', label: 'perimeter', value: section.perimeter, quantity: 'length' },
    { name: 'secondMoment', label: 'second moment', value: section.secondMoment, quantity: 'secondMoment' },
  ],
});

const FEWEST = 8;

/**
 * Even number of corners. The area-true polygon stands out by a third of the chord height and in by
 * two thirds, so its chord may be half as high again as the tolerance.
 */
function roundCorners(r: number, tolerance: number): number {
  const cosine = 1 - (1.5 * tolerance) / r;
  const m = cosine > 0 ? Math.ceil(Math.PI / Math.acos(cosine)) : FEWEST;
  return Math.max(FEWEST, m + (m % 2));
}

/** The regular polygon whose area is the circle's: radius r·√((2π/m)/sin(2π/m)). */
function roundOutline(r: number, corners: number) {
  const step = (2 * Math.PI) / corners;
  const R = r * Math.sqrt(step / Math.sin(step));
  const points = new Float64Array(2 * corners);
  const normals = new Float64Array(2 * corners);
  for (let i = 0; i < corners; i++) {
    normals[2 * i] = Math.cos(i * step);
    normals[2 * i + 1] = Math.sin(i * step);
    points[2 * i] = R * normals[2 * i]!;
    points[2 * i + 1] = R * normals[2 * i + 1]!;
  }
  return { points, normals };
}
