import { Pick, OptionalSource, Source, useSet, type Editor } from '../../fields/editor';
import { isOfOne } from '@nematos/core/kinds/measures/measure-length';
import { AtSpot, FromTo, InResults, Wanted } from './measuring';

function Sentence() {
  const { what = '' } = useSet();
  return (
    <>
      <Pick
        field="what"
        name="what is measured"
        options={[
          ['centres', 'Centre to centre'],
          ['x', 'Apart in x'],
          ['y', 'Apart in y'],
          ['z', 'Apart in z'],
          ['along', 'Along the path'],
          ['gap', 'Least gap'],
          ['lines', 'Least between the centre lines'],
          ['faces', 'Least between the faces'],
          ['diameter', 'Diameter'],
          ['wide', 'Width of the section'],
          ['high', 'Height of the section'],
          ['wall', 'Wall'],
          ['side', 'Length of the edge'],
          ['bend', 'Bend radius'],
          ['atX', 'x'],
          ['atY', 'y'],
          ['atZ', 'z'],
        ]}
      />{' '}
      {what === 'gap' ? (
        <>
          between <Source slot="of" name="body" /> and{' '}
          <OptionalSource slot="to" none="its own kind" noun="other body" />
        </>
      ) : isOfOne(what) ? (
        <>
          at <AtSpot />
        </>
      ) : (
        <FromTo />
      )}
      <Wanted />.
    </>
  );
}

export const measureLength: Editor = { Sentence, Following: InResults, results: ['measured'] };
