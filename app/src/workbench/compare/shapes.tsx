/** The shapes of what is compared, beside each other: as one is turned, all are. */
import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import type { Engine } from '../../render/engine';
import { useEngine } from '../../render/use-engine';
import type { Design } from '@nematos/core/design/schema';
import type { Vec3 } from '@nematos/core/geometry/vector';
import { askDeep, leave, nextOf } from '../../worker/client';
import type { Drawn } from '../../worker/messages';
import { useBenchStore } from '../../bench/bench';

/** One of what is compared: a variant, or the sheet as it is. */
export interface Column {
  readonly id: string | undefined;
  readonly name: string;
  readonly design: Design;
}

/** A stage for each column; the cameras of all follow the one that is moved. */
export function Shapes({ columns }: { columns: readonly Column[] }) {
  const engines = useRef(new Map<string, Engine>());
  const leader = useRef('');
  const follow = (key: string) => {
    if (key !== leader.current) return;
    const state = engines.current.get(key)?.view('space')?.state();
    if (!state) return;
    for (const [other, engine] of engines.current)
      if (other !== key) {
        engine.view('space')?.restore(state);
        engine.redraw();
      }
  };
  /** All are seen as large as each other. */
  const frameAll = () => {
    const boxes = [...engines.current.values()].filter((one) => one.shows()).map((one) => one.box());
    if (!boxes.length) return;
    leader.current = '';
    for (const engine of engines.current.values()) engine.frame(...around(boxes));
  };
  return columns.map((column) => {
    const key = column.id ?? 'now';
    return (
      <Shape
        key={key}
        column={column}
        onEngine={(engine) => {
          if (engine) engines.current.set(key, engine);
          else engines.current.delete(key);
        }}
        onLead={() => (leader.current = key)}
        onMoved={() => follow(key)}
        onShown={frameAll}
      />
    );
  });
}

const FAILED = 'It could not be drawn: change a figure of it, or set it aside.';

/** What is to be seen of a design; undefined while it is awaited. */
function usePicture(design: Design) {
  const [answer, setAnswer] = useState<{ of: Design; drawn?: readonly Drawn[]; failed?: true }>();
  useEffect(() => {
    const session = crypto.randomUUID();
    let gone = false;
    askDeep((kernel) => kernel.picture(design, nextOf(session)))
      .then((drawn) => !gone && drawn && setAnswer({ of: design, drawn }))
      .catch(() => !gone && setAnswer({ of: design, failed: true }));
    return () => {
      gone = true;
      leave(session);
    };
  }, [design]);
  return answer?.of === design ? answer : { drawn: undefined, failed: undefined };
}

/** Where the reader turns what is seen. */
const TurnedPane = ({
  pane,
  engine,
  name,
}: {
  pane: RefObject<HTMLDivElement | null>;
  engine: Engine | undefined;
  name: string;
}) => (
  <div
    ref={pane}
    tabIndex={0}
    role="application"
    aria-label={`${name}, plus and minus zoom.`}
    className="absolute inset-0 cursor-grab touch-none -outline-offset-2 active:cursor-grabbing"
    onKeyDown={(event) => {
      const view = engine?.view('space');
      const turn = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
      if (turn) view?.step(turn[0]!, turn[1]!);
      else if (event.key === '+') view?.zoom(1.15);
      else if (event.key === '-') view?.zoom(1 / 1.15);
      else return;
      event.preventDefault();
    }}
  />
);

/** An ink for each of what is laid over each other. */
export const INKS = ['#3a4a9f', '#c2762b', '#3f7d4e', '#a83a6a'] as const;

