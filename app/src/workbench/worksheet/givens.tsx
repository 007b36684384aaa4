/** The named figures on top of the sheet. */
import { Plus, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { addGiven, renameGiven, usesOf } from '@nematos/core/design/edit';
import { QUANTITIES } from '@nematos/core/measure/quantity';
import { Sign } from '../../ui/controls';
import { Said } from '../../ui/figure';
import { useBench, useBenchStore, useOfDesign, useUnit } from '../../bench/bench';
import { FigureField, Scrub } from '../../fields/figure-field';

/** The named figures at the head of the sheet. */
export function Givens() {
  const givens = useOfDesign((design) => design.givens);
  const unit = useUnit();
  const store = useBenchStore();
  const seen = useBench((bench) => bench.seen);
  const list = useRef<HTMLDivElement>(null);

  const add = () => {
    // At once, not in the next frame: who types on must not lose a letter.
    flushSync(() => store.getState().edit('Add a given', (draft) => void addGiven(draft)));
    const names = list.current?.querySelectorAll<HTMLInputElement>('[data-given-name]');
    names?.[names.length - 1]?.focus();
  };

  return (
    <section aria-label="Givens" ref={list} className="mt-3">
      {givens.map((given, i) => {
        const result = seen?.givens[i]?.name === given.name ? seen.givens[i] : undefined;
        const complaint = result?.complaint;
        return (
          <div key={i} className="group relative" data-given={given.name}>
            <div className="flex items-baseline gap-2 py-[1.5px]">
              <GivenName index={i} invalid={complaint?.field === 'name'} />
              <span className="flex grow self-stretch">
                <Scrub place={{ given: i }} name={given.name}>
                  <span className="mb-1 grow self-end border-b border-dotted border-quiet/50" />
                </Scrub>
              </span>
              <FigureField
                place={{ given: i }}
                name={given.name}
                quantity={result?.quantity}
                value={
                  result?.measured && result.quantity
                    ? result.measured.value / QUANTITIES[result.quantity].scale
                    : undefined
                }
                invalid={complaint?.field === 'value'}
                placeholder="figure"
                mono
              />
              <Sign
                name={`Remove ${given.name}`}
                className="!size-5 self-center opacity-0 group-hover:opacity-100 pointer-coarse:opacity-100 focus-visible:opacity-100"
                onClick={() =>
                  store.getState().edit(`Remove ${given.name}`, (draft) => void draft.givens.splice(i, 1))
                }
              >
                <X size={13} />
              </Sign>
            </div>
            {complaint && (
              <p role="alert" className="pb-1 text-xs text-madder">
                <Said says={complaint.says} unit={unit} />
              </p>
            )}
          </div>
        );
      })}
      <button
        type="button"
        onClick={add}
        className="mt-0.5 inline-flex items-center gap-1 rounded text-xs text-quiet hover:text-ink"
      >
        <Plus size={12} /> {givens.length ? 'given' : 'Name a figure to use it everywhere'}
      </button>
    </section>
  );
}

function GivenName({ index, invalid }: { index: number; invalid: boolean }) {
  const store = useBenchStore();
  const given = useOfDesign((design) => design.givens[index]!);
  const [draftName, setDraftName] = useState<string>();
  const [uses, setUses] = useState<string[]>([]);
  return (
    <input
      aria-label={`Name of the given ${given.name}`}
      aria-invalid={invalid || undefined}
      data-given-name
      onPointerEnter={() => setUses(usesOf(store.getState().history.present, given.name))}
      data-next
      title={[given.note, uses.length ? `used by ${uses.join(', ')}` : 'not used yet']
        .filter(Boolean)
        .join('; ')}
      className="field-sizing-content max-w-40 min-w-6 rounded-sm bg-transparent hover:bg-hover focus:bg-wash focus:outline-none aria-[invalid]:text-madder"
      value={draftName ?? given.name}
      spellCheck={false}
      autoComplete="off"
      onFocus={(event) => event.currentTarget.select()}
      onChange={(event) => setDraftName(event.target.value)}
      onBlur={() => {
        if (draftName !== undefined && draftName.trim() !== given.name)
          store
            .getState()
            .edit(`Rename ${given.name}`, (draft) => renameGiven(draft, index, draftName.trim()));
        setDraftName(undefined);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          event.preventDefault();
          const row = event.currentTarget.closest('[data-given]');
          event.currentTarget.blur();
          row?.querySelector<HTMLInputElement>('[data-field]')?.focus();
        }
        if (event.key === 'Escape') {
          setDraftName(undefined);
          event.currentTarget.blur();
        }
      }}
    />
  );
}
