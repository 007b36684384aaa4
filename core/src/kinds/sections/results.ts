/** What is measured of every section. */
import type { Result } from '../../kind/value';
import type { Section } from '../../section/section';

/** Figures that every section has. */
export function sectionResults({
  area,
  perimeter,
  centroid,
  second,
  box,
  symmetry,
  wall,
}: Section): Result[] {
  const off = Math.hypot(...centroid) > 1e-9 * Math.sqrt(area);
  return [
    { name: 'area', label: 'area', value: area, quantity: 'area' },
    { name: 'perimeter', label: 'perimeter', value: perimeter, quantity: 'length' },
    { name: 'sectionWidth', label: 'width', value: box.right - box.left, quantity: 'length' },
    { name: 'sectionHeight', label: 'height', value: box.high - box.low, quantity: 'length' },
    ...(off
      ? ([
          { name: 'centroidX', label: 'centroid, right', value: centroid[0], quantity: 'length' },
          { name: 'centroidY', label: 'centroid, up', value: centroid[1], quantity: 'length' },
        ] as const)
      : []),
    {
      name: 'secondX',
      label: 'second moment about its level axis',
      value: second.xx,
      quantity: 'secondMoment',
    },
    { name: 'secondY', label: 'about its upright axis', value: second.yy, quantity: 'secondMoment' },
    ...(Math.abs(second.xy) > 1e-9 * (second.xx + second.yy)
      ? ([
          { name: 'productXY', label: 'product moment', value: second.xy, quantity: 'secondMoment' },
        ] as const)
      : []),
    ...(Number.isFinite(symmetry) && symmetry > 1
      ? ([{ name: 'symmetry', label: 'symmetry', value: symmetry, quantity: 'number' }] as const)
      : []),
    ...(wall !== undefined
      ? ([{ name: 'wall', label: 'wall', value: wall, quantity: 'length' }] as const)
      : []),
  ];
}
