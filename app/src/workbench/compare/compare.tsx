/** Variants beside each other: their shapes turning together, the figures that differ, and the results. */
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import {
  asVariant,
  canTake,
  differences,
  removeVariant,
  takeFigure,
  takeVariant,
} from '@nematos/core/design/variants';
import { stepName } from '@nematos/core/design/edit';
import type { Design, Step } from '@nematos/core/design/schema';
import type { Checked } from '@nematos/core/kind/kind';
import type { Result } from '@nematos/core/kind/value';
import { sayFigure, sayWords } from '@nematos/core/measure/format';
import { partOf } from '@nematos/core/view/part';
import { counted } from '@nematos/core/measure/words';
import { askDeep, leave, nextOf } from '../../worker/client';
import type { Seen } from '../../worker/messages';
import { Button } from '../../ui/controls';
import { Resulting } from '../../ui/figure';
import { useBench, useBenchStore, useDesign, useUnit } from '../../bench/bench';
import { LevelSign } from '../findings/level-sign';
import { INKS, LaidOver, Shapes, type Column } from './shapes';

/** So many are compared at once. */
const MOST = 4;

/** What came of a design: its results and findings; undefined while it is awaited. */
interface Outcome {
  readonly seen: Seen;
  readonly checked: Readonly<Record<string, Checked>>;
}

function useOutcomes(columns: readonly Column[]) {
  const [known, setKnown] = useState<ReadonlyMap<Design, Outcome>>(new Map());
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    setFailed(false);
    const session = crypto.randomUUID();
    let gone = false;
    void (async () => {
      const next = new Map<Design, Outcome>();
      for (const { design } of columns) {
        const seen = await askDeep((kernel) => kernel.figures(design, nextOf(session)));
        const checked = seen && (await askDeep((kernel) => kernel.check(design, nextOf(session))));
        if (gone) return;
        if (seen && checked) next.set(design, { seen, checked });
        setKnown(new Map(next));
      }
    })().catch(() => !gone && setFailed(true));
    return () => {
      gone = true;
      leave(session);
    };
  }, [columns]);
  return { outcomes: known, failed };
}

/** A result of a step, as it is called among those of all variants. */
type Told = Result & { readonly head: string };

/** Main results: those of the part, of what it has to do, and what is measured. */
function mainResults(design: Design, { seen }: Outcome): Told[] {
  const parts = new Set(partOf(design.steps).map(({ id }) => id));
  const told = [
    ...seen.steps.filter(({ yields }) => yields === 'duty'),
    ...seen.steps.filter(({ id }) => parts.has(id)).slice(-1),
  ];
  const main = told.flatMap(({ results }) => results.filter((one): one is Told => one.head !== undefined));
  const measured = design.steps.filter(
    ({ id }) => seen.steps.find((one) => one.id === id)?.yields === 'measure',
  );
  return [...main, ...figuresOf(measured, seen).map((one) => ({ ...one, head: one.head.split(',')[0]! }))];
}

/** Results of every step, under the names of their steps. */
const allResults = (design: Design, { seen }: Outcome): Told[] => figuresOf(design.steps, seen);

const figuresOf = (steps: readonly Step[], seen: Seen): Told[] =>
  steps.flatMap((step) =>
    (seen.steps.find(({ id }) => id === step.id)?.results ?? []).map((figure) => ({
      ...figure,
      name: `${step.id} ${figure.name}`,
      head: `${stepName(step)}, ${figure.label}`,
    })),
  );

