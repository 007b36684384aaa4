/** All steps of a design, each with what it says, its figures and a small picture: to be read, or printed. */
import { useMemo } from 'react';
import { stepName } from '@nematos/core/design/edit';
import { kindNamed } from '@nematos/core/design/registry';
import type { Design, Step } from '@nematos/core/design/schema';
import { EditingContext, Result } from '../fields/editor';
import { useStepPictures, type Pictured } from '../fields/step-pictures';
import { editorOf } from '../steps';
import { Button } from '../ui/controls';
import { useBench, useBenchStore, useDesign } from '../bench/bench';

/** Of each step, the design as it is made up to it. */
const upToEach = (design: Design): readonly Pictured[] =>
  design.steps.map(({ id }, i) => [id, { ...design, steps: design.steps.slice(0, i + 1) }]);

/** Takes the place of sheet and stage. */
export function StepsList() {
  const store = useBenchStore();
  const design = useDesign();
  const { pictures, busy } = useStepPictures(useMemo(() => upToEach(design), [design]));
  return (
    <main
      aria-label="Step list"
      aria-busy={busy}
      className="min-h-0 grow overflow-y-auto bg-sheet px-8 pt-5 pb-10 print:overflow-visible print:p-0"
    >
      <div className="mx-auto max-w-3xl">
        <div className="flex items-baseline gap-3">
          <h1 className="font-serif text-3xl">{design.name}</h1>
          <span className="ml-auto flex gap-2 print:hidden">
            <Button onClick={() => window.print()}>Print</Button>
            <Button onClick={() => store.getState().look({ listed: undefined })}>Back to the sheet</Button>
          </span>
        </div>
        {design.note && <p className="mt-1 text-quiet">{design.note}</p>}
        <Sentences design={design} pictures={pictures} />
      </div>
    </main>
  );
}

/** The givens and all steps with their sentences, and the picture after each where there is one. */
export function Sentences({ design, pictures }: { design: Design; pictures?: ReadonlyMap<string, string> }) {
  return (
    <>
      {design.givens.length > 0 && (
        <dl className="mt-4 grid max-w-sm grid-cols-[auto_1fr] gap-x-6">
          {design.givens.map(({ name, value, note }) => (
            <div key={name} className="contents">
              <dt>{name}</dt>
              <dd className="font-mono text-[12.5px]">
                {value} {note && <span className="ml-2 font-sans text-quiet">{note}</span>}
              </dd>
            </div>
          ))}
        </dl>
      )}
      <ol className="mt-4">
        {design.steps.map((step, i) => (
          <Listed key={step.id} step={step} number={i + 1} picture={pictures?.get(step.id)} />
        ))}
      </ol>
    </>
  );
}

/** One step. */
function Listed({ step, number, picture }: { step: Step; number: number; picture: string | undefined }) {
  const seen = useBench((bench) => bench.seen?.steps.find(({ id }) => id === step.id));
  const editor = editorOf(step.kind);
  if (!editor) return null;
  return (
    <EditingContext.Provider value={{ step, seen }}>
      <li className="grid break-inside-avoid grid-cols-[2rem_1fr_auto] gap-x-3 border-t border-hair py-3">
        <span className="font-semibold text-thread">{number}</span>
        <div className="min-w-0">
          <h2>
            <span className="font-semibold">{stepName(step)}</span>{' '}
            <span className="text-xs text-quiet">{kindNamed(step.kind)?.noun}</span>
          </h2>
          <fieldset disabled className="font-serif text-[16px] leading-[1.5]">
            <editor.Sentence />
          </fieldset>
          <div className="mt-0.5 flex flex-wrap gap-x-4">
            {editor.results.map((name) => (
              <Result key={name} name={name} />
            ))}
          </div>
        </div>
        <div className="flex w-40 items-center justify-center">
          {picture ? (
            <img src={picture} alt={`The part after step ${number}`} className="max-h-28 max-w-40" />
          ) : (
            editor.Drawing && <editor.Drawing />
          )}
        </div>
      </li>
    </EditingContext.Provider>
  );
}
