/** Motion, for those who want it. */

/** Whether the reader wants as little motion as can be. */
export const wantsStill = (): boolean => window.matchMedia('(prefers-reduced-motion: reduce)').matches;

/** Brings a step of the sheet into sight. */
export const showOnSheet = (step: string, block: ScrollLogicalPosition = 'nearest'): void =>
  document
    .querySelector(`[data-step="${step}"]`)
    ?.scrollIntoView({ block, behavior: wantsStill() ? 'instant' : 'smooth' });
