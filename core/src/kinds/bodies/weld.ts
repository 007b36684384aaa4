import { z } from 'zod';
import { add, norm, scale, unit } from '../../geometry/vector';
import { bodyKind, choice, length } from '../../kind/kind';
import { ledAlong } from '../../kind/mark';
import { weldedBody } from '../../solid/welded';
import type { Body, WeldedBody } from '../../solid/body';
import { leavesFrom } from '../../solid/leaves-from';
import { allOf } from './combining';
import type { SetOf } from '../../kind/value';
import { Complaint } from '../../measure/words';
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
  inputs: {
    body: { takes: 'body' },
    at: { takes: 'body', sets: true, optional: true, beside: true },
    to: { takes: 'body', sets: true, optional: true, beside: true },
  },
  schema: z.object({
    radius: length({ above: 0 }),
    where: choice('hollows', 'ridges', 'all'),
    face: choice('round', 'flat'),
  }),
  defaults: { radius: '2 mm', where: 'hollows', face: 'round' },
  evaluate({ radius, where, face }, { body, at, to }) {
    const leaves = (part: Body | SetOf<Body>, slot: string) => {
      const found = leavesFrom(body, allOf([part]));
      if (found.size) return found;
      throw new Complaint(
        'This is no part of the body whose joints are rounded: choose one that it is made of.',
        slot,
      );
    };
    const between = at && ([leaves(at, 'at'), to && leaves(to, 'to')] as const);
    return weldedBody(body, { radius, where, flat: face === 'flat', ...(between && { between }) });
  },
  marks(body: WeldedBody, _set, _filled, resolved) {
    const resting = body.resting();
    const radius = resolved.radius?.value;
    if (!resting || radius === undefined) return [];
    const { at, by } = resting;
    const middle = add(at, scale(by, radius));
    return [{ ...ledAlong('radius', 'Middle of the ball', middle, unit(by), 1 / norm(by)), late: radius }];
  },
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
