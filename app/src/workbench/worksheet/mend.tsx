/** A button that makes a change which mends what is told beside it. */
import { stepOf } from '@nematos/core/design/edit';
import { writeField } from '@nematos/core/design/literal';
import type { Step } from '@nematos/core/design/schema';
import type { Mend } from '@nematos/core/kind/value';
import { sayWords } from '@nematos/core/measure/format';
import { useBenchStore, useUnit } from '../../bench/bench';

/** Carries out a change that mends something. */
export function MendButton({ step, mend }: { step: Pick<Step, 'id'>; mend: Mend }) {
  const store = useBenchStore();
  const says = sayWords(mend.says, useUnit());
  return (
    <button
      type="button"
      data-mend
      className="ml-1.5 rounded border border-hair bg-raised px-1.5 text-[12px] text-ink hover:bg-hover"
      onClick={() =>
        store.getState().edit(says, (draft) => {
          const drafted = stepOf(draft, step.id);
          for (const [field, text] of Object.entries(mend.set)) writeField(drafted, field, text);
        })
      }
    >
      {says}
    </button>
  );
}
