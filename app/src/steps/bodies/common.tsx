import type { Editor } from '../../fields/editor';
import { MoreOrFewer, Several } from '../../fields/several';

function Sentence() {
  return (
    <>
      Keep what <Several slot="bodies" noun="body" /> have in common.{' '}
      <MoreOrFewer slot="bodies" noun="body" to="what is compared" />
    </>
  );
}

export const common: Editor = { Sentence, results: ['volume', 'mass', 'parts'] };
