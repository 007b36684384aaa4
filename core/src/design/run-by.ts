/** A run by its points written as one by its bends, and the other way round. */
import { sub, unit, type Vec3 } from '../geometry/vector';
import type { LengthUnit } from '../measure/expression';
import { writtenFigure, writtenNumber } from '../measure/format';
import type { Step } from './schema';

/**
 * Makes the other table the one that is written, with the rows it came out with; the run stays where it is.
 * `rows` are the filled rows of both tables, `unit` what to write lengths in.
 */
export function writeRunBy(
  step: Step,
  by: 'points' | 'bends',
  rows: Readonly<Record<string, readonly Readonly<Record<string, number>>[]>>,
  lengths: LengthUnit,
): void {
  const lengthText = (value: number) => writtenFigure(value, 'length', lengths, 13);
  const angleText = (value: number) => writtenFigure(value, 'angle', lengths, 13);
  const table = rows[by] ?? [];
  const last = table.length - 1;
  const written = table.map((row, i) =>
    Object.fromEntries(
      Object.entries(row)
        .filter(([column]) =>
          by === 'points' ? column !== 'radius' || (i > 0 && i < last) : i < last || column === 'length',
        )
        .map(([column, value]) => [
          column,
          by === 'bends' && (column === 'rotation' || column === 'angle')
            ? angleText(value)
            : lengthText(value),
        ]),
    ),
  );
  // The other table follows from this one: what stood in it is not true any more.
  step.rows = { [by]: written };
  step.set.by = by;
  if (by !== 'bends') return;
  const at = (i: number): Vec3 => [rows.points![i]!.x!, rows.points![i]!.y!, rows.points![i]!.z!];
  const start = at(0);
  const direction = unit(sub(at(1), start));
  step.set.placing = 'axis';
  (['X', 'Y', 'Z'] as const).forEach((axis, k) => {
    step.set[`origin${axis}`] = lengthText(start[k]!);
    step.set[`axis${axis}`] = writtenNumber(direction[k]!, 15);
  });
}
