/** What all measured figures have in common: they are found, called by a name, and compared with the wanted value. */
import { Complaint, told, words } from '../../measure/words';
import type { Quantity } from '../../measure/quantity';
import type { Poll } from '../../geometry/poll';
import type { Checked } from '../../kind/kind';
import type { Result, Finding, Measure } from '../../kind/value';

type Found = NonNullable<Measure['found']>;

/** What is measured, and held against; `find` finds it, at once or giving way. */
interface Measuring {
  readonly quantity: Quantity;
  readonly label: string;
  readonly wanted: number | undefined;
  readonly tolerance: number | undefined;
  find(poll: Poll): Found | Promise<Found>;
}

/** Something measured at once. @throws Complaint where it is not there */
export function measuredNow({ find, ...rest }: Omit<Measuring, 'find'> & { find(): Found }): Measure {
  const found = find();
  return { ...measuredLater({ ...rest, find }), found };
}

/** Something that takes long to be measured. */
export const measuredLater = ({ quantity, label, wanted, tolerance, find }: Measuring): Measure => ({
  type: 'measure',
  quantity,
  label,
  found: undefined,
  find: async (poll) => find(poll),
  ...(wanted !== undefined && { wanted: { value: wanted, tolerance: tolerance ?? 0 } }),
});

/** Finds what was not found at once. */
export async function measureOf(measure: Measure, poll: Poll): Promise<void> {
  measure.found ??= await measure.find(poll);
}

/** The figure of a measure that was found. */
export function measuredResults({ found, label, quantity }: Measure): Result[] {
  if (!found) throw new Error('asked for before it was measured');
  const { value, within } = found;
  return [{ name: 'measured', label, value, quantity, ...(within !== undefined && { within }) }];
}

/** A deviation below this part of the wanted value is rounding. */
const ROUNDING = 1e-9;

/** Whether what was measured is as it is wanted. */
export async function checkMeasure(measure: Measure, { poll }: { readonly poll: Poll }): Promise<Checked> {
  await measureOf(measure, poll);
  const { wanted, found, label, quantity } = measure;
  return { findings: wanted ? [wantedFinding(wanted, found!, label, quantity)] : [], limits: [] };
}

function wantedFinding(
  { value: goal, tolerance }: NonNullable<Measure['wanted']>,
  { value, within = 0, places }: Found,
  label: string,
  quantity: Quantity,
): Finding {
  const off = Math.abs(value - goal);
  const margin = tolerance - off;
  const met = margin >= -ROUNDING * Math.max(Math.abs(goal), tolerance);
  // What may be off itself can be told only where it is clear of the bound.
  const sure = Math.abs(margin) > within;
  const [place] = places;
  return {
    name: 'wanted',
    level: !met ? 'fault' : sure || within === 0 ? 'good' : 'note',
    says: met
      ? words`${capital(label)} is ${told(value, quantity)} as wanted`
      : words`${capital(label)} is ${told(value, quantity)}, ${told(off, quantity)} ${value > goal ? 'more' : 'less'} than wanted`,
    detail: words`wanted ${told(goal, quantity)} ± ${told(tolerance, quantity)}${sure || within === 0 ? '' : ': too near to tell for certain'}`,
    value,
    limit: value > goal ? goal + tolerance : goal - tolerance,
    margin,
    quantity,
    ...(place && { place }),
  };
}

const capital = (text: string) => text[0]!.toUpperCase() + text.slice(1);

/** Passes on a complaint as one of a field. */
export function at<T>(field: string, make: () => T): T {
  try {
    return make();
  } catch (error) {
    if (error instanceof Complaint && error.field === undefined)
      throw new Complaint(error.says, field, ...error.mends);
    throw error;
  }
}
