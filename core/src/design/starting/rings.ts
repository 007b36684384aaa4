/** Rings and ropes to begin with. */
import { carried, line, type Recipe } from './recipe';

export const RINGS: readonly Recipe[] = [
  {
    name: 'Finger ring',
    group: 'Rings and ropes',
    says: 'a profile carried round a circle',
    words: ['ring size', 'jewellery', 'wedding ring', 'washer', 'band', 'hoop', 'circle', 'ring'],
    steps: [
      { kind: 'loop', name: 'Circle', set: { shape: 'circle', size: 'ring(54)' } },
      { kind: 'rectangle', name: 'Profile', set: { width: '5 mm', height: '2 mm', radius: '0.9 mm' } },
      carried(0, 1, 'Ring', { hold: 'facing', material: 'silver' }),
    ],
  },
  {
    name: 'Rope ring',
    group: 'Rings and ropes',
    says: 'three strands laid round a circle',
    words: ['twisted ring', 'bracelet', 'strands', 'cord', 'laid', 'ring'],
    steps: [
      { kind: 'round', name: 'Strand', set: { diameter: '1.9 mm' } },
      { kind: 'loop', name: 'Circle', set: { shape: 'circle', size: '24 mm' } },
      {
        kind: 'winding',
        name: 'Strands',
        set: { turns: '8', offset: '1.2 mm', strands: '3' },
        from: { path: 1 },
      },
      carried(2, 0, 'Rope ring', { material: 'silver' }),
    ],
  },
  {
    name: 'Rope',
    group: 'Rings and ropes',
    says: 'strands laid about an axis',
    words: ['wire rope', 'cable', 'braid', 'knot', 'strand', 'cord', 'lay', 'twist'],
    steps: [
      line('Axis', [
        [0, 0, 0],
        [0, 0, 100],
      ]),
      {
        kind: 'winding',
        name: 'Strands',
        set: { turns: '3', offset: '4.8 mm', strands: '6' },
        from: { path: 0 },
      },
      { kind: 'round', name: 'Strand', set: { diameter: '4 mm' } },
      carried(1, 2, 'Rope', { material: 'stainless' }),
    ],
  },
  {
    name: 'Endless band',
    group: 'Rings and ropes',
    says: 'a strip with a half turn',
    words: ['endless', 'half turn', 'ribbon ring', 'band', 'strip'],
    steps: [
      { kind: 'loop', name: 'Ring' },
      { kind: 'strip', name: 'Strip', set: { width: '12 mm', thickness: '1.2 mm' } },
      carried(0, 1, 'Band', { twistBy: 'total', twist: '180 deg', material: 'brass' }),
    ],
  },
];
