/** The stage itself: one canvas, one to four views on it, drawn only when something changed. */
import { Box3, Vector3 } from 'three';
import type { Vec3 } from '@nematos/core/geometry/vector';
import type { Theme } from '../ui/theme';
import type { Drawn } from '../worker/messages';
import type { CutFace } from '@nematos/core/mesh/cut/cut';
import type { ViewName } from './camera';
import type { Colours } from './materials';
import { pickAt, type Picked } from './pick';
import type { Quality } from './quality';
import type { Layer, StageOpening } from './scene';
import { endStand, leaveStand, takeStand, type Stand } from './stand';
import { View } from './view';

/** What a stage tells of itself. */
export interface EngineCalls {
  /** After each picture. */
  onDrawn(): void;
  /** After the reader has turned the view in space. */
  onCamera(state: number[]): void;
}

/** What is left free about a part without dimension lines, CSS pixels. */
const CLOSELY = { x: 14, y: 14 };

/** The renderer of the stage in its host element: draws on change only. Lengths in mm. */
export class Engine {
  readonly canvas: HTMLCanvasElement;
  private readonly stand: Stand;
  private views: { readonly view: View; readonly pane: HTMLElement }[] = [];
  private asked = 0;
  private fitted = false;
  private pulling = false;
  private marked = false;
  /** Where host and panes were when they were last looked at. */
  private laid = '';
  /** Nothing was drawn since the canvas took its size. */
  private blank = true;
  private filming = false;
  private gone = false;

  /** Puts its canvas first into `host`. @throws where there is no WebGL 2 */
  constructor(
    private readonly host: HTMLElement,
    quality: Quality,
    theme: Theme,
    private readonly calls: EngineCalls,
  ) {
    this.stand = takeStand(quality);
    this.canvas = this.stand.renderer.domElement;
    this.canvas.className = 'absolute inset-0 size-full';
    host.prepend(this.canvas);
    this.dress(theme);
  }

  private get renderer() {
    return this.stand.renderer;
  }

  private get stage() {
    return this.stand.stage;
  }

  /** Shows what is drawn; steps that are chosen stand out. */
  show(drawn: readonly Drawn[], chosen: readonly string[], colours: Colours): void {
    this.stage.show(drawn, chosen, colours);
    this.fitMisfits();
    this.redraw();
  }

  /** Keeps what is shown as a faint ghost while the reader pulls at something, or drops it. */
  ghost(on: boolean): void {
    this.stage.ghost(on);
    this.pulling = on;
    this.fitMisfits();
    this.redraw();
  }

  /** Lays bodies over what is shown, or none. */
  imagine(layers: readonly Layer[]): void {
    this.stage.imagine(layers);
    this.redraw();
  }

  /** Shows the triangles, or no longer. */
  triangles(on: boolean): void {
    this.stage.triangles(on);
    this.redraw();
  }

  /** Cuts what is shown open, or closes it; by plane, the cut faces of each body. */
  cut(opening: StageOpening | undefined): CutFace[][] {
    const faces = this.stage.open(opening);
    this.redraw();
    return faces;
  }

  /** Takes the inks of a theme. */
  dress(theme: Theme): void {
    this.stage.dress(theme);
    this.redraw();
  }

  /** Shows these views, each in its pane. */
  open(
    panes: readonly { name: ViewName; pane: HTMLElement }[],
    camera: readonly number[] | undefined,
    parallel: boolean,
  ): void {
    const before = this.view('space');
    const spaceState = camera ?? before?.state();
    // In a pane of another size a view that the user has not set is fitted again, from the same direction.
    const fitsAnew = !camera && before?.isFitted();
    this.views.forEach(({ view }) => view.dispose());
    const onEnd = (name: ViewName) => () => {
      if (name === 'space') this.tellCamera();
    };
    this.views = panes.map(({ name, pane }) => ({
      pane,
      view: new View(name, pane, { onChange: () => this.redraw(), onEnd: onEnd(name) }, parallel),
    }));
    this.laid = '';
    this.resize();
    for (const { view } of this.views) {
      this.fitAll(view);
      if (view.name !== 'space' || !spaceState) continue;
      view.restore(spaceState);
      if (fitsAnew) this.fitAll(view);
    }
    this.fitted = this.shows() || spaceState !== undefined;
    this.redraw();
  }

