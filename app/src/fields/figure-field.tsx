/** A figure in a sentence: reads as a word, edits as a field. */
import {
  useId,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { stepOf } from '@nematos/core/design/edit';
import { literalAt, nudge, textAt, writeAt, type Place } from '@nematos/core/design/literal';
import type { Design, Step } from '@nematos/core/design/schema';
import { typedFigure } from '@nematos/core/design/typed-figure';
import type { Quantity } from '@nematos/core/measure/quantity';
import { Shown } from '../ui/figure';
import { useBenchStore, useOfDesign, useUnit } from '../bench/bench';

interface FigureFieldProps {
  readonly place: Place;
  /** Read out, and named in undo: "height". */
  readonly name: string;
  readonly quantity?: Quantity | undefined;
  /** Evaluated value, shown behind what is not a plain figure in the sheet's unit. */
  readonly value?: number | undefined;
  readonly invalid?: boolean;
  /** Turns written as 7½. */
  readonly fractions?: boolean;
  readonly placeholder?: string;
  /** Called for an emptied field when it may be empty. */
  readonly onEmpty?: () => void;
  readonly mono?: boolean;
  /** In a table: no value behind it, and no wider than its cell. */
  readonly bare?: boolean;
  /** A change of the step that goes before what is typed here. */
  readonly before?: (step: Step) => void;
}

let sessions = 0;

const FRACTIONS: Record<string, string> = { '.5': '½', '.25': '¼', '.75': '¾' };

/** As a reader sees what was written: true minus, × for *, fractions. */
function readable(text: string, fractions: boolean): string {
  const shown = text
    .trim()
    .replace(/\s*\*\s*/g, ' × ')
    .replace(/-/g, '−')
    .replace(/ deg$/, '°');
  if (!fractions) return shown;
  return shown.replace(
    /^(\d+)(\.5|\.25|\.75)$/,
    (_all, whole: string, part: string) => `${whole === '0' ? '' : whole}${FRACTIONS[part]!}`,
  );
}

/** What is typed into a figure, nudged by arrow keys, and ended by Enter: an edit of the sheet each time, undone as one. */
function useTyping({ place, name, quantity, onEmpty, before }: FigureFieldProps, text: string) {
  const store = useBenchStore();
  const session = useRef('');
  const edit = (recipe: (draft: Design) => void) =>
    store.getState().edit(`Change ${name}`, recipe, session.current);

  const write = (next: string) =>
    edit((draft) => {
      if (before && 'step' in place) before(stepOf(draft, place.step));
      writeAt(draft, place, next);
    });

  const commit = () => {
    if (!text.trim() && onEmpty) return onEmpty();
    const whole = typedFigure(text, quantity, store.getState().history.present);
    if (whole !== text) write(whole);
  };

  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') {
      event.preventDefault();
      moveOn(event.currentTarget, event.shiftKey ? -1 : 1);
    } else if (event.key === 'Escape') event.currentTarget.blur();
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
      edit((draft) => void nudge(draft, place, event.key === 'ArrowUp' ? size : -size));
    }
  };

  const begin = () => {
    session.current = `field ${++sessions}`;
  };
  return { begin, write, commit, onKeyDown };
}

