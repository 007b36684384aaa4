/** The units of the sheet: millimetres or inches, and of other quantities whichever the user chooses. */
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { changeUnit } from '@nematos/core/design/edit';
import { showing, UNIT_OPTIONS, type Unitary } from '@nematos/core/measure/format';
import { PAPER } from '../ui/controls';
import { useBench, useBenchStore, useOfDesign, useUnit } from '../bench/bench';

const NAMES: Readonly<Record<Unitary, string>> = {
  mass: 'Mass',
  force: 'Force',
  stress: 'Stress',
  rate: 'Spring rate',
  volume: 'Volume',
  area: 'Area',
  density: 'Density',
};

/** Millimetres or inches, and behind them the units of all other quantities. */
export function UnitsGroup() {
  const store = useBenchStore();
  const unit = useUnit();
  const reading = useBench((bench) => bench.reading);
  return (
    <div
      role="group"
      aria-label="Unit"
      className="flex h-7 overflow-hidden rounded-md border border-hair bg-raised"
    >
      {(['mm', 'in'] as const).map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={unit === one}
          disabled={reading}
          onClick={() => store.getState().edit(`Set in ${one}`, (draft) => changeUnit(draft, one))}
          className={`px-2.5 -outline-offset-2 ${unit === one ? 'bg-hover font-medium' : 'text-quiet hover:text-ink'}`}
        >
          {one}
        </button>
      ))}
      {!reading && (
        <Popover.Root>
          <Popover.Trigger asChild>
            <button
              type="button"
              aria-label="Units of other quantities"
              title="Units of other quantities"
              className="border-l border-hair px-1 text-quiet -outline-offset-2 hover:text-ink"
            >
              <ChevronDown size={13} />
            </button>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              sideOffset={6}
              aria-label="Units"
              className={`${PAPER} z-40 w-64 max-h-(--radix-popover-content-available-height) overflow-y-auto p-3`}
            >
              <h2 className="pb-1.5 font-semibold">Units</h2>
              {(Object.keys(NAMES) as Unitary[]).map((quantity) => (
                <UnitLine key={quantity} quantity={quantity} />
              ))}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </div>
  );
}

function UnitLine({ quantity }: { quantity: Unitary }) {
  const store = useBenchStore();
  const unit = useUnit();
  const chosen = useOfDesign((design) => design.units?.[quantity] ?? '');
  const choose = (next: string) =>
    store.getState().edit(`Choose the unit of ${NAMES[quantity].toLowerCase()}`, (draft) => {
      const units = { ...draft.units };
      if (next) units[quantity] = next;
      else delete units[quantity];
      if (Object.keys(units).length) draft.units = units;
      else delete draft.units;
    });
  return (
    <label className="flex items-baseline justify-between gap-3 py-0.5">
      {NAMES[quantity]}
      <select
        aria-label={NAMES[quantity]}
        value={chosen}
        onChange={(event) => choose(event.target.value)}
        className="w-32 rounded border border-hair bg-raised px-1"
      >
        <option value="">usual: {showing(quantity, unit).unit}</option>
        {UNIT_OPTIONS[quantity].map((one) => (
          <option key={one.unit} value={one.unit}>
            {one.unit}
          </option>
        ))}
      </select>
    </label>
  );
}
