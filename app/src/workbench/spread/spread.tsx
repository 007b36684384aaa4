/** Spreads: a result against one figure over a range, or against two; kept with the design. */
import { Plus, X } from 'lucide-react';
import { lazy, Suspense, type ReactNode } from 'react';
import { numberedId, stepName } from '@nematos/core/design/edit';
import { quantityAt } from '@nematos/core/design/literal';
import type { Design, Spread } from '@nematos/core/design/schema';
import type { Unknown } from '@nematos/core/design/solve';
import { Choice, Sign } from '../../ui/controls';
import { useBench, useBenchStore, useDesign } from '../../bench/bench';
import { useUnknowns } from '../findings/unknowns';
import { about, keyOf, overName, overOf, type Over } from './over';
import { useSpread } from './use-spread';

/** The drawing of charts is loaded when they are first unfolded. */
const SpreadChart = lazy(async () => ({ default: (await import('./chart')).SpreadChart }));

/** All spreads of the design, and the one that is chosen. */
export function SpreadPanel() {
  const store = useBenchStore();
  const design = useDesign();
  const chosen = useBench((bench) => bench.view.spread);
  const spreads = design.spreads ?? [];
  const spread = spreads.find(({ id }) => id === chosen) ?? spreads[0];
  const results = useResults();
  const { edit, look } = store.getState();
  const add = () => {
    const first =
      results.find(([id]) => !spreads.some((one) => `${one.step} ${one.figure}` === id)) ?? results[0];
    const [step, figure] = (first?.[0] ?? '').split(' ');
    const given = store.getState().history.present.givens[0]?.name;
    if (!step || !figure) return;
    const id = numberedId('spread', spreads);
    edit('Add a spread', (draft) => {
      const over = given === undefined ? firstFigure(draft, step) : { given };
      if (over) (draft.spreads ??= []).push({ id, step, figure, over: [about(store.getState(), over)] });
    });
    look({ spread: id });
  };
  const all = (
    <nav aria-label="Spreads" className="flex flex-wrap items-center gap-x-3">
      {spreads.map((one) => (
        <button
          key={one.id}
          type="button"
          aria-pressed={one === spread}
          className={one === spread ? 'font-semibold' : 'text-quiet hover:text-ink'}
          onClick={() => look({ spread: one.id })}
        >
          {resultName(one, results)}
        </button>
      ))}
      <button
        type="button"
        className="inline-flex items-center gap-1 text-xs text-quiet hover:text-ink"
        disabled={!results.length}
        onClick={add}
      >
        <Plus size={12} /> spread
      </button>
    </nav>
  );
  return (
    <div className="flex min-h-0 grow">
      {spread ? (
        <One key={spread.id} spread={spread} results={results}>
          {all}
        </One>
      ) : (
        <div className={LEFT}>
          {all}
          <p className="text-quiet">
            A result against one figure over a range, or against two: how the rate goes with the pitch, the
            mass with wire and diameter.
          </p>
        </div>
      )}
    </div>
  );
}

const LEFT = 'flex w-[270px] shrink-0 flex-col gap-1.5 overflow-y-auto px-4 pt-2 pb-2';

/** One spread: under all of them what it says, beside it its chart. */
function One({ spread, results, children }: { spread: Spread; results: Results; children: ReactNode }) {
  const made = useSpread(spread);
  return (
    <>
      <div className={LEFT}>
        {children}
        <Sentence spread={spread} results={results} wrong={made.stale ? undefined : made.field} />
      </div>
      <Drawn spread={spread} results={results} made={made} />
    </>
  );
}

/** The first figure that a step is given by, or what it is made of. */
function firstFigure(design: Design, id: string): Pick<Over, 'step' | 'field'> | undefined {
  for (const step of design.steps) {
    const field = Object.keys(step.set).find((one) => quantityAt(step.kind, one));
    if (field) return { step: step.id, field };
    if (step.id === id) break;
  }
  return undefined;
}

type Results = readonly (readonly [id: string, name: string])[];

/** The results that can be spread: the main ones of each step, and what is measured. */
function useResults(): Results {
  const design = useDesign();
  const seen = useBench((bench) => bench.seen);
  const names = new Map(design.steps.map((step) => [step.id, stepName(step)]));
  // What the part has to do comes first.
  const steps = [...(seen?.steps ?? [])].sort(
    (a, b) => Number(b.yields === 'duty') - Number(a.yields === 'duty'),
  );
  return steps.flatMap(({ id, results, yields }) =>
    results
      .filter(({ head }) => head !== undefined || yields === 'measure')
      .map(({ name, label }) => [`${id} ${name}`, `${names.get(id)}, ${label}`] as const),
  );
}

const resultName = ({ step, figure }: Spread, results: Results): string =>
  results.find(([id]) => id === `${step} ${figure}`)?.[1] ?? 'a result that is gone';

