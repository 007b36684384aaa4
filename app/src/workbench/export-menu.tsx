/** The export menu: meshes, points, the design, a review link, pictures. */
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { toleranceTrouble } from '@nematos/core/design/tolerance';
import { literalOf } from '@nematos/core/design/literal';
import { sayWords } from '@nematos/core/measure/format';
import { writableFormats } from '@nematos/core/exchange/formats';
import { Button, PAPER, Tick } from '../ui/controls';
import { useBench, useBenchStore, useOfDesign } from '../bench/bench';
import type { Engine } from '../render/engine';
import { useExports, type State } from './exported-files';

/** The menu of all files that can be exported. */
export function ExportMenu({ engine }: { engine: Engine | undefined }) {
  const { state, part, points, json, review, png, turning, clear, stop } = useExports(engine);
  return (
    <Popover.Root onOpenChange={clear}>
      <Popover.Trigger asChild>
        <Button strong>Export</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className={`${PAPER} z-40 w-80 max-h-(--radix-popover-content-available-height) overflow-y-auto p-3`}
          aria-label="Export"
        >
          <Tolerance />
          <div className="pt-1.5">
            {writableFormats('part').map((format) => (
              <Line
                key={format.id}
                says={format.label ?? format.name}
                note={format.note ?? ''}
                onClick={() => void part(format)}
              />
            ))}
            <Line says="Points of the path, CSV" note="of the chosen one" onClick={() => void points()} />
            <Line says="The design, JSON" note="to keep or pass on" onClick={json} />
            <Line says="Copy review link" note="read only" onClick={() => void review()} />
            <Pictures disabled={!engine} png={png} />
            {(['video', 'gif'] as const).map((as) => (
              <Line
                key={as}
                says={`Turning once, ${as === 'gif' ? 'GIF' : 'video'}`}
                note="of the view in space"
                disabled={!engine}
                onClick={() => void turning(as)}
              />
            ))}
          </div>
          {state && <Progress state={state} stop={stop} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const TIMES = [1, 2, 4] as const;

/** Dimensions that a picture can have. */
const DIMENSIONS = [
  ['none', 'no dimensions'],
  ['chosen', 'as selected'],
  ['all', 'all dimensions'],
] as const;

/** A picture of the stage: as large as it is seen or larger, on its ground or on none, with dimensions or without. */
function Pictures({ disabled, png }: { disabled: boolean; png: ReturnType<typeof useExports>['png'] }) {
  const [times, setTimes] = useState(1);
  const [clear, setClear] = useState(false);
  const [figures, setFigures] = useState(false);
  const store = useBenchStore();
  const all = useBench((bench) => bench.view.dimensions === 'all');
  const choose = (dimensions: string) => {
    setFigures(dimensions !== 'none');
    // They are seen on the stage as the picture will have them.
    if (dimensions !== 'none')
      store.getState().look({ dimensions: dimensions === 'all' ? 'all' : undefined });
  };
  return (
    <div>
      <Line
        says="Picture, PNG"
        note="of the stage"
        disabled={disabled}
        onClick={() => void png(times, { clear, figures })}
      />
      <div className="flex items-baseline gap-x-3 px-2.5 pb-1 text-xs whitespace-nowrap">
        <select
          aria-label="Size of the picture"
          value={times}
          onChange={(event) => setTimes(Number(event.target.value))}
          className="rounded border border-hair bg-raised px-1 text-xs"
        >
          {TIMES.map((one) => (
            <option key={one} value={one}>
              × {one}
            </option>
          ))}
        </select>
        <select
          aria-label="Dimensions in the picture"
          value={!figures ? 'none' : all ? 'all' : 'chosen'}
          onChange={(event) => choose(event.target.value)}
          className="rounded border border-hair bg-raised px-1 text-xs"
        >
          {DIMENSIONS.map(([value, says]) => (
            <option key={value} value={value}>
              {says}
            </option>
          ))}
        </select>
        <Tick on={clear} onChange={setClear} says="clear ground" />
      </div>
    </div>
  );
}

/** Chord tolerance of exported meshes. */
function Tolerance() {
  const store = useBenchStore();
  const text = useOfDesign((design) => design.tolerance);
  const tolerance = literalOf(text);
  const trouble = useOfDesign((design) => {
    const says = toleranceTrouble(design);
    return says && sayWords(says, design.unit);
  });
  const write = (next: string) =>
    store.getState().edit('Change the tolerance', (draft) => void (draft.tolerance = next), 'tolerance');
  return (
    <label className="flex flex-wrap items-baseline justify-between gap-2 border-b border-hair px-2.5 pb-2">
      <span>
        Chord tolerance
        <span className="block text-xs text-quiet">how far a triangle may leave the true surface</span>
      </span>
      <input
        className="editable ml-auto w-20 text-right"
        value={text}
        aria-invalid={trouble !== undefined || undefined}
        spellCheck={false}
        onChange={(event) => write(event.target.value)}
        onBlur={() => {
          if (tolerance && !tolerance.unit)
            write(`${tolerance.number} ${store.getState().history.present.unit}`);
        }}
      />
      {trouble && (
        <span role="alert" className="w-full text-xs text-madder">
          {trouble}
        </span>
      )}
    </label>
  );
}

/** What is made, how far it is, and what came of it. */
function Progress({ state, stop }: { state: NonNullable<State>; stop(): void }) {
  return (
    <div
      role="status"
      className={`mt-1.5 border-t border-hair px-2.5 pt-2 ${state.bad ? 'text-madder' : 'text-quiet'}`}
    >
      {state.says}
      {state.link !== undefined && <Address link={state.link} />}
      {state.done !== undefined && (
        <span className="mt-1.5 flex items-center gap-2">
          <progress
            value={state.done}
            max={1}
            aria-label="Progress"
            className="h-1 grow appearance-none rounded bg-hair [&::-moz-progress-bar]:bg-thread [&::-webkit-progress-bar]:bg-hair [&::-webkit-progress-value]:bg-thread"
          />
          <button type="button" className="hover:text-ink" onClick={stop}>
            Stop
          </button>
        </span>
      )}
    </div>
  );
}

/** An address, to be copied. */
function Address({ link }: { link: string }) {
  const [copied, setCopied] = useState(false);
  const copy = () =>
    void navigator.clipboard?.writeText(link).then(
      () => setCopied(true),
      () => undefined, // it stands there to be copied by hand
    );
  return (
    <span className="mt-1.5 flex items-center gap-2">
      <input
        readOnly
        value={link}
        aria-label="Address of the review"
        className="min-w-0 grow rounded border border-hair bg-sheet px-1.5 py-0.5 font-mono text-xs text-ink"
        onFocus={({ target }) => target.select()}
      />
      <Button onClick={copy}>{copied ? 'Copied' : 'Copy'}</Button>
    </span>
  );
}

function Line({ says, note, ...props }: { says: string; note: string; disabled?: boolean; onClick(): void }) {
  return (
    <button
      type="button"
      {...props}
      className="flex w-full items-baseline justify-between rounded px-2.5 py-1.5 text-left enabled:hover:bg-hover disabled:opacity-45"
    >
      {says}
      <span className="text-xs text-quiet">{note}</span>
    </button>
  );
}
