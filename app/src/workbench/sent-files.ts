/** Files of the design on the workbench, made and saved as they are asked for. */
import { useRef, useState } from 'react';
import { stepName, stepOf } from '@nematos/core/design/edit';
import { writeDesign } from '@nematos/core/exchange/design-json';
import { fileName } from '@nematos/core/exchange/file-name';
import { FORMATS, type FileFormat } from '@nematos/core/exchange/files';
import { useBenchStore } from '../bench/bench';
import { chartedStep } from '../bench/selection';
import type { Engine } from '../render/engine';
import { save } from '../ui/save';
import { ask, askExchange, callback, nextOf, stopExchange } from '../worker/client';

/** What is being made, or came of it; `done` from 0 to 1 while it is under way. */
export type State = { readonly says: string; readonly done?: number; readonly bad?: true } | undefined;

/** Each kind of file, and what is to be said of the one asked for last. */
export function useSentFiles(engine: Engine | undefined) {
  const store = useBenchStore();
  const now = () => store.getState().history.present;
  const [state, setState] = useState<State>();
  const wanted = useRef(true);

  const part = async (format: FileFormat) => {
    const design = now();
    wanted.current = true;
    setState({ says: 'Making the mesh', done: 0 });
    try {
      const goOn = callback(async (done: number) => {
        if (wanted.current) setState({ says: 'Making the mesh', done });
        return wanted.current;
      });
      const { bytes, refused } = await askExchange((exchange) => exchange.file(design, format, goOn));
      if (!wanted.current) return setState(undefined);
      if (refused) return setState({ says: refused, bad: true });
      if (!bytes) return setState(undefined);
      const { ending, type } = FORMATS[format];
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
    const design = now();
    const { view, seen } = store.getState();
    const step = chartedStep({
      view: { ...view, lengthwise: true },
      history: store.getState().history,
      seen,
    });
    if (!step) return setState({ says: 'There is no path yet.', bad: true });
    const { text, refused } =
      (await ask((geometry) => geometry.points(design, step, nextOf('points')))) ?? {};
    if (text === undefined) return setState({ says: refused ?? 'There are no points.', bad: true });
    const name = fileName(`${design.name} ${stepName(stepOf(design, step))}`, 'csv');
    save(new Blob([text], { type: 'text/csv' }), name);
    setState({ says: `${name}: ${text.trim().split('\n').length - 1} points` });
  };

  const json = () => {
    const design = now();
    save(new Blob([writeDesign(design)], { type: 'application/json' }), fileName(design.name, 'json'));
    setState({ says: `${fileName(design.name, 'json')} holds every figure as written` });
  };

  const png = async () => {
    if (!engine) return;
    const design = now();
    const ground = getComputedStyle(document.documentElement).getPropertyValue('--sheet');
    save(await engine.picture(ground), fileName(design.name, 'png'));
    setState({ says: `${fileName(design.name, 'png')}: the stage as it is seen` });
  };

  return {
    state,
    part,
    points,
    json,
    png,
    /** Says no more of what was made. */
    clear: () => setState(undefined),
    stop() {
      wanted.current = false;
      stopExchange();
      setState(undefined);
    },
  };
}