  /** Sees all that is shown. */
  fit(): void {
    for (const { view } of this.views) this.fitAll(view);
    this.tellCamera();
    this.redraw();
  }

  /** Brings a place before the reader. */
  lookAt(place: Vec3): void {
    for (const { view } of this.views) view.lookAt(new Vector3(...place), this.stage.extent);
    this.redraw();
  }

  /** Brings a step before the reader. */
  fitTo(step: string): void {
    const extent = this.stage.extentOf(step);
    if (!extent) return;
    for (const { view } of this.views) view.fit(extent);
    this.tellCamera();
    this.redraw();
  }

  /** Fits the views closely to a box, whatever is shown. */
  frame(low: Vec3, high: Vec3): void {
    const box = new Box3(new Vector3(...low), new Vector3(...high));
    for (const { view } of this.views) view.fit(box, undefined, CLOSELY);
    this.redraw();
  }

  /** Whether there is anything to be seen. */
  shows(): boolean {
    return !this.stage.extent.isEmpty();
  }

  /** Least and greatest corner of what is shown. */
  box(): [low: Vec3, high: Vec3] {
    return [this.stage.extent.min.toArray(), this.stage.extent.max.toArray()];
  }

  /** Middle of what is shown. */
  middle(): Vec3 {
    return this.stage.extent.getCenter(new Vector3()).toArray();
  }

  /** Diagonal of what is shown. */
  size(): number {
    return this.stage.extent.getSize(new Vector3()).length();
  }

  /** The view of this name, where it is shown. */
  view(name: ViewName): View | undefined {
    return this.views.find(({ view }) => view.name === name)?.view;
  }

  /** The step under a point of a pane (CSS pixels from its corner), and where on it. */
  pick(name: ViewName, x: number, y: number): Picked | undefined {
    const found = this.views.find(({ view }) => view.name === name);
    if (!found) return undefined;
    const { width, height } = found.pane.getBoundingClientRect();
    return pickAt(this.stage, found.view, (x / width) * 2 - 1, 1 - (y / height) * 2);
  }

  /**
   * The views as they are seen, on a canvas of their own: so many times as large as far as can be drawn, on a ground or on none.
   * `paint` adds what is written over it, at so many pixels of the picture to one of CSS.
   */
  still(
    times: number,
    ground: string | undefined,
    paint?: (context: CanvasRenderingContext2D, scale: number) => void,
  ): HTMLCanvasElement {
    const { canvas, renderer } = this;
    const { dpr } = this.stand.quality;
    const most = renderer.capabilities.maxTextureSize / Math.max(canvas.width, canvas.height);
    const copy = document.createElement('canvas');
    const { left, width } = this.host.getBoundingClientRect();
    // Beside the views there is nothing on the canvas.
    const right = Math.max(...this.views.map(({ pane }) => pane.getBoundingClientRect().right - left));
    renderer.setPixelRatio(dpr * Math.min(times, most));
    try {
      this.draw();
      copy.width = Math.round((canvas.width * right) / width);
      copy.height = canvas.height;
      const context = copy.getContext('2d')!;
      if (ground !== undefined) {
        context.fillStyle = ground;
        context.fillRect(0, 0, copy.width, copy.height);
      }
      context.drawImage(canvas, 0, 0);
      paint?.(context, canvas.width / width);
    } finally {
      renderer.setPixelRatio(dpr);
      this.drawNow();
    }
    return copy;
  }

