/** Dimension lines of sections, in their own plane: x to the right, y upwards. */
import { lineMark, type LineMark } from '../../kind/mark';
import type { Section } from '../../section/section';

type Set = Readonly<Record<string, string>>;
type Resolved = Readonly<Record<string, { readonly value: number }>>;

/** The marks of a kind whose fields are the sides of the box about it, of those that are given. */
export const boxMarks =
  (fields: Readonly<Record<string, 'x' | 'y'>>) =>
  ({ box: { left, right, low, high } }: Section, set: Set): LineMark[] =>
    Object.entries(fields).flatMap(([field, along]): LineMark[] => {
      if (set[field] === undefined) return [];
      const [x, y] = [(left + right) / 2, (low + high) / 2];
      return [
        along === 'x'
          ? lineMark(field, [left, y, 0], [right, y, 0], [1, 0, 0], (high - low) / 2)
          : lineMark(field, [x, low, 0], [x, high, 0], [0, 1, 0], (right - left) / 2),
      ];
    });

/** The marks of a kind whose fields are diameters about its origin, of those that are given; a `wall` lies within the outer one. */
export const roundMarks =
  (...fields: readonly string[]) =>
  (section: Section, set: Set, _filled: unknown, resolved: Resolved): LineMark[] => {
    const across = fields.flatMap((field, i): LineMark[] => {
      const radius = (resolved[field]?.value ?? 0) / 2;
      if (set[field] === undefined || !(radius > 0)) return [];
      const at = [0, 0, 0] as const;
      const outward = i === 0 ? -1 : 1;
      return [
        { field, type: 'across', from: at, to: at, axis: [0, 0, 1], clear: section.reach, radius, outward },
      ];
    });
    if (set.wall === undefined || section.wall === undefined) return across;
    const outer = section.diameter / 2;
    return [...across, lineMark('wall', [outer - section.wall, 0, 0], [outer, 0, 0], [1, 0, 0], outer)];
  };