/** A figure that reads as a word and is typed, nudged by arrow keys and scrubbed. */
export function FigureField(props: FigureFieldProps) {
  const { place, name, quantity, value, invalid, fractions = false, placeholder, mono, bare } = props;
  const unit = useUnit();
  const text = useOfDesign((design) => textAt(design, place));
  const named = useOfDesign((design) => design.givens.some((given) => given.name === text.trim()));
  const { begin, write, commit, onKeyDown } = useTyping(props, text);
  const [focused, setFocused] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const fresh = useRef(false);
  const describedBy = useId();

  // What is written shows on focus in place of what is read: selected only once it stands there.
  useLayoutEffect(() => {
    if (focused) input.current?.select();
  }, [focused]);

  const bared = quantity !== undefined && unit === 'in' && BARE.test(text) && WEIGHED.has(quantity);
  const plain = named || (!bared && isPlain(text, unit, quantity));
  const shown = focused ? text : bare ? short(text, unit, quantity) : readable(text, fractions);
  return (
    // Against what joins it to the words after it: its own parts stay together.
    <span className="whitespace-nowrap!">
      <input
        ref={input}
        aria-label={name}
        aria-invalid={invalid || undefined}
        aria-describedby={plain ? undefined : describedBy}
        data-field
        data-place={'given' in place ? `given.${place.given}` : `${place.step}.${place.field}`}
        className={`editable field-sizing-content ${bare ? 'max-w-full text-right text-ellipsis placeholder:text-quiet/80' : 'max-w-64'} min-w-[1.2ch] p-0 ${mono ? 'font-mono text-[12.5px]' : ''}`}
        size={Math.max(1, (shown || placeholder || '').length)}
        value={shown}
        placeholder={placeholder}
        spellCheck={false}
        autoComplete="off"
        title="Arrow keys nudge: Shift ten times, Alt a tenth"
        onFocus={() => {
          begin();
          fresh.current = true;
          setFocused(true);
        }}
        onMouseUp={(event) => {
          // The first click selects all; the browser would put the caret there instead.
          if (fresh.current) event.preventDefault();
          fresh.current = false;
        }}
        onBlur={() => {
          setFocused(false);
          commit();
        }}
        onChange={(event) => write(event.target.value)}
        onKeyDown={onKeyDown}
      />
      {!bare && !plain && !invalid && value !== undefined && quantity && (
        <span id={describedBy} className="ml-1.5 font-sans text-xs text-quiet">
          = <Shown value={value} quantity={quantity} unit={unit} />
        </span>
      )}
    </span>
  );
}

/** A number without a unit: of these quantities it is in grams, newtons and so on, whatever the sheet is set in. */
const BARE = /^\s*[-+−]?[\d.]+\s*$/;
const WEIGHED: ReadonlySet<Quantity> = new Set(['mass', 'force', 'stress', 'rate', 'density']);

/** In a table the head of the column says the unit. */
const short = (text: string, unit: 'mm' | 'in', quantity: Quantity | undefined): string =>
  readable(quantity === 'length' ? text.replace(new RegExp(`^([-\\d.]+) ${unit}$`), '$1') : text, false);

/** Whether what is written needs no value behind it: a literal in the sheet's own unit. */
function isPlain(text: string, unit: 'mm' | 'in', quantity: Quantity | undefined): boolean {
  const match = /^\s*[-+−]?[\d.]+\s*([\p{L}°]*)\s*$/u.exec(text);
  if (!match) return !text.trim();
  if (quantity === 'length') return match[1] === unit || match[1] === '';
  if (quantity === 'angle') return ['', 'deg', '°'].includes(match[1]!);
  return true;
}

/** Enter goes to the next figure of the sheet, so that a list of figures (or an instrument) can be typed through. */
function moveOn(from: HTMLElement, by: 1 | -1) {
  const sheet = from.closest('[data-sheet]');
  const fields = [...(sheet?.querySelectorAll<HTMLElement>('[data-field], [data-next]') ?? [])].filter(
    (field) =>
      field.offsetParent !== null && (field instanceof HTMLInputElement || field.dataset.next !== undefined),
  );
  const next = fields[fields.indexOf(from) + by];
  if (next) next.focus();
  else from.blur();
}

/** Words beside a figure that change it when dragged sideways. */
export function Scrub({ place, name, children }: { place: Place; name: string; children: ReactNode }) {
  const store = useBenchStore();
  const can = useOfDesign((design) => literalAt(design, place) !== undefined);
  const drag = useRef<{ x: number; done: number; group: string } | undefined>(undefined);
  if (!can) return <span className="contents">{children}</span>;

  const onPointerDown = (event: PointerEvent<HTMLSpanElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, done: 0, group: `scrub ${++sessions}` };
    store.getState().scrub(true);
  };
  const onPointerMove = (event: PointerEvent<HTMLSpanElement>) => {
    const at = drag.current;
    if (!at) return;
    const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    const steps = Math.trunc((event.clientX - at.x) / 5) - at.done;
    if (steps === 0) return;
    at.done += steps;
    store.getState().edit(`Change ${name}`, (draft) => void nudge(draft, place, steps * size), at.group);
  };
  const end = () => {
    drag.current = undefined;
    store.getState().scrub(false);
  };
  return (
    <span
      className="scrub has-[>span]:flex has-[>span]:grow"
      title={`Drag sideways to change the ${name}`}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={end}
      onPointerCancel={end}
    >
      {children}
    </span>
  );
}