/** All shapes laid over each other, each in an ink of its own: what they share is in all of them. */
export function LaidOver({ columns }: { columns: readonly Column[] }) {
  const store = useBenchStore();
  const host = useRef<HTMLDivElement>(null);
  const pane = useRef<HTMLDivElement>(null);
  const { engine, failure } = useEngine(host, {});
  const [layers, setLayers] = useState<ReadonlyMap<Design, readonly Drawn[]>>(new Map());
  useEffect(() => {
    engine?.open([{ name: 'space', pane: pane.current! }], store.getState().view.camera, true);
  }, [engine, store]);
  useEffect(() => {
    if (!engine) return;
    const seen = columns.flatMap(({ design }, i) => {
      const drawn = layers.get(design);
      return drawn ? [{ drawn, ink: INKS[i]! }] : [];
    });
    engine.imagine(seen);
    const boxes = seen.flatMap(({ drawn }) =>
      drawn.flatMap((one) => (one.type === 'body' ? [one.extent] : [])),
    );
    if (boxes.length) engine.frame(...around(boxes));
  }, [engine, layers, columns]);
  const take = useCallback(
    (design: Design, drawn: readonly Drawn[]) =>
      setLayers((known) => {
        const now = new Set(columns.map((column) => column.design));
        return new Map([...known].filter(([one]) => now.has(one))).set(design, drawn);
      }),
    [columns],
  );
  return (
    <div
      ref={host}
      className="stage-ground relative col-span-full h-[46vh] overflow-hidden"
      data-laid={layers.size}
    >
      <TurnedPane pane={pane} engine={engine} name="All laid over each other. Arrow keys turn them" />
      {columns.map(({ id, design }) => (
        <Pictured key={id ?? 'now'} design={design} onDrawn={take} />
      ))}
      {failure && <p className="absolute inset-x-4 top-[45%] text-center text-quiet">{failure}</p>}
    </div>
  );
}

/** Draws one of them. */
function Pictured({
  design,
  onDrawn,
}: {
  design: Design;
  onDrawn(design: Design, drawn: readonly Drawn[]): void;
}) {
  const { drawn, failed } = usePicture(design);
  useEffect(() => {
    if (drawn) onDrawn(design, drawn);
  }, [design, drawn, onDrawn]);
  return failed ? <p className="absolute inset-x-4 bottom-4 text-center text-madder">{FAILED}</p> : null;
}

/** The box about several. */
const around = (boxes: readonly (readonly [Vec3, Vec3])[]) =>
  [0, 1].map((end) =>
    [0, 1, 2].map((k) => (end ? Math.max : Math.min)(...boxes.map((box) => box[end]![k]!))),
  ) as unknown as [Vec3, Vec3];

interface ShapeProps {
  readonly column: Column;
  onEngine(engine: Engine | undefined): void;
  onLead(): void;
  onMoved(): void;
  onShown(): void;
}

function Shape({ column, onEngine, onLead, onMoved, onShown }: ShapeProps) {
  const store = useBenchStore();
  const host = useRef<HTMLDivElement>(null);
  const pane = useRef<HTMLDivElement>(null);
  const { engine, failure } = useEngine(host, { onDrawn: onMoved });
  const calls = useRef({ onEngine, onShown });
  useEffect(() => {
    calls.current = { onEngine, onShown };
  });
  useEffect(() => {
    if (!engine) return;
    engine.open([{ name: 'space', pane: pane.current! }], store.getState().view.camera, false);
    calls.current.onEngine(engine);
    return () => calls.current.onEngine(undefined);
  }, [engine, store]);
  const { design } = column;
  const { drawn, failed } = usePicture(design);
  useEffect(() => {
    if (!engine || !drawn) return;
    engine.show(drawn, [], design.steps);
    calls.current.onShown();
  }, [engine, design, drawn]);
  const says = failed ? FAILED : drawn?.length === 0 ? 'There is nothing to be seen.' : undefined;
  return (
    <div
      ref={host}
      className="stage-ground relative h-64 overflow-hidden"
      onPointerDownCapture={onLead}
      onWheelCapture={onLead}
      onFocusCapture={onLead}
    >
      <TurnedPane pane={pane} engine={engine} name={`${column.name}. Arrow keys turn all`} />
      {(failure ?? says) && (
        <p className="absolute inset-x-4 top-[45%] text-center text-quiet">{failure ?? says}</p>
      )}
    </div>
  );
}
