/** The shapes of what is compared, beside each other: as one is turned, all are. */
import { useEffect, useRef, useState } from 'react';
import type { Engine } from '../../render/engine';
import { useEngine } from '../../render/use-engine';
import type { Design } from '@nematos/core/design/schema';
import type { Vec3 } from '@nematos/core/geometry/vector';
import { askDeep, leave, nextOf } from '../../worker/client';
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
    const [low, high] = [0, 1].map((end) =>
      [0, 1, 2].map((k) => (end ? Math.max : Math.min)(...boxes.map((box) => box[end]![k]!))),
    ) as unknown as [Vec3, Vec3];
    leader.current = '';
    for (const engine of engines.current.values()) engine.frame(low, high);
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
  const [says, setSays] = useState<string>();
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
  useEffect(() => {
    if (!engine) return;
    const session = crypto.randomUUID();
    let gone = false;
    askDeep((kernel) => kernel.picture(design, nextOf(session)))
      .then((drawn) => {
        if (gone || !drawn) return;
        engine.show(drawn, [], design.steps);
        setSays(drawn.length ? undefined : 'There is nothing to be seen.');
        calls.current.onShown();
      })
      .catch(() => !gone && setSays('It could not be drawn: change a figure of it, or set it aside.'));
    return () => {
      gone = true;
      leave(session);
    };
  }, [engine, design]);
  return (
    <div
      ref={host}
      className="stage-ground relative h-64 overflow-hidden"
      onPointerDownCapture={onLead}
      onWheelCapture={onLead}
      onFocusCapture={onLead}
    >
      <div
        ref={pane}
        tabIndex={0}
        role="application"
        aria-label={`${column.name}. Arrow keys turn all, plus and minus zoom.`}
        className="absolute inset-0 cursor-grab touch-none -outline-offset-2 active:cursor-grabbing"
        onKeyDown={(event) => {
          const view = engine?.view('space');
          const turn = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
            event.key
          ];
          if (turn) view?.step(turn[0]!, turn[1]!);
          else if (event.key === '+') view?.zoom(1.15);
          else if (event.key === '-') view?.zoom(1 / 1.15);
          else return;
          event.preventDefault();
        }}
      />
      {(failure ?? says) && (
        <p className="absolute inset-x-4 top-[45%] text-center text-quiet">{failure ?? says}</p>
      )}
    </div>
  );
}
