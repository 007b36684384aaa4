/** Why a file, or anything else that is read, is refused. */
import { expect } from 'chai';

/** The words of the complaint that the work ends with; "not refused" where it comes to its end. */
export async function refusal(work: Promise<unknown> | (() => unknown)): Promise<string> {
  try {
    await (typeof work === 'function' ? work() : work);
  } catch (error) {
    expect((error as Error).name, String((error as Error).stack)).equal('Complaint');
    return (error as Error).message;
  }
  return 'not refused';
}
