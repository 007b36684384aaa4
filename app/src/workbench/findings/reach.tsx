/** A result that shall come to a figure: which of the figures it depends on is changed for it. */
import { useEffect, useId, useRef, useState, type FormEvent } from 'react';
import { evaluateGivens, givenLookup } from '@nematos/core/design/givens';
import { writeAt, type Place } from '@nematos/core/design/literal';
import type { Solved, Unknown } from '@nematos/core/design/solve';
import { stockOf } from '@nematos/core/design/stock-of';
import type { Result } from '@nematos/core/kind/value';
import { stockNear, type StockSize } from '@nematos/core/measure/stock';
import { asFigure, evaluateFigure, parseExpression } from '@nematos/core/measure/expression';
import { sayFigure, sayWords, writtenFigure } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import type { Design } from '@nematos/core/design/schema';
import { askDeep, leave, nextOf } from '../../worker/client';
import { useBenchStore, useUnit } from '../../bench/bench';
import { Shown } from '../../ui/figure';
import { useUnknowns } from './unknowns';

/** A length, mass or angle as it is typed, in its base unit. @throws Complaint */
function readFigure(text: string, { quantity }: Result, design: Design): number {
  const lookup = givenLookup(evaluateGivens(design.givens));
  return asFigure(evaluateFigure(parseExpression(text), lookup), quantity, design.unit);
}

const NONE = 'No figure on the sheet affects this result.';

interface Answer {
  readonly solved?: Solved;
  readonly refused?: string;
}

/** Finds and writes the figure that gives a result the wanted value; shows its progress, or why nothing was found. */
function useReach(step: string, figure: Result, onClose: () => void) {
  const store = useBenchStore();
  const unit = useUnit();
  const [trouble, setTrouble] = useState<string>();
  const [working, setWorking] = useState<string>();
  const [found, setFound] = useState<SizeFound>();
  const session = useRef(crypto.randomUUID());
  useEffect(() => {
    const held = session;
    return () => leave(held.current);
  }, []);

  function stop() {
    leave(session.current);
    session.current = crypto.randomUUID();
    setWorking(undefined);
  }

  async function reach({ place, name }: Unknown, text: string) {
    setTrouble(undefined);
    const asked = store.getState().history.present;
    const asking = nextOf(session.current);
    try {
      const wanted = readFigure(text, figure, asked);
      setWorking(name);
      const target = { step, figure: figure.name };
      const answer = await askDeep((kernel) => kernel.solve(asked, target, wanted, place, asking));
      if (asking.session === session.current && answer) take(answer, name, text, asked);
    } catch (error) {
      setTrouble(
        error instanceof Complaint
          ? sayWords(error.says, unit)
          : 'It could not be looked for to the end: try again.',
      );
    } finally {
      if (asking.session === session.current) setWorking(undefined);
    }
  }

  /** Writes what was found, unless the sheet is another by now. */
  function take({ solved, refused }: Answer, name: string, text: string, asked: Design) {
    if (!solved) return setTrouble(`${name}: ${refused}`);
    if (store.getState().history.present !== asked)
      return setTrouble('The sheet was changed meanwhile: choose again.');
    const { head = figure.label, quantity } = figure;
    store.getState().edit(`${head} ${text} by ${name}`, (draft) => writeAt(draft, solved.place, solved.text));
    const size = sizeFound(store.getState().history.present, solved, name);
    setFound(size);
    if (!solved.whole && !size) return onClose();
    if (!solved.whole) return;
    setTrouble(`${name} is whole: the nearest gives ${sayFigure(solved.reached, quantity, unit)}.`);
  }

  return { trouble, working, found, reach, stop };
}

/** A size that was found and is kept in stock by standards: what it is called, where it is written, and those next to it. */
interface SizeFound {
  readonly name: string;
  readonly place: Place;
  readonly text: string;
  readonly sizes: readonly StockSize[];
}

function sizeFound(design: Design, { place, text }: Solved, name: string): SizeFound | undefined {
  const stock = stockOf(design, place);
  if (!stock) return undefined;
  const lookup = givenLookup(evaluateGivens(design.givens));
  const value = asFigure(evaluateFigure(parseExpression(text), lookup), 'length', design.unit);
  return { name, place, text, sizes: stockNear(value, stock) };
}

/** The size that was found, and the stock sizes next to it, to be taken instead. */
function StockSizes({ found: { name, place, text, sizes } }: { found: SizeFound }) {
  const store = useBenchStore();
  const unit = useUnit();
  return (
    <div className="mt-1" data-stock>
      {name} is now {text}. Stock sizes:
      <ul className="flex flex-wrap gap-1 pt-1">
        {sizes.map((one) => (
          <li key={one.text}>
            <button
              type="button"
              title={one.standard}
              className="rounded border border-hair bg-sheet px-1.5 hover:bg-hover"
              onClick={() =>
                store.getState().edit(`Take a stock size`, (draft) => writeAt(draft, place, one.text))
              }
            >
              {one.text.endsWith(' mm') ? (
                one.text
              ) : (
                <>
                  {one.text} <Shown value={one.value} quantity="length" unit={unit} />
                </>
              )}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Asks for the wanted value, and offers the figures that can bring it about. */
export function Reach({ step, figure, onClose }: { step: string; figure: Result; onClose(): void }) {
  const unit = useUnit();
  const unknowns = useUnknowns(step, figure.name);
  const { trouble, working, found, reach, stop } = useReach(step, figure, onClose);
  const [text, setText] = useState(() => writtenFigure(figure.value, figure.quantity, unit, 4));
  const id = useId();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const [only, ...more] = unknowns ?? [];
    if (only && !more.length) void reach(only, text);
  };

  return (
    <form
      onSubmit={submit}
      onKeyDown={({ key }) => key === 'Escape' && onClose()}
      aria-label={`Value of ${figure.head ?? figure.label}`}
      className="mt-0.5 mb-2 rounded-md border border-hair bg-raised px-2.5 py-2 text-[12.5px]"
    >
      <label htmlFor={id} className="flex items-baseline gap-2">
        <span className="whitespace-nowrap text-quiet">shall be</span>
        <input
          id={id}
          autoFocus
          value={text}
          onChange={({ target }) => setText(target.value)}
          onFocus={({ target }) => target.select()}
          className="editable w-full min-w-0"
          aria-label={`Wanted ${figure.head ?? figure.label}`}
        />
      </label>
      <p className="mt-1.5 text-quiet">{unknowns?.length === 0 ? NONE : 'by changing'}</p>
      {!unknowns && <p className="text-quiet">… looking which figures it depends on</p>}
      <ul className="-mx-1 max-h-56 overflow-y-auto">
        {unknowns?.map((one) => (
          <li key={JSON.stringify(one.place)}>
            <button
              type="button"
              disabled={working !== undefined}
              onClick={() => void reach(one, text)}
              className="flex w-full items-baseline justify-between gap-2 rounded px-1 py-[1px] text-left hover:enabled:bg-hover disabled:opacity-60"
            >
              <span>{one.name}</span>
              <span className="max-w-24 truncate text-quiet" title={one.text}>
                {one.text}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <p role="status" className="leading-snug">
        {working && (
          <span className="text-quiet">
            … changing {working}{' '}
            <button type="button" className="underline" onClick={stop}>
              Stop
            </button>
          </span>
        )}
        {trouble && <span className="text-madder">{trouble}</span>}
      </p>
      {found && <StockSizes found={found} />}
    </form>
  );
}
