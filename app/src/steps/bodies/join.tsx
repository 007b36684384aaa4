import { stepName } from '@nematos/core/design/edit';
import { useBenchStore } from '../../bench/bench';
import { useEditing, type Editor } from '../../fields/editor';
import { MoreOrFewer, Several } from '../../fields/several';
import { SentOutlines } from '../../ui/outlines';
import { ask, nextOf } from '../../worker/client';

function Sentence() {
  return (
    <>
      Join <Several slot="tubes" noun="tube" />: one wall, one clean bore.{' '}
      <MoreOrFewer slot="tubes" noun="tube" to="what is joined" />
    </>
  );
}

/** Where legs sit on others: how they are cut, flat. */
function Saddles() {
  const { step } = useEditing();
  const store = useBenchStore();
  return (
    <span className="inline-flex items-center text-quiet">
      flat patterns of the saddles
      <SentOutlines
        says="Saddles as a drawing"
        name={`${stepName(step)} saddles`}
        loops={async () =>
          (await ask((geometry) =>
            geometry.saddles(store.getState().history.present, step.id, nextOf('saddles')),
          )) ?? []
        }
      />
    </span>
  );
}

export const join: Editor = {
  Sentence,
  Following: Saddles,
  results: ['volume', 'boreVolume', 'innerSurface'],
};
