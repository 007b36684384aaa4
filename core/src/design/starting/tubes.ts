/** Tubes and junctions to begin with. */
import { carried, line, type Point, type Recipe, type RecipeStep } from './recipe';

/** A straight tube from one end to the other, by its name. */
type Straight = readonly [name: string, from: Point, to: Point];

/** Straight tubes that meet, and the junction they make. */
const junction = (name: string, ...straights: readonly Straight[]): readonly RecipeStep[] => [
  { kind: 'tube', name: 'Tube', set: { outer: '22 mm', wall: '1.5 mm' } },
  ...straights.flatMap(([called, from, to], i): RecipeStep[] => [
    line(`${called} line`, [from, to]),
    carried(1 + 2 * i, 0, called, { material: 'stainless' }),
  ]),
  { kind: 'join', name, from: { tubes: straights.map((_straight, i) => 2 + 2 * i) } },
];

export const TUBES: readonly Recipe[] = [
  {
    name: 'Bent tube',
    group: 'Tubes',
    says: 'straights and bends',
    words: ['bent pipe', 'bend tube', 'tube bend', 'hose', 'exhaust', 'handrail', 'tube', 'pipe', 'stand'],
    steps: [
      { kind: 'run', name: 'Run', set: { radius: '30 mm' } },
      { kind: 'tube', name: 'Tube', set: { outer: '16 mm', wall: '1.5 mm' } },
      carried(0, 1, 'Bent tube', { material: 'mild-steel' }),
    ],
  },
  {
    name: 'Tee',
    group: 'Tubes',
    says: 'one tube set on another, bores open',
    words: [
      't-piece',
      'junction',
      'saddle',
      'mitre',
      'pipe joint',
      'tube joint',
      'branch pipe',
      'fitting',
      'tube',
      'pipe',
    ],
    steps: junction('Tee', ['Trunk', [-60, 0, 0], [60, 0, 0]], ['Branch', [0, 0, 0], [0, 0, 60]]),
  },
  {
    name: 'Y junction',
    group: 'Tubes',
    says: 'three tubes that meet',
    words: ['tube', 'pipe', 'junction', 'wye', 'y-piece', 'fork', 'breeches', 'branch', 'duct'],
    steps: junction(
      'Y',
      ['Trunk', [0, 0, -60], [0, 0, 0]],
      ['Left branch', [0, 0, 0], [-42, 0, 52]],
      ['Right branch', [0, 0, 0], [42, 0, 52]],
    ),
  },
  {
    name: 'Manifold',
    group: 'Tubes',
    says: 'a trunk with three branches',
    words: ['tube', 'pipe', 'manifold', 'header', 'collector', 'branches', 'distributor'],
    steps: junction(
      'Manifold',
      ['Trunk', [-90, 0, 0], [90, 0, 0]],
      ['First branch', [-55, 0, 0], [-55, 0, 50]],
      ['Second branch', [0, 0, 0], [0, 0, 50]],
      ['Third branch', [55, 0, 0], [55, 0, 50]],
    ),
  },
  {
    name: 'Reducer',
    group: 'Tubes',
    says: 'a tube that narrows',
    words: ['reduction', 'diffuser', 'nozzle', 'hopper', 'funnel', 'tube', 'pipe', 'cone'],
    steps: [
      line('Axis', [
        [0, 0, 0],
        [0, 0, 90],
      ]),
      { kind: 'tube', name: 'Tube', set: { outer: '40 mm', wall: '2 mm' } },
      {
        ...carried(0, 1, 'Reducer', {
          size: 'stations',
          sizeRun: 'linear',
          wallRun: 'kept',
          material: 'stainless',
        }),
        rows: {
          sizes: [
            { part: '0', width: '40 mm' },
            { along: '25 mm', width: '40 mm' },
            { along: '65 mm', width: '24 mm' },
            { part: '1', width: '24 mm' },
          ],
        },
      },
    ],
  },
  {
    name: 'Tube coil',
    group: 'Tubes',
    says: 'a tube wound to a helix',
    words: ['heating coil', 'cooling coil', 'heat exchanger', 'pipe coil', 'coil', 'tube', 'pipe'],
    steps: [
      { kind: 'tube', name: 'Tube', set: { outer: '8 mm', wall: '0.8 mm' } },
      {
        kind: 'helix',
        name: 'Coil',
        set: { diameter: '90 mm', basis: 'outer', turns: '6', height: '84 mm' },
        from: { section: 0 },
      },
      carried(1, 0, 'Tube coil', { material: 'copper' }),
    ],
  },
];
