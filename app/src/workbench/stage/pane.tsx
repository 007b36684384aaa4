/** One view of the stage: turned, hovered, picked in; with its overlays. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Vector3 } from 'three';
import { stepName, stepOf } from '@nematos/core/design/edit';
import type { Design, Row } from '@nematos/core/design/schema';
import type { Vec3 } from '@nematos/core/geometry/vector';
import { writtenFigure, writtenNumber } from '@nematos/core/measure/format';
import { MM_IN } from '@nematos/core/measure/quantity';
import type { Lengthwise } from '@nematos/core/view/lengthwise';
import { useBench, useBenchStore, useOfDesign, useUnit } from '../../bench/bench';
import { alsoSelecting, selecting } from '../../bench/selection';
import type { Picking } from '../../bench/state';
import type { Engine } from '../../render/engine';
import type { ViewName } from '../../render/camera';
import type { View } from '../../render/view';
import { Dimensions } from './dimensions';
import { showOnSheet } from '../../ui/motion';
import { CutGrips } from './cut-grip';
import type { CutOpen } from './cut-open';
import { KeptMeasures } from './kept-measures';
import { MeasureMarks, type Measured } from './measure';
import { noteAt, NotePins } from './notes';
import { takeInput } from './pick-input';

/** What views are called. */
export const VIEW_WORDS: Record<ViewName, string> = {
  front: 'Front',
  top: 'Top',
  side: 'Side',
  space: 'Space',
};

interface PaneProps {
  readonly name: ViewName;
  readonly engine: Engine | undefined;
  readonly frame: number;
  readonly measured: Measured;
  readonly opened: CutOpen;
  readonly titled: boolean;
  readonly edges: string;
  onPane(pane: HTMLDivElement | null): void;
}

const HOVER_EVERY = 90;
/** A pointer that moved by no more than this, CSS pixels, points at something: a finger rolls. */
const STILL = 4;
const STILL_FINGER = 12;

/** A view in its pane. */
export function Pane({ name, engine, frame, measured, opened, titled, edges, onPane }: PaneProps) {
  const { hover, ...handlers } = usePointing(name, engine);
  // Grips would be hit in place of the part.
  const pointing = useBench(({ picking }) => picking?.what === 'note' || picking?.what === 'input');
  const onKeyDown = (event: KeyboardEvent) => {
    const view = engine?.view(name);
    const turn = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (turn) view?.step(turn[0]!, turn[1]!);
    else if (event.key === '+' || event.key === '=') view?.zoom(1.15);
    else if (event.key === '-') view?.zoom(1 / 1.15);
    else return;
    event.preventDefault();
  };

  const view = engine?.view(name);
  const hovered = useOfDesign((design) => design.steps.find((step) => step.id === hover?.step));
  return (
    <div className={`relative overflow-hidden border-hair ${edges}`}>
      <div
        ref={onPane}
        tabIndex={0}
        role="application"
        aria-label={`${VIEW_WORDS[name]} view. Arrow keys ${name === 'space' ? 'turn' : 'shift'}, plus and minus zoom.`}
        className={`absolute inset-0 touch-none -outline-offset-2 ${hover ? 'cursor-pointer' : name === 'space' ? 'cursor-grab active:cursor-grabbing' : 'cursor-move'}`}
        {...handlers}
        onKeyDown={onKeyDown}
      />
      {engine && !measured.pointed && !pointing && <Dimensions engine={engine} name={name} frame={frame} />}
      {engine && view && <CutGrips engine={engine} view={view} opened={opened} frame={frame} />}
      {engine && <KeptMeasures view={engine.view(name)} frame={frame} />}
      {engine && <NotePins view={engine.view(name)} frame={frame} />}
      {engine && <MeasureMarks view={engine.view(name)} measured={measured} />}
      {hover && hovered && (
        <span
          className="pointer-events-none absolute rounded bg-ink px-1.5 py-0.5 text-xs text-page"
          style={{ left: hover.x + 14, top: hover.y + 10 }}
        >
          {stepName(hovered)}
        </span>
      )}
      {titled && (
        <span className="pointer-events-none absolute bottom-2 left-4 text-xs text-quiet">
          {VIEW_WORDS[name]}
        </span>
      )}
      {engine && engine.shows() && <ScaleBar engine={engine} name={name} frame={frame} titled={titled} />}
    </div>
  );
}

