/**
 * Stages with their renderers. One is kept from one design to the next: to build a renderer's programs takes longer than to draw
 * with them.
 */
import type { WebGLRenderer } from 'three';
import type { Quality } from './quality';
import { makeRenderer, StageScene } from './scene';

/** A stage with what draws it. */
export interface Stand {
  readonly quality: Quality;
  readonly renderer: WebGLRenderer;
  readonly stage: StageScene;
}

let spare: Stand | undefined;

const suits = ({ quality, renderer }: Stand, { dpr, antialias, shadows }: Quality): boolean =>
  quality.dpr === dpr &&
  quality.antialias === antialias &&
  quality.shadows === shadows &&
  !renderer.getContext().isContextLost();

/** The one that was left, where it is of this quality, or a new one. @throws where there is no WebGL 2 */
export function takeStand(quality: Quality): Stand {
  const kept = spare;
  spare = undefined;
  if (kept && suits(kept, quality)) return kept;
  if (kept) endStand(kept);
  const renderer = makeRenderer(quality.antialias, quality.shadows);
  renderer.setPixelRatio(quality.dpr);
  return { quality, renderer, stage: new StageScene(renderer) };
}

/** Leaves it, empty, for the next to take. */
export function leaveStand(stand: Stand): void {
  if (spare) return endStand(stand);
  stand.stage.clear();
  // Neither the last picture nor its memory is kept, nor what was drawn in it.
  stand.renderer.setSize(1, 1, false);
  stand.renderer.renderLists.dispose();
  spare = stand;
}

/** Frees it with all its resources. */
export function endStand({ renderer, stage }: Stand): void {
  stage.dispose();
  renderer.dispose();
  renderer.forceContextLoss();
}
