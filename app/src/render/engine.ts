/** The stage itself: one canvas, one to four views on it, drawn only when something changed. */
import { Box3, Raycaster, Vector2, Vector3, type Mesh, type Object3D } from 'three';
import type { Vec3 } from '@nematos/core/geometry/vector';
import type { Theme } from '../ui/theme';
import type { Drawn } from '../worker/messages';
import type { CutFace } from '@nematos/core/mesh/cut';
import type { Mesh as BodyMesh } from '@nematos/core/mesh/mesh';
import { rayHits } from '@nematos/core/mesh/ray';
import { isOpen } from '@nematos/core/view/opening';
import { makeRenderer, makeStageScene, type Colours, type Layer, type StageOpening } from './scene';
import { makeView, type View, type ViewName } from './view';
import type { Quality } from './quality';

export interface Engine {
  readonly canvas: HTMLCanvasElement;
  /** Shows what is drawn; steps that are chosen stand out. */
  show(drawn: readonly Drawn[], chosen: readonly string[], colours: Colours): void;
  ghost(on: boolean): void;
  /** Shows the triangles, or no longer. */
  triangles(on: boolean): void;
  /** Cuts what is shown open, or closes it; by plane, the cut faces of each body. */
  cut(opening: StageOpening | undefined): CutFace[][];
  dress(theme: Theme): void;
  /** Shows these views, each in its pane. */
  open(
    panes: readonly { name: ViewName; pane: HTMLElement }[],
    camera: readonly number[] | undefined,
    parallel: boolean,
  ): void;
  fit(): void;
  /** Brings a place (mm) before the reader, or a step. */
  lookAt(place: Vec3): void;
  fitTo(step: string): void;
  /** Lays bodies over what is shown, or none. */
  imagine(layers: readonly Layer[]): void;
  /** Fits the views closely to a box (mm), whatever is shown. */
  frame(low: Vec3, high: Vec3): void;
  /** Whether there is anything to be seen. */
  shows(): boolean;
  /** Least and greatest corner of what is shown, its middle, and its size, mm. */
  box(): [low: Vec3, high: Vec3];
  middle(): Vec3;
  size(): number;
  view(name: ViewName): View | undefined;
  /** The step under a point of a pane (CSS pixels from its corner), and where on it. */
  pick(name: ViewName, x: number, y: number): { readonly step: string; readonly place: Vec3 } | undefined;
  /**
   * PNG of the stage as it is seen, so many times as large as far as can be drawn, on a ground or on none; its size in pixels.
   * `paint` adds what is written over it, at so many pixels of the picture to one of CSS.
   */
  picture(
    times: number,
    ground: string | undefined,
    paint?: (context: CanvasRenderingContext2D, scale: number) => void,
  ): Promise<{ png: Blob; width: number; height: number }>;
  /** The part turning once: a maker of films takes the canvas and what draws it so far on its way; undefined where it was stopped. */
  turning(
    made: (canvas: HTMLCanvasElement, show: (part: number) => void) => Promise<Blob | undefined>,
  ): Promise<Blob | undefined>;
  resize(): void;
  /** Draws it again, as a view was turned from outside. */
  redraw(): void;
  dispose(): void;
}

