/** Numbers with their units, the unit in a quieter tone. */
import { createContext, useContext } from 'react';
import type { Result, Level } from '@nematos/core/kind/value';
import type { LengthUnit } from '@nematos/core/measure/expression';
import { formatFigure, type UnitChoice } from '@nematos/core/measure/format';
import type { Quantity } from '@nematos/core/measure/quantity';
import type { Words } from '@nematos/core/measure/words';

/** Units that the sheet has chosen for quantities other than lengths. */
export const ChosenUnits = createContext<UnitChoice>({});

/** A value in base units, in the unit of the reader. */
export function Shown({ value, quantity, unit }: { value: number; quantity: Quantity; unit: LengthUnit }) {
  const chosen = useContext(ChosenUnits);
  const shown = formatFigure(value, quantity, { length: unit, chosen });
  return (
    <span className="whitespace-nowrap">
      {shown.number}
      {shown.unit && <span className={shown.unit === '°' ? 'unit' : 'unit ml-[0.24em]'}>{shown.unit}</span>}
    </span>
  );
}

/** A result; where it is an estimate, with how far it may be off. */
export function Resulting({ figure, unit }: { figure: Result; unit: LengthUnit }) {
  const { value, quantity, within = 0 } = figure;
  const chosen = useContext(ChosenUnits);
  const shown = (x: number) => formatFigure(x, quantity, { length: unit, chosen });
  // Where it would not be seen in the digits that are shown, they are right as they are.
  const seen = [value - within, value + within].some((x) => shown(x).number !== shown(value).number);
  const off = seen ? shown(Number(within.toPrecision(1))) : undefined;
  return (
    <>
      <Shown value={value} quantity={quantity} unit={unit} />
      {off && (
        <>
          {/* Where there is no room for both beside each other, one goes below. */}
          <wbr />
          <span
            className="ml-1 text-[0.86em] font-normal whitespace-nowrap text-quiet"
            title="An estimate from triangles: it is off by no more than about this"
          >
            ±{off.number}
          </span>
        </>
      )}
    </>
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

/** The colour of a level of findings; a shape of its own goes with it. */
export const LEVEL_INK: Record<Level, string> = {
  good: 'var(--moss)',
  note: 'var(--ochre)',
  fault: 'var(--madder)',
};
