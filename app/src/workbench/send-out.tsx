/** Takes the part away: print mesh, the design itself, a picture. */
import { Popover } from 'radix-ui';
import { useRef, useState } from 'react';
import { stepName, stepOf } from '@nematos/core/design/edit';
import { literalOf } from '@nematos/core/design/literal';
import { writeDesign } from '@nematos/core/exchange/design-json';
import { FORMATS, type FileFormat } from '@nematos/core/exchange/files';
import { Button, PAPER } from '../ui/controls';
import { save } from '../ui/save';
import { ask, askExchange, callback, nextOf } from '../worker/client';
import { useBenchStore, useOfDesign } from '../bench/bench';
import { chartedStep } from '../bench/selection';
import type { Engine } from '../render/engine';

const fileName = (name: string, ending: string): string =>
  `${
    name
      .trim()
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '') || 'design'
  }.${ending}`;

const PARTS: readonly (readonly [FileFormat, says: string, note: string])[] = [
  ['3mf', 'Print mesh, 3MF', 'with its unit'],
  ['stl', 'Print mesh, STL', 'binary'],
  ['stl-text', 'Print mesh, STL', 'as text'],
  ['glb', 'Scene, GLB', 'with its material'],
  ['obj', 'Scene, OBJ', 'with its normals'],
];

type State = { readonly says: string; readonly done?: number; readonly bad?: true } | undefined;

/** The menu of files that can be taken away. */
export function SendOut({ engine }: { engine: Engine | undefined }) {
  const store = useBenchStore();
  const toleranceText = useOfDesign((design) => design.tolerance);
  const now = () => store.getState().history.present;
  const [state, setState] = useState<State>();
  const wanted = useRef(true);

  const part = async (format: FileFormat) => {
    const design = now();
    wanted.current = true;
    setState({ says: 'Making the mesh', done: 0 });
    try {
      const goOn = callback(async (done: number) => {
        if (wanted.current) setState({ says: 'Making the mesh', done });
        return wanted.current;
      });
      const { bytes, refused } = await askExchange((exchange) => exchange.file(design, format, goOn));
      if (!wanted.current) return setState(undefined);
      if (refused) return setState({ says: refused, bad: true });
      if (!bytes) return setState(undefined);
      const { ending, type } = FORMATS[format];
      save(new Blob([bytes], { type }), fileName(design.name, ending));
      setState({
        says: `${fileName(design.name, ending)}: ${Math.max(1, Math.round(bytes.length / 1024))} kB`,
      });
    } catch (error) {
      setState({ says: `The file could not be made: ${String(error)}`, bad: true });
    }
  };

  const points = async () => {
    const design = now();
    const { view, seen } = store.getState();
    const step = chartedStep({
      view: { ...view, lengthwise: true },
      history: store.getState().history,
      seen,
    });
    if (!step) return setState({ says: 'There is no path yet.', bad: true });
    const { text, refused } =
      (await ask((geometry) => geometry.points(design, step, nextOf('points')))) ?? {};
    if (text === undefined) return setState({ says: refused ?? 'There are no points.', bad: true });
    const name = fileName(`${design.name} ${stepName(stepOf(design, step))}`, 'csv');
    save(new Blob([text], { type: 'text/csv' }), name);
    setState({ says: `${name}: ${text.trim().split('\n').length - 1} points` });
  };

  const json = () => {
    const design = now();
    save(new Blob([writeDesign(design)], { type: 'application/json' }), fileName(design.name, 'json'));
    setState({ says: `${fileName(design.name, 'json')} holds every figure as written` });
  };

  const png = async () => {
    if (!engine) return;
    const design = now();
    const ground = getComputedStyle(document.documentElement).getPropertyValue('--sheet');
    save(await engine.picture(ground), fileName(design.name, 'png'));
    setState({ says: `${fileName(design.name, 'png')}: the stage as it is seen` });
  };

  const tolerance = literalOf(toleranceText);
  return (
    <Popover.Root onOpenChange={() => setState(undefined)}>
      <Popover.Trigger asChild>
        <Button strong>Send out</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className={`${PAPER} z-40 w-80 p-3`}
          aria-label="Send out"
        >
          <label className="flex items-baseline justify-between gap-2 border-b border-hair px-2.5 pb-2">
            <span>
              Chord tolerance
              <span className="block text-xs text-quiet">how far a triangle may leave the true surface</span>
            </span>
            <input
              className="editable w-20 text-right"
              value={toleranceText}
              aria-invalid={!tolerance || undefined}
              spellCheck={false}
              onChange={(event) =>
                store
                  .getState()
                  .edit(
                    'Change the tolerance',
                    (draft) => void (draft.tolerance = event.target.value),
                    'tolerance',
                  )
              }
              onBlur={() => {
                if (tolerance && !tolerance.unit)
                  store
                    .getState()
                    .edit(
                      'Change the tolerance',
                      (draft) => void (draft.tolerance = `${tolerance.number} ${draft.unit}`),
                      'tolerance',
                    );
              }}
            />
          </label>
          <div className="pt-1.5">
            {PARTS.map(([format, says, note]) => (
              <Line key={format} says={says} note={note} onClick={() => void part(format)} />
            ))}
            <Line says="Points of the path, CSV" note="of the chosen one" onClick={() => void points()} />
            <Line says="The design, JSON" note="to keep or pass on" onClick={json} />
            <Line says="Picture, PNG" note="of the stage" disabled={!engine} onClick={() => void png()} />
          </div>
          {state && (
            <div
              role="status"
              className={`mt-1.5 border-t border-hair px-2.5 pt-2 ${state.bad ? 'text-madder' : 'text-quiet'}`}
            >
              {state.says}
              {state.done !== undefined && (
                <span className="mt-1.5 flex items-center gap-2">
                  <progress
                    value={state.done}
                    max={1}
                    aria-label="Progress"
                    className="h-1.5 grow accent-[var(--thread)]"
                  />
                  <button
                    type="button"
                    className="hover:text-ink"
                    onClick={() => {
                      wanted.current = false;
                      setState(undefined);
                    }}
                  >
                    Stop
                  </button>
                </span>
              )}
            </div>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
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
