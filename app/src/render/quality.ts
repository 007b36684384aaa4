/** How well to draw, as the address says (?dpr=1&aa=0&shadows=0): for slow machines and for tests. */
export interface Quality {
  readonly dpr: number;
  readonly antialias: boolean;
  readonly shadows: boolean;
}

/** How finely to draw, from the address: "?dpr=0.5&aa=0&shadows=0" for slow machines. */
export function quality(search = window.location.search): Quality {
  const asked = new URLSearchParams(search);
  const dpr = Number(asked.get('dpr') ?? window.devicePixelRatio);
  return {
    dpr: Number.isFinite(dpr) && dpr > 0 ? Math.min(2, dpr) : 1,
    antialias: asked.get('aa') !== '0',
    shadows: asked.get('shadows') !== '0',
  };
}
