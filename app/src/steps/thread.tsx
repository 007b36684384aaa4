import { METRIC_SIZES } from '@nematos/core/trade/thread/metric';
import { Fig, Pick, useSet, type Editor } from '../fields/editor';
import { Hand } from './hand';
import { Height } from './height';
import { OfMaterial } from './material';
import { PlacingLines } from './placing';

const SIZES = [['own', 'of its own size'] as const, ...METRIC_SIZES.map((size) => [size, size] as const)];
const ROWS = [
  ['coarse', 'coarse'],
  ['fine', 'fine'],
] as const;

function Sentence() {
  const { size, starts } = useSet();
  return (
    <>
      A thread <Pick field="size" name="size" options={SIZES} />
      {size === 'own' ? (
        <>
          , <Fig field="diameter" name="diameter" after="across" />, its pitch{' '}
          <Fig field="pitch" name="pitch" />
        </>
      ) : (
        <>
          {' '}
          <Pick field="row" name="row of pitches" options={ROWS} />
        </>
      )}
      , <Height />, <Hand />, of <Fig field="starts" name="starts" /> {starts === '1' ? 'start' : 'starts'},
      drawn larger by <Fig field="clearance" name="clearance" />. <OfMaterial />
    </>
  );
}

export const thread: Editor = {
  Sentence,
  More: () => <PlacingLines />,
  results: ['pitch', 'minorDiameter', 'stressArea'],
};
