/** Numbers with their units, the unit in a quieter tone. */
import type { LengthUnit } from '@nematos/core/measure/expression';
import { formatFigure } from '@nematos/core/measure/format';
import type { Quantity } from '@nematos/core/measure/quantity';
import type { Words } from '@nematos/core/measure/words';

/** A value in base units, in the unit of the reader. */
export function Shown({ value, quantity, unit }: { value: number; quantity: Quantity; unit: LengthUnit }) {
  const shown = formatFigure(value, quantity, unit);
  return (
    <span className="whitespace-nowrap">
      {shown.number}
      {shown.unit && <span className={shown.unit === '°' ? 'unit' : 'unit ml-[0.24em]'}>{shown.unit}</span>}
    </span>
  );
}

/** Figures that are awaited stand in a quieter tone, once that takes longer than a glance. */
export const toneOf = (awaited: boolean | undefined): string =>
  awaited ? 'text-quiet transition-colors delay-200' : 'text-ink';

/** Words with figures in them, in the unit of the reader. */
export function Said({ says, unit }: { says: Words; unit: LengthUnit }) {
  return says.map((part, i) =>
    typeof part === 'string' ? (
      part
    ) : (
      <Shown key={i} value={part.value} quantity={part.quantity} unit={unit} />
    ),
  );
}
