/** What is measured of any body. */
import { addMass, centreOfMass, inertiaOf } from '../geometry/mass';
import type { Result } from './value';
import type { Bodily } from '../mesh/data/body';
import { EXACT, withinOf, type Body, type Within } from '../solid/body/body';
import { extentTogether } from '../mesh/data/extent';

/** What is measured of a body, or of several together. */
export type Measured = Pick<Bodily, 'volume' | 'surface' | 'extent' | 'material' | 'mass'>;

/** Volume, surface, mass, centre and inertia of a body. */
export function massResults({ volume, surface, extent, material, mass }: Measured, off?: Within): Result[] {
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
  const centre = within(off?.centre);
  const inertia = within(off && (off.inertia * density) / 1000);
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
    { name: 'centreX', label: 'centre of mass, x', value: x, quantity: 'length', ...centre },
    { name: 'centreY', label: 'centre of mass, y', value: y, quantity: 'length', ...centre },
    { name: 'centreZ', label: 'centre of mass, z', value: z, quantity: 'length', ...centre },
    {
      name: 'inertiaX',
      label: 'moment of inertia about x through it',
      value: ix,
      quantity: 'inertia',
      ...inertia,
    },
    { name: 'inertiaY', label: 'about y', value: iy, quantity: 'inertia', ...inertia },
    { name: 'inertiaZ', label: 'about z', value: iz, quantity: 'inertia', ...inertia },
  ];
}

/** Extent of a body along the axes. */
export const extentResults = ({ extent: [least, most] }: Pick<Bodily, 'extent'>, off?: Within): Result[] =>
  (['X', 'Y', 'Z'] as const).map((axis, k) => ({
    name: `extent${axis}`,
    label: `extent, ${axis.toLowerCase()}`,
    value: most[k]! - least[k]!,
    quantity: 'length',
    ...within(off?.extent),
  }));

const within = (off: number | undefined) => (off ? { within: off } : {});

/** What is measured of any body. */
export const anyBodyResults = (body: Body): Result[] => [
  ...massResults(body, withinOf(body)),
  ...extentResults(body, withinOf(body)),
];

/** The same of several bodies of one material together, all measured; what they share counts for each of them. */
export function bodiesResults(bodies: readonly Body[]): Result[] {
  const [first] = bodies as [Body];
  const sum = (of: (body: Body) => number) => bodies.reduce((total, body) => total + of(body), 0);
  const offs = bodies.map((body) => withinOf(body) ?? EXACT);
  const isOff = bodies.some((body) => withinOf(body));
  const whole: Measured = {
    material: first.material,
    volume: sum(({ volume }) => volume),
    surface: sum(({ surface }) => surface),
    mass: addMass(bodies.map(({ mass }) => mass)),
    extent: extentTogether(bodies).value(),
  };
  const off = isOff ? withinTogether(bodies, offs, whole) : undefined;
  return [...massResults(whole, off), ...extentResults(whole, off)];
}

/** How far the results of several bodies together may be off. */
function withinTogether(
  bodies: readonly Body[],
  offs: readonly Within[],
  { volume, extent: [least, most] }: Measured,
): Within {
  const size = Math.max(...most.map((x, k) => x - least[k]!));
  const total = (of: (off: Within, body: Body) => number) =>
    offs.reduce((all, off, i) => all + of(off, bodies[i]!), 0);
  // Each moves the centre of all by its share, and by what its volume may be off, as far away as it can lie.
  const centre = total((off, body) => off.centre * body.volume + off.volume * size) / volume;
  return {
    volume: total((off) => off.volume),
    surface: total((off) => off.surface),
    extent: Math.max(...offs.map((off) => off.extent)),
    centre,
    inertia: total(
      (off, body) => off.inertia + (off.volume + (2 * off.centre * body.volume) / size) * size ** 2,
    ),
  };
}
