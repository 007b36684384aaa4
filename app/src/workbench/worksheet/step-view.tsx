/** One step as a passage of the sheet: its number on the thread, its sentence, its results. */
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { ChevronRight, Ellipsis } from 'lucide-react';
import { memo, useState } from 'react';
import {
  duplicateStep,
  moveStep,
  moveTrouble,
  removeStep,
  renameStep,
  stepName,
  stepOf,
  usersOf,
} from '@nematos/core/design/edit';
import type { Step } from '@nematos/core/design/schema';
import { cellOf, fieldInWords } from '@nematos/core/measure/field';
import { kindNamed } from '@nematos/core/design/registry';
import { wantedAt } from '@nematos/core/kind/kind';
import { editorOf } from '../../steps';
import { EditingContext, Result } from '../../fields/editor';
import { Menu, MenuLine, Sign } from '../../ui/controls';
import { Said } from '../../ui/figure';
import { CalculatingStep } from '../findings/calculating';
import { MendButton } from './mend';
import { WaysOut } from './ways-out';
import { useBench, useBenchStore, useOfDesign, useUnit } from '../../bench/bench';
import { selecting, shownCount } from '../../bench/selection';
import type { SeenStep } from '../../worker/messages';

/** Set again only when the step or its results change: the sheet must keep up with a dragged figure. */
export const StepView = memo(function StepView({ step, index }: { step: Step; index: number }) {
  const store = useBenchStore();
  const seen = useBench((bench) => bench.seen?.steps.find((one) => one.id === step.id));
  const selected = useBench((bench) => bench.view.selection?.some((one) => one.step === step.id) ?? false);
  const passed = useBench((bench) => index < shownCount(bench));
  const [open, setOpen] = useState(false);
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: step.id,
  });
  const editor = editorOf(step.kind)!;
  const invalid = seen?.state === 'fault';

  const circle = selected
    ? 'border-thread bg-thread text-sheet'
    : invalid
      ? 'border-madder bg-sheet text-madder'
      : 'border-thread bg-sheet text-thread';

  return (
    <EditingContext.Provider value={{ step, seen }}>
      <section
        ref={setNodeRef}
        style={{ transform: CSS.Translate.toString(transform), transition }}
        aria-label={stepName(step)}
        data-step={step.id}
        className={`group relative mt-5 ${isDragging ? 'z-10 bg-sheet opacity-90' : ''}`}
        data-unmade={passed ? undefined : ''}
        onPointerDownCapture={() => store.getState().look(selecting(step.id))}
        onFocusCapture={() => {
          if (!selected) store.getState().look(selecting(step.id));
        }}
      >
        <button
          type="button"
          {...attributes}
          {...listeners}
          aria-label={`Step ${index + 1}, ${stepName(step)}: drag to move it`}
          title="Drag to move this step"
          data-knot
          className={`absolute top-[1px] -left-[42px] grid size-[19px] cursor-grab touch-none place-items-center rounded-full border-[1.5px] text-[10.5px] font-semibold ${circle}`}
        >
          {index + 1}
        </button>
        <StepHead step={step} index={index} open={open} onOpen={editor.More && (() => setOpen(!open))} />
        <div className="flex gap-3">
          <p className="grow font-serif text-[16.5px] leading-[1.48] text-pretty">
            <editor.Sentence />
          </p>
          {editor.Drawing && (
            <div className="mt-1 shrink-0 text-ink">
              <editor.Drawing />
            </div>
          )}
        </div>
        <div className="mt-0.5 flex flex-wrap gap-x-4 gap-y-0.5">
          {editor.Following && <editor.Following />}
          {editor.results.map((name) => (
            <Result key={name} name={name} />
          ))}
        </div>
        {editor.Table && <editor.Table />}
        <Limits step={step} />
        {seen && <Complaints step={step} seen={seen} />}
        {open && editor.More && (
          <div className="mt-1.5 border-l border-hair pl-3">
            <editor.More />
          </div>
        )}
      </section>
    </EditingContext.Provider>
  );
});

