/** The compression spring that a body of round wire on a coil makes. */
import type { Figure } from '../../kind/value';
import { MATERIALS, type MaterialId } from '../../measure/materials';
import { Complaint, mm, words } from '../../measure/words';
import { endReach } from '../../path/coil';
import { dot, sub } from '../../geometry/vector';
import type { Path } from '../../path/path';
import type { Section } from '../../section/section';
import { activeCoils, compressionSpring, type SpringFigures } from '../../trade/spring/compression';
import type { Plane } from '../../geometry/plane';

interface SpringGiven {
  readonly ends: 'none' | 'open' | 'closed' | 'ground';
  readonly loadedLength?: number | undefined;
  readonly material: MaterialId;
}

/** @throws Complaint where there is no coil, or not of round wire */
export function springOf(
  { ends, loadedLength, material }: SpringGiven,
  path: Path,
  section: Section,
  ground?: readonly (Plane | undefined)[],
): SpringFigures | undefined {
  if (ends === 'none') return undefined;
  if (!path.coil) throw new Complaint('Only a coil can be reckoned as a spring.', 'ends');
  if (section.name !== 'round')
    throw new Complaint('Springs are reckoned of round wire only, so far.', 'ends');
  const { shape } = path.coil;
  const stuff = MATERIALS[material];
  if (!('shear' in stuff))
    throw new Complaint(`No shear modulus is known for ${stuff.name}: choose a spring material.`, 'material');
  const active = activeCoils(shape.turns, ends);
  if (active <= 0)
    throw new Complaint(
      'A coil at each end does not work: with these ends more than 2 turns are needed.',
      'ends',
    );
  const groundTo = groundLength(path, ground);
  const free = groundTo ?? shape.height + endReach(shape, section.diameter);
  if (loadedLength !== undefined && loadedLength > free)
    throw new Complaint(words`The spring is only ${mm(free)} long when free.`, 'loadedLength');
  return compressionSpring({
    shape,
    ends,
    wire: section.diameter,
    shear: stuff.shear,
    freeLength: free,
    groundToPlanes: groundTo !== undefined,
    ...(loadedLength !== undefined && { loadedLength }),
  });
}

/** Length between two planes square to the axis that its ends are ground to. */
function groundLength({ coil }: Path, planes: readonly (Plane | undefined)[] = []): number | undefined {
  const [start, end] = planes;
  if (!coil || !start || !end) return undefined;
  if (Math.abs(dot(start.normal, coil.axis)) < 1 - 1e-9) return undefined;
  return Math.abs(dot(sub(end.point, start.point), coil.axis));
}

export function springFigures({ loaded, ...spring }: SpringFigures): Figure[] {
  return [
    { name: 'index', label: 'index', value: spring.index, quantity: 'number' },
    { name: 'totalCoils', label: 'total coils', value: spring.totalCoils, quantity: 'number' },
    { name: 'activeCoils', label: 'active coils', value: spring.activeCoils, quantity: 'number' },
    {
      name: 'freeLength',
      label:
        spring.orderedLength === undefined
          ? 'free length, between its ground ends'
          : 'free length, over its ends',
      value: spring.freeLength,
      quantity: 'length',
    },
    ...(spring.orderedLength === undefined
      ? []
      : ([
          {
            name: 'orderedLength',
            label: 'pitch × turns + wire',
            value: spring.orderedLength,
            quantity: 'length',
          },
        ] as const)),
    { name: 'solidLength', label: 'solid length', value: spring.solidLength, quantity: 'length' },
    { name: 'axialGap', label: 'axial gap', value: spring.axialGap, quantity: 'length' },
    { name: 'rate', label: 'rate', value: spring.rate, quantity: 'rate' },
    { name: 'linearTravel', label: 'rate holds for', value: spring.linearTravel, quantity: 'length' },
    ...(loaded
      ? ([
          { name: 'loadedLength', label: 'loaded length', value: loaded.length, quantity: 'length' },
          { name: 'travel', label: 'travel', value: loaded.travel, quantity: 'length' },
          { name: 'load', label: 'load', value: loaded.force, quantity: 'force' },
          { name: 'stress', label: 'stress there', value: loaded.stress, quantity: 'stress' },
        ] as const)
      : []),
  ];
}
