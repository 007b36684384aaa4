/** All beginnings that are offered. */
import { BLADES } from './blades';
import { RINGS } from './rings';
import { SPRINGS } from './springs';
import { TUBES } from './tubes';
import { VESSELS } from './vessels';
import { WIRE_FORMS } from './wire-forms';
import type { Recipe } from './recipe';

export const RECIPES: readonly Recipe[] = [
  ...SPRINGS,
  ...TUBES,
  ...WIRE_FORMS,
  ...RINGS,
  ...VESSELS,
  ...BLADES,
];
