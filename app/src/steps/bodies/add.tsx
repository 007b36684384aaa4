import type { Editor } from '../../fields/editor';
import { MoreOrFewer, Several } from '../../fields/several';

function Sentence() {
  return (
    <>
      Make <Several slot="bodies" noun="body" /> one body.{' '}
      <MoreOrFewer slot="bodies" noun="body" to="what is added" />
    </>
  );
}

export const add: Editor = { Sentence, results: ['volume', 'mass', 'parts'] };
