/** Exports of the design on the workbench: made, downloaded, and what came of it. */
import { useRef, useState } from 'react';
import { stepName, stepOf } from '@nematos/core/design/edit';
import { writeDesign } from '@nematos/core/exchange/design-json';
import { fileName } from '@nematos/core/exchange/file-name';
import type { PartFormat } from '@nematos/core/exchange/formats';
import { counted } from '@nematos/core/measure/words';
import { useBenchStore } from '../bench/bench';
import { chartedStep } from '../bench/selection';
import type { Bench } from '../bench/state';
import type { Engine } from '../render/engine';
import { film, filmKind } from '../render/film';
import { gif, MOST } from '../render/gif';
import { save } from '../ui/save';
import { reviewAddress } from '../data/review';
import { paintInked } from './stage/inked';
import { ask, askExchange, callback, nextOf, stopExchange } from '../worker/client';

/** Seconds of a turn in a video. */
const TURN = 6;

/** What is being made, or came of it; `done` from 0 to 1 while it is under way. */
export type State =
  | { readonly says: string; readonly done?: number; readonly bad?: true; readonly link?: string }
  | undefined;

/** Each kind of file, and what is to be said of the one asked for last. */
export function useExports(engine: Engine | undefined) {
  const store = useBenchStore();
  const now = () => store.getState().history.present;
  const [state, setState] = useState<State>();
  const wanted = useRef(true);

  const part = async ({ id, endings: [ending], media: type }: PartFormat) => {
    const design = now();
    wanted.current = true;
    setState({ says: 'Making the mesh', done: 0 });
    try {
      const goOn = callback(async (done: number) => {
        if (wanted.current) setState({ says: 'Making the mesh', done });
        return wanted.current;
      });
      const { bytes, refused } = await askExchange((exchange) => exchange.file(design, id, goOn));
      if (!wanted.current) return setState(undefined);
      if (refused) return setState({ says: refused, bad: true });
      if (!bytes) return setState(undefined);
      save(new Blob([bytes], { type }), fileName(design.name, ending));
      setState({
        says: `${fileName(design.name, ending)}: ${Math.max(1, Math.round(bytes.length / 1024))} kB`,
      });
    } catch (error) {
      if (!wanted.current) return;
      setState({ says: `The file could not be made: ${String(error)}`, bad: true });
    }
  };

  const points = async () => {
    setState(await exportPoints(store.getState()));
  };

  const json = () => {
    const design = now();
    save(new Blob([writeDesign(design)], { type: 'application/json' }), fileName(design.name, 'json'));
    setState({ says: `${fileName(design.name, 'json')} holds every figure as written` });
  };

  const review = async () => {
    try {
      const link = await reviewAddress(now());
      setState({
        says: 'Anyone with this link can step through the design and add notes, but not edit it:',
        link,
      });
    } catch (error) {
      setState({ says: `The address could not be made: ${String(error)}`, bad: true });
    }
  };

  return {
    state,
    part,
    points,
    json,
    review,
    ...pictures(engine, () => now().name, setState, wanted),
    /** Says no more of what was made. */
    clear: () => setState(undefined),
    stop() {
      wanted.current = false;
      stopExchange();
      setState(undefined);
    },
  };
}

/** Saves the points of the path that is looked at; what is to be said of it. */
async function exportPoints(bench: Bench): Promise<State> {
  const design = bench.history.present;
  const step = chartedStep({ ...bench, view: { ...bench.view, lengthwise: true } });
  if (!step) return { says: 'There is no path yet.', bad: true };
  const { text, refused } = (await ask((geometry) => geometry.points(design, step, nextOf('points')))) ?? {};
  if (text === undefined) return { says: refused ?? 'There are no points.', bad: true };
  const name = fileName(`${design.name} ${stepName(stepOf(design, step))}`, 'csv');
  save(new Blob([text], { type: 'text/csv' }), name);
  return { says: `${name}: ${counted(text.trim().split('\n').length - 1, 'point')}` };
}

/** Pictures of the stage as files, of a design that is called so. */
function pictures(
  engine: Engine | undefined,
  called: () => string,
  setState: (state: State) => void,
  wanted: { current: boolean },
) {
  const ground = () => getComputedStyle(document.documentElement).getPropertyValue('--sheet');

  const png = async (times: number, { clear, figures }: { clear: boolean; figures: boolean }) => {
    if (!engine) return;
    const name = fileName(called(), 'png');
    try {
      const { png, width, height } = await engine.picture(
        times,
        clear ? undefined : ground(),
        figures ? (context, scale) => paintInked(context, engine.canvas.parentElement!, scale) : undefined,
      );
      save(png, name);
      setState({ says: `${name}: ${width} × ${height} pixels${clear ? ', on a clear ground' : ''}` });
    } catch {
      setState({ says: 'The picture could not be made: a smaller one may do.', bad: true });
    }
  };

  const turning = async (as: 'video' | 'gif') => {
    const kind = as === 'gif' ? (['image/gif', 'gif'] as const) : filmKind();
    if (!engine || !kind)
      return setState({ says: 'This browser cannot record a video. Export a GIF instead.', bad: true });
    if (!engine.view('space')) return setState({ says: 'Choose the view in space first.', bad: true });
    const name = fileName(called(), kind[1]);
    wanted.current = true;
    try {
      const goOn = (done: number) => {
        setState({ says: 'The part turns once while it is recorded', done });
        return wanted.current;
      };
      goOn(0);
      const made = await engine.turning(
        (canvas, show) =>
          as === 'gif' ? gif(canvas, ground(), show, goOn) : film(canvas, ground(), TURN, show, goOn),
        as === 'gif' ? MOST : undefined,
      );
      if (!made) return setState(undefined);
      save(made, name);
      setState({ says: `${name}: the part turning once, ${Math.max(1, Math.round(made.size / 1024))} kB` });
    } catch (error) {
      setState({ says: `It could not be recorded, try again: ${String(error)}`, bad: true });
    }
  };

  return { png, turning };
}
