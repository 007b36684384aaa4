/** Which stock sizes there are for a figure of the sheet. */
import { fieldMeta } from '../kind/kind';
import type { Stock } from '../measure/stock';
import { stepOf } from './edit';
import type { Place } from './literal';
import { kindNamed } from './registry';
import type { Design } from './schema';

/** Of a field what its kind says; of a given what the first field says that is nothing but its name. */
export function stockOf(design: Design, place: Place): Stock | undefined {
  if ('step' in place) return stockOfField(stepOf(design, place.step).kind, place.field);
  const { name } = design.givens[place.given]!;
  for (const { kind, set } of design.steps)
    for (const [field, text] of Object.entries(set)) {
      const stock = text.trim() === name ? stockOfField(kind, field) : undefined;
      if (stock) return stock;
    }
  return undefined;
}

function stockOfField(kind: string, field: string): Stock | undefined {
  const known = kindNamed(kind);
  return known && fieldMeta(known, field)?.stock;
}
