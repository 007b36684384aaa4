import { z } from 'zod';
import { angle, bodyKind, length } from '../../kind/kind';
import { movedSection } from '../../section/place';
import { turnedBody } from '../../turn/body';
import { turnedAlong, turnedBy } from '../../turn/turned';
import { gripOf } from './axis-marks';
import { materialGiven } from './of-material';
import { MEASURED, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, onAxis } from './on-axis';

const WHOLE = 2 * Math.PI;

/** A section turned about an axis, or carried round an outline about it. */
export const turn = bodyKind({
  ...MEASURED,
  kind: 'turn',
  title: 'Turned',
  noun: 'turned body',
  words: ['turn', 'turned', 'revolve', 'lathe', 'spin', 'vessel', 'jar', 'knob', 'dome', 'rotation', 'solid'],
  inputs: {
    section: { takes: 'section' },
    outline: { takes: 'path', optional: true },
    ...ON_AXIS_INPUTS,
  },
  schema: z.object({ away: length(), angle: angle({ above: 0, atMost: WHOLE }), ...ON_AXIS }),
  faults: { 'outline-open': 'outline', 'section-over-axis': 'away', 'outline-unseen': 'outline' },
  defaults: { away: '20 mm', angle: '360 deg', ...ON_AXIS_DEFAULTS },
  marks: (body, { placing }) => gripOf(body, placing),
  evaluate(figures, { section, outline, place }) {
    const beside = movedSection(section, figures.away, 0);
    const turned = outline ? turnedAlong(beside, outline) : turnedBy(beside, 0, figures.angle);
    return onAxis(turnedBody(turned, materialGiven(figures)), figures, place);
  },
});