/** What is spread over what, in words that can be changed. */
function Sentence({
  spread,
  results,
  wrong,
}: {
  spread: Spread;
  results: Results;
  wrong: string | undefined;
}) {
  const store = useBenchStore();
  const { edit } = store.getState();
  const change = (says: string, recipe: (drafted: Spread) => void, group?: string) =>
    edit(
      says,
      (draft) => {
        const drafted = draft.spreads?.find(({ id }) => id === spread.id);
        if (drafted) recipe(drafted);
      },
      group,
    );
  const own = { spread, change, wrong, unknowns: useUnknowns(spread.step, spread.figure) };
  const remove = () =>
    edit('Remove the spread', (draft) => {
      draft.spreads = draft.spreads?.filter(({ id }) => id !== spread.id);
      if (!draft.spreads?.length) delete draft.spreads;
    });
  return (
    <>
      <p className="font-serif text-[15.5px] leading-[1.5]">
        <Choice
          value={`${spread.step} ${spread.figure}`}
          options={results}
          name="result"
          onChoose={(id) =>
            change('Spread another result', (drafted) => {
              [drafted.step, drafted.figure] = id.split(' ') as [string, string];
            })
          }
        />{' '}
        over <Figure {...own} at={0} />
        {spread.over.length > 1 ? (
          <>
            {' '}
            and <Figure {...own} at={1} />
          </>
        ) : null}
        .
      </p>
      <span className="flex items-center gap-3 text-xs text-quiet">
        <Second {...own} />
        <Sign name="Remove this spread" className="!size-5" onClick={remove}>
          <X size={13} />
        </Sign>
      </span>
    </>
  );
}

type ChangeSpread = (says: string, recipe: (drafted: Spread) => void, group?: string) => void;

interface Changing {
  readonly spread: Spread;
  /** The figures that the result depends on; undefined while they are looked for. */
  readonly unknowns: readonly Unknown[] | undefined;
  readonly change: ChangeSpread;
  /** The field that a mistake stands at: "over.0.to". */
  readonly wrong: string | undefined;
}

/** The second figure: taken in, or taken out. */
function Second({ spread, unknowns, change }: Changing) {
  const store = useBenchStore();
  if (spread.over.length > 1)
    return (
      <button
        type="button"
        className="hover:text-ink"
        onClick={() => change('Spread over one', ({ over }) => void over.pop())}
      >
        over the first alone
      </button>
    );
  const design = store.getState().history.present;
  const next = unknowns
    ?.map((one) => overOf(design, one))
    .find((one) => keyOf({ ...one, from: '', to: '' }) !== keyOf(spread.over[0]!));
  return (
    <button
      type="button"
      className="hover:text-ink disabled:opacity-60"
      disabled={!next}
      onClick={() => change('Spread over two', ({ over }) => void over.push(about(store.getState(), next!)))}
    >
      over a second figure too
    </button>
  );
}

/** One figure, and its range. */
function Figure({ spread, at, unknowns = [], change, wrong }: Changing & { at: number }) {
  const store = useBenchStore();
  const design = useDesign();
  const over = spread.over[at]!;
  const other = spread.over[1 - at];
  const found = unknowns.map((one) => ({ ...overOf(design, one), from: '', to: '' }));
  const options = [over, ...found.filter((one) => keyOf(one) !== keyOf(over))]
    .filter((one) => !other || keyOf(one) !== keyOf(other))
    .map((one) => [keyOf(one), overName(design, one)] as const);
  return (
    <>
      <Choice
        value={keyOf(over)}
        options={options}
        name={at ? 'second figure' : 'figure'}
        invalid={wrong === `over.${at}`}
        onChoose={(key) => {
          const next = found.find((one) => keyOf(one) === key);
          if (next)
            change('Spread over another figure', (drafted) => {
              const { from: _from, to: _to, ...named } = next;
              drafted.over[at] = about(store.getState(), named);
            });
        }}
      />{' '}
      from <End spread={spread} at={at} end="from" change={change} wrong={wrong} /> to{' '}
      <End spread={spread} at={at} end="to" change={change} wrong={wrong} />
    </>
  );
}

function End({
  spread,
  at,
  end,
  change,
  wrong,
}: {
  spread: Spread;
  at: number;
  end: 'from' | 'to';
  change: ChangeSpread;
  wrong: string | undefined;
}) {
  return (
    <input
      className="editable field-sizing-content min-w-[1ch] bg-transparent"
      aria-label={`${end === 'from' ? 'Beginning' : 'End'} of the ${at ? 'second ' : ''}range`}
      data-field
      aria-invalid={wrong === `over.${at}.${end}` || undefined}
      value={spread.over[at]![end]}
      spellCheck={false}
      autoComplete="off"
      onChange={({ target }) =>
        change(
          'Change the range',
          ({ over }) => {
            over[at]![end] = target.value;
          },
          `range ${spread.id} ${at} ${end}`,
        )
      }
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

/** The chart of a spread, and how far it has come. */
function Drawn({
  spread,
  results,
  made: { seen, refused, stale, stopped, stop, again },
}: {
  spread: Spread;
  results: Results;
  made: ReturnType<typeof useSpread>;
}) {
  const part = seen ? seen.done / seen.values.length : 0;
  const busy = !stopped && !refused && (stale || part < 1);
  return (
    <div className="relative min-w-0 grow pr-3 pb-1" aria-busy={busy} data-spread={busy ? 'busy' : 'ready'}>
      <p role="status" className="absolute top-1 right-9 z-10 text-xs text-quiet">
        {refused && !stale ? (
          <span className="text-madder">{refused}</span>
        ) : busy ? (
          <>
            {stale ? '…' : `${Math.round(100 * part)} %`}{' '}
            <button type="button" className="underline" onClick={stop}>
              Stop
            </button>
          </>
        ) : (
          stopped && (
            <>
              stopped{' '}
              <button type="button" className="underline" onClick={again}>
                Go on
              </button>
            </>
          )
        )}
      </p>
      {seen && (
        <Suspense>
          <SpreadChart spread={spread} seen={seen} quiet={stale} called={resultName(spread, results)} />
        </Suspense>
      )}
    </div>
  );
}
