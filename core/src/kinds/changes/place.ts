import { z } from 'zod';
import { angle, choice, count, length, likeKind } from '../../kind/kind';
import type { Result } from '../../kind/value';
import { composed, STILL, type Affine } from '../../geometry/motion';
import { add, cross, dot, norm, scale, squareTo, sub, unit, type Vec3 } from '../../geometry/vector';
import { ledBy, type Mark, type SizeMark, type TurnMark } from '../../kind/mark';
import { pathExtent } from '../../path/sample';
import {
  roughBounds,
  boxAbout,
  cornersOf,
  middleAbout,
  type RoughBound,
  type Body,
} from '../../solid/body/body';
import type { Path } from '../../path/path';
import { axisIn, checkSolid } from '../bodies/on-axis';
import { placedAt, type Axis } from '../paths/placing';
import { anyBodyResults } from '../../kind/body-results';
import { ABOUT_AXIS, ABOUT_AXIS_DEFAULTS, axisOf, turnAbout, about } from './axis';
import { throughMap } from './placed';

const PLACE = z.object({
  scale: count({ above: 0, atMost: 1000 }),
  scaleX: count({ above: 0, atMost: 1000 }),
  scaleY: count({ above: 0, atMost: 1000 }),
  scaleZ: count({ above: 0, atMost: 1000 }),
  mirror: choice('none', 'x', 'y', 'z'),
  turn: angle(),
  ...ABOUT_AXIS,
  goal: choice('by', 'points', 'path'),
  moveX: length(),
  moveY: length(),
  moveZ: length(),
  fromX: length(),
  fromY: length(),
  fromZ: length(),
  toX: length(),
  toY: length(),
  toZ: length(),
  anchor: choice('start', 'end', 'centre'),
});

/** A path or a body drawn out, mirrored, turned and moved, in this order. */
export const place = likeKind({
  kind: 'place',
  title: 'Placed',
  noun: 'placed copy',
  words: [
    'place',
    'placed',
    'move',
    'turn',
    'rotate',
    'mirror',
    'mirrored',
    'scale',
    'stretch',
    'flip',
    'shift',
    'put',
  ],
  inputs: {
    of: { takes: ['body', 'path'] },
    place: { takes: ['path', 'body'], optional: true, beside: true },
  },
  schema: PLACE,
  defaults: {
    scale: '1',
    scaleX: '1',
    scaleY: '1',
    scaleZ: '1',
    mirror: 'none',
    turn: '0 deg',
    ...ABOUT_AXIS_DEFAULTS,
    goal: 'by',
    moveX: '0 mm',
    moveY: '0 mm',
    moveZ: '0 mm',
    fromX: '0 mm',
    fromY: '0 mm',
    fromZ: '0 mm',
    toX: '0 mm',
    toY: '0 mm',
    toZ: '0 mm',
    anchor: 'end',
  },
  marks(value, { goal = 'by' }, _filled, resolved) {
    if (value.type !== 'body' && value.type !== 'path') return [];
    const at = (field: string) => resolved[field]?.value ?? 0;
    const three = (stem: string): Vec3 => [at(`${stem}X`), at(`${stem}Y`), at(`${stem}Z`)];
    const middle = value.type === 'body' ? middleAbout(value) : value.at(value.length / 2).position;
    const grip = (stem: string, name: string, place: Vec3): Mark => ({
      type: 'point',
      led: ledBy(`${stem}X`, `${stem}Y`, `${stem}Z`),
      name,
      at: place,
    });
    if (goal === 'points')
      return [grip('from', 'The point from', three('from')), grip('to', 'The point to', three('to'))];
    if (goal !== 'by') return [];
    const moves = grip('move', 'Its place', middle);
    const through = add(three('about'), three('move'));
    const turn = at('turn');
    if (!(norm(three('axis')) > 0)) return turn ? [moves] : [moves, sizeMark(through, STILL, value)];
    const axis = unit(three('axis'));
    return [
      moves,
      turnMark(through, axis, turn, middle, boundsOf(value)),
      sizeMark(through, turnAbout([0, 0, 0], axis, turn), value),
    ];
  },
  evaluate: (figures, { of, place: host }) => throughMap(of, mapOf(figures, axisIn(host))),
  check: async (value, context) =>
    value.type === 'body' ? checkSolid(value, context) : { findings: [], limits: [] },
  results: (value): Result[] => (value.type === 'body' ? anyBodyResults(value) : []),
  measure: async (value, poll) => {
    if (value.type === 'body') await value.measured(poll);
  },
});

