/** What kinds of bodies round an axis have in common: where the axis is, what they are made of, what is measured of them. */
import { turnedFrame } from '../../geometry/motion';
import type { Poll } from '../../geometry/poll';
import type { Path } from '../../path/path';
import type { Body } from '../../solid/body';
import { placedBody } from '../../solid/placed';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt, type Placing } from '../paths/placing';
import { anyBodyFigures } from '../../kind/body-figures';
import { OF_MATERIAL, OF_MATERIAL_DEFAULTS } from './of-material';

/** Figures of a kind whose bodies stand on an axis. */
export const ON_AXIS = { ...PLACING, ...OF_MATERIAL };
export const ON_AXIS_DEFAULTS = { ...PLACING_DEFAULTS, ...OF_MATERIAL_DEFAULTS };
export const ON_AXIS_INPUTS = PLACING_INPUTS;

/** A body made about the z axis, on the axis that is given. */
export const onAxis = (
  body: Body,
  figures: Placing & { readonly startAngle: number },
  place: Path | undefined,
): Body => placedBody(body, turnedFrame(placedAt(figures, place), figures.startAngle));

/** What is the same in all of them. */
export const MEASURED = {
  figures: anyBodyFigures,
  measure: (body: Body, poll: Poll) => body.measured(poll),
} as const;
