import { stepOf } from '@nematos/core/design/edit';
import { writtenFigure } from '@nematos/core/measure/format';
import { useBenchStore } from '../../bench/bench';
import { Fig, Pick, Source, useEditing, useResult, type Editor } from '../../fields/editor';
import { StepGraph } from '../../fields/step-graph';

function Sentence() {
  return (
    <>
      <Source slot="body" name="body" /> as a compression spring, its ends{' '}
      <Pick
        field="ends"
        name="ends of the spring"
        options={[
          ['drawn', 'as drawn'],
          ['open', 'counted as open'],
          ['openGround', 'counted as open and ground'],
          ['closed', 'counted as closed'],
          ['ground', 'counted as closed and ground'],
        ]}
      />
      <Pressed />.
    </>
  );
}

/** The length under load, which may be left open. */
function Pressed() {
  const { step } = useEditing();
  const store = useBenchStore();
  const free = useResult('freeLength');
  if (step.set.loadedLength !== undefined)
    return (
      <>
        , pressed to <Fig field="loadedLength" name="length under load" optional />
      </>
    );
  const press = () =>
    store.getState().edit('Press the spring', (draft) => {
      const length = (free?.value ?? 40) * 0.75;
      stepOf(draft, step.id).set.loadedLength = writtenFigure(length, 'length', draft.unit, 3);
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

export const compression: Editor = {
  Sentence,
  Table: () => <StepGraph />,
  results: ['rate', 'activeCoils', 'solidLength'],
};
