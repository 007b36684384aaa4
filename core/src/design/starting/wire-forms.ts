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
