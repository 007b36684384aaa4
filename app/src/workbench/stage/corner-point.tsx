/** A corner point of a run, or a point of a curve, on the stage: dragged in the plane of the view. */
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { Vector3 } from 'three';
import { cellField } from '@nematos/core/measure/field';
import { literalAt, textAt, writeAt } from '@nematos/core/design/literal';
import { writtenFigure } from '@nematos/core/measure/format';
import type { PointMark } from '@nematos/core/kind/mark';
import type { Vec3 } from '@nematos/core/geometry/vector';
import { inverse, moved } from '@nematos/core/geometry/motion';
import { useBenchStore, useUnit } from '../../bench/bench';
import type { View } from '../../render/view';

const AXES = ['x', 'y', 'z'] as const;
let drags = 0;

/** A point of a table, to be dragged or moved by the arrow keys. */
export function CornerPoint({ step: id, mark, view }: { step: string; mark: PointMark; view: View }) {
  const store = useBenchStore();
  const unit = useUnit();
  const hold = useRef<{ x: number; y: number; at: Vector3; group: string } | undefined>(undefined);
  const place = view.project(new Vector3(...mark.at));
  if (!place) return null;
  const noun = `Point ${mark.row + 1}`;

  /** What is written where the point is at a place: it may be shown where its path was moved to. */
  const written = (at: Vec3): Vec3 => (mark.moved ? moved(inverse(mark.moved), at) : at);

  /** Moves the point; coordinates that stand as expressions stay. */
  const moveTo = (to: Vector3, step: number, group: string) => {
    const [goal, from] = [written(to.toArray()), written(mark.at)];
    store.getState().edit(
      `Move ${noun.toLowerCase()}`,
      (draft) =>
        AXES.forEach((axis, k) => {
          if (Math.abs(goal[k]! - from[k]!) < step / 2) return;
          const cell = { step: id, field: cellField(mark.table, mark.row, axis) };
          if (textAt(draft, cell) && !literalAt(draft, cell)) return;
          const rounded = Math.round(goal[k]! / step) * step;
          writeAt(draft, cell, writtenFigure(rounded, 'length', unit));
        }),
      group,
    );
  };
  const axis = (column: number) => new Vector3().setFromMatrixColumn(view.camera.matrixWorld, column);
  const roundTo = () => 10 ** Math.floor(Math.log10(Math.max(view.mmPerPixel(), 1e-9) * 1.2));

  const onPointerDown = (event: PointerEvent<HTMLButtonElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    hold.current = {
      x: event.clientX,
      y: event.clientY,
      at: new Vector3(...mark.at),
      group: `drag ${++drags}`,
    };
    store.getState().scrub(true);
  };
  const onPointerMove = (event: PointerEvent) => {
    const from = hold.current;
    if (!from) return;
    const scale = view.mmPerPixel();
    const to = from.at
      .clone()
      .addScaledVector(axis(0), (event.clientX - from.x) * scale)
      .addScaledVector(axis(1), -(event.clientY - from.y) * scale);
    moveTo(to, roundTo(), from.group);
  };
  const end = () => {
    hold.current = undefined;
    store.getState().scrub(false);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (!by) return;
    event.preventDefault();
    const step = roundTo() * (event.shiftKey ? 10 : 1);
    const to = new Vector3(...mark.at)
      .addScaledVector(axis(0), by[0]! * step)
      .addScaledVector(axis(1), by[1]! * step);
    moveTo(to, roundTo() / 10, `nudge ${mark.row}`);
  };

  return (
    <button
      type="button"
      data-point={mark.row}
      aria-label={`${noun}: drag it, or move it by the arrow keys`}
      title={`${noun}: drag it, or move it by the arrow keys`}
      className="absolute grid size-6 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none place-items-center rounded-full"
      style={{ left: place.x, top: place.y }}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={end}
      onPointerCancel={end}
      onKeyDown={onKeyDown}
    >
      <span className="size-2.5 rounded-full border-[1.5px] border-brass bg-sheet" />
      <span className="pointer-events-none absolute top-0 left-5 text-[11px] text-quiet">{mark.row + 1}</span>
    </button>
  );
}
