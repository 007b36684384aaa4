/** What goes wrong in one step, kept to that step. */
import type { Checked } from '../kind/kind';
import { brief, Complaint, words } from '../measure/words';
import { KernelError } from '../solid/kernel/error';

/**
 * What a function throws as a complaint, returned; so is what goes wrong in the calculation itself, which is a fault of this one
 * step. Rejects where work is stopped, or the kernel has broken down.
 */
export async function complained<T>(make: () => T | Promise<T>): Promise<T | Complaint> {
  try {
    return await make();
  } catch (error) {
    if (error instanceof Complaint) return error;
    if (error instanceof KernelError)
      return new Complaint(
        words`The solid could not be made: `.concat(error.says, '. Change a figure a little.'),
      );
    if (error instanceof TypeError || error instanceof RangeError)
      return new Complaint(
        `The calculation of this step failed (${brief(error.message)}). Change a figure a little.`,
      );
    throw error;
  }
}

/** That a step could not be checked is a finding: what else was found of the sheet stands. */
export const unchecked = ({ says }: Complaint): Checked => ({
  findings: [
    {
      name: 'unchecked',
      level: 'fault',
      says: ['This step could not be checked'],
      detail: says,
      value: 0,
      limit: 0,
      margin: 0,
      quantity: 'number',
    },
  ],
  limits: [],
});
