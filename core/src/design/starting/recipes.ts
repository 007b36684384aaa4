/** All beginnings that are offered. */
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

/** Straight tubes that meet, each from the origin's neighbourhood on, and the junction they make. */
const junction = (
  name: string,
  ...ends: readonly (readonly [string, readonly [number, number, number][]])[]
) => [
  { kind: 'tube', name: 'Tube', set: { outer: '22 mm', wall: '1.5 mm' } },
  ...ends.flatMap(([called, points], i): RecipeStep[] => [
    line(`${called} line`, points),
    carried(1 + 2 * i, 0, called, { material: 'stainless' }),
  ]),
  { kind: 'join', name, from: { tubes: ends.map((_end, i) => 2 + 2 * i) } },
];

export const RECIPES: readonly Recipe[] = [
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
    steps: junction(
      'Tee',
      [
        'Trunk',
        [
          [-60, 0, 0],
          [60, 0, 0],
        ],
      ],
      [
        'Branch',
        [
          [0, 0, 0],
          [0, 0, 60],
        ],
      ],
    ),
  },
  {
    name: 'Y junction',
    group: 'Tubes',
    says: 'three tubes that meet',
    words: ['tube', 'pipe', 'junction', 'wye', 'y-piece', 'fork', 'breeches', 'branch', 'duct'],
    steps: junction(
      'Y',
      [
        'Trunk',
        [
          [0, 0, -60],
          [0, 0, 0],
        ],
      ],
      [
        'Left branch',
        [
          [0, 0, 0],
          [-42, 0, 52],
        ],
      ],
      [
        'Right branch',
        [
          [0, 0, 0],
          [42, 0, 52],
        ],
      ],
    ),
  },
  {
    name: 'Manifold',
    group: 'Tubes',
    says: 'a trunk with three branches',
    words: ['tube', 'pipe', 'manifold', 'header', 'collector', 'branches', 'distributor'],
    steps: junction(
      'Manifold',
      [
        'Trunk',
        [
          [-90, 0, 0],
          [90, 0, 0],
        ],
      ],
      [
        'First branch',
        [
          [-55, 0, 0],
          [-55, 0, 50],
        ],
      ],
      [
        'Second branch',
        [
          [0, 0, 0],
          [0, 0, 50],
        ],
      ],
      [
        'Third branch',
        [
          [55, 0, 0],
          [55, 0, 50],
        ],
      ],
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
        ...carried(0, 1, 'Reducer', { size: 'stations', sizeRun: 'linear', material: 'stainless' }),
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
    steps: [
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
  {
    name: 'Bladed wheel',
    group: 'Blades and threads',
    says: 'blades on a bored hub',
    words: ['wheel', 'impeller', 'fan', 'turbine', 'propeller', 'rotor', 'blades', 'vane'],
    steps: [
      {
        kind: 'cylinder',
        name: 'Hub',
        set: { diameter: '30 mm', height: '22 mm', bore: '10 mm', material: 'brass' },
      },
      {
        kind: 'blade',
        name: 'Blades',
        set: {
          copies: '7',
          hub: '30 mm',
          tip: '80 mm',
          height: '16 mm',
          pitch: '110 mm',
          thickness: '2 mm',
          tipThickness: '1.5 mm',
          originZ: '3 mm',
          material: 'brass',
        },
      },
      { kind: 'add', name: 'Wheel', from: { bodies: [0, 1] } },
    ],
  },
  {
    name: 'Auger',
    group: 'Blades and threads',
    says: 'one flight on a shaft',
    words: ['screw conveyor', 'feed screw', 'conveyor', 'flight', 'helical blade'],
    steps: [
      {
        kind: 'cylinder',
        name: 'Shaft',
        set: { diameter: '16 mm', height: '130 mm', material: 'stainless' },
      },
      {
        kind: 'blade',
        name: 'Flight',
        set: {
          copies: '1',
          hub: '16 mm',
          tip: '46 mm',
          height: '90 mm',
          pitch: '28 mm',
          thickness: '3 mm',
          tipThickness: '2 mm',
          originZ: '10 mm',
          material: 'stainless',
        },
      },
      { kind: 'add', name: 'Auger', from: { bodies: [0, 1] } },
    ],
  },
  {
    name: 'Bolt',
    group: 'Blades and threads',
    says: 'a hexagon head and a metric thread',
    words: ['external thread', 'hexagon bolt', 'fastener', 'screw', 'metric', 'stud'],
    steps: [
      { kind: 'polygon', name: 'Hexagon', set: { sides: '6', size: '19 mm', across: 'flats' } },
      {
        kind: 'extrude',
        name: 'Head',
        set: { height: '7.5 mm', material: 'mild-steel' },
        from: { section: 0 },
      },
      {
        kind: 'thread',
        name: 'Thread',
        set: { size: 'M12', height: '30.5 mm', originZ: '-30 mm', material: 'mild-steel' },
      },
      { kind: 'add', name: 'Bolt', from: { bodies: [1, 2] } },
    ],
  },
  {
    name: 'Nut',
    group: 'Blades and threads',
    says: 'a hexagon with a thread cut into it',
    words: ['internal thread', 'female thread', 'tapped hole', 'hexagon nut', 'metric'],
    steps: [
      { kind: 'polygon', name: 'Hexagon', set: { sides: '6', size: '19 mm', across: 'flats' } },
      {
        kind: 'extrude',
        name: 'Blank',
        set: { height: '10 mm', material: 'mild-steel' },
        from: { section: 0 },
      },
      {
        kind: 'thread',
        name: 'Thread',
        set: { size: 'M12', height: '12 mm', originZ: '-1 mm', clearance: '0.1 mm', material: 'mild-steel' },
      },
      { kind: 'subtract', name: 'Nut', from: { body: 1, taken: [2] } },
    ],
  },
  {
    name: 'Worm',
    group: 'Blades and threads',
    says: 'a trapezoidal thread on a shaft',
    words: ['lead screw', 'trapezoidal thread', 'worm gear', 'trapezoidal', 'spindle'],
    steps: [
      { kind: 'cylinder', name: 'Shaft', set: { diameter: '10 mm', height: '90 mm', material: 'brass' } },
      {
        kind: 'thread',
        name: 'Thread',
        set: {
          size: 'Tr16',
          height: '40 mm',
          originZ: '25 mm',
          runIn: '4 mm',
          runOut: '4 mm',
          material: 'brass',
        },
      },
      { kind: 'add', name: 'Worm', from: { bodies: [0, 1] } },
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
];
