/** What is measured of any body. */
import { centreOfMass, inertiaOf } from '../../geometry/mass';
import type { Figure } from '../../kind/value';
import type { Bodily } from '../../mesh/bodily';
import type { Within } from '../../solid/body';

/** Volume, surface, mass, centre and inertia of a body. */
export function massFigures({ volume, surface, extent, material, mass }: Bodily, off?: Within): Figure[] {
  const [least, most] = extent;
  const { density } = material;
  const size = Math.max(...most.map((x, k) => x - least[k]!));
  // What is nothing but rounding is nothing.
  const [x, y, z] = centreOfMass(mass).map((at) => (Math.abs(at) < 1e-9 * size ? 0 : at)) as [
    number,
    number,
    number,
  ];
  const [ix, iy, iz] = inertiaOf(mass).map((one) => (one * density) / 1000) as [number, number, number];
  return [
    {
      name: 'volume',
      label: 'volume',
      head: 'Volume',
      value: volume,
      quantity: 'volume',
      ...within(off?.volume),
    },
    {
      name: 'surface',
      label: 'surface',
      head: 'Surface',
      value: surface,
      quantity: 'area',
      ...within(off?.surface),
    },
    {
      name: 'mass',
      label: 'mass',
      head: 'Mass',
      value: (volume * density) / 1000,
      quantity: 'mass',
      ...within(off && (off.volume * density) / 1000),
    },
    { name: 'centreX', label: 'centre of mass, x', value: x, quantity: 'length' },
    { name: 'centreY', label: 'centre of mass, y', value: y, quantity: 'length' },
    { name: 'centreZ', label: 'centre of mass, z', value: z, quantity: 'length' },
    { name: 'inertiaX', label: 'moment of inertia about x through it', value: ix, quantity: 'inertia' },
    { name: 'inertiaY', label: 'about y', value: iy, quantity: 'inertia' },
    { name: 'inertiaZ', label: 'about z', value: iz, quantity: 'inertia' },
  ];
}

/** Extent of a body along the axes. */
export const extentFigures = ({ extent: [least, most] }: Bodily, off?: Within): Figure[] =>
  (['X', 'Y', 'Z'] as const).map((axis, k) => ({
    name: `extent${axis}`,
    label: `extent, ${axis.toLowerCase()}`,
    value: most[k]! - least[k]!,
    quantity: 'length',
    ...within(off?.extent),
  }));

const within = (off: number | undefined) => (off ? { within: off } : {});
