/** Short texts that are read and written at once. Where the browser has no room for them, or blocks it, nothing is kept. */

/** The stored text, if there is one and storage is available. */
export function localText(key: string): string | undefined {
  try {
    return localStorage.getItem(key) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a text, or takes it away; whether that could be done. */
export function keepLocalText(key: string, text: string | undefined): boolean {
  try {
    if (text === undefined) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
    return true;
  } catch {
    return false;
  }
}

/** Names of all texts that begin so. */
export function localKeys(beginning: string): string[] {
  try {
    return Array.from({ length: localStorage.length }, (_x, i) => localStorage.key(i)!).filter((key) =>
      key.startsWith(beginning),
    );
  } catch {
    return [];
  }
}
