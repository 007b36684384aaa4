import { Source, type Editor } from '../../fields/editor';
import { MoreOrFewer, Several } from '../../fields/several';

function Sentence() {
  return (
    <>
      Take <Several slot="taken" noun="body taken away" /> out of <Source slot="body" name="body" />.{' '}
      <MoreOrFewer slot="taken" noun="body" to="what is taken away" />
    </>
  );
}

export const subtract: Editor = { Sentence, results: ['volume', 'mass', 'parts'] };
