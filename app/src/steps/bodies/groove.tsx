import { sayFigure } from '@nematos/core/measure/format';
import { useUnit } from '../../bench/bench';
import { Fig, MoreLine, Pick, Source, useResult, useSet, type Editor } from '../../fields/editor';
import { FadingLines } from './fading';

function Sentence() {
  const { what } = useSet();
  const unit = useUnit();
  const wide = useResult('grooveWidth');
  return (
    <>
      <Pick
        field="what"
        name="cut or laid"
        options={[
          ['cut', 'Cut'],
          ['laid', 'Lay'],
        ]}
      />{' '}
      <Source slot="section" name="section" /> {what === 'cut' ? 'into' : 'on'}{' '}
      <Source slot="body" name="body" /> along <Source slot="path" name="path" />
      {what === 'cut' && (
        <>
          , <Fig field="depth" name="depth" after="deep" />
        </>
      )}
      {wide && ` and ${sayFigure(wide.value, 'length', unit)} wide`}
      {', its section '}
      <Pick
        field="turned"
        name="turn of the section"
        options={[
          ['no', 'as drawn'],
          ['yes', 'turned by 90°'],
        ]}
      />
      .
    </>
  );
}

function More() {
  return (
    <>
      <FadingLines />
      <MoreLine label="the section’s left looks">
        <Pick
          field="side"
          name="side of the surface"
          options={[
            ['out', 'into the surface'],
            ['in', 'out of it'],
          ]}
        />
      </MoreLine>
    </>
  );
}

export const groove: Editor = { Sentence, More, results: ['volume', 'mass', 'grooveLength'] };
