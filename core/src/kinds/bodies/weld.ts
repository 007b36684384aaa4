import { z } from 'zod';
import { bodyKind, choice, length } from '../../kind/kind';
import { weldedBody } from '../../solid/welded';
import type { WeldedBody } from '../../solid/body';
import { anyBodyFigures } from '../../kind/body-figures';
import { checkSolid } from './on-axis';

/** Joints of a combination rounded or bevelled, as a weld or a casting has them: by a ball rolled along both faces. */
export const weld = bodyKind({
  kind: 'weld',
  title: 'Rounded joints',
  noun: 'body with rounded joints',
  words: [
    'weld',
    'radius',
    'round',
    'rounded',
    'fillet',
    'joint',
    'blend',
    'root radius',
    'edge',
    'casting',
    'chamfer',
    'bevel',
  ],
  inputs: { body: { takes: 'body' } },
  schema: z.object({
    radius: length({ above: 0 }),
    where: choice('hollows', 'ridges', 'all'),
    face: choice('round', 'flat'),
  }),
  defaults: { radius: '2 mm', where: 'hollows', face: 'round' },
  evaluate: ({ radius, where, face }, { body }) => weldedBody(body, { radius, where, flat: face === 'flat' }),
  figures(body: WeldedBody) {
    const { volume, within } = body.laid();
    return [
      ...anyBodyFigures(body),
      { name: 'weldVolume', label: 'volume laid on', value: volume, quantity: 'volume', within },
    ];
  },
  measure: (body, poll) => body.measured(poll),
  check: checkSolid,
});
