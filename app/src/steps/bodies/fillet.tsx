import {
  Fig,
  MoreLine,
  OptionalSource,
  Pick,
  Source,
  useEditing,
  useSet,
  type Editor,
} from '../../fields/editor';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  const { face, grows } = useSet();
  const { step } = useEditing();
  return (
    <>
      <Pick
        field="face"
        name="rounded or bevelled"
        options={[
          ['round', 'Round'],
          ['flat', 'Bevel'],
        ]}
      />{' '}
      the joints of <Source slot="body" name="body" />
      {face === 'flat' ? (
        <>
          , where they are square by <Fig field="radius" name="legs" after="each way" />
        </>
      ) : (
        <>
          {' '}
          by a radius of <Fig field="radius" name="radius" />
        </>
      )}
      {grows !== 'not' && (
        <>
          {' '}
          growing to <Fig field="end" name={face === 'flat' ? 'legs at the end' : 'radius at the end'} />
        </>
      )}
      ,{' '}
      <Pick
        field="where"
        name="which joints"
        options={[
          ['hollows', 'in hollows'],
          ['ridges', 'on ridges'],
          ['all', 'in hollows and on ridges'],
        ]}
      />
      , {step.from?.at && 'only of '}
      <OptionalSource slot="at" none="wherever its bodies meet" noun="body at the joints" />
      {step.from?.at && (
        <>
          {' '}
          with <OptionalSource slot="to" none="any other" noun="body it meets" />
        </>
      )}
      .
    </>
  );
}

function More() {
  const { grows } = useSet();
  return (
    <>
      <MoreLine label="size">
        <Pick
          field="grows"
          name="whether it grows"
          options={[
            ['not', 'the same all along'],
            ['along', 'growing up an axis'],
            ['away', 'growing away from an axis'],
          ]}
        />
      </MoreLine>
      {grows !== 'not' && <PlacingLines laid="measured" />}
    </>
  );
}

export const fillet: Editor = { Sentence, More, results: ['volume', 'mass', 'weldVolume'] };
