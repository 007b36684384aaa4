import { z } from 'zod';
import { add, norm, scale, unit } from '../../geometry/vector';
import { bodyKind, choice, length } from '../../kind/kind';
import { ledAlong } from '../../kind/mark';
import { filletedBody } from '../../solid/fillet/filleted';
import type { Body, FilletedBody } from '../../solid/body/body';
import { leavesFrom } from '../../solid/body/sources';
import { allOf } from './combining';
import type { SetOf } from '../../kind/value';
import { Complaint } from '../../measure/words';
import { anyBodyResults } from '../../kind/body-results';
import { PLACING, PLACING_DEFAULTS, placedAt } from '../paths/placing';
import { axisIn, checkSolid, ON_AXIS_INPUTS } from './on-axis';

/** The axis along which, or away from which, the radius grows: nothing turns about it. */
const { startAngle: _angle, ...AXIS } = PLACING;
const { startAngle: _atAngle, ...AXIS_DEFAULTS } = PLACING_DEFAULTS;

/** Joints of a combination rounded or bevelled, as a weld or a casting has them: by a ball rolled along both faces. */
export const fillet = bodyKind({
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
    ...ON_AXIS_INPUTS,
  },
  schema: z.object({
    radius: length({ above: 0 }),
    where: choice('hollows', 'ridges', 'all'),
    face: choice('round', 'flat'),
    grows: choice('not', 'along', 'away'),
    end: length({ above: 0 }),
    ...AXIS,
  }),
  defaults: {
    radius: '2 mm',
    where: 'hollows',
    face: 'round',
    grows: 'not',
    end: '4 mm',
    ...AXIS_DEFAULTS,
  },
  faults: {
    'no-joint': 'body',
    'joint-not-there': 'at',
    'level-joint': 'grows',
    'growth-too-steep': 'end',
    'radius-too-large': 'radius',
  },
  evaluate(figures, { body, at, to, place }) {
    const { radius, where, face, grows, end } = figures;
    const leaves = (part: Body | SetOf<Body>, slot: string) => {
      const found = leavesFrom(body, allOf([part]));
      if (found.size) return found;
      throw new Complaint(
        'This is no part of the body whose joints are rounded: choose one that it is made of.',
        slot,
      );
    };
    const between = at && ([leaves(at, 'at'), to && leaves(to, 'to')] as const);
    const growth = grows !== 'not' && {
      to: end,
      axis: placedAt(figures, axisIn(place)),
      away: grows === 'away',
    };
    return filletedBody(body, {
      radius,
      where,
      flat: face === 'flat',
      ...(growth && { growth }),
      ...(between && { between }),
    });
  },
  marks(body: FilletedBody, _set, _filled, resolved) {
    return body.resting().flatMap(({ at, by }, i) => {
      const field = i ? 'end' : 'radius';
      const radius = resolved[field]?.value;
      if (radius === undefined) return [];
      const middle = add(at, scale(by, radius));
      const name = i ? 'Middle of the ball at the end' : 'Middle of the ball';
      return [{ ...ledAlong(field, name, middle, unit(by), 1 / norm(by)), late: radius }];
    });
  },
  results(body: FilletedBody) {
    const { volume, within } = body.laid();
    return [
      ...anyBodyResults(body),
      { name: 'weldVolume', label: 'volume laid on', value: volume, quantity: 'volume', within },
    ];
  },
  measure: (body, poll) => body.measured(poll),
  check: checkSolid,
});
