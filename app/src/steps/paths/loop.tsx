import { stepOf } from '@nematos/core/design/edit';
import { writtenFigure } from '@nematos/core/measure/format';
import { useBenchStore } from '../../bench/bench';
import { Fig, MoreLine, Pick, useEditing, useSet, useResult, type Editor } from '../../fields/editor';
import { WayRound } from '../shared/hand';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  const set = useSet();
  const shape = set.shape ?? 'circle';
  const cornered = shape === 'polygon' || shape === 'star';
  return (
    <>
      <Pick
        field="shape"
        name="shape"
        options={[
          ['circle', 'Circle'],
          ['ellipse', 'Ellipse'],
          ['polygon', 'Polygon'],
          ['star', 'Star'],
        ]}
      />
      {cornered && (
        <>
          {' '}
          of{' '}
          <Fig
            field="sides"
            name={shape === 'star' ? 'tips' : 'sides'}
            after={shape === 'star' ? 'tips' : 'sides'}
          />
        </>
      )}
      ,{' '}
      {set.around === undefined ? (
        <>
          <Fig field="size" name="size" />{' '}
          {shape === 'polygon' ? (
            <Pick
              field="across"
              name="measured"
              options={[
                ['flats', 'across flats'],
                ['corners', 'across corners'],
              ]}
            />
          ) : (
            { circle: 'across', ellipse: 'wide', star: 'across the tips' }[shape]
          )}
        </>
      ) : (
        <Fig field="around" name="length round" after="round" />
      )}
      {shape === 'ellipse' && (
        <>
          , <Fig field="ratio" name="ratio" /> of that deep
        </>
      )}
      {shape === 'star' && (
        <>
          , its valleys at <Fig field="valley" name="valley" /> of that, rounded to{' '}
          <Fig field="valleyRadius" name="radius of the valleys" />
        </>
      )}
      {cornered && (
        <>
          , {shape === 'star' ? 'tips' : 'corners'} rounded to{' '}
          <Fig field="radius" name="radius of the corners" />
        </>
      )}
      .
    </>
  );
}

/** Its length round; choosing it gives the loop by it, or by its size again. */
function Following() {
  const { step } = useEditing();
  const store = useBenchStore();
  const round = useResult('length');
  const across = useResult('pathExtentX');
  if (!round || !across) return null;
  const bySize = step.set.around === undefined;
  const swap = () =>
    store.getState().edit(bySize ? 'Give the length round' : 'Give the size', (draft) => {
      const { set } = stepOf(draft, step.id);
      const text = (value: number) => writtenFigure(value, 'length', draft.unit);
      if (bySize) {
        set.around = text(round.value);
        delete set.size;
      } else {
        set.size = text(across.value);
        delete set.around;
      }
    });
  return (
    <button
      type="button"
      className="text-quiet underline decoration-dotted underline-offset-2 hover:text-ink"
      onClick={swap}
    >
      {bySize ? 'give the length round instead' : 'give the size instead'}
    </button>
  );
}

export const loop: Editor = {
  Sentence,
  Following,
  More: () => (
    <>
      <MoreLine label="seam, as a part of the way round">
        <Fig field="seam" name="seam" />
      </MoreLine>
      <MoreLine label="runs">
        <WayRound />
      </MoreLine>
      <PlacingLines />
    </>
  ),
  results: ['length'],
};
