import type { Editor } from '../../fields/editor';
import { FromTo, InFigures, Wanted } from './measuring';

function Sentence() {
  return (
    <>
      Between the lines, <FromTo />
      <Wanted />.
    </>
  );
}

export const measureAngle: Editor = { Sentence, Following: InFigures, results: ['measured'] };
