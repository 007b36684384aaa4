import { METRIC_SIZES } from '@nematos/core/trade/thread/metric';
import { TRAPEZOID_SIZES } from '@nematos/core/trade/thread/profile';
import { Fig, Pick, useSet, type Editor } from '../../fields/editor';
import { FadingLines } from './fading';
import { Hand } from '../shared/hand';
import { Height } from '../shared/height';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';

const SIZES = [
  ['own', 'of its own size'] as const,
  ...[...METRIC_SIZES, ...TRAPEZOID_SIZES].map((size) => [size, size] as const),
];
const PROFILES = [
  ['metric', 'of a V at 60°'],
  ['trapezoid', 'of a trapezoid at 30°'],
  ['round', 'round'],
] as const;
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
          , <Pick field="profile" name="profile" options={PROFILES} />,{' '}
          <Fig field="diameter" name="diameter" after="across" />, its pitch{' '}
          <Fig field="pitch" name="pitch" />
        </>
      ) : size?.startsWith('Tr') ? null : (
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

function More() {
  return (
    <>
      <FadingLines />
      <PlacingLines />
    </>
  );
}

export const thread: Editor = {
  Sentence,
  More,
  results: ['pitch', 'minorDiameter', 'stressArea'],
};
