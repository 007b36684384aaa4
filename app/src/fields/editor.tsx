/** What every editor of a kind is built from: figures, choices and inputs of one step. */
import { createContext, useContext, type ReactNode } from 'react';
import { setInput, setInputAt, stepOf } from '@nematos/core/design/edit';
import { fieldMeta, isOptional, wantedAt } from '@nematos/core/kind/kind';
import { quantityAt, textAt, writeField } from '@nematos/core/design/literal';
import { writtenFigure } from '@nematos/core/measure/format';
import { kindNamed } from '@nematos/core/design/registry';
import { sourcesAt, type Design, type Step } from '@nematos/core/design/schema';
import { Choice, Joined, Menu, MenuLine } from '../ui/controls';
import { Resulting, Shown, toneOf } from '../ui/figure';
import type { SeenStep } from '../worker/messages';
import { useBenchStore, useOfDesign, useUnit } from '../bench/bench';
import { FigureField, Scrub } from './figure-field';
import { SizesMenu } from './sizes-menu';
import { useSources } from './use-sources';

export interface Editing {
  readonly step: Step;
  readonly seen: SeenStep | undefined;
}

/** How a kind is shown on the worksheet. One file a kind, in this folder. */
export interface Editor {
  /** The sentence that says what the step does. */
  readonly Sentence: () => ReactNode;
  /** Names of the results that stand under the sentence. */
  readonly results: readonly string[];
  /** Comes first in the line of results, where a plain result is not enough. */
  readonly Following?: () => ReactNode;
  /** Its tables. */
  readonly Table?: () => ReactNode;
  /** The rarer figures. */
  readonly More?: () => ReactNode;
  /** A small drawing beside the sentence. */
  readonly Drawing?: () => ReactNode;
}

export const EditingContext = createContext<Editing | undefined>(undefined);
/** The step that is edited here. @throws outside of one */
export function useEditing(): Editing {
  const editing = useContext(EditingContext);
  if (!editing) throw new Error('outside a step');
  return editing;
}

/** What the step says, with the kind's defaults where a document leaves them out. */
export function useSet(): Readonly<Record<string, string>> {
  const { step } = useEditing();
  const kind = kindNamed(step.kind)!;
  const usual = Object.entries(kind.defaults).filter(([field]) => !isOptional(kind, field));
  return { ...Object.fromEntries(usual), ...step.set };
}

/** A result of the step that is edited here, by its name. */
export const useResult = (name: string) => useEditing().seen?.results.find((figure) => figure.name === name);

/** A figure of the step, with words beside it that can be dragged. */
export function Fig({
  field,
  name,
  after,
  before,
  fractions,
  optional,
}: {
  field: string;
  name: string;
  after?: string;
  before?: string;
  fractions?: boolean;
  optional?: boolean;
}) {
  const { step, seen } = useEditing();
  const store = useBenchStore();
  const place = { step: step.id, field };
  const complaint = seen?.complaints.some((one) => one.field === field);
  const value = seen?.resolved[field]?.value;
  const stock = fieldMeta(kindNamed(step.kind)!, field)?.stock;
  return (
    <Joined>
      {before && (
        <Scrub place={place} name={name}>
          {before}&#32;
        </Scrub>
      )}
      <FigureField
        place={place}
        name={name}
        quantity={quantityAt(step.kind, field)}
        value={value}
        invalid={complaint ?? false}
        fractions={fractions ?? false}
        {...(optional && {
          onEmpty: () =>
            store.getState().edit(`Clear ${name}`, (draft) => void delete stepOf(draft, step.id).set[field]),
        })}
      />
      {stock && value !== undefined && (
        <SizesMenu
          name={name}
          value={value}
          stock={stock}
          onChoose={(text) =>
            store
              .getState()
              .edit(`Choose the ${name}`, (draft) => writeField(stepOf(draft, step.id), field, text))
          }
        />
      )}
      {after && (
        <Scrub place={place} name={name}>
          &#32;{after}
        </Scrub>
      )}
    </Joined>
  );
}

/** A choice of the step as a word in its sentence. */
export function Pick({
  field,
  name,
  options,
  also,
}: {
  field: string;
  name: string;
  options: readonly (readonly [string, string])[];
  /** Further changes that go with a choice. */
  also?: (draft: Design, step: Step, chosen: string) => void;
}) {
  const { step, seen } = useEditing();
  const store = useBenchStore();
  const text = useOfDesign((design) => textAt(design, { step: step.id, field }));
  return (
    <Choice
      value={text}
      options={options}
      name={name}
      invalid={seen?.complaints.some((one) => one.field === field) ?? false}
      onChoose={(chosen) =>
        store.getState().edit(`Choose ${name}`, (draft) => {
          const drafted = stepOf(draft, step.id);
          writeField(drafted, field, chosen);
          also?.(draft, drafted, chosen);
        })
      }
    />
  );
}

