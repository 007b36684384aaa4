import { z } from 'zod';
import { length, sectionKind, stocked } from '../../kind/kind';
import { Complaint, mm, words } from '../../measure/words';
import { asHole, circle } from '../../section/contour';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { roundMarks } from './section-marks';

const LINKED = ['outer', 'inner', 'wall'] as const;

/** Tube: any two of outer diameter, inner diameter and wall. */
export const tube = sectionKind({
  kind: 'tube',
  title: 'Tube',
  noun: 'tube section',
  words: ['pipe', 'tube', 'hollow', 'annulus', 'bore', 'wall', 'section'],
  inputs: {},
  schema: z.object({
    outer: length({ above: 0 }).optional(),
    inner: length({ above: 0 }).optional(),
    wall: stocked('wall').optional(),
  }),
  defaults: { outer: '12 mm', wall: '1 mm' },
  size: { field: 'outer', of: (outer) => ({ outer, wall: `(${outer}) / 10` }) },
  marks: roundMarks('outer', 'inner'),
  evaluate(figures) {
    const given = LINKED.filter((field) => figures[field] !== undefined);
    if (given.length !== 2)
      throw new Complaint(
        given.length < 2
          ? 'Two of outer diameter, inner diameter and wall are needed.'
          : 'Outer diameter, inner diameter and wall are all given: leave one of them out.',
        given.length < 2 ? LINKED.find((field) => !given.includes(field)) : 'wall',
      );
    const outer = figures.outer ?? figures.inner! + 2 * figures.wall!;
    const inner = figures.inner ?? outer - 2 * figures.wall!;
    if (inner <= 0)
      throw new Complaint(
        words`A wall of ${mm(figures.wall!)} leaves no bore in a tube of ${mm(outer)}: it must be under ${mm(outer / 2)}.`,
        'wall',
      );
    if (inner >= outer)
      throw new Complaint('The inner diameter must be smaller than the outer one.', 'inner');
    return sectionOf('tube', [circle(0, 0, outer / 2), asHole(circle(0, 0, inner / 2))], {
      symmetry: Infinity,
      diameter: outer,
      wall: (outer - inner) / 2,
    });
  },
  results: (section) => [
    { name: 'outer', label: 'outer diameter', value: section.diameter, quantity: 'length' },
    {
      name: 'inner',
      label: 'inner diameter',
      value: section.diameter - 2 * section.wall!,
      quantity: 'length',
    },
    {
      name: 'bore',
      label: 'area of the bore',
      value: Math.PI * (section.diameter / 2 - section.wall!) ** 2,
      quantity: 'area',
    },
    ...sectionResults(section),
  ],
});