interface HeadProps {
  readonly step: Step;
  readonly index: number;
  /** Whether more figures are shown, and what shows or hides them where there are any. */
  readonly open: boolean;
  readonly onOpen: (() => void) | undefined;
}

/** What a step is called, and what can be done with it as a whole. */
function StepHead({ step, index, open, onOpen }: HeadProps) {
  return (
    <header className="flex h-5 items-baseline gap-2">
      <StepTitle step={step} />
      <span className="text-[11px] text-quiet">{kindNamed(step.kind)!.noun}</span>
      {step.group && <GroupName id={step.group} />}
      {step.hidden && <span className="text-[11px] text-quiet">hidden</span>}
      <CalculatingStep id={step.id} />
      <span className="ml-auto flex self-center opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 pointer-coarse:opacity-100">
        {onOpen && (
          <Sign
            name={open ? 'Fewer figures' : 'More figures'}
            aria-expanded={open}
            className="!size-6"
            onClick={onOpen}
          >
            <ChevronRight size={14} className={`transition-transform ${open ? 'rotate-90' : ''}`} />
          </Sign>
        )}
        <StepMenu step={step} index={index} />
      </span>
    </header>
  );
}

/** Why a step is not made, and how that is mended. */
function Complaints({ step, seen }: { step: Step; seen: SeenStep }) {
  const unit = useUnit();
  const reading = useBench((bench) => bench.reading);
  const fixable =
    !reading && seen.complaints.length > 0 && !seen.complaints.some(({ mends }) => mends?.length);
  return (
    <>
      {seen.complaints.map((complaint, i) => (
        <p key={i} role="alert" className="mt-0.5 text-madder">
          <span className="font-semibold">{fieldWord(step, complaint.field)}: </span>
          <Said says={complaint.says} unit={unit} />
          {complaint.mends?.map((mend, k) => (
            <MendButton key={k} step={step} mend={mend} />
          ))}
        </p>
      ))}
      {fixable && <WaysOut step={step} />}
      {seen.state === 'waiting' && <p className="mt-0.5 text-quiet">Waits for a step above to be fixed.</p>}
    </>
  );
}

/** Names of fields as complaints head them: endDiameter → end diameter, points.2.x → point 3, x; paths.1 → path 2. */
function fieldWord(step: Step, field: string): string {
  const kind = kindNamed(step.kind);
  const [slot, at] = field.split('.');
  const input = kind?.inputs[slot!];
  if (input && at !== undefined) return `${wantedAt(input)} ${Number(at) + 1}`;
  const cell = cellOf(field);
  if (cell) return `${kind?.tables?.[cell.table]?.noun ?? cell.table} ${cell.row + 1}, ${cell.column}`;
  return fieldInWords(field);
}

function Limits({ step }: { step: Step }) {
  const checked = useBench((bench) => bench.checked);
  const unit = useUnit();
  const { imagine } = useBenchStore().getState();
  const limits = Object.values(checked)
    .flatMap((one) => one.limits)
    .filter((limit) => limit.step === step.id && step.set[limit.field] !== undefined);
  if (!limits.length) return null;
  return (
    <p className="mt-0.5 text-[12.5px] text-thread first-letter:uppercase">
      {limits.map((limit, i) => (
        <span
          key={limit.field}
          data-limit={limit.field}
          tabIndex={0}
          title="The part at this limit is shown faintly on the stage"
          onMouseEnter={() => imagine(limit)}
          onMouseLeave={() => imagine(undefined)}
          onFocus={() => imagine(limit)}
          onBlur={() => imagine(undefined)}
        >
          {i > 0 && ' or '}
          <Said says={limit.says} unit={unit} />
          {limits[i + 1]?.beyond !== limit.beyond && ` ${limit.beyond}`}
        </span>
      ))}
    </p>
  );
}

