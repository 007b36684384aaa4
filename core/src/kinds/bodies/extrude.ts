import { z } from 'zod';
import { angle, bodyKind, length } from '../../kind/kind';
import type { SweptBody } from '../../sweep/body';
import { Complaint, told, words } from '../../measure/words';
import { placedAt, spanned } from '../paths/placing';
import { offsetSection, OffsetLimit } from '../../section/offset';
import { isCentred, isRound, type Section } from '../../section/section';
import { checkSweep } from './check';
import { materialGiven } from './of-material';
import { heightMark, straightBody } from './straight';
import { turnAtEnd } from './sweep-marks';
import { bodyResults } from './sweep';
import { ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, axisIn } from './on-axis';

const HALF = Math.PI / 2;

/** How a section is set back at the end, all its sides leaning in by the same angle. */
function drafted(section: Section, height: number, draft: number) {
  const by = height * Math.tan(draft);
  const tooMuch = (most: number) =>
    new Complaint(
      words`With this draft a side of it comes to nothing before the end: up to ${told(Math.sign(by) * Math.atan(most / height), 'angle')} leaves something of each.`,
      'draft',
    );
  if (by === 0) return { endScale: 1 };
  if (section.contours.length === 1 && isRound(section) && isCentred(section)) {
    if (by >= section.reach) throw tooMuch(section.reach);
    return { endScale: 1 - by / section.reach };
  }
  const end = offsetSection(section, by);
  if (!(end instanceof OffsetLimit)) return { endScale: 1, end };
  if (end.most !== undefined) throw tooMuch(end.most);
  throw new Complaint(
    'Where a curved side ends in a sharp corner there is no even draft: round that corner, or leave the draft out.',
    'draft',
  );
}

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
  marks: (body: SweptBody, { placing }, _filled, resolved) => [
    ...(placing === 'points' ? [] : heightMark(body)),
    ...(resolved.twist?.value && !isRound(body.section) ? [turnAtEnd('twist', body)] : []),
  ],
  evaluate(figures, { section, place }) {
    const { draft, twist, startAngle } = figures;
    const height = spanned(figures) ?? figures.height;
    const change = { ...drafted(section, height, draft), twist };
    return straightBody(
      section,
      placedAt(figures, axisIn(place)),
      startAngle,
      height,
      change,
      materialGiven(figures),
    );
  },
  results: (body: SweptBody) => bodyResults(body).filter(({ name }) => name !== 'wireLength'),
  measure: (body, poll) => body.measured(poll),
  check: checkSweep,
});
