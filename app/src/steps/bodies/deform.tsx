import { Fig, MoreLine, Pick, Source, useSet, type Editor } from '../../fields/editor';
import { PlacingLines } from '../shared/placing';

const WAYS = [
  ['wring', 'Wring'],
  ['taper', 'Taper'],
  ['stretch', 'Draw out'],
  ['bend', 'Bend'],
] as const;

function Sentence() {
  const { way } = useSet();
  return (
    <>
      <Pick field="way" name="what is done to it" options={WAYS} /> <Source slot="body" name="body" />{' '}
      {way === 'taper' ? (
        <>
          to <Fig field="size" name="size at the upper height" after="times its size" />
        </>
      ) : way === 'stretch' ? (
        <>
          by <Fig field="by" name="length added" />
        </>
      ) : (
        <>
          by <Fig field="angle" name="angle" />
        </>
      )}
      , from <Fig field="from" name="lower height" /> to <Fig field="to" name="upper height" after="up" /> on
      the axis.
    </>
  );
}

function More() {
  return (
    <>
      <MoreLine label="eased in and out over, as a part">
        <Fig field="ease" name="ease" />
      </MoreLine>
      <PlacingLines turned="axes turned by" />
    </>
  );
}

export const deform: Editor = { Sentence, More, results: ['volume', 'mass'] };
