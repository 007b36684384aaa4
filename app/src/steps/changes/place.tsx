import { Fig, MoreLine, Pick, Source, useSet, type Editor } from '../../fields/editor';
import { ANCHORS } from '../shared/placing';

function Sentence() {
  const set = useSet();
  return (
    <>
      Put <Source slot="of" name="what is placed" /> elsewhere: scaled by <Fig field="scale" name="scale" />,{' '}
      <Pick
        field="mirror"
        name="mirror"
        options={[
          ['none', 'not mirrored'],
          ['x', 'mirrored in x'],
          ['y', 'mirrored in y'],
          ['z', 'mirrored in z'],
        ]}
      />
      , turned by <Fig field="turn" name="turn" />, and{' '}
      <Pick
        field="goal"
        name="how it is moved"
        options={[
          ['by', 'moved by'],
          ['points', 'moved from point to point'],
          ['path', 'laid at a path or body'],
        ]}
      />{' '}
      {set.goal === 'by' && <Three field="move" says="shift" />}
      {set.goal === 'points' && (
        <>
          <Three field="from" says="from" /> to <Three field="to" says="to" />
        </>
      )}
      {set.goal === 'path' && (
        <>
          , at the <Pick field="anchor" name="place on the path" options={ANCHORS} /> of{' '}
          <Source slot="place" name="path to be laid at" />
        </>
      )}
      .
    </>
  );
}

/** Three figures of a place or a direction. */
export function Three({ field, says }: { field: string; says: string }) {
  return (
    <>
      <Fig field={`${field}X`} name={`${says}, x`} />, <Fig field={`${field}Y`} name={`${says}, y`} />,{' '}
      <Fig field={`${field}Z`} name={`${says}, z`} />
    </>
  );
}

function More() {
  return (
    <>
      <MoreLine label="about x, y, z">
        <Three field="about" says="point it is turned about" />
      </MoreLine>
      <MoreLine label="turned about the direction">
        <Three field="axis" says="axis of the turn" />
      </MoreLine>
      <MoreLine label="drawn out in x, y, z by">
        <Three field="scale" says="drawn out" />
      </MoreLine>
    </>
  );
}

export const place: Editor = { Sentence, More, results: ['length', 'volume', 'mass'] };
