import { z } from 'zod';
import { anyBodyResults } from '../../kind/body-results';
import { angle, bodyKind, choice, count, figure, length } from '../../kind/kind';
import { fromAxis, turnedFrame } from '../../geometry/motion';
import type { Poll } from '../../geometry/poll';
import { runPolling } from '../../geometry/task';
import { dot, scale, sub, type Vec3 } from '../../geometry/vector';
import { Complaint, mm, told, words } from '../../measure/words';
import type { Mesh } from '../../mesh/data/mesh';
import { roughBounds, sizeAbout, type Body } from '../../solid/body/body';
import { deformed } from '../../solid/deform/deformed';
import { fastestOf, type DeformOptions } from '../../geometry/deformation';
import { betweenHeights, placedMarks } from '../paths/placed-marks';
import { placedAt, PLACING, PLACING_DEFAULTS } from '../paths/placing';
import { axisIn, checkSolid, ON_AXIS_INPUTS } from './on-axis';

/** A body wrung, tapered, drawn out or bent about an axis, between two heights on it. */
export const deform = bodyKind({
  kind: 'reshape',
  title: 'Wrung body',
  noun: 'reshaped body',
  words: [
    'twist',
    'taper',
    'stretch',
    'bend',
    'wring',
    'wrung',
    'draw out',
    'lengthen',
    'bent',
    'reshape',
    'form',
    'swirl',
  ],
  inputs: { body: { takes: 'body' }, ...ON_AXIS_INPUTS },
  schema: z.object({
    way: choice('wring', 'taper', 'stretch', 'bend'),
    angle: angle({ atLeast: -100, atMost: 100 }),
    size: count({ above: 0, atMost: 100 }),
    by: length(),
    from: length(),
    to: length(),
    ease: figure('number', { atLeast: 0, atMost: 0.5 }),
    ...PLACING,
  }),
  defaults: {
    way: 'wring',
    angle: '90 deg',
    size: '0.5',
    by: '20 mm',
    from: '0 mm',
    to: '60 mm',
    ease: '0.3',
    ...PLACING_DEFAULTS,
  },
  begin: ({
    body: {
      extent: [least, most],
    },
  }) => ({ from: least[2], to: most[2] }),
  async evaluate(figures, { body, place }, { poll }) {
    const { way, from, to, ease } = figures;
    if (!(to > from)) throw new Complaint('The upper height must lie above the lower one.', 'to');
    const amount = { wring: figures.angle, bend: figures.angle, taper: figures.size, stretch: figures.by }[
      way
    ];
    const at = turnedFrame(placedAt(figures, axisIn(place)), figures.startAngle);
    const asked: DeformOptions = { way, amount, from, to, ease, at };
    if (way === 'stretch' && !(fastestOf(asked) > -1))
      throw new Complaint(
        words`Between these heights it can be made shorter by less than ${mm((to - from) * (1 - ease))}.`,
        'by',
      );
    if (way === 'bend') await checkBend(body, asked, poll);
    return deformed(body, asked);
  },
  results: anyBodyResults,
  measure: (body, poll) => body.measured(poll),
  check: checkSolid,
  marks: (body, set, _filled, resolved) =>
    placedMarks(set, resolved, (at) =>
      betweenHeights(
        set.way ?? 'wring',
        resolved,
        at,
        Math.max(...roughBounds(body).map((one) => fromAxis(at, one.at) + one.within)),
      ),
    ),
});

/** Triangles of the body that is bent, as it is looked at: parts of its size, and how many at most. */
const LOOKED = 1 / 400;
const MOST = 20_000;

/** Bent so far that its inside would be turned out is nothing. @throws Complaint at the angle */
async function checkBend(body: Body, asked: DeformOptions, poll: Poll): Promise<void> {
  const { at, from, to, amount } = asked;
  const sharp = Math.abs(fastestOf(asked));
  const reach = Math.max(...roughBounds(body).map((one) => fromAxis(at, one.at) + one.within));
  if (sharp * reach < 1) return;
  const toward = scale(at.ex, Math.sign(amount));
  const mesh = await runPolling(body.meshing(LOOKED * sizeAbout(body), MOST), poll);
  const inside = farthest(mesh, at.origin, [toward, at.ez], from, to);
  const most = (Math.abs(amount) * FREE) / (sharp * inside);
  if (Math.abs(amount) > most)
    throw new Complaint(
      words`Bent so far its inside would fold over: between these heights it takes ${told(Math.sign(amount) * most, 'angle')} at most.`,
      'angle',
    );
}
/** How far triangles reach in one direction from a point, between two heights in another. */
function farthest(
  { positions: p, triangles }: Mesh,
  from: Vec3,
  [way, up]: readonly [Vec3, Vec3],
  low: number,
  high: number,
): number {
  let most = 0;
  const place = (i: number): [x: number, z: number] => {
    const arm = sub([p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!], from);
    return [dot(arm, way), dot(arm, up)];
  };
  for (let t = 0; t < triangles.length; t++) {
    const next = t % 3 === 2 ? t - 2 : t + 1;
    const [[ax, az], [bx, bz]] = [place(triangles[t]!), place(triangles[next]!)];
    if (Math.max(az, bz) <= low || Math.min(az, bz) >= high) continue;
    for (const z of [az, bz].map((one) => Math.min(high, Math.max(low, one))))
      most = Math.max(most, az === bz ? Math.max(ax, bx) : ax + ((z - az) / (bz - az)) * (bx - ax));
  }
  return most;
}

/** Of the sharpest bend there is. */
const FREE = 0.98;
