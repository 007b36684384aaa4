/** A point on the stage: a corner of a run, the place of a body. Dragged in the plane of the view, or along one axis. */
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { Vector3 } from 'three';
import { stepOf } from '@nematos/core/design/edit';
import type { Design } from '@nematos/core/design/schema';
import { literalAt, quantityAt, textAt, writeAt } from '@nematos/core/design/literal';
import { writtenFigure } from '@nematos/core/measure/format';
import type { Led, PointMark } from '@nematos/core/kind/mark';
import { type Vec3, vec3 } from '@nematos/core/geometry/vector';
import { inverse, turned } from '@nematos/core/geometry/motion';
import { useBenchStore } from '../../bench/bench';
import type { View } from '../../render/view';
import { Grip } from './grip';

let drags = 0;

/** A figure it is led by, in base units, and what is written for it. */
interface Figure {
  readonly led: Led;
  readonly value: number;
  readonly text: string;
}

/** Where it is taken hold of, in CSS pixels, and its figures then. */
interface Held {
  readonly figures: readonly Figure[];
  readonly x: number;
  readonly y: number;
  readonly group: string;
}

/** A point to be dragged, or moved by the arrow keys. */
export function PointGrip({ step: id, mark, view }: { step: string; mark: PointMark; view: View }) {
  const store = useBenchStore();
  const hold = useRef<Held | undefined>(undefined);
  const place = view.project(new Vector3(...mark.at));
  if (!place) return null;
  const says = `${mark.name}: drag it, or move it by the arrow keys; Shift keeps it on one axis`;

  /** A way on the stage as the figures have it: the point may be shown where its path was moved to. */
  const written = (way: Vec3): Vec3 =>
    mark.moved ? turned(inverse({ ...mark.moved, origin: [0, 0, 0] }), way) : way;
  const figuresNow = (): Figure[] => {
    const { seen, history } = store.getState();
    const resolved = seen?.steps.find((one) => one.id === id)?.resolved ?? {};
    return mark.led.map((led) => ({
      led,
      value: resolved[led.field]?.value ?? 0,
      text: textAt(history.present, { step: id, field: led.field }),
    }));
  };

  /** Moves the point by so much from where it was. */
  const moveBy = (way: Vec3, figures: readonly Figure[], step: number, group: string) =>
    store
      .getState()
      .edit(
        `Move ${mark.name.toLowerCase()}`,
        (draft) => writeMoved(draft, id, figures, written(way), step),
        group,
      );
  const axis = (column: number) => new Vector3().setFromMatrixColumn(view.camera.matrixWorld, column);
  const roundTo = () => roundingOf(1.2 * Math.max(view.mmPerPixel(), 1e-9));

  const onTake = (event: PointerEvent) => {
    hold.current = { figures: figuresNow(), x: event.clientX, y: event.clientY, group: `drag ${++drags}` };
    store.getState().scrub(true);
  };
  const onLead = (event: PointerEvent) => {
    const from = hold.current;
    if (!from) return;
    const scale = view.mmPerPixel();
    const way = new Vector3()
      .addScaledVector(axis(0), (event.clientX - from.x) * scale)
      .addScaledVector(axis(1), -(event.clientY - from.y) * scale);
    moveBy(event.shiftKey ? onOneAxis(way) : way.toArray(), from.figures, roundTo(), from.group);
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
    const way = new Vector3().addScaledVector(axis(0), by[0]! * step).addScaledVector(axis(1), by[1]! * step);
    moveBy(way.toArray(), figuresNow(), roundTo() / 10, `nudge ${fieldOf(mark)}`);
  };

  return (
    <Grip
      data-point={mark.number !== undefined ? mark.number - 1 : fieldOf(mark)}
      says={says}
      at={place}
      cursor="cursor-move"
      onTake={onTake}
      onLead={onLead}
      onLetGo={end}
      onKeyDown={onKeyDown}
    >
      {mark.number === undefined ? (
        // A seed in its ring.
        <span className="grid size-4 place-items-center rounded-full border-[1.5px] border-brass bg-sheet/70">
          <span className="size-1.5 rounded-full bg-brass" />
        </span>
      ) : (
        <span className="size-2.5 rounded-full border-[1.5px] border-brass bg-sheet" />
      )}
      {mark.number !== undefined && (
        <span className="pointer-events-none absolute top-0 left-5 rounded-sm bg-sheet/75 px-0.5 text-[11px] leading-4 text-quiet">
          {mark.number}
        </span>
      )}
    </Grip>
  );
}

/** Writes figures as a point that moved by so much has them, mm; those that stand as expressions stay. */
function writeMoved(draft: Design, id: string, figures: readonly Figure[], by: Vec3, step: number): void {
  const { kind } = stepOf(draft, id);
  for (const { led, value, text: was } of figures) {
    const cell = { step: id, field: led.field };
    const text = textAt(draft, cell);
    if (text && !literalAt(draft, cell)) continue;
    const { rate = 1 } = led;
    const rounding = rate === 1 ? step : roundingOf(rate * step);
    const change = rate * by[led.way]!;
    const rounded = Math.round((value + change) / rounding) * rounding;
    // Led back to where it was, it is what it was.
    const next =
      Math.abs(change) < rounding / 2
        ? was
        : writtenFigure(rounded, quantityAt(kind, led.field) ?? 'length', draft.unit);
    if (next !== text) writeAt(draft, cell, next);
  }
}

/** The first of its figures: by it one grip is told from another. */
export const fieldOf = ({ led }: PointMark): string => led[0]!.field;

/** The power of ten at or below a figure. */
const roundingOf = (figure: number): number => 10 ** Math.floor(Math.log10(figure));

/** The part of a way that goes along x, y or z, whichever is longest. */
function onOneAxis(way: Vector3): Vec3 {
  const all = way.toArray();
  const longest = Math.max(...all.map(Math.abs));
  return vec3(all.map((x) => (Math.abs(x) === longest ? x : 0)));
}
