/** What is told beside the stage of how the part is looked at: a panel under the results, and its lines. */
import { ListPlus, X } from 'lucide-react';
import type { ReactNode } from 'react';
import { held } from '@nematos/core/measure/format';
import type { Quantity } from '@nematos/core/measure/quantity';
import { Resulting, Shown } from '../../ui/figure';
import { useUnit } from '../../bench/bench';

/** A panel that can be closed; `closing` says what that does. */
export function SidePanel({
  name,
  closing,
  onClose,
  busy,
  children,
}: {
  name: string;
  closing: string;
  onClose(): void;
  busy?: boolean;
  children: ReactNode;
}) {
  return (
    <section
      aria-label={name}
      aria-busy={busy}
      className="border-t border-hair bg-raised/80 px-4 pt-2 pb-3 text-[12.5px]"
    >
      <h2 className="flex items-center justify-between text-[11px] font-semibold text-quiet">
        {name}
        <button
          type="button"
          aria-label={closing}
          title={closing}
          className="rounded hover:text-ink"
          onClick={onClose}
        >
          <X size={13} />
        </button>
      </h2>
      {children}
    </section>
  );
}

/** Lines of figures, under a title where they have one. */
export const Lines = ({
  title,
  quiet,
  children,
}: {
  title?: string;
  quiet?: boolean;
  children: ReactNode;
}) => (
  <>
    {title !== undefined && <h3 className="mt-1.5 font-semibold">{title}</h3>}
    <dl className={quiet ? 'text-quiet' : ''}>{children}</dl>
  </>
);

/** Digits of what is read off triangles. */
const ROUGH = 4;

/** The left and the right end of a line. */
export const Row = ({ says, children }: { says: ReactNode; children: ReactNode }) => (
  <div className="flex justify-between gap-x-2">
    <dt className="text-quiet">{says}</dt>
    <dd className="shrink-0 text-right whitespace-nowrap">{children}</dd>
  </div>
);

/** One figure, or several under each other; `rough` where it is read off triangles. */
export function Line({
  says,
  value,
  quantity,
  rough,
  within,
  onKeep,
}: {
  says: string;
  value: number | readonly number[];
  quantity: Quantity;
  rough?: boolean;
  /** How far it may be off: then it has no more digits than hold. */
  within?: number | undefined;
  /** Set where it can be kept on the sheet. */
  onKeep?: () => void;
}) {
  const unit = useUnit();
  const sign = onKeep && (
    <button
      type="button"
      aria-label={`Keep on the sheet: ${says}`}
      title="Keep it on the sheet"
      className="ml-1 inline-grid size-4 translate-y-[3px] place-items-center rounded text-thread hover:bg-hover"
      onClick={onKeep}
    >
      <ListPlus size={13} />
    </button>
  );
  return (
    <Row
      says={
        <>
          {says}
          {sign}
        </>
      }
    >
      {[value].flat().map((one, i) => (
        <div key={i} className={within === undefined ? '' : 'max-w-32 whitespace-normal'}>
          {rough && '≈ '}
          {within === undefined ? (
            <Shown value={rough ? Number(one.toPrecision(ROUGH)) : one} quantity={quantity} unit={unit} />
          ) : (
            <Resulting
              figure={{ name: says, label: says, value: held(one, within), quantity, within }}
              unit={unit}
            />
          )}
        </div>
      ))}
    </Row>
  );
}
