import { Fig, Follows, Pick, Source, useSet, type Editor } from '../../fields/editor';
import { referToSection } from '@nematos/core/design/edit';
import { Hand } from '../shared/hand';
import { PlacingLines } from '../shared/placing';

const LINKED = ['inner', 'outer', 'turns', 'pitch'] as const;

function Sentence() {
  const set = useSet();
  const has = (field: (typeof LINKED)[number]) => set[field] !== undefined;
  return (
    <>
      Flat{' '}
      <Pick
        field="form"
        name="form of the spiral"
        options={[
          ['archimedean', 'evenly pitched'],
          ['logarithmic', 'logarithmic'],
        ]}
        also={(_draft, { set: figures }, chosen) => {
          if (chosen !== 'logarithmic' || figures.pitch === undefined) return;
          delete figures.pitch;
          figures.inner ??= '20 mm';
          figures.outer ??= '80 mm';
          figures.turns ??= '5';
        }}
      />{' '}
      spiral, <Hand />
      {has('turns') && (
        <>
          , <Fig field="turns" name="turns" after="turns" fractions />
        </>
      )}
      {has('pitch') && (
        <>
          {' '}
          of pitch <Fig field="pitch" name="pitch" />
        </>
      )}
      {has('inner') && (
        <>
          , <Fig field="inner" name="inner diameter" before="inside" />
        </>
      )}
      {has('outer') && (
        <>
          , <Fig field="outer" name="outer diameter" before="outside" />
        </>
      )}
      , measured{' '}
      <Pick
        field="basis"
        name="diameters measured"
        also={(draft, step, chosen) => {
          if (chosen === 'overall') referToSection(draft, step);
        }}
        options={[
          ['centres', 'between wire centres'],
          ['overall', 'overall'],
        ]}
      />
      {set.basis === 'overall' && (
        <>
          {' '}
          for <Source slot="section" name="section" />
        </>
      )}
      ; it starts{' '}
      <Pick
        field="starts"
        name="start"
        options={[
          ['inside', 'inside'],
          ['outside', 'outside'],
        ]}
      />
      .
    </>
  );
}

export const spiral: Editor = {
  Sentence,
  Following: () => <Follows fields={LINKED} />,
  More: () => <PlacingLines />,
  results: ['length'],
};
