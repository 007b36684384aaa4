import { plainWords, type Words } from '../../measure/words';

/** What the kernel made is not what it was asked for: to be told in the user's words by whoever asked. */
export class KernelError extends Error {
  override name = 'KernelError';
  readonly says: Words;
  constructor(says: Words) {
    super(plainWords(says));
    this.says = says;
  }
}
