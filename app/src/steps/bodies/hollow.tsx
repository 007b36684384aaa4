import { Fig, Pick, Source, useSet, type Editor } from '../../fields/editor';

function Sentence() {
  const { open } = useSet();
  return (
    <>
      Hollow <Source slot="body" name="body" /> to a wall of <Fig field="wall" name="wall" />,{' '}
      <Pick
        field="open"
        name="openings"
        options={[
          ['end', 'open at its end'],
          ['start', 'open at its start'],
          ['both', 'open at both ends'],
          ['none', 'closed at both ends'],
        ]}
      />
      {open !== 'none' && (
        <>
          , its rim{' '}
          <Pick
            field="rim"
            name="rim"
            options={[
              ['sharp', 'sharp'],
              ['rounded', 'rounded from wall to wall'],
            ]}
          />
        </>
      )}
      {open !== 'both' && (
        <>
          ; its floor <Fig field="floor" name="floor" />
        </>
      )}
      .
    </>
  );
}

export const hollow: Editor = { Sentence, results: ['volume', 'mass', 'capacity'] };
