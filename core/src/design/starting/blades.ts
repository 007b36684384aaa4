/** Blades and threads to begin with. */
import { type Recipe } from './recipe';

export const BLADES: readonly Recipe[] = [
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
];
