import type { Editor } from '../../fields/editor';
import { FromTo, InResults, Wanted } from './measuring';

function Sentence() {
  return (
    <>
      Between the lines, <FromTo />
      <Wanted />.
    </>
  );
}

export const measureAngle: Editor = { Sentence, Following: InResults, results: ['measured'] };
