import { z } from 'zod';
import { angle, bodyKind, length } from '../../kind/kind';
import type { SweptBody } from '../../sweep/body';
import { Complaint, told, words } from '../../measure/words';
import { placedAt, spanned } from '../paths/placing';
import { checkSweep } from './check';
import { materialGiven } from './of-material';
import { heightMark, straightBody } from './straight';
import { bodyFigures } from './sweep';
import { ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, axisIn } from './on-axis';

const HALF = Math.PI / 2;

/** A section drawn straight out along an axis: with draft, so that it leaves a mould, and twisted. */
export const extrude = bodyKind({
  kind: 'extrude',
  title: 'Extruded',
  noun: 'extruded body',
  words: [
    'extrude',
    'extruded',
    'extrusion',
    'straight',
    'prism',
    'plate',
    'bar',
    'draft',
    'solid',
    'thickness',
  ],
  inputs: { section: { takes: 'section' }, ...ON_AXIS_INPUTS },
  schema: z.object({
    height: length({ above: 0 }),
    draft: angle({ above: -HALF, below: HALF }),
    twist: angle(),
    ...ON_AXIS,
  }),
  defaults: { height: '20 mm', draft: '0 deg', twist: '0 deg', ...ON_AXIS_DEFAULTS },
  marks: (body: SweptBody, { placing }) => (placing === 'points' ? [] : heightMark(body)),
  evaluate(figures, { section, place }) {
    const { draft, twist, startAngle } = figures;
    const height = spanned(figures) ?? figures.height;
    const endScale = 1 - (height * Math.tan(draft)) / section.reach;
    if (!(endScale > 0)) {
      const most = Math.atan(section.reach / height);
      throw new Complaint(
        words`With this draft nothing is left at the end: less than ${told(most, 'angle')} leaves something.`,
        'draft',
      );
    }
    const change = { endScale, twist };
    return straightBody(
      section,
      placedAt(figures, axisIn(place)),
      startAngle,
      height,
      change,
      materialGiven(figures),
    );
  },
  figures: (body: SweptBody) => bodyFigures(body).filter(({ name }) => name !== 'wireLength'),
  measure: (body, poll) => body.measured(poll),
  check: checkSweep,
});
