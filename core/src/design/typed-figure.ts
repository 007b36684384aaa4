/** What the user typed, as the document keeps it. */
import { evaluateFigure, parseExpression, withPoints } from '../measure/expression';
import { typedUnit } from '../measure/format';
import { PLAIN, sameDimension, type Quantity } from '../measure/quantity';
import { Complaint } from '../measure/words';
import { withUnit } from './edit';
import { evaluateGivens, givenLookup } from './givens';
import type { Design } from './schema';

/** Decimal commas as points, where that is clear. */
function pointed(text: string): string {
  try {
    return withPoints(text);
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    return text;
  }
}

/**
 * A typed figure as it is kept: with decimal points, and a bare number with the unit that its quantity is shown in. What cannot
 * be read stays as it is.
 */
export function typedFigure(text: string, quantity: Quantity | undefined, design: Design): string {
  const read = withUnit(pointed(text), quantity, design);
  const unit = quantity && typedUnit(quantity, design.unit, design.units ?? {});
  if (!unit || quantity === 'length' || !read.trim()) return read;
  try {
    const lookup = givenLookup(evaluateGivens(design.givens));
    if (!sameDimension(evaluateFigure(parseExpression(read), lookup).dimension, PLAIN)) return read;
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    return read;
  }
  const bare = read.trim();
  return /^[-+−]?[\d.]+$/.test(bare) ? `${bare} ${unit}` : `(${bare}) ${unit}`;
}
