/** What is wrong in geometry: kinds say at which of their figures it stands. */
import { Complaint, type Words } from '../measure/words';

/** A complaint that names no figure: it has a code, which each kind maps to a field (`Kind.faults`). */
export class GeometryError extends Complaint {
  constructor(
    readonly code: string,
    says: Words | string,
  ) {
    super(says);
  }
}
