import { Fig, Pick, useSet } from '../../fields/editor';

const EDGES = [
  ['sharp', 'sharp'],
  ['rounded', 'rounded'],
  ['chamfered', 'chamfered'],
] as const;

/** How the rims of a round body are finished. */
export function Rims() {
  const { edges = 'sharp' } = useSet();
  return (
    <>
      its rims <Pick field="edges" name="rims" options={EDGES} />
      {edges !== 'sharp' && (
        <>
          {' '}
          by <Fig field="edge" name="size of the rims" />
        </>
      )}
    </>
  );
}
