/**
 * Materials a part can be of. Density in g/cm³; E and G in MPa at 20 °C, where springs are made of it.
 * Moduli of spring wires: EN 13906-1, table of properties. Other figures: usual handbook values,
 * good to about 1 %; ask the supplier where a mass decides.
 */
export interface Material {
  readonly name: string;
  readonly density: number;
  readonly youngs?: number;
  readonly shear?: number;
  /** Stress it is not to be loaded beyond, MPa, where that was given. */
  readonly strength?: number;
  readonly source: string;
  /** Base colour as sRGB hex, roughness 0–1, metalness 0–1, for the picture. */
  readonly look: readonly [colour: string, roughness: number, metalness: number];
}

/** How a cut through a material is hatched: lines, lines two by two, or crossed ones. */
export type Hatch = 'single' | 'paired' | 'crossed';
/** Metals heavier than steel, g/cm³: copper, nickel and precious ones. */
const HEAVY = 8.1;

/** Metals by lines, of heavy ones two by two; what is not metal by crossed ones. */
export const hatchOf = ({ density, look: [, , metalness] }: Pick<Material, 'density' | 'look'>): Hatch =>
  metalness < 0.5 ? 'crossed' : density > HEAVY ? 'paired' : 'single';

const SPRING = 'E and G: EN 13906-1; density: EN 10270';
const HANDBOOK = 'usual handbook value';

export const MATERIALS = {
  'spring-steel': {
    name: 'spring steel',
    density: 7.85,
    youngs: 206000,
    shear: 81500,
    source: SPRING,
    look: ['#b9bdc2', 0.3, 1],
  },
  'oil-tempered': {
    name: 'oil-tempered steel',
    density: 7.85,
    youngs: 206000,
    shear: 79500,
    source: SPRING,
    look: ['#85888c', 0.4, 1],
  },
  stainless: {
    name: 'stainless 1.4310',
    density: 7.9,
    youngs: 185000,
    shear: 70000,
    source: SPRING,
    look: ['#c9cbc9', 0.26, 1],
  },
  'stainless-1.4401': {
    name: 'stainless 1.4401',
    density: 7.95,
    youngs: 180000,
    shear: 68000,
    source: SPRING,
    look: ['#c6c8c8', 0.28, 1],
  },
  'stainless-1.4568': {
    name: 'stainless 1.4568',
    density: 7.8,
    youngs: 195000,
    shear: 73000,
    source: SPRING,
    look: ['#c4c6c5', 0.28, 1],
  },
  'copper-beryllium': {
    name: 'copper beryllium CuBe2',
    density: 8.25,
    youngs: 120000,
    shear: 47000,
    source: SPRING,
    look: ['#c58a55', 0.3, 1],
  },
  'nickel-x750': {
    name: 'nickel alloy X-750',
    density: 8.28,
    youngs: 213000,
    shear: 80000,
    source: HANDBOOK,
    look: ['#bdbbb4', 0.32, 1],
  },
  titanium: {
    name: 'titanium Ti-6Al-4V',
    density: 4.43,
    youngs: 114000,
    shear: 44000,
    source: HANDBOOK,
    look: ['#a5a6a8', 0.38, 1],
  },
  bronze: {
    name: 'phosphor bronze',
    density: 8.8,
    youngs: 115000,
    shear: 42000,
    source: SPRING,
    look: ['#b9824f', 0.32, 1],
  },
  brass: {
    name: 'brass',
    density: 8.44,
    youngs: 110000,
    shear: 39000,
    source: SPRING,
    look: ['#d0ab57', 0.28, 1],
  },
  copper: {
    name: 'copper',
    density: 8.94,
    youngs: 118000,
    shear: 44000,
    source: HANDBOOK,
    look: ['#c8784f', 0.3, 1],
  },
  'mild-steel': {
    name: 'mild steel',
    density: 7.85,
    youngs: 210000,
    shear: 81000,
    source: HANDBOOK,
    look: ['#989ca1', 0.45, 1],
  },
  aluminium: {
    name: 'aluminium',
    density: 2.7,
    youngs: 70000,
    shear: 26000,
    source: HANDBOOK,
    look: ['#d4d6d8', 0.38, 1],
  },
  silver: {
    name: 'sterling silver',
    density: 10.36,
    youngs: 76000,
    shear: 28000,
    source: HANDBOOK,
    look: ['#dedcd6', 0.2, 1],
  },
  gold: { name: 'gold 750', density: 15.4, source: HANDBOOK, look: ['#dcb556', 0.22, 1] },
  'fine-silver': {
    name: 'fine silver',
    density: 10.49,
    youngs: 83000,
    shear: 30000,
    source: HANDBOOK,
    look: ['#e3e1dc', 0.18, 1],
  },
  'fine-gold': {
    name: 'gold 999',
    density: 19.3,
    youngs: 78000,
    shear: 27400,
    source: HANDBOOK,
    look: ['#e3b94c', 0.2, 1],
  },
  platinum: {
    name: 'platinum',
    density: 21.45,
    youngs: 168000,
    shear: 61000,
    source: HANDBOOK,
    look: ['#d3d2ce', 0.22, 1],
  },
  beeswax: { name: 'beeswax', density: 0.96, source: HANDBOOK, look: ['#d9a441', 0.6, 0] },
  clay: { name: 'fired clay', density: 2, source: HANDBOOK, look: ['#b5694a', 0.85, 0] },
  pla: { name: 'PLA', density: 1.24, source: HANDBOOK, look: ['#d8d6cf', 0.55, 0] },
  petg: { name: 'PETG', density: 1.27, source: HANDBOOK, look: ['#c9d3d6', 0.4, 0] },
  abs: { name: 'ABS', density: 1.04, source: HANDBOOK, look: ['#e2ddd0', 0.6, 0] },
  pa12: { name: 'nylon PA12', density: 1.01, source: HANDBOOK, look: ['#dcdad3', 0.75, 0] },
  resin: { name: 'print resin', density: 1.15, source: HANDBOOK, look: ['#8f9a9c', 0.5, 0] },
} as const satisfies Record<string, Material>;

export type MaterialId = keyof typeof MATERIALS;
export const MATERIAL_IDS = Object.keys(MATERIALS) as [MaterialId, ...MaterialId[]];
/** One of those known; or one’s own, by the figures given for it. */
export const materialOf = (id: MaterialId | typeof OWN, own: OwnMaterial): Material =>
  id === OWN ? { name: 'own material', source: 'given', look: OWN_LOOK, ...own } : MATERIALS[id];

/** Stands in a document for a material that is not in the list. */
export const OWN = 'own';
export type OwnMaterial = Pick<Material, 'density' | 'youngs' | 'shear' | 'strength'>;
const OWN_LOOK: Material['look'] = ['#a9a69f', 0.42, 1];
