import { Fig, useSet } from '../../fields/editor';

/** How high a body is; between two points that follows from them. */
export function Height() {
  if (useSet().placing === 'points') return 'as high as two points are apart';
  return <Fig field="height" name="height" after="high" />;
}
