import { useOfDesign } from '../../bench/bench';
import { Fig, Pick, Source, useEditing, useSet, type Editor } from '../../fields/editor';

const FORMS = [
  ['flange', 'flange'],
  ['socket', 'socket'],
  ['spigot', 'spigot'],
  ['reducer', 'reducer'],
] as const;
const ENDS = [
  ['end', 'end'],
  ['start', 'start'],
] as const;

function Sentence() {
  const { form, holes, of } = useSet();
  const { step } = useEditing();
  const source = useOfDesign(({ steps }) => steps.find(({ id }) => id === step.from?.tube)?.kind);
  const several = of !== '1' || (source !== undefined && source !== 'sweep');
  return (
    <>
      At the <Pick field="at" name="which end" options={ENDS} /> of <Source slot="tube" name="tube" />
      {several && (
        <>
          , tube <Fig field="of" name="number of the tube" />
        </>
      )}
      , a <Pick field="form" name="what it ends in" options={FORMS} />
      {form === 'flange' ? (
        <Flange holes={holes} />
      ) : form === 'socket' ? (
        <>
          , <Fig field="long" name="depth" after="deep" />, its wall <Fig field="wall" name="wall" />, with a
          play of <Fig field="play" name="play" after="across" />.
        </>
      ) : form === 'spigot' ? (
        <>
          , <Fig field="diameter" name="diameter" after="across" />,{' '}
          <Fig field="long" name="length" after="long" />, its wall <Fig field="wall" name="wall" />.
        </>
      ) : (
        <>
          {' '}
          to <Fig field="diameter" name="diameter" after="across" /> over{' '}
          <Fig field="long" name="length of the cone" />, both its ends straight for{' '}
          <Fig field="straight" name="straight ends" />, its wall there <Fig field="wall" name="wall" />.
        </>
      )}
    </>
  );
}

function Flange({ holes }: { holes: string | undefined }) {
  return (
    <>
      , <Fig field="diameter" name="diameter" after="across" />,{' '}
      <Fig field="thickness" name="thickness" after="thick" />, with <Fig field="holes" name="holes" />{' '}
      {holes === '0' ? (
        'holes.'
      ) : (
        <>
          {holes === '1' ? 'hole' : 'holes'} of <Fig field="hole" name="diameter of the holes" /> on a circle
          of <Fig field="circle" name="circle of the holes" />.
        </>
      )}
    </>
  );
}

export const tubeEnd: Editor = { Sentence, results: ['volume', 'mass', 'endBore'] };