/** Takes the place of sheet and stage while variants are compared. */
export function Compare() {
  const store = useBenchStore();
  const design = useDesign();
  const { look } = store.getState();
  const [hidden, setHidden] = useState<readonly string[]>([]);
  const all = useMemo(
    (): Column[] => [
      { id: undefined, name: 'As it is', design },
      ...(design.variants ?? []).map(({ id, name }) => ({ id, name, design: asVariant(design, id) })),
    ],
    [design],
  );
  const columns = useMemo(
    () => all.filter(({ id }) => id === undefined || !hidden.includes(id)).slice(0, MOST),
    [all, hidden],
  );
  const over = useBench((bench) => bench.view.laidOver ?? false);
  const [every, setEvery] = useState(false);
  const { outcomes, failed } = useOutcomes(columns);
  const left = all.filter((column) => !columns.includes(column));
  const grid = { gridTemplateColumns: `11rem repeat(${columns.length}, minmax(0, 1fr))` };
  return (
    <main aria-label="Compare" className="min-h-0 grow overflow-y-auto bg-sheet px-6 pt-3 pb-8">
      <div className="flex items-baseline gap-3">
        <h1 className="font-serif text-2xl">Compare</h1>
        <p className="text-quiet">
          {over ? 'Each in its own ink.' : 'Views rotate together.'} What differs is set side by side.
        </p>
        <Switch on={over} says="Laid over each other" onSwitch={(on) => look({ laidOver: on })} />
        <Switch on={every} says="All results" onSwitch={setEvery} />
        <Button className="ml-auto" onClick={() => look({ compare: undefined })}>
          Back to the sheet
        </Button>
      </div>
      <div className="mt-2 grid gap-x-4" style={grid}>
        <span />
        {columns.map((column, i) => (
          <Name key={column.id ?? 'now'} column={column} ink={over ? INKS[i] : undefined} />
        ))}
      </div>
      <div className="grid gap-x-4" style={grid}>
        <span />
        {over ? <LaidOver columns={columns} /> : <Shapes columns={columns} />}
      </div>
      <div className="grid items-baseline gap-x-4" style={grid} role="table" aria-label="Differences">
        <Title says="Figures" />
        <Written columns={columns} />
        <Title says="Results" />
        {failed && (
          <Note
            span={columns.length}
            says="The calculation stopped before the end. Remove a variant from the comparison, or open it again."
          />
        )}
        <Results columns={columns} outcomes={outcomes} every={every} />
        <Row label="Findings">
          {columns.map((column, i) => (
            <Findings key={i} outcome={outcomes.get(column.design)} />
          ))}
        </Row>
      </div>
      <div className="mt-4 grid gap-x-4" style={grid}>
        <span />
        {columns.map(({ id, name }) => (
          <span key={id ?? 'now'} className="flex flex-wrap gap-2">
            {id !== undefined && <Verbs id={id} name={name} onHide={() => setHidden([...hidden, id])} />}
          </span>
        ))}
      </div>
      <SetAside columns={left} onBack={(id) => setHidden(hidden.filter((one) => one !== id))} />
    </main>
  );
}

/** The name of a variant, which can be edited, with the colour it is drawn in. */
function Name({ column: { id, name }, ink }: { column: Column; ink: string | undefined }) {
  const { edit } = useBenchStore().getState();
  const rename = (to: string) =>
    edit(
      'Rename a variant',
      (draft) => {
        const found = draft.variants?.find((variant) => variant.id === id);
        if (found) found.name = to;
      },
      `rename ${id}`,
    );
  return (
    <header className="flex items-baseline gap-2 border-b border-hair pb-1">
      {ink && (
        <span
          aria-hidden
          className="size-3 shrink-0 translate-y-[1px] rounded-sm"
          style={{ background: ink }}
        />
      )}
      {id === undefined ? (
        <h2 className="font-semibold">{name}</h2>
      ) : (
        <input
          aria-label={`Name of ${name}`}
          value={name}
          className="w-full min-w-0 bg-transparent font-semibold outline-none focus:bg-wash"
          onChange={(event) => rename(event.target.value)}
        />
      )}
    </header>
  );
}

/** Longer than anyone types: text from a file is shown by its size. */
const BY_HAND = 200;
const inShort = (text: string): string =>
  text.length > BY_HAND ? `${Math.ceil(text.length / 1024)} kB` : text;

/** What is written differently, text beside text; what a variant writes can be taken over. */
function Written({ columns }: { columns: readonly Column[] }) {
  const design = useDesign();
  const { edit } = useBenchStore().getState();
  const differ = useMemo(() => differences(columns.map((column) => column.design)), [columns]);
  if (!differ.length) return <Note span={columns.length} says="Nothing is written differently." />;
  return differ.map((one) => (
    <Row key={JSON.stringify(one.place)} label={one.label}>
      {one.texts.map((text, i) => (
        <span key={i} role="cell" className="truncate py-0.5 font-mono text-[12.5px]">
          {text === undefined ? <span className="text-quiet">–</span> : inShort(text)}
          {i > 0 && text !== undefined && text !== one.texts[0] && canTake(design, one) && (
            <button
              type="button"
              className="ml-2 font-sans text-xs text-thread hover:underline"
              title={`Write ${inShort(text)} on the sheet`}
              onClick={() => edit(`Take over ${one.label}`, (draft) => void takeFigure(draft, one, text))}
            >
              take over
            </button>
          )}
        </span>
      ))}
    </Row>
  ));
}

/** What can be done with a variant. */
function Verbs({ id, name, onHide }: { id: string; name: string; onHide: () => void }) {
  const { edit } = useBenchStore().getState();
  return (
    <>
      <Button
        onClick={() => edit(`Take over ${name}`, (draft) => takeVariant(draft, id))}
        title="Puts it on the sheet in place of what is there; it can be undone"
      >
        Take over
      </Button>
      <Button onClick={() => edit(`Remove ${name}`, (draft) => removeVariant(draft, id))}>Remove</Button>
      <Button onClick={onHide}>Hide</Button>
    </>
  );
}

