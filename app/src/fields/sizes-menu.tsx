/** Sizes that the trade keeps in stock, offered beside a figure. */
import { ChevronDown } from 'lucide-react';
import { stockNear, type Stock } from '@nematos/core/measure/stock';
import { Menu, MenuLine } from '../ui/controls';
import { Shown } from '../ui/figure';
import { useUnit } from '../bench/bench';

/** Opens the stock sizes next to a value (mm) that is called so; choosing one writes it. */
export function SizesMenu({
  name,
  value,
  stock,
  onChoose,
}: {
  name: string;
  value: number;
  stock: Stock;
  onChoose(text: string): void;
}) {
  const unit = useUnit();
  return (
    <Menu
      trigger={
        <button
          type="button"
          aria-label={`Stock sizes of the ${name}`}
          title="Stock sizes"
          className="ml-px rounded-sm print:hidden align-[-1px] text-quiet hover:text-ink"
        >
          <ChevronDown size={12} />
        </button>
      }
    >
      {stockNear(value, stock).map(({ text, standard, value: size }) => (
        <MenuLine key={text} onSelect={() => onChoose(text)} note={standard}>
          <span className={Math.abs(size - value) < 1e-9 * value ? 'font-semibold text-thread' : ''}>
            <Shown value={size} quantity="length" unit={unit} />
            {!text.endsWith(' mm') && <span className="ml-2 font-mono text-[12px] text-quiet">{text}</span>}
          </span>
        </MenuLine>
      ))}
    </Menu>
  );
}