function StepTitle({ step }: { step: Step }) {
  const store = useBenchStore();
  const name = stepName(step);
  return (
    <Renamed
      label={`Name of step ${name}`}
      className="max-w-52 text-[13px] font-semibold"
      name={name}
      onName={(next) => store.getState().edit(`Rename ${name}`, (draft) => renameStep(draft, step.id, next))}
    />
  );
}

/** The group a step is in: its name can be written here. */
function GroupName({ id }: { id: string }) {
  const store = useBenchStore();
  const name = useOfDesign((design) => design.groups?.find((group) => group.id === id)?.name);
  if (name === undefined) return null;
  return (
    <Renamed
      label={`Name of the group ${name}`}
      className="max-w-24 border-l border-hair pl-1.5 text-[11px] text-quiet"
      name={name}
      onName={(next) =>
        store.getState().edit(`Rename ${name}`, (draft) => {
          draft.groups!.find((group) => group.id === id)!.name = next;
        })
      }
    />
  );
}

/** A name that reads as a word and is written over. */
function Renamed({
  label,
  className,
  name,
  onName,
}: {
  label: string;
  className: string;
  name: string;
  onName(next: string): void;
}) {
  const [draftName, setDraftName] = useState<string>();
  return (
    <input
      aria-label={label}
      className={`field-sizing-content rounded-sm bg-transparent hover:bg-hover focus:bg-wash focus:outline-none ${className}`}
      value={draftName ?? name}
      spellCheck={false}
      onChange={(event) => setDraftName(event.target.value)}
      onBlur={() => {
        const next = draftName?.trim();
        if (next && next !== name) onName(next);
        setDraftName(undefined);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === 'Escape') {
          if (event.key === 'Escape') setDraftName(undefined);
          event.currentTarget.blur();
        }
      }}
    />
  );
}

function StepMenu({ step, index }: { step: Step; index: number }) {
  const store = useBenchStore();
  const users = useOfDesign((design) => usersOf(design, step.id).map(stepName));
  const count = useOfDesign((design) => design.steps.length);
  const inTheWay = useOfDesign((design) =>
    [index - 1, index + 1].map((to) => moveTrouble(design, step.id, to)),
  );
  const act = (says: string, recipe: Parameters<ReturnType<typeof store.getState>['edit']>[1]) => () =>
    store.getState().edit(`${says} ${stepName(step)}`, recipe);
  const move = (to: number) => {
    const trouble = inTheWay[to < index ? 0 : 1];
    return { disabled: to < 0 || to >= count || trouble !== undefined, note: trouble };
  };
  return (
    <Menu
      align="end"
      trigger={
        <Sign name={`More about ${stepName(step)}`} className="!size-6">
          <Ellipsis size={14} />
        </Sign>
      }
    >
      <MenuLine
        onSelect={act(step.hidden ? 'Show' : 'Hide', (draft) => {
          const drafted = stepOf(draft, step.id);
          if (drafted.hidden) delete drafted.hidden;
          else drafted.hidden = true;
        })}
      >
        {step.hidden ? 'Show' : 'Hide'}
      </MenuLine>
      <MenuLine onSelect={act('Duplicate', (draft) => void duplicateStep(draft, step.id))}>
        Duplicate
      </MenuLine>
      <MenuLine {...move(index - 1)} onSelect={act('Move', (draft) => moveStep(draft, step.id, index - 1))}>
        Move up
      </MenuLine>
      <MenuLine {...move(index + 1)} onSelect={act('Move', (draft) => moveStep(draft, step.id, index + 1))}>
        Move down
      </MenuLine>
      <MenuLine
        note={users.length ? `${users.join(', ')} will wait for another` : undefined}
        onSelect={act('Remove', (draft) => removeStep(draft, step.id))}
      >
        Remove
      </MenuLine>
    </Menu>
  );
}