/** What a pointer over a view is over, and what it does there: it shows a name, chooses, measures, or adds a station. */
function usePointing(name: ViewName, engine: Engine | undefined) {
  const store = useBenchStore();
  const [hover, setHover] = useState<{ step: string; x: number; y: number }>();
  const press = useRef<{ x: number; y: number } | undefined>(undefined);
  const last = useRef(0);

  const at = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const onPointerMove = (event: PointerEvent) => {
    if (event.buttons || performance.now() - last.current < HOVER_EVERY) return;
    last.current = performance.now();
    const { x, y } = at(event);
    const step = engine?.pick(name, x, y)?.step;
    setHover(step ? { step, x, y } : undefined);
    const { charts, point } = store.getState();
    const view = engine?.view(name);
    if (charts && view) point(step ? nearestOnScreen(charts.data.positions, view, x, y) : undefined);
  };
  /** A station of a law where the part was clicked, as large and as turned as the law is there. */
  const addStation = ({ step, what }: Picking, x: number, y: number) => {
    const { charts, pick, edit } = store.getState();
    const view = engine?.view(name);
    if (!charts || !view || (what !== 'sizes' && what !== 'twists') || charts.step !== step) return;
    const sample = nearestOnScreen(charts.data.positions, view, x, y);
    if (sample === undefined) return;
    pick(undefined);
    edit('Add a station', (draft) => insertStation(draft, step, what, charts.data, sample));
  };
  /** The place of a step where the part was clicked. */
  const takePlace = ({ step }: Picking, at: Vec3) => {
    const { pick, edit } = store.getState();
    pick(undefined);
    edit('Pick a place', (draft) => {
      const { set } = stepOf(draft, step);
      for (const [k, field] of (['x', 'y', 'z'] as const).entries())
        set[field] = writtenFigure(at[k]!, 'length', draft.unit);
    });
  };
  /** What was to be picked is where the part was clicked. */
  const take = (picking: Picking, found: { step: string; place: Vec3; x: number; y: number }) => {
    switch (picking.what) {
      case 'place':
        return takePlace(picking, found.place);
      case 'note':
        return noteAt(store, found.step, found.place);
      case 'input':
        return takeInput(store, picking, found.step);
      default:
        return addStation(picking, found.x, found.y);
    }
  };
  const onPointerDown = (event: PointerEvent) => {
    // Two fingers bring nearer or move it: nothing is pointed at by them.
    press.current = event.isPrimary ? { x: event.clientX, y: event.clientY } : undefined;
    setHover(undefined);
  };
  const onPointerUp = (event: PointerEvent) => {
    const from = press.current;
    press.current = undefined;
    const still = event.pointerType === 'touch' ? STILL_FINGER : STILL;
    if (!from || Math.hypot(event.clientX - from.x, event.clientY - from.y) > still) return;
    const { x, y } = at(event);
    const found = engine?.pick(name, x, y);
    if (!found) return;
    const { step, place } = found;
    const { probing, probe } = store.getState();
    if (probing) return probe([...(probing.length > 1 ? [] : probing), { step, at: place }]);
    const { picking } = store.getState();
    if (picking) return take(picking, { step, place, x, y });
    const { view, look } = store.getState();
    look(event.shiftKey ? alsoSelecting(view, step) : selecting(step));
    showOnSheet(step);
  };
  const onPointerLeave = () => {
    setHover(undefined);
    store.getState().point(undefined);
  };
  return { hover, onPointerDown, onPointerMove, onPointerUp, onPointerLeave };
}

/** Puts a station into a law's table, in its place along the path. */
function insertStation(
  draft: Design,
  step: string,
  table: 'sizes' | 'twists',
  { s, channels }: Lengthwise,
  sample: number,
): void {
  const part = s[sample]! / s.at(-1)!;
  const valueOf = (name: string) => channels.find((channel) => channel.name === name)?.values[sample];
  const width = valueOf('sectionWidth');
  const row: Row = {
    part: writtenNumber(part, 3),
    ...(table === 'sizes' && width !== undefined && { width: writtenFigure(width, 'length', draft.unit, 4) }),
    ...(table === 'twists' && {
      angle: writtenFigure(valueOf('twist') ?? 0, 'angle', draft.unit, 4),
    }),
  };
  const rows = ((stepOf(draft, step).rows ??= {})[table] ??= []);
  const before = rows.findIndex((other) => Number(other.part ?? 'NaN') > part);
  rows.splice(before < 0 ? rows.length : before, 0, row);
}

/** The sample of a path whose place on the screen is nearest to a point, if it is near. */
function nearestOnScreen(positions: Float32Array, view: View, x: number, y: number): number | undefined {
  let best: number | undefined;
  let least = 40;
  const point = new Vector3();
  for (let i = 0; i < positions.length / 3; i++) {
    const at = view.project(point.fromArray(positions, 3 * i));
    const far = at ? Math.hypot(at.x - x, at.y - y) : Infinity;
    if (far < least) [best, least] = [i, far];
  }
  return best;
}

/** A bar of a round length near a hundred pixels. */
function ScaleBar({
  engine,
  name,
  titled,
}: {
  engine: Engine;
  name: ViewName;
  frame: number;
  titled: boolean;
}) {
  const unit = useUnit();
  const view = engine.view(name);
  if (!view) return null;
  const inPixel = view.mmPerPixel() / MM_IN[unit];
  const rough = inPixel * 90;
  if (!(rough > 0) || !Number.isFinite(rough)) return null;
  const decade = 10 ** Math.floor(Math.log10(rough));
  const length = [5, 2, 1].map((n) => n * decade).find((n) => n <= rough)!;
  return (
    <span
      data-scale
      className={`pointer-events-none absolute bottom-2 flex items-center gap-2 text-xs text-quiet ${titled ? 'left-16' : 'left-4'}`}
    >
      <span className="h-1.5 border-x border-b border-quiet" style={{ width: length / inPixel }} />
      {Number(length.toPrecision(3))} {unit}
    </span>
  );
}
