/** What several formats write alike. */

/** Text that may stand in XML, in attributes too. */
export const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** Red, green and blue of an sRGB hex (#rrggbb), 0 to 1 each. */
export const rgbOf = (hex: string): [red: number, green: number, blue: number] => {
  const part = (at: number) => parseInt(hex.slice(at, at + 2), 16) / 255;
  return [part(1), part(3), part(5)];
};
