/** Grips of repeated copies: how far one stands from the next, or the last from the first, and the axis they go about. */
import { inverse, moved, type Affine } from '../../geometry/motion';
import { add, distance, dot, scale, sub, type Vec3 } from '../../geometry/vector';
import { ledBy, lineMark, type Mark } from '../../kind/mark';
import type { Value } from '../../kind/value';
import { cellField, writtenRows } from '../../measure/field';
import { middleAbout } from '../../solid/body/body';
import { turnAbout } from './axis';

type Resolved = Readonly<Record<string, { readonly value: number }>>;

/** How copies are led: the axis, a point on it, and where each of them stands; none of those along a path. */
export interface Copies {
  readonly axis: Vec3;
  readonly point: Vec3;
  readonly maps: readonly Affine[];
}

/** Of the first copy that is there. */
export function repeatMarks(
  first: Value,
  way: string,
  resolved: Resolved,
  { axis, point, maps }: Copies,
): Mark[] {
  if (first.type !== 'body' && first.type !== 'path') return [];
  const out = new Set(writtenRows(resolved, 'left', ['number']).map(([number]) => number));
  const stands = maps.find((_map, i) => !out.has(i + 1));
  if (!stands) return [];
  const middle = first.type === 'body' ? middleAbout(first) : first.at(first.length / 2).position;
  const base = moved(inverse(stands), middle);
  const centre = add(point, scale(axis, dot(sub(base, point), axis)));
  const arm = distance(base, centre);
  const about: Mark = {
    type: 'point',
    led: ledBy('aboutX', 'aboutY', 'aboutZ'),
    name: 'Its axis',
    at: point,
  };
  switch (way) {
    case 'round':
    case 'screw': {
      const field = resolved.step ? 'step' : 'span';
      const [angle, pitch] = [resolved[field]?.value ?? 0, resolved.pitch?.value ?? 0];
      const rise = way === 'screw' ? (pitch * angle) / (2 * Math.PI) : 0;
      const led = add(moved(turnAbout(point, axis, angle), base), scale(axis, rise));
      const turned = add(centre, scale(axis, rise));
      return [
        about,
        ...(arm > 0 ? [{ type: 'turn', field, centre: turned, axis, at: led } as const] : []),
        ...(way === 'screw' && pitch > 0
          ? [lineMark('pitch', centre, add(centre, scale(axis, pitch)), axis, arm)]
          : []),
      ];
    }
    case 'row': {
      const field = resolved.apart ? 'apart' : 'long';
      const by = resolved[field]?.value ?? 0;
      return by > 0 ? [lineMark(field, base, add(base, scale(axis, by)), axis, 0)] : [];
    }
    case 'rows':
      return maps.map((map, i) => ({
        type: 'point',
        led: ledBy(
          ...(['x', 'y', 'z'].map((column) => cellField('places', i, column)) as [string, string, string]),
        ),
        name: `Copy ${i + 1}`,
        number: i + 1,
        at: moved(map, base),
      }));
    case 'mirror':
      return [{ ...about, name: 'The mirror' }];
    default:
      return [];
  }
}
