import { MM_IN } from '@nematos/core/measure/quantity';
import { MATERIALS, MATERIAL_IDS } from '@nematos/core/measure/materials';
import { stepOf } from '@nematos/core/design/edit';
import { writtenNumber } from '@nematos/core/design/literal';
import { useBenchStore, useOfDesign } from '../workbench/bench';
import { Fig, Pick, Source, useEditing, useFigure, type Editor } from './editor';

const MATERIAL_WORDS = MATERIAL_IDS.map((id) => [id, MATERIALS[id].name] as const);

function Sentence() {
  const { step } = useEditing();
  const onCoil = useOfDesign(
    (design) => design.steps.find((other) => other.id === step.from?.path)?.kind === 'helix',
  );
  const spring = (step.set.ends ?? 'none') !== 'none';
  return (
    <>
      Carry <Source slot="section" name="section" /> along <Source slot="path" name="path" />, held free;{' '}
      <Pick field="material" name="material" options={MATERIAL_WORDS} />.
      {(onCoil || spring) && (
        <>
          {' '}
          Spring ends{' '}
          <Pick
            field="ends"
            name="ends of the spring"
            options={[
              ['none', 'not reckoned'],
              ['open', 'open'],
              ['closed', 'closed'],
              ['ground', 'closed and ground'],
            ]}
          />
          {spring && <Pressed />}.
        </>
      )}
    </>
  );
}

/** The length under load, which may be left open. */
function Pressed() {
  const { step } = useEditing();
  const store = useBenchStore();
  const free = useFigure('freeLength');
  if (step.set.loadedLength !== undefined)
    return (
      <>
        , pressed to <Fig field="loadedLength" name="length under load" optional />
      </>
    );
  const press = () =>
    store.getState().edit('Press the spring', (draft) => {
      const length = (free?.value ?? 40) * 0.75;
      stepOf(draft, step.id).set.loadedLength =
        `${writtenNumber(length / MM_IN[draft.unit], 3)} ${draft.unit}`;
    });
  return (
    <>
      ,{' '}
      <button type="button" className="editable text-quiet" onClick={press}>
        not pressed
      </button>
    </>
  );
}

export const sweep: Editor = { Sentence, results: ['volume', 'mass'] };
