/** Vessels and columns to begin with. */
import { carried, line, type Recipe, type RecipeStep } from './recipe';

/** Half a profile, turned and hollowed. */
const POT: readonly RecipeStep[] = [
  {
    kind: 'outline',
    name: 'Half profile',
    rows: {
      points: [
        { x: '0 mm', y: '0 mm' },
        { x: '28 mm', y: '0 mm', radius: '6 mm' },
        { x: '44 mm', y: '38 mm', radius: '30 mm' },
        { x: '30 mm', y: '90 mm' },
        { x: '0 mm', y: '90 mm' },
      ],
      bores: [],
    },
  },
  { kind: 'turn', name: 'Solid', set: { material: 'clay' }, from: { section: 0 } },
  {
    kind: 'hollow',
    name: 'Pot',
    set: { wall: '3.5 mm', floor: '4 mm', open: 'end', rim: 'rounded' },
    from: { body: 1 },
  },
];

export const VESSELS: readonly Recipe[] = [
  {
    name: 'Twisted vessel',
    group: 'Vessels',
    says: 'a star, twisted and hollow',
    words: ['vase', 'swirl vase', 'twisted pot', 'twisted', 'star', 'hollow', 'jar', 'vessel'],
    steps: [
      line('Axis', [
        [0, 0, 0],
        [0, 0, 110],
      ]),
      {
        kind: 'star',
        name: 'Star',
        set: { size: '70 mm', valley: '0.84', radius: '5 mm', valleyRadius: '6 mm' },
      },
      carried(0, 1, 'Solid', { twistBy: 'total', twist: '90 deg', material: 'clay' }),
      {
        kind: 'hollow',
        name: 'Vessel',
        set: { wall: '2.5 mm', floor: '3 mm', open: 'end' },
        from: { body: 2 },
      },
    ],
  },
  {
    name: 'Turned pot',
    group: 'Vessels',
    says: 'half a profile turned, then hollow',
    words: ['pot', 'bowl', 'jar', 'vessel', 'vase', 'turned', 'lathe', 'hollow'],
    steps: POT,
  },
  {
    name: 'Ribbed pot',
    group: 'Vessels',
    says: 'a turned pot with ribs laid on it',
    words: ['ribbed vessel', 'scalloped', 'melon pot', 'ribs', 'pot', 'vessel'],
    steps: [
      ...POT,
      line(
        'Rib line',
        [
          [31.2, 0, 7.6],
          [44, 0, 38],
          [31.4, 0, 84.8],
        ],
        '30 mm',
      ),
      { kind: 'round', name: 'Rib section', set: { diameter: '7 mm' } },
      carried(3, 4, 'Rib', {
        startShape: 'domed',
        startSize: '3.5 mm',
        endShape: 'domed',
        endSize: '3.5 mm',
        material: 'clay',
      }),
      { kind: 'repeat', name: 'Ribs', set: { copies: '10' }, from: { of: 5 } },
      { kind: 'add', name: 'Ribbed pot', from: { bodies: [2, 6] } },
    ],
  },
  {
    name: 'Twisted column',
    group: 'Vessels',
    says: 'a star carried up and twisted',
    words: ['candle', 'column', 'finial', 'drop', 'twisted', 'bar'],
    steps: [
      line('Axis', [
        [0, 0, 0],
        [0, 0, 120],
      ]),
      {
        kind: 'star',
        name: 'Star',
        set: { size: '24 mm', valley: '0.78', radius: '0.8 mm', valleyRadius: '1 mm' },
      },
      carried(0, 1, 'Column', { twistBy: 'total', twist: '180 deg', material: 'beeswax' }),
    ],
  },
];
