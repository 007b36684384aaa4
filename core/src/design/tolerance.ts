/** The chord tolerance that meshes of a design are exported with. */
import { asFigure, evaluateFigure, parseExpression } from '../measure/expression';
import { Complaint, mm, words, type Words } from '../measure/words';
import { evaluateGivens, givenLookup } from './givens';
import type { Design } from './schema';

/** Chord tolerances that a mesh can be made to, mm. */
const LEAST_TOLERANCE = 1e-4;
const MOST_TOLERANCE = 100;

/** Chord tolerance for export, in mm. @throws Complaint at `tolerance` when it cannot be read or is out of bounds */
export function sentTolerance(design: Design): number {
  const lookup = givenLookup(evaluateGivens(design.givens));
  let value: number;
  try {
    value = asFigure(evaluateFigure(parseExpression(design.tolerance), lookup), 'length', design.unit);
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    throw new Complaint(['The chord tolerance cannot be read. ', ...error.says], 'tolerance');
  }
  if (!(value >= LEAST_TOLERANCE && value <= MOST_TOLERANCE))
    throw new Complaint(
      words`The chord tolerance is ${mm(value)}; it must be between ${mm(LEAST_TOLERANCE)} and ${mm(MOST_TOLERANCE)}.`,
      'tolerance',
    );
  return value;
}

/** What is wrong with the chord tolerance, if anything. */
export function toleranceTrouble(design: Design): Words | undefined {
  try {
    sentTolerance(design);
    return undefined;
  } catch (error) {
    if (error instanceof Complaint) return error.says;
    throw error;
  }
}

/** The same; undefined while it cannot be read. */
export function readableTolerance(design: Design): number | undefined {
  try {
    return sentTolerance(design);
  } catch (error) {
    if (error instanceof Complaint) return undefined;
    throw error;
  }
}
