/** The stage itself: one canvas, one to four views on it, drawn only when something changed. */
import { Raycaster, Vector2 } from 'three';
import type { Theme } from '../ui/theme';
import type { Drawn } from '../worker/messages';
import { makeRenderer, makeStageScene, type Colours } from './scene';
import { makeView, type View, type ViewName } from './view';
import type { Quality } from './quality';

export interface Engine {
  readonly canvas: HTMLCanvasElement;
  /** Shows what is drawn; steps that are chosen stand out. */
  show(drawn: readonly Drawn[], chosen: readonly string[], colours: Colours): void;
  ghost(on: boolean): void;
  dress(theme: Theme): void;
  /** Shows these views, each in its pane. */
  open(panes: readonly { name: ViewName; pane: HTMLElement }[], camera: readonly number[] | undefined): void;
  fit(): void;
  /** Whether there is anything to be seen. */
  shows(): boolean;
  view(name: ViewName): View | undefined;
  /** The step under a point of a pane (CSS pixels from its corner). */
  pick(name: ViewName, x: number, y: number): string | undefined;
  /** PNG of the stage as it is seen, on the ground given. */
  picture(ground: string): Promise<Blob>;
  resize(): void;
  dispose(): void;
}

/** The renderer of the stage, in `host`: draws on change only. @throws where there is no WebGL 2 */
export function makeEngine(
  host: HTMLElement,
  quality: Quality,
  theme: Theme,
  onDrawn: () => void,
  onCamera: (state: number[]) => void,
): Engine {
  const renderer = makeRenderer(quality.antialias);
  renderer.setPixelRatio(quality.dpr);
  const canvas = renderer.domElement;
  canvas.className = 'absolute inset-0 size-full';
  host.prepend(canvas);
  const stageScene = makeStageScene(renderer, theme);
  let views: { view: View; pane: HTMLElement }[] = [];
  let asked = 0;
  let fitted = false;
  let pulling = false;
  let marked = false;

  const draw = () => {
    asked = 0;
    const box = host.getBoundingClientRect();
    renderer.setScissorTest(true);
    for (const { view, pane } of views) {
      const at = pane.getBoundingClientRect();
      const [x, y] = [at.left - box.left, box.bottom - at.bottom];
      renderer.setViewport(x, y, at.width, at.height);
      renderer.setScissor(x, y, at.width, at.height);
      stageScene.face(view.toEye());
      renderer.clear();
      renderer.render(stageScene.scene, view.camera);
    }
    if (!marked && !stageScene.extent.isEmpty()) {
      marked = true;
      performance.mark('nematos:drawn'); // the first picture of a part: what a first load is measured by
    }
    onDrawn();
  };
  const ask = () => {
    asked ||= requestAnimationFrame(draw);
  };

  const fitMisfits = () => {
    for (const { view } of views)
      if (!fitted || view.misfits(stageScene.extent, pulling)) view.fit(stageScene.extent);
    fitted ||= !stageScene.extent.isEmpty();
  };

  const engine: Engine = {
    canvas,
    show(drawn, chosen, colours) {
      stageScene.show(drawn, chosen, colours);
      fitMisfits();
      ask();
    },
    ghost(on) {
      stageScene.ghost(on);
      pulling = on;
      fitMisfits();
      ask();
    },
    dress(next) {
      stageScene.dress(next);
      ask();
    },
    open(panes, camera) {
      const spaceState = camera ?? views.find(({ view }) => view.name === 'space')?.view.state();
      views.forEach(({ view }) => view.dispose());
      views = panes.map(({ name, pane }) => ({
        pane,
        view: makeView(name, pane, ask, () => {
          if (name === 'space') onCamera(engine.view('space')!.state());
        }),
      }));
      engine.resize();
      for (const { view } of views) {
        view.fit(stageScene.extent);
        if (view.name === 'space' && spaceState) view.restore(spaceState);
      }
      fitted = !stageScene.extent.isEmpty() || spaceState !== undefined;
      ask();
    },
    fit() {
      for (const { view } of views) view.fit(stageScene.extent);
      const space = engine.view('space');
      if (space) onCamera(space.state());
      ask();
    },
    shows: () => !stageScene.extent.isEmpty(),
    view: (name) => views.find(({ view }) => view.name === name)?.view,
    pick(name, x, y) {
      const found = views.find(({ view }) => view.name === name);
      if (!found) return undefined;
      const { width, height } = found.pane.getBoundingClientRect();
      const ray = new Raycaster();
      ray.params.Line.threshold = 4 * found.view.mmPerPixel();
      ray.setFromCamera(new Vector2((x / width) * 2 - 1, 1 - (y / height) * 2), found.view.camera);
      return ray.intersectObjects([...stageScene.pickable], false)[0]?.object.userData.step as
        string | undefined;
    },
    async picture(ground) {
      draw();
      const copy = document.createElement('canvas');
      copy.width = canvas.width;
      copy.height = canvas.height;
      const context = copy.getContext('2d')!;
      context.fillStyle = ground;
      context.fillRect(0, 0, copy.width, copy.height);
      context.drawImage(canvas, 0, 0);
      return new Promise((resolve, reject) =>
        copy.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('no picture'))), 'image/png'),
      );
    },
    resize() {
      const { width, height } = host.getBoundingClientRect();
      renderer.setSize(width, height, false);
      for (const { view, pane } of views) {
        const at = pane.getBoundingClientRect();
        view.resize(at.width, at.height);
      }
      ask();
    },
    dispose() {
      cancelAnimationFrame(asked);
      views.forEach(({ view }) => view.dispose());
      stageScene.dispose();
      renderer.dispose();
      renderer.forceContextLoss();
      canvas.remove();
    },
  };
  engine.dress(theme);
  return engine;
}
