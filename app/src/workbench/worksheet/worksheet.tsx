/** The design as a sheet: name, givens, steps, and the thread through them. */
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Fragment, useMemo, useRef, useState } from 'react';
import { moveStep, moveTrouble, stepName, stepOf } from '@nematos/core/design/edit';
import { useBench, useBenchStore, useOfDesign } from '../../bench/bench';
import { shownCount } from '../../bench/selection';
import { AddLine } from './add-line';
import { Givens } from './givens';
import { StepView } from './step-view';
import { Thread } from './thread';

/** The sheet: title, givens and steps. */
export function Worksheet() {
  const steps = useOfDesign((design) => design.steps);
  const store = useBenchStore();
  const count = useBench(shownCount);
  const key = steps.map((step) => step.id).join(' ');
  const ids = useMemo(() => (key ? key.split(' ') : []), [key]);
  const sheet = useRef<HTMLDivElement>(null);
  const [refusal, setRefusal] = useState<string>();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );

  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const id = String(active.id);
    const design = store.getState().history.present;
    const to = design.steps.findIndex((step) => step.id === over.id);
    const trouble = moveTrouble(design, id, to);
    setRefusal(trouble && `${stepName(stepOf(design, id))} stays where it is. ${trouble}`);
    if (!trouble)
      store.getState().edit(`Move ${stepName(stepOf(design, id))}`, (draft) => moveStep(draft, id, to));
  };

  return (
    <div className="h-full overflow-y-auto bg-sheet" data-sheet>
      <div ref={sheet} className="relative min-h-full pt-5 pr-6 pb-40 pl-[58px]">
        <Thread sheet={sheet} />
        <SheetText field="name" label="Name of the design" className="font-serif text-[27px] leading-tight" />
        <SheetText
          field="note"
          label="Note"
          placeholder="A line on what it is for"
          className="text-[13px] text-quiet"
        />
        <Givens />
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragStart={() => setRefusal(undefined)}
          onDragEnd={onDragEnd}
        >
          <SortableContext items={ids} strategy={verticalListSortingStrategy}>
            {steps.map((step, i) => (
              <Fragment key={step.id}>
                {i === count && count < steps.length && <AddLine />}
                <StepView step={step} index={i} />
              </Fragment>
            ))}
          </SortableContext>
        </DndContext>
        {refusal && (
          <p role="status" className="mt-2 text-ochre">
            {refusal}
          </p>
        )}
        {count >= steps.length && <AddLine />}
      </div>
    </div>
  );
}

function SheetText({
  field,
  label,
  placeholder,
  className,
}: {
  field: 'name' | 'note';
  label: string;
  placeholder?: string;
  className: string;
}) {
  const store = useBenchStore();
  const text = useOfDesign((design) => design[field] ?? '');
  const group = useRef('');
  return (
    <textarea
      aria-label={label}
      rows={1}
      maxLength={field === 'name' ? 120 : 2000}
      placeholder={placeholder}
      spellCheck={false}
      value={text}
      onFocus={() => (group.current = `${field} ${Date.now()}`)}
      onChange={(event) => {
        const typed = event.target.value.replace(/\n/g, ' ');
        store.getState().edit(
          `Change the ${field}`,
          (draft) => {
            if (field === 'note' && !typed) delete draft.note;
            else draft[field] = typed;
          },
          group.current,
        );
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          event.preventDefault();
          event.currentTarget.blur();
        }
      }}
      className={`-ml-1 field-sizing-content block w-full resize-none overflow-hidden rounded-sm bg-transparent px-1 hover:bg-hover/60 focus:bg-wash focus:outline-none ${className}`}
    />
  );
}
