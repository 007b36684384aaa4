/** Reads a design file that was chosen or dropped; the reader is loaded when it is first needed. */
import type { Design } from '@nematos/core/design/schema';

/** Reads a design from a file; or says in words why it is none. */
export async function readFile(file: File): Promise<{ design?: Design; trouble?: string }> {
  const { readDesign, sizeTrouble } = await import('@nematos/core/exchange/design-json');
  const tooLarge = sizeTrouble(file.size);
  if (tooLarge) return { trouble: tooLarge };
  try {
    return { design: readDesign(await file.text()) };
  } catch (error) {
    return { trouble: error instanceof Error ? error.message : String(error) };
  }
}
