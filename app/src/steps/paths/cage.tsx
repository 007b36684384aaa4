import { ProfileTable } from './cast';
import { Fig, Pick, useSet, type Editor } from '../../fields/editor';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  const set = useSet();
  return (
    <>
      A cage on a{' '}
      <Pick
        field="shape"
        name="shape"
        options={[
          ['dome', 'dome'],
          ['ball', 'ball'],
          ['turned', 'turned surface'],
        ]}
      />
      {set.shape !== 'turned' && (
        <>
          {' '}
          <Fig field="diameter" name="diameter" after="across" />
        </>
      )}
      {set.shape === 'dome' && (
        <>
          {' '}
          and <Fig field="height" name="height" after="high" />
        </>
      )}
      : <Fig field="meridians" name="meridians" after="meridians" />,{' '}
      <Fig field="parallels" name="parallels" after="parallels" />, open at the top by{' '}
      <Fig field="opening" name="opening" />.
    </>
  );
}

function Table() {
  return useSet().shape === 'turned' ? <ProfileTable /> : null;
}

export const cage: Editor = {
  Sentence,
  Table,
  More: () => <PlacingLines turned="first meridian at an angle of" />,
  results: ['paths', 'length'],
};
