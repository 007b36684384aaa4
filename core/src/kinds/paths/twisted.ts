import { lastWhere } from '../../geometry/search';
import { z } from 'zod';
import { angle, figure, length, pathKind } from '../../kind/kind';
import { eased, easedAt, zoneOf } from '../../geometry/ease';
import { cos, minus, plus, sin, through, times, type Jet } from '../../geometry/jet';
import { cross, norm, sub } from '../../geometry/vector';
import { Complaint } from '../../measure/words';
import type { Curve } from '../../path/curve';
import { movedCurve, partOf } from '../../path/wrap';
import { inverse } from '../../geometry/motion';
import { mappedCurve, type SmoothMap } from '../../path/mapped';
import { pathOf } from '../../path/path';
import { planAbout, samplePath } from '../../path/sample';
import { betweenHeights, placedMarks } from './placed-marks';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';

const schema = z.object({
  angle: angle({ atLeast: -1e4, atMost: 1e4 }),
  from: length(),
  to: length(),
  ease: figure('number', { atLeast: 0, atMost: 0.5 }),
  ...PLACING,
});

/** A path turned about an axis, more and more between two heights on it. */
export const twisted = pathKind({
  kind: 'wrung',
  title: 'Wrung path',
  noun: 'wrung path',
  words: ['wring', 'wrung', 'twist', 'twisted', 'turned', 'torsion', 'swirl'],
  inputs: { path: { takes: 'path' }, ...PLACING_INPUTS },
  schema,
  defaults: { angle: '90 deg', from: '0 mm', to: '60 mm', ease: '0.3', ...PLACING_DEFAULTS },
  evaluate(figures, { path, place }) {
    const { from, to, ease } = figures;
    if (!(to > from)) throw new Complaint('The upper height must lie above the lower one.', 'to');
    const at = placedAt(figures, place);
    const levels = easedAt(ease).map((h) => from + h * (to - from));
    const back = inverse(at);
    const pieces = path.pieces.flatMap((piece) => {
      const local = movedCurve(piece, back);
      // Cut where the wringing changes over, so that every piece is smooth.
      return cutAtHeights(local, levels).map((part) => {
        const middle = new Float64Array(6);
        part.first(part.span / 2, middle);
        return movedCurve(
          mappedCurve(part, wring(figures, zoneOf(middle[2]!, levels)), lobesOf(figures)),
          at,
        );
      });
    });
    return pathOf(pieces);
  },
  marks: (path, set, _filled, resolved) =>
    placedMarks(set, resolved, (at) => {
      const { positions } = samplePath(path, planAbout(path, LOOKS));
      let reach = 0;
      for (let i = 0; i < positions.length; i += 3)
        reach = Math.max(
          reach,
          norm(cross(at.ez, sub([positions[i]!, positions[i + 1]!, positions[i + 2]!], at.origin))),
        );
      return betweenHeights('wring', resolved, at, reach);
    }),
  results: () => [],
});

/** Points by which its reach from the axis is seen. */
const LOOKS = 200;

const lobesOf = ({ angle: turned }: { angle: number }): number =>
  Math.max(2, Math.ceil(Math.abs(turned) / Math.PI));

/** Parts of a curve between the places where it passes one of the heights. */
function cutAtHeights(curve: Curve, heights: readonly number[]): Curve[] {
  const d = new Float64Array(6);
  const height = (u: number) => {
    curve.first(u, d);
    return d[2]!;
  };
  const looks = 64 * (curve.samplingHint ?? 1);
  const cuts: number[] = [];
  for (let i = 0; i < looks; i++) {
    const [a, b] = [(curve.span * i) / looks, (curve.span * (i + 1)) / looks];
    const [za, zb] = [height(a), height(b)];
    for (const level of heights) {
      if (za > level === zb > level) continue;
      cuts.push(lastWhere((u) => height(u) > level === za > level, a, b));
    }
  }
  cuts.sort((a, b) => a - b);
  // Where a curve only touches a height, rounding cuts off a sliver: it stays with its neighbour.
  const kept = [0, ...cuts.filter((u) => u > 1e-6 * curve.span && u < (1 - 1e-6) * curve.span), curve.span];
  const apart = kept.filter((u, i) => i === 0 || u === curve.span || u - kept[i - 1]! > 1e-6 * curve.span);
  return apart.slice(1).map((to, i) => partOf(curve, apart[i]!, to));
}

interface Wringing {
  readonly angle: number;
  readonly from: number;
  readonly to: number;
  readonly ease: number;
}

function wring({ angle: total, from, to, ease }: Wringing, zone: number): SmoothMap {
  const height = to - from;
  const angleBy = (z0: number): Jet => {
    const [a, b, c, d] = eased((z0 - from) / height, ease, zone);
    return [total * a, (total * b) / height, (total * c) / height ** 2, (total * d) / height ** 3];
  };
  return {
    first(d) {
      const x = d[0]!;
      const y = d[1]!;
      const dx = d[3]!;
      const dy = d[4]!;
      const by = eased((d[2]! - from) / height, ease, zone);
      const c = Math.cos(total * by[0]);
      const s = Math.sin(total * by[0]);
      const spin = ((total * by[1]) / height) * d[5]!;
      d[0] = c * x - s * y;
      d[1] = s * x + c * y;
      d[3] = c * dx - s * dy - spin * d[1];
      d[4] = s * dx + c * dy + spin * d[0];
    },
    jets([x, y, z]) {
      const turned = through(angleBy(z[0]), z);
      const [c, s] = [cos(turned), sin(turned)];
      return [minus(times(c, x), times(s, y)), plus(times(s, x), times(c, y)), z];
    },
  };
}