  /** The same as a PNG, with its size in pixels. */
  async picture(
    ...asked: Parameters<Engine['still']>
  ): Promise<{ png: Blob; width: number; height: number }> {
    const still = this.still(...asked);
    const png = await new Promise<Blob>((resolve, reject) =>
      still.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('no picture'))), 'image/png'),
    );
    return { png, width: still.width, height: still.height };
  }

  /**
   * The part turning once: a maker of films takes the canvas and what draws it so far on its way; undefined where it was stopped.
   * `most` is how many pixels across are wanted: more are not drawn.
   */
  async turning(
    made: (canvas: HTMLCanvasElement, show: (part: number) => void) => Promise<Blob | undefined>,
    most = Infinity,
  ): Promise<Blob | undefined> {
    const { canvas, renderer } = this;
    const { dpr } = this.stand.quality;
    const space = this.view('space');
    const before = space?.state();
    let turned = 0;
    this.filming = true;
    renderer.setPixelRatio(dpr * Math.min(1, most / Math.max(canvas.width, canvas.height)));
    try {
      return await made(this.canvas, (part) => {
        space?.turn(2 * Math.PI * (part - turned));
        turned = part;
        this.draw();
      });
    } finally {
      this.filming = false;
      renderer.setPixelRatio(dpr);
      if (before) space?.restore(before);
      this.drawNow();
    }
  }

  /** Updates the sizes and places of host and panes if they changed. Views that the user has not set are fitted again. */
  resize(): void {
    const { left, top, width, height } = this.host.getBoundingClientRect();
    const panes = this.views.map(({ pane }) => pane.getBoundingClientRect());
    const laid = [
      width,
      height,
      ...panes.flatMap((at) => [at.left - left, at.top - top, at.width, at.height]),
    ];
    if (this.laid === laid.join()) return;
    this.laid = laid.join();
    this.renderer.setSize(width, height, false);
    this.blank = true;
    this.views.forEach(({ view }, i) => {
      view.resize(panes[i]!.width, panes[i]!.height);
      if (this.fitted && view.isFitted()) this.fitAll(view);
    });
    this.drawNow();
  }

  /** Draws it again at the next frame. */
  redraw(): void {
    // A film draws its own frames. A redraw would draw each of them twice.
    if (this.gone || this.filming) return;
    this.asked ||= requestAnimationFrame(() => this.draw());
  }

  /** Draws it at once: with the size of the canvas what was on it is gone, and the stage would be empty for a frame. */
  private drawNow(): void {
    if (this.gone || this.filming) return;
    cancelAnimationFrame(this.asked);
    this.draw();
  }

  /** Lets host and panes go, and leaves the stage to the next. */
  dispose(): void {
    this.gone = true;
    cancelAnimationFrame(this.asked);
    this.views.forEach(({ view }) => view.dispose());
    this.canvas.remove();
    // A film that is still being taken would show what another puts on it.
    if (this.filming) endStand(this.stand);
    else leaveStand(this.stand);
  }

  private draw() {
    this.asked = 0;
    const { renderer, stage } = this;
    // A frame costs the same with nothing in it, and the first picture would wait for it.
    if (this.blank && stage.isBare()) return this.calls.onDrawn();
    this.blank = false;
    const box = this.host.getBoundingClientRect();
    renderer.setScissorTest(true);
    for (const { view, pane } of this.views) {
      const at = pane.getBoundingClientRect();
      const [x, y] = [at.left - box.left, box.bottom - at.bottom];
      renderer.setViewport(x, y, at.width, at.height);
      renderer.setScissor(x, y, at.width, at.height);
      stage.face(view.toEye());
      renderer.clear();
      renderer.render(stage.scene, view.camera);
    }
    if (!this.marked && this.shows()) {
      this.marked = true;
      performance.mark('nematos:drawn'); // the first picture of a part: what a first load is measured by
    }
    // Dimension lines need no update during a film.
    if (!this.filming) this.calls.onDrawn();
  }

  private fitAll(view: View) {
    view.fit(this.stage.extent, this.stage.outermost());
  }

  private fitMisfits() {
    const points = () => this.stage.outermost();
    for (const { view } of this.views)
      if (!this.fitted || view.misfits(this.stage.extent, points, this.pulling)) this.fitAll(view);
    this.fitted ||= this.shows();
  }

  private tellCamera() {
    const space = this.view('space');
    if (space) this.calls.onCamera(space.state());
  }
}
