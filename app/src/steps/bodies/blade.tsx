import { Fig, MoreLine, OptionalSource, Pick, useSet, type Editor } from '../../fields/editor';
import { Hand } from '../shared/hand';
import { Height } from '../shared/height';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  const { slope, copies } = useSet();
  return (
    <>
      <Fig field="copies" name="number of blades" after={copies === '1' ? 'blade' : 'blades'} />, <Hand />, on
      a hub <Fig field="hub" name="hub diameter" after="across" />, their tips{' '}
      <Fig field="tip" name="tip diameter" after="across" />, <Height />,{' '}
      <Pick
        field="slope"
        name="how they run"
        options={[
          ['pitch', 'of a pitch of'],
          ['angles', 'at angles at the tip of'],
        ]}
      />{' '}
      {slope === 'angles' ? (
        <>
          <Fig field="inlet" name="angle at the foot" after="at the foot" /> and{' '}
          <Fig field="outlet" name="angle at the top" after="at the top" />
        </>
      ) : (
        <Fig field="pitch" name="pitch" after="a turn" />
      )}
      ; <Fig field="thickness" name="thickness at the root" after="thick at the root" />,{' '}
      <Fig field="tipThickness" name="thickness at the tip" after="at the tip" />. <OfMaterial />
    </>
  );
}

function More() {
  return (
    <>
      <MoreLine label="sunk into the hub by">
        <Fig field="sunk" name="depth sunk into the hub" />
      </MoreLine>
      <MoreLine label="the line from hub to tip rises by">
        <Fig field="lean" name="lean" />
      </MoreLine>
      <MoreLine label="its thickness lies">
        <Pick
          field="side"
          name="side of the thickness"
          options={[
            ['both', 'to both sides'],
            ['above', 'above'],
            ['below', 'below'],
          ]}
        />
      </MoreLine>
      <MoreLine label="trimmed to">
        <OptionalSource slot="within" none="its own height and tip" noun="body" />
      </MoreLine>
      <PlacingLines turned="first blade turned by" />
    </>
  );
}

export const blade: Editor = { Sentence, More, results: ['tipAngle', 'rootAngle', 'bladeArea'] };
