/** Files of the command line: read and written with everything that can go wrong told in words. */
import { randomUUID } from 'node:crypto';
import { open, readFile, realpath, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { sizeTrouble } from '@nematos/core/exchange/design-json';
import { textIn } from '@nematos/core/exchange/decode';

const SAYS: Readonly<Record<string, (file: string) => string>> = {
  ENOENT: (file) => `there is no folder ${dirname(file)}`,
  ENOTDIR: (file) => `there is no folder ${dirname(file)}`,
  EISDIR: (file) => `${file} is a folder; name a file`,
  ENOSPC: (file) => `${file} could not be written: the disk is full`,
  EDQUOT: (file) => `${file} could not be written: your share of the disk is full`,
  EFBIG: (file) => `${file} could not be written: the disk takes no file as large`,
  EACCES: (file) => `${file} may not be opened: permission is denied`,
  EPERM: (file) => `${file} may not be opened: permission is denied`,
  EROFS: (file) => `${file} cannot be written: the disk is read-only`,
  ENAMETOOLONG: (file) => `the name ${file.slice(0, 60)}… is too long`,
  ELOOP: (file) => `${file} links to itself`,
};

/** What went wrong with a file, as an error in words. */
function inWords(error: unknown, file: string): Error {
  const { code = '' } = error as NodeJS.ErrnoException;
  const says = SAYS[code]?.(file) ?? `${file}: ${error instanceof Error ? error.message : String(error)}`;
  return new Error(says, { cause: error });
}

const found = async <T>(look: Promise<T>): Promise<T | undefined> =>
  look.catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return undefined;
    throw error;
  });

/** The text of a design file. @throws Error in words */
export const readText = async (file: string): Promise<string> => textIn(await readBytes(file));

/** The bytes of a file that is no larger than a design may be. @throws Error in words */
export async function readBytes(file: string): Promise<Buffer> {
  const there = await found(stat(file)).catch((error: unknown) => {
    throw inWords(error, file);
  });
  if (!there) throw new Error(`there is no file ${file}`);
  const tooLarge = sizeTrouble(there.size);
  if (tooLarge) throw new Error(`${file}: ${tooLarge}`);
  try {
    return await readFile(file);
  } catch (error) {
    throw inWords(error, file);
  }
}

/**
 * Writes a file, whole or not at all: beside its place first, then put in it. @throws Error in words, also where it would
 * be written onto one of the `inputs`
 */
export async function writeWhole(
  file: string,
  content: string | Uint8Array,
  inputs: readonly string[],
): Promise<void> {
  try {
    const there = await found(stat(file));
    for (const input of inputs) {
      const own = await stat(input);
      if (there && there.dev === own.dev && there.ino === own.ino)
        throw new Error(`${file} is the design itself; write to another file`);
    }
    if (there?.isDirectory()) throw new Error(`${file} is a folder; name a file`);
    // A device or a pipe is no file that another could be put in the place of.
    if (there && !there.isFile()) return await writeFile(file, content);
    await putInPlace(there ? await realpath(file) : file, content);
  } catch (error) {
    throw (error as NodeJS.ErrnoException).code === undefined ? error : inWords(error, file);
  }
}

async function putInPlace(place: string, content: string | Uint8Array): Promise<void> {
  const fresh = `${place}.${randomUUID().slice(0, 8)}.part`;
  try {
    const handle = await open(fresh, 'wx');
    try {
      await handle.writeFile(content);
      await handle.sync();
    } finally {
      await handle.close();
    }
    await rename(fresh, place);
  } catch (error) {
    await rm(fresh, { force: true });
    throw error;
  }
}