const boundsOf = (value: Body | Path): readonly RoughBound[] =>
  value.type === 'body' ? roughBounds(value) : pathExtent(value, 0).map((at) => ({ at, within: 0 }));

/** A grip to turn by, about an axis through a place: beside the part's middle, clear of it. */
function turnMark(
  through: Vec3,
  axis: Vec3,
  turn: number,
  middle: Vec3,
  about: readonly RoughBound[],
): TurnMark {
  const reach = Math.max(...about.map((one) => norm(cross(sub(one.at, through), axis)) + one.within));
  const centre = add(through, scale(axis, dot(sub(middle, through), axis)));
  const out = squareTo(axis);
  const aside = cross(axis, out);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const at = add(centre, scale(add(scale(out, c), scale(aside, s)), 1.12 * reach));
  return { type: 'turn', field: 'turn', centre, axis, at };
}

/** A grip to draw it larger or smaller by, about the place that stays. */
const sizeMark = (fixed: Vec3, { ex, ey, ez }: Affine, value: Body | Path): SizeMark => ({
  type: 'size',
  field: 'scale',
  fields: ['scaleX', 'scaleY', 'scaleZ'],
  mirror: 'mirror',
  fixed,
  ways: [ex, ey, ez],
  corners: cornersOf(boxAbout(boundsOf(value))),
});

function mapOf(figures: z.infer<typeof PLACE>, host: Path | Axis | undefined): Affine {
  const { mirror, turn, aboutX, aboutY, aboutZ } = figures;
  const point: Vec3 = [aboutX, aboutY, aboutZ];
  const size = (axis: 'x' | 'y' | 'z', own: number) => (mirror === axis ? -1 : 1) * figures.scale * own;
  const drawn = about(point, {
    ex: [size('x', figures.scaleX), 0, 0],
    ey: [0, size('y', figures.scaleY), 0],
    ez: [0, 0, size('z', figures.scaleZ)],
  });
  const axis = turn ? axisOf(figures.axisX, figures.axisY, figures.axisZ, 'axisZ') : undefined;
  const spun = axis ? composed(drawn, turnAbout(point, axis, turn)) : drawn;
  return composed(spun, goalOf(figures, host));
}

/** Where it goes: by so much, as one point to another, or into the frame at a path. */
function goalOf(figures: z.infer<typeof PLACE>, host: Path | Axis | undefined): Affine {
  const still = { ex: [1, 0, 0], ey: [0, 1, 0], ez: [0, 0, 1] } as const;
  switch (figures.goal) {
    case 'by':
      return { origin: [figures.moveX, figures.moveY, figures.moveZ], ...still };
    case 'points':
      return {
        origin: add(scale([figures.fromX, figures.fromY, figures.fromZ], -1), [
          figures.toX,
          figures.toY,
          figures.toZ,
        ]),
        ...still,
      };
    case 'path':
      return placedAt({ ...AT_ORIGIN, placing: 'path', anchor: figures.anchor }, host);
  }
}

const AT_ORIGIN = {
  originX: 0,
  originY: 0,
  originZ: 0,
  axisX: 0,
  axisY: 0,
  axisZ: 1,
  toX: 0,
  toY: 0,
  toZ: 0,
} as const;
