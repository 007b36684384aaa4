import { Hand } from '../shared/hand';
import { stepOf } from '@nematos/core/design/edit';
import { writtenFigure } from '@nematos/core/measure/format';
import { useBenchStore } from '../../bench/bench';
import { Fig, MoreLine, Source, useEditing, useSet, useResult, type Editor } from '../../fields/editor';

function Sentence() {
  const set = useSet();
  return (
    <>
      {set.lay === undefined ? (
        <Fig field="turns" name="turns" after="turns" fractions />
      ) : (
        <>
          One turn every <Fig field="lay" name="lay" />
        </>
      )}{' '}
      round <Source slot="path" name="path" />, <Fig field="offset" name="offset" after="off it" />, <Hand />,{' '}
      <Fig field="strands" name="strands" after={set.strands === '1' ? 'strand' : 'strands evenly laid'} />.
    </>
  );
}

/** The lay that follows from the turns, or the turns from the lay; choosing it gives it instead. */
function Following() {
  const { step } = useEditing();
  const store = useBenchStore();
  const [turns, lay] = [useResult('turns'), useResult('lay')];
  const byTurns = step.set.lay === undefined;
  const figure = byTurns ? lay : turns;
  if (!figure) return null;
  const give = () =>
    store.getState().edit(byTurns ? 'Give the lay' : 'Give the turns', (draft) => {
      const { set } = stepOf(draft, step.id);
      if (byTurns) set.lay = writtenFigure(figure.value, 'length', draft.unit, 10);
      else set.turns = writtenFigure(figure.value, 'number', draft.unit, 10);
      delete set[byTurns ? 'turns' : 'lay'];
    });
  return (
    <button
      type="button"
      className="text-quiet underline decoration-dotted underline-offset-2 hover:text-ink"
      onClick={give}
    >
      give the {byTurns ? 'lay' : 'turns'} instead
    </button>
  );
}

export const winding: Editor = {
  Sentence,
  Following,
  More: () => (
    <MoreLine label="first strand at an angle of">
      <Fig field="phase" name="phase" />
    </MoreLine>
  ),
  results: ['length', 'lay', 'paths'],
};
