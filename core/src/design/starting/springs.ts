/** Springs to begin with. */
import { carried, line, type Recipe, type RecipeStep } from './recipe';

/** Wire, coil, body and duty of a compression spring, closed and ground at both ends, its diameter outside. */
const spring = (coil: Readonly<Record<string, string>>): readonly RecipeStep[] => [
  { kind: 'round', name: 'Wire', set: { diameter: '2 mm' } },
  {
    kind: 'helix',
    name: 'Coil',
    // Ground down to its centre line at both ends, that is how long it is.
    set: {
      diameter: '20 mm',
      basis: 'outer',
      turns: '8',
      height: '50 mm',
      heightBasis: 'centres',
      closedStart: '1',
      closedEnd: '1',
      ...coil,
    },
    from: { section: 0 },
  },
  carried(1, 0, 'Spring', { startShape: 'flush', endShape: 'flush' }),
  { kind: 'compression', name: 'Duty', from: { body: 2 } },
];

export const SPRINGS: readonly Recipe[] = [
  {
    name: 'Compression spring',
    group: 'Springs',
    says: 'closed and ground, calculated',
    words: ['spring', 'compression', 'pressure spring', 'push spring', 'coil', 'helical spring'],
    steps: spring({}),
  },
  {
    name: 'Conical spring',
    group: 'Springs',
    says: 'narrows toward the top, calculated',
    words: ['spring', 'cone', 'conical', 'taper', 'bumper'],
    steps: spring({ taper: 'diameter', diameter: '30 mm', endDiameter: '16 mm' }),
  },
  {
    name: 'Extension spring',
    group: 'Springs',
    says: 'close-wound, a side loop at each end',
    words: ['spring', 'extension', 'tension', 'pull', 'draw', 'hook', 'close-wound'],
    steps: [
      { kind: 'round', name: 'Wire', set: { diameter: '2 mm' } },
      {
        kind: 'helix',
        name: 'Coil',
        set: { diameter: '18 mm', basis: 'mean', turns: '14', height: '28.28 mm' },
        from: { section: 0 },
      },
      { kind: 'arc', name: 'Loop', set: { radius: '8 mm', angle: '290 deg' } },
      {
        kind: 'chain',
        name: 'Coil with loops',
        from: { paths: [2, 1, 2] },
        rows: {
          parts: [
            { way: 'forwards', roll: '0 deg' },
            { way: 'forwards', roll: '90 deg' },
            { way: 'forwards', roll: '270 deg' },
          ],
        },
      },
      carried(3, 0, 'Spring', { material: 'spring-steel' }),
    ],
  },
  {
    name: 'Torsion spring',
    group: 'Springs',
    says: 'a coil with two straight legs',
    words: ['torsion', 'spring with legs', 'leg spring', 'hinge spring', 'peg spring', 'arms'],
    steps: [
      { kind: 'round', name: 'Wire', set: { diameter: '2 mm' } },
      {
        kind: 'helix',
        name: 'Coil',
        set: { diameter: '18 mm', basis: 'mean', turns: '5.25', height: '12 mm' },
      },
      line('Leg', [
        [0, 0, 0],
        [28, 0, 0],
      ]),
      { kind: 'chain', name: 'Coil with legs', from: { paths: [2, 1, 2] } },
      carried(3, 0, 'Spring', { material: 'spring-steel' }),
    ],
  },
  {
    name: 'Flat spiral spring',
    group: 'Springs',
    says: 'strip wound in a plane',
    words: ['clock spring', 'mainspring', 'spiral spring', 'strip', 'coiled spring'],
    steps: [
      { kind: 'spiral', name: 'Spiral', set: { inner: '14 mm', outer: '50 mm', turns: '6' } },
      { kind: 'rectangle', name: 'Strip', set: { width: '8 mm', height: '0.8 mm', radius: '0.2 mm' } },
      carried(0, 1, 'Spring', { hold: 'facing', material: 'spring-steel' }),
    ],
  },
];
