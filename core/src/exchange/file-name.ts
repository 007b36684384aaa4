/** Names of exported files. */

const LONGEST = 80;

/** A plain name for the file of something named so. */
export const fileName = (name: string, ending: string): string =>
  `${
    name
      .trim()
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .slice(0, LONGEST)
      .replace(/^-|-$/g, '') || 'design'
  }.${ending}`;
