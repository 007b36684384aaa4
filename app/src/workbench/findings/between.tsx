/** The conditions between bodies: the least gap, and which of them may overlap or touch. */
import { X } from 'lucide-react';
import { mayMeet, setMayMeet, setWantedGap, stepName } from '@nematos/core/design/edit';
import type { Finding } from '@nematos/core/kind/value';
import { partOf } from '@nematos/core/view/part';
import { wantedGap } from '@nematos/core/view/between';
import { useBenchStore, useDesign } from '../../bench/bench';
import { Sign } from '../../ui/controls';
import { Typed } from '../../fields/typed';

/** A button that lets two bodies overlap or touch, beside a finding that they do. */
export function MayMeetButton({ step, finding }: { step: string; finding: Finding }) {
  const store = useBenchStore();
  const { other } = finding;
  if (other === undefined || finding.level === 'good') return null;
  return (
    <button
      type="button"
      className="mt-0.5 block rounded border border-hair bg-raised px-1.5 text-[12px] text-ink hover:bg-hover"
      onClick={() =>
        store.getState().edit('Allow bodies to meet', (draft) => setMayMeet(draft, [other, step], true))
      }
    >
      Allow this
    </button>
  );
}

/** The conditions between the bodies of a design with several. */
export function BetweenBodies() {
  const store = useBenchStore();
  const design = useDesign();
  const part = partOf(design.steps);
  if (part.length < 2) return null;
  const nameOf = (id: string) => stepName(design.steps.find((step) => step.id === id)!);
  const known = (id: string) => design.steps.some((step) => step.id === id);
  const allowed = (design.between?.mayMeet ?? []).filter(
    (pair) => mayMeet(design, pair) && pair.every(known),
  );
  return (
    <>
      <h2 className="mt-4 text-[11px] font-semibold text-quiet">Between bodies</h2>
      <div className="mt-1 flex flex-wrap items-baseline justify-between gap-x-2">
        <span className="text-quiet">Least gap wanted</span>
        <Typed
          name="Least gap wanted between bodies"
          text={design.between?.gap ?? ''}
          placeholder="none"
          onRead={(text) => {
            wantedGap({ ...design, between: { gap: text.trim() } });
            store.getState().edit('Least gap wanted', (draft) => setWantedGap(draft, text));
          }}
        />
      </div>
      {allowed.length > 0 && (
        <ul className="mt-1" aria-label="Bodies that may meet">
          {allowed.map(([one, other]) => (
            <li key={`${one} ${other}`} className="flex items-baseline gap-1 text-quiet">
              <span className="min-w-0 flex-1">
                {nameOf(one)} and {nameOf(other)} may overlap
              </span>
              <Sign
                name={`Check ${nameOf(one)} and ${nameOf(other)} again`}
                className="size-6"
                onClick={() =>
                  store
                    .getState()
                    .edit('Check bodies again', (draft) => setMayMeet(draft, [one, other], false))
                }
              >
                <X size={13} />
              </Sign>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
