import { Fig, Source, type Editor } from '../../fields/editor';
import { MoreOrFewer, Several } from '../../fields/several';

function Sentence() {
  return (
    <>
      Make room in <Source slot="body" name="body" /> for <Several slot="taken" noun="body set in" />, with{' '}
      <Fig field="clearance" name="clearance" /> all round.{' '}
      <MoreOrFewer slot="taken" noun="body" to="what is set in" />
    </>
  );
}

export const setIn: Editor = { Sentence, results: ['volume', 'mass', 'parts'] };
