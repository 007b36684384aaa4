/** Wire forms and cages to begin with. */
import { carried, line, type Recipe } from './recipe';

export const WIRE_FORMS: readonly Recipe[] = [
  {
    name: 'Hook',
    group: 'Wire forms',
    says: 'a rod bent to an S',
    words: ['s-hook', 'hanger', 'pendant', 'bent wire'],
    steps: [
      { kind: 'round', name: 'Rod', set: { diameter: '5 mm' } },
      line(
        'Bends',
        [
          [0, 0, 30],
          [0, 0, 0],
          [30, 0, 0],
          [30, 0, 90],
          [60, 0, 90],
          [60, 0, 55],
        ],
        '14.5 mm',
      ),
      carried(1, 0, 'Hook', {
        startShape: 'domed',
        startSize: '2.5 mm',
        endShape: 'domed',
        endSize: '2.5 mm',
      }),
    ],
  },
  {
    name: 'Wire clip',
    group: 'Wire forms',
    says: 'a wire bent in a plane',
    words: ['clip', 'clasp', 'retainer', 'staple', 'clamp', 'bracket', 'bent wire'],
    steps: [
      { kind: 'round', name: 'Wire', set: { diameter: '1.5 mm' } },
      line(
        'Bends',
        [
          [-16, 6, 0],
          [-10, 0, 0],
          [-10, 0, 34],
          [10, 0, 34],
          [10, 0, 0],
          [16, 6, 0],
        ],
        '4 mm',
      ),
      carried(1, 0, 'Clip', { material: 'spring-steel' }),
    ],
  },
  {
    name: 'Closed wire frame',
    group: 'Wire forms',
    says: 'a bent wire that closes on itself',
    words: ['frame', 'wire frame', 'link', 'basket', 'closed', 'endless'],
    steps: [
      { kind: 'round', name: 'Wire', set: { diameter: '3 mm' } },
      {
        ...line(
          'Bends',
          [
            [-40, -25, 0],
            [40, -25, 0],
            [40, 25, 14],
            [-40, 25, 14],
          ],
          '12 mm',
        ),
        set: { corners: 'bent', radius: '12 mm', closed: 'closed' },
      },
      carried(1, 0, 'Frame', { material: 'stainless' }),
    ],
  },
  {
    name: 'Basket',
    group: 'Wire forms',
    says: 'ribs bent under a closed rim',
    words: ['wire basket', 'tray', 'rack', 'crate', 'carrier', 'grill'],
    steps: [
      { kind: 'round', name: 'Wire', set: { diameter: '3 mm' } },
      {
        ...line('Rim line', [
          [-60, -40, 60],
          [60, -40, 60],
          [60, 40, 60],
          [-60, 40, 60],
        ]),
        set: { corners: 'bent', radius: '15 mm', closed: 'closed' },
      },
      carried(1, 0, 'Rim', { material: 'stainless' }),
      line(
        'Rib line',
        [
          [-60, 0, 59.4],
          [-60, 0, 0],
          [60, 0, 0],
          [60, 0, 59.4],
        ],
        '12 mm',
      ),
      carried(3, 0, 'Rib', { material: 'stainless' }),
      {
        kind: 'repeat',
        name: 'Ribs',
        set: { way: 'rows' },
        rows: {
          places: [-20, 0, 20].map((y) => ({ x: '0 mm', y: `${y} mm`, z: '0 mm' })),
        },
        from: { of: 4 },
      },
      { kind: 'add', name: 'Basket', from: { bodies: [2, 5] } },
    ],
  },
  {
    name: 'Straight axis',
    group: 'Wire forms',
    says: 'a path to carry a section along',
    words: ['axis', 'straight', 'line', 'upright', 'bar'],
    steps: [
      line('Axis', [
        [0, 0, 0],
        [0, 0, 100],
      ]),
    ],
  },
  {
    name: 'Dome cage',
    group: 'Cages',
    says: 'wires up and round a dome',
    words: ['dome', 'lampshade', 'guard', 'basket', 'skep', 'cage'],
    steps: [
      {
        kind: 'cage',
        name: 'Wires',
        set: { shape: 'dome', diameter: '140 mm', height: '110 mm', opening: '30 mm' },
      },
      { kind: 'round', name: 'Wire', set: { diameter: '2.5 mm' } },
      carried(0, 1, 'Cage', { material: 'brass' }),
    ],
  },
];