/** What is left free about a part without dimension lines, CSS pixels. */
const CLOSELY = { x: 14, y: 14 };

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
  let opened: StageOpening | undefined;

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

  const fitAll = (view: View) => view.fit(stageScene.extent, stageScene.outermost());
  const fitMisfits = () => {
    for (const { view } of views)
      if (!fitted || view.misfits(stageScene.extent, stageScene.outermost, pulling)) fitAll(view);
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
    triangles(on) {
      stageScene.triangles(on);
      ask();
    },
    cut(opening) {
      opened = opening;
      const faces = stageScene.open(opening);
      ask();
      return faces;
    },
    dress(next) {
      stageScene.dress(next);
      ask();
    },
    open(panes, camera, parallel) {
      const before = views.find(({ view }) => view.name === 'space')?.view;
      const spaceState = camera ?? before?.state();
      // In a pane of another size what nobody has set is fitted anew, seen from where it was.
      const fitsAnew = !camera && before?.isFitted();
      views.forEach(({ view }) => view.dispose());
      views = panes.map(({ name, pane }) => ({
        pane,
        view: makeView(
          name,
          pane,
          ask,
          () => {
            if (name === 'space') onCamera(engine.view('space')!.state());
          },
          parallel,
        ),
      }));
      engine.resize();
      for (const { view } of views) {
        fitAll(view);
        if (view.name !== 'space' || !spaceState) continue;
        view.restore(spaceState);
        if (fitsAnew) fitAll(view);
      }
      fitted = !stageScene.extent.isEmpty() || spaceState !== undefined;
      ask();
    },
    fit() {
      for (const { view } of views) fitAll(view);
      const space = engine.view('space');
      if (space) onCamera(space.state());
      ask();
    },
    lookAt(place) {
      for (const { view } of views) view.lookAt(new Vector3(...place), stageScene.extent);
      ask();
    },
    fitTo(step) {
      const extent = stageScene.extentOf(step);
      if (!extent) return;
      for (const { view } of views) view.fit(extent);
      const space = engine.view('space');
      if (space) onCamera(space.state());
      ask();
    },
    frame(low, high) {
      for (const { view } of views) {
        view.fit(new Box3(new Vector3(...low), new Vector3(...high)), undefined, CLOSELY);
      }
      ask();
    },
    imagine(layers) {
      stageScene.imagine(layers);
      ask();
    },
    shows: () => !stageScene.extent.isEmpty(),
    box: () => [stageScene.extent.min.toArray(), stageScene.extent.max.toArray()],
    middle: () => stageScene.extent.getCenter(new Vector3()).toArray(),
    size: () => stageScene.extent.getSize(new Vector3()).length(),
    view: (name) => views.find(({ view }) => view.name === name)?.view,
    pick(name, x, y) {
      const found = views.find(({ view }) => view.name === name);
      if (!found) return undefined;
      const { width, height } = found.pane.getBoundingClientRect();
      const ray = new Raycaster();
      ray.params.Line.threshold = 4 * found.view.mmPerPixel();
      ray.setFromCamera(new Vector2((x / width) * 2 - 1, 1 - (y / height) * 2), found.view.camera);
      let best: { far: number; step: string; place: Vec3 } | undefined;
      const offer = (far: number, object: Object3D, cap = false) => {
        if (best && best.far <= far) return;
        const place = ray.ray.at(far, new Vector3()).toArray();
        // What is cut away is not there; the cut face itself lies in the plane.
        if (cap || !opened || !isOpen(opened, place))
          best = { far, step: object.userData.step as string, place };
      };
      const { origin, direction } = ray.ray;
      for (const object of stageScene.pickable) {
        const mesh = (object as Mesh).geometry.userData.mesh as BodyMesh | undefined;
        if (mesh) for (const far of rayHits(mesh, origin.toArray(), direction.toArray())) offer(far, object);
        else
          for (const { distance } of ray.intersectObject(object, false))
            offer(distance, object, object.userData.cap === true);
      }
      return best && { step: best.step, place: best.place };
    },
    async picture(times, ground, paint) {
      const most = renderer.capabilities.maxTextureSize / Math.max(canvas.width, canvas.height);
      const copy = document.createElement('canvas');
      renderer.setPixelRatio(quality.dpr * Math.min(times, most));
      try {
        engine.resize();
        draw();
        copy.width = canvas.width;
        copy.height = canvas.height;
        const context = copy.getContext('2d')!;
        if (ground !== undefined) {
          context.fillStyle = ground;
          context.fillRect(0, 0, copy.width, copy.height);
        }
        context.drawImage(canvas, 0, 0);
        paint?.(context, copy.width / host.clientWidth);
      } finally {
        renderer.setPixelRatio(quality.dpr);
        engine.resize();
      }
      const png = await new Promise<Blob>((resolve, reject) =>
        copy.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('no picture'))), 'image/png'),
      );
      return { png, width: copy.width, height: copy.height };
    },
    async turning(made) {
      const space = views.filter(({ view }) => view.name === 'space');
      const before = space.map(({ view }) => view.state());
      let turned = 0;
      try {
        return await made(canvas, (part) => {
          space.forEach(({ view }) => view.turn(2 * Math.PI * (part - turned)));
          turned = part;
          draw();
        });
      } finally {
        space.forEach(({ view }, i) => view.restore(before[i]!));
        ask();
      }
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
    redraw: ask,
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