/** Variants that are not compared now, to be called back. */
function SetAside({ columns, onBack }: { columns: readonly Column[]; onBack: (id: Column['id']) => void }) {
  if (!columns.length) return null;
  return (
    <p className="mt-4 flex flex-wrap gap-2 text-quiet">
      Hidden:
      {columns.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          className="underline decoration-dotted underline-offset-3 hover:text-ink"
          onClick={() => onBack(id)}
        >
          {name}
        </button>
      ))}
    </p>
  );
}

const Title = ({ says }: { says: string }) => (
  <div role="row" className="col-span-full mt-4 border-b border-hair pb-1">
    <h3 role="columnheader" className="text-[11px] font-semibold text-quiet">
      {says}
    </h3>
  </div>
);

const Note = ({ says, span }: { says: string; span: number }) => (
  <div role="row" style={{ gridColumn: `span ${span + 1}` }}>
    <p role="cell" className="text-quiet">
      {says}
    </p>
  </div>
);

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div role="row" className="col-span-full grid grid-cols-subgrid items-baseline border-b border-hair/50">
      <span role="rowheader" className="truncate py-0.5 text-quiet" title={label}>
        {label}
      </span>
      {children}
    </div>
  );
}

/** A choice of how it is looked at. */
const Switch = ({ on, says, onSwitch }: { on: boolean; says: string; onSwitch(on: boolean): void }) => (
  <label className="flex items-center gap-1.5 text-quiet">
    <input
      type="checkbox"
      className="accent-thread"
      checked={on}
      onChange={({ target }) => onSwitch(target.checked)}
    />{' '}
    {says}
  </label>
);

/** Results of all, each beside its difference from the first, and how many times as large it is: the main ones, or every one. */
function Results({
  columns,
  outcomes,
  every,
}: {
  columns: readonly Column[];
  outcomes: ReadonlyMap<Design, Outcome>;
  every: boolean;
}) {
  const unit = useUnit();
  const figures = columns.map(({ design }) => {
    const outcome = outcomes.get(design);
    return outcome && (every ? allResults : mainResults)(design, outcome);
  });
  const heads = [...new Map(figures.flatMap((list) => list ?? []).map((one) => [one.name, one])).values()];
  if (!heads.length) return <Note span={columns.length} says="…" />;
  return heads.map(({ name, head }) => {
    const own = figures.map((list) => list?.find((figure) => figure.name === name));
    const [first] = own;
    return (
      <Row key={name} label={head}>
        {own.map((figure, i) => {
          const waits = figures[i] === undefined;
          const differs =
            first &&
            figure &&
            sayFigure(first.value, first.quantity, unit) !== sayFigure(figure.value, figure.quantity, unit);
          return (
            <span
              key={i}
              role="cell"
              data-compared={name}
              className={`py-0.5 ${differs ? 'font-semibold' : ''}`}
            >
              {figure ? (
                <Resulting figure={figure} unit={unit} />
              ) : (
                <span className="text-quiet">{waits ? '…' : '–'}</span>
              )}
              {differs && first.value !== 0 && (
                <span className="ml-2 text-xs font-normal text-quiet">
                  {figure.value > first.value ? '+' : '−'}
                  {sayFigure(Math.abs(figure.value - first.value), figure.quantity, unit)}, ×{' '}
                  {Number((figure.value / first.value).toPrecision(3))}
                </span>
              )}
            </span>
          );
        })}
      </Row>
    );
  });
}

/** The worst that is found, and how much more there is. */
function Findings({ outcome }: { outcome: Outcome | undefined }) {
  const unit = useUnit();
  if (!outcome)
    return (
      <span role="cell" className="text-quiet">
        …
      </span>
    );
  const faults = outcome.seen.steps.filter(({ state }) => state === 'fault').length;
  const found = Object.values(outcome.checked)
    .flatMap(({ findings }) => findings)
    .filter(({ level }) => level !== 'good')
    .sort((a, b) => Number(b.level === 'fault') - Number(a.level === 'fault'));
  return (
    <div role="cell">
      <ul className="py-0.5">
        {faults > 0 && (
          <li className="flex gap-2">
            <LevelSign level="fault" /> {counted(faults, 'step')} cannot be made
          </li>
        )}
        {found.map((finding, i) => (
          <li key={i} className="flex gap-2">
            <LevelSign level={finding.level} />
            {sayWords(finding.says, unit)}
          </li>
        ))}
        {!faults && !found.length && (
          <li className="flex gap-2">
            <LevelSign level="good" /> all in order
          </li>
        )}
      </ul>
    </div>
  );
}
