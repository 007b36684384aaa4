import { Fig, Pick, Source, useSet, type Editor } from '../../fields/editor';
import { ANCHORS } from '../shared/placing';

function Sentence() {
  const set = useSet();
  return (
    <>
      <Pick
        field="take"
        name="taken"
        options={[
          ['all', 'All'],
          ['lengths', 'From one length to another'],
          ['legs', 'Some legs'],
        ]}
        also={(_draft, { set: figures }, chosen) => {
          if (chosen !== 'lengths') return;
          figures.from ??= '0 mm';
          figures.to ??= '20 mm';
        }}
      />{' '}
      of <Source slot="path" name="path" />
      {set.take === 'lengths' && (
        <>
          , from <Fig field="from" name="start of the part" /> to <Fig field="to" name="end of the part" />
        </>
      )}
      {set.take === 'legs' && (
        <>
          , from leg <Fig field="firstLeg" name="first leg" /> to leg <Fig field="lastLeg" name="last leg" />
        </>
      )}
      ,{' '}
      <Pick
        field="way"
        name="way"
        options={[
          ['forwards', 'forwards'],
          ['backwards', 'reversed'],
        ]}
      />
      ; longer by <Fig field="extendStart" name="longer at the start" /> at its start and{' '}
      <Fig field="extendEnd" name="longer at the end" /> at its end; it{' '}
      <Pick
        field="move"
        name="place"
        options={[
          ['stays', 'stays where it is'],
          ['start', 'starts at'],
          ['end', 'ends at'],
        ]}
      />
      {set.move !== 'stays' && (
        <>
          {' '}
          <Pick
            field="goal"
            name="goal"
            options={[
              ['point', 'a point'],
              ['path', 'another path'],
            ]}
          />
          {set.goal === 'path' ? (
            <>
              : the <Pick field="anchor" name="place on the path" options={ANCHORS} /> of{' '}
              <Source slot="place" name="path to be moved to" />
            </>
          ) : (
            <>
              {' '}
              <Fig field="toX" name="x of the point" />, <Fig field="toY" name="y of the point" />,{' '}
              <Fig field="toZ" name="z of the point" />
            </>
          )}
        </>
      )}
      .
    </>
  );
}

export const part: Editor = { Sentence, results: ['length'] };
