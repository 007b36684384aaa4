import { Fig, MoreLine, type Editor } from '../../fields/editor';
import { Height } from '../shared/height';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  return (
    <>
      A block <Fig field="width" name="width" after="wide" />, <Fig field="depth" name="depth" after="deep" />
      , <Height />. <OfMaterial />
    </>
  );
}

function More() {
  return (
    <>
      <MoreLine label="upright edges rounded to">
        <Fig field="radius" name="radius of the edges" />
      </MoreLine>
      <PlacingLines />
    </>
  );
}

export const block: Editor = { Sentence, More, results: ['volume', 'mass'] };
