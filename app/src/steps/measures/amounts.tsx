import { Source, type Editor } from '../../fields/editor';
import { InResults, Wanted } from './measuring';

const amount = (says: string): Editor => ({
  Sentence: () => (
    <>
      {says} of <Source slot="of" name="body" />
      <Wanted />.
    </>
  ),
  Following: InResults,
  results: ['measured'],
});

export const measureVolume = amount('Volume');
export const measureArea = amount('Surface');
export const measureMass = amount('Mass');
