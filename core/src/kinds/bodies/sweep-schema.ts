/** The figures and tables of a sweep. */
import { z } from 'zod';
import { angle, choice, count, figure, length, table } from '../../kind/kind';
import { OF_MATERIAL } from './of-material';

/** Where a row of a law stands: as a part of the length, or a length. */
const PLACE = {
  part: figure('number', { atLeast: 0, atMost: 1 }).optional(),
  along: length({ atLeast: 0 }).optional(),
};

export const SIZES = table({
  noun: 'station',
  least: 2,
  most: 400,
  row: z.object({
    ...PLACE,
    width: length({ above: 0 }).optional(),
    height: length({ above: 0 }).optional(),
  }),
  between: { columns: ['part', 'along'], first: { part: '0' }, last: { part: '1' } },
  fresh: { part: '0.5' },
});

export const TWISTS = table({
  noun: 'station',
  least: 2,
  most: 400,
  row: z.object({ ...PLACE, angle: angle() }),
  between: {
    columns: ['part', 'along'],
    first: { part: '0', angle: '0 deg' },
    last: { part: '1', angle: '0 deg' },
  },
  fresh: { part: '0.5', angle: '0 deg' },
});

const END = choice('flat', 'domed', 'chamfered', 'flush');

export const SWEEP = z.object({
  hold: choice('free', 'facing', 'seated', 'level', 'guided'),
  facingX: count(),
  facingY: count(),
  facingZ: count(),
  guideSets: choice('turn', 'both'),
  corners: choice('mitred', 'rounded', 'bent'),
  bendRadius: length({ above: 0 }),
  by: choice('centroid', 'origin', 'left', 'right', 'top', 'bottom', 'corner'),
  byCorner: count({ atLeast: 1 }),
  right: length(),
  up: length(),
  turned: angle(),
  mirrored: choice('no', 'yes'),
  pathIs: choice('inside', 'middle', 'outside'),
  size: choice('even', 'taper', 'flare', 'stations'),
  endScale: figure('number', { above: 0, atMost: 1000 }),
  flare: angle({ above: -Math.PI / 2, below: Math.PI / 2 }),
  sizeRun: choice('smooth', 'linear'),
  wallRun: choice('scaled', 'kept'),
  twistBy: choice('none', 'total', 'lay', 'stations'),
  twist: angle(),
  twistLay: length(),
  twistRun: choice('smooth', 'linear'),
  intoFrom: figure('number', { atLeast: 0, atMost: 1 }),
  intoTo: figure('number', { atLeast: 0, atMost: 1 }),
  intoRun: choice('smooth', 'linear'),
  startShape: END,
  endShape: END,
  startSize: length({ above: 0 }),
  endSize: length({ above: 0 }),
  startWall: length({ above: 0 }).optional(),
  endWall: length({ above: 0 }).optional(),
  flushX: count(),
  flushY: count(),
  flushZ: count(),
  startFlush: length(),
  endFlush: length(),
  leastWall: length({ above: 0 }).optional(),
  ...OF_MATERIAL,
});

export type SweepFigures = z.infer<typeof SWEEP> & {
  readonly sizes: readonly z.infer<typeof SIZES.row>[];
  readonly twists: readonly z.infer<typeof TWISTS.row>[];
};