/** The step that fills a slot, by its name; where several do, the one at a place among them. */
export function Source({ slot, at, name }: { slot: string; at?: number; name: string }) {
  const { step, seen } = useEditing();
  const store = useBenchStore();
  const input = kindNamed(step.kind)!.inputs[slot]!;
  const { onPick, ...sources } = useSources(step, slot, at);
  const { options } = sources;
  const chosen = sourcesAt(step, slot)[at ?? 0] ?? '';
  const none = options.length ? `choose a ${wantedAt(input)}` : `no ${wantedAt(input)} yet`;
  return (
    <Choice
      {...sources}
      value={chosen}
      options={chosen ? options : [['', none], ...options]}
      name={name}
      {...(onPick && { last: { says: 'Pick on the part', onSelect: onPick } })}
      invalid={
        seen?.complaints.some(({ field }) => field === (at === undefined ? slot : `${slot}.${at}`)) ?? false
      }
      onChoose={(source) => {
        if (source)
          store
            .getState()
            .edit(`Choose ${name}`, (draft) =>
              at === undefined
                ? setInput(draft, step.id, slot, source)
                : setInputAt(draft, step.id, slot, at, source),
            );
      }}
    />
  );
}

/** A slot that may be left empty; `none` says what that means, `noun` what it holds. */
export function OptionalSource({ slot, none, noun }: { slot: string; none: string; noun: string }) {
  const { step, seen } = useEditing();
  const store = useBenchStore();
  const { onPick, ...sources } = useSources(step, slot);
  return (
    <Choice
      {...sources}
      value={sourcesAt(step, slot)[0] ?? ''}
      options={[['', none], ...sources.options]}
      name={noun}
      {...(onPick && { last: { says: 'Pick on the part', onSelect: onPick } })}
      invalid={seen?.complaints.some(({ field }) => field === slot) ?? false}
      onChoose={(source) =>
        store
          .getState()
          .edit(source ? `Choose a ${noun}` : `Take the ${noun} away`, (draft) =>
            setInput(draft, step.id, slot, source || undefined),
          )
      }
    />
  );
}

/** A figure that follows from others: choosing it gives it in place of one of them. */
export function Follows({
  fields,
  figure: figureName = {},
  given,
}: {
  fields: readonly string[];
  /** Result that shows a field's value, where it is called otherwise. */
  figure?: Readonly<Record<string, string>>;
  /** Further changes that go with giving a figure. */
  given?: (draft: Design, step: Step, field: string) => void;
}) {
  const { step, seen } = useEditing();
  const store = useBenchStore();
  const unit = useUnit();
  const open = fields.filter((field) => step.set[field] === undefined);
  const follows = open.length === 1 ? open[0]! : undefined;
  const figure = useResult(follows ? (figureName[follows] ?? follows) : '');
  if (!follows || !figure || !seen) return null;
  const give = (instead: string) =>
    store.getState().edit(`Give the ${follows}`, (draft) => {
      const drafted = stepOf(draft, step.id);
      delete drafted.set[instead];
      drafted.set[follows] = writtenFigure(figure.value, figure.quantity, draft.unit);
      given?.(draft, drafted, follows);
    });
  return (
    <Menu
      trigger={
        <button
          type="button"
          className="rounded text-quiet hover:text-ink"
          title={`Give the ${follows} instead`}
          aria-label={`${figure.label}: give it instead of another`}
        >
          {figure.label}{' '}
          <span className="border-b border-dotted border-quiet font-semibold text-ink">
            <Shown value={figure.value} quantity={figure.quantity} unit={unit} />
          </span>
        </button>
      }
    >
      {fields
        .filter((field) => field !== follows)
        .map((field) => (
          <MenuLine key={field} onSelect={() => give(field)}>
            Give the {follows}; let the {field} follow
          </MenuLine>
        ))}
    </Menu>
  );
}

/** One of the rarer figures, on a line of its own. */
export function MoreLine({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline gap-2 py-0.5">
      <span className="text-quiet">{label}</span>
      <span className="mb-1 grow border-b border-dotted border-hair" />
      <span className="flex items-baseline gap-2">{children}</span>
    </div>
  );
}

/** A result of the step in the quiet line under its sentence. */
export function Result({ name }: { name: string }) {
  const figure = useResult(name);
  const unit = useUnit();
  const { seen } = useEditing();
  if (!figure) return null;
  return (
    <span className="whitespace-nowrap text-quiet">
      {figure.label}{' '}
      <span className={`font-semibold ${toneOf(seen?.awaited)}`}>
        <Resulting figure={figure} unit={unit} />
      </span>
    </span>
  );
}
