/** Dimension lines over a view. Their figures can be pulled, or clicked to be typed. */
import { useRef, type PointerEvent, type ReactElement } from 'react';
import { Box3, Vector3, type Box2 } from 'three';
import { sourcesIn } from '@nematos/core/design/schema';
import { literalAt, pull, quantityAt } from '@nematos/core/design/literal';
import type { Mark } from '@nematos/core/kind/mark';
import type { Result } from '@nematos/core/kind/value';
import { partOf } from '@nematos/core/view/part';
import { LEVEL_INK, Shown } from '../../ui/figure';
import { useBench, useBenchStore, useDesign, useUnit } from '../../bench/bench';
import { chosenStep, shownCount } from '../../bench/selection';
import { dimensionOf, overallOf, roomOf, type Dimension, type Line, type Overall } from './dimension';
import { INKED } from './inked';
import type { Engine } from '../../render/engine';
import type { Drawn } from '../../worker/messages';
import { fieldOf, PointGrip } from './point-grip';
import { SizeGrip } from './size-grip';
import { TurnGrip } from './turn-grip';
import type { ViewName } from '../../render/camera';
import type { View } from '../../render/view';

let pulls = 0;
type Marks = Pick<Drawn, 'step' | 'marks'>;

const isLine = ({ type }: Mark): boolean => type === 'along' || type === 'across';

/** Marks of the selected step, and dimension lines of what it is made of, or goes into, where it has none; and whose they are. */
function useMarks(): Marks[] {
  const design = useDesign();
  const drawn = useBench((bench) => bench.drawn);
  const count = useBench(shownCount);
  const selected = useBench((bench) => chosenStep(bench.view));
  const steps = design.steps.slice(0, count);
  const chosen = steps.find((step) => step.id === selected) ?? steps.at(-1);
  if (!chosen) return [];
  const sources = sourcesIn(chosen);
  const own = { step: chosen.id, marks: drawn.get(chosen.id)?.marks ?? [] };
  /** The path that a body is carried along, which stands where the body does. */
  const carrier = drawn.get(chosen.id)?.type === 'body' ? chosen.from?.path : undefined;
  if (own.marks.some(isLine) || (own.marks.length && !carrier)) return [own];
  const related = [
    ...sources,
    ...steps.filter(({ id }) => sources.includes(id)).flatMap(sourcesIn),
    ...steps.filter((step) => sourcesIn(step).includes(chosen.id)).flatMap(sourcesIn),
  ];
  for (const id of related) {
    const marks = (drawn.get(id)?.marks ?? []).filter(
      // Grips belong to the step itself, corners to the body along the path too; else they are in the way.
      (mark) => isLine(mark) || (mark.type === 'point' && mark.number !== undefined && id === carrier),
    );
    if (marks.length && steps.some((step) => step.id === id)) return [own, { step: id, marks }];
  }
  return [own];
}

/** The place that the cursor of the charts points at. */
function CursorDot({ view }: { view: View }) {
  const cursor = useBench((bench) => bench.cursor);
  const positions = useBench((bench) => bench.charts?.data.positions);
  if (cursor === undefined || !positions) return null;
  const at = view.project(new Vector3().fromArray(positions, 3 * cursor));
  if (!at) return null;
  return (
    <span
      data-cursor
      className="pointer-events-none absolute size-3 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-sheet bg-ink"
      style={{ left: at.x, top: at.y }}
    />
  );
}

/** The place that a finding was led to: a ring about it, with a tail that is seen from afar. */
function Pin({ view }: { view: View }) {
  const pinned = useBench((bench) => bench.pinned);
  const at = pinned && view.project(new Vector3(...pinned.place));
  if (!at) return null;
  return (
    <svg
      data-pin={pinned.finding}
      className="pointer-events-none absolute size-16 -translate-x-1/2 -translate-y-1/2"
      style={{ left: at.x, top: at.y }}
      viewBox="-32 -32 64 64"
      aria-hidden
    >
      <circle r="15" fill="none" stroke="var(--sheet)" strokeWidth="5" opacity="0.8" />
      <circle r="15" fill="none" stroke={LEVEL_INK[pinned.level]} strokeWidth="2.5" />
      <path d="M10.6 -10.6L24 -24" stroke={LEVEL_INK[pinned.level]} strokeWidth="2.5" strokeLinecap="round" />
    </svg>
  );
}

/** Dimension lines of all steps that are to be seen, one after the other clear of each other, and the overall size. */
function useAll(engine: Engine, view: View | undefined) {
  const design = useDesign();
  const drawn = useBench((bench) => bench.drawn);
  const count = useBench(shownCount);
  const on = useBench((bench) => bench.view.dimensions === 'all');
  const seen = useBench((bench) => bench.seen);
  if (!on || !view) return undefined;
  const taken: Box2[] = [];
  const lines = design.steps.slice(0, count).flatMap((step) => {
    const dimensions = linesOf(drawn.get(step.id)?.marks ?? [], view, taken);
    return dimensions.length && !step.hidden ? [{ step: step.id, dimensions }] : [];
  });
  const [low, high] = engine.box();
  const box = new Box3(new Vector3(...low), new Vector3(...high));
  const overall = engine.shows() ? overallOf(box, view, taken) : [];
  const part = partOf(design.steps);
  const figures = seen?.whole ?? seen?.steps.find(({ id }) => id === part[0]?.id)?.results ?? [];
  return { lines, overall: overall.map((line) => ({ ...line, value: exactly(line, figures) })) };
}

/** An overall size as it was calculated, where that is of what is seen: triangles are a little smaller. */
function exactly({ way, value }: Overall, figures: readonly Result[]): number {
  const exact = figures.find(({ name }) => name === `extent${way.toUpperCase()}`)?.value;
  return exact !== undefined && Math.abs(exact - value) < 0.02 * exact ? exact : value;
}

/** Dimension lines of marks; the room of their figures is taken then. */
const linesOf = (marks: readonly Mark[], view: View, taken: Box2[]): Dimension[] =>
  marks.flatMap((mark) => {
    const found =
      mark.type === 'along' || mark.type === 'across' ? dimensionOf(mark, view, taken) : undefined;
    if (found) taken.push(roomOf(found));
    return found ?? [];
  });

/** The dimension lines, points and cursor over a view. `frame` changes whenever the view does. */
export function Dimensions({
  engine,
  name,
}: {
  engine: Engine;
  name: ViewName;
  frame: number;
}): ReactElement | null {
  const marks = useMarks();
  const view = engine.view(name);
  const all = useAll(engine, view);
  if (!view) return null;
  return (
    <>
      {all?.lines.map(({ step, dimensions }) => (
        <Lines key={step} step={step} dimensions={dimensions} view={view} />
      ))}
      {all && <Overalls overall={all.overall} />}
      {marks.map(({ step, marks: its }) => (
        <MarksOf key={step} step={step} marks={all ? its.filter((mark) => !isLine(mark)) : its} view={view} />
      ))}
      <CursorDot view={view} />
      <Pin view={view} />
    </>
  );
}

/** Lines without their figures, in an ink. */
const Drawing = ({ lines, ink }: { lines: readonly Line[]; ink: string }) => (
  <svg {...INKED} className="pointer-events-none absolute inset-0 size-full" aria-hidden>
    {lines.map(({ from, to, label, extensions }, i) => (
      <g key={i} stroke={ink} strokeWidth="1" fill={ink}>
        <path
          d={[[from, to] as const, [to, label] as const, ...extensions]
            .map(([a, b]) => `M${a.x} ${a.y}L${b.x} ${b.y}`)
            .join('')}
        />
        <circle cx={from.x} cy={from.y} r="2.2" />
        <circle cx={to.x} cy={to.y} r="2.2" />
      </g>
    ))}
  </svg>
);

function Overalls({ overall }: { overall: readonly Overall[] }) {
  const unit = useUnit();
  return (
    <>
      <Drawing lines={overall} ink="var(--quiet)" />
      {overall.map(({ way, value, label }) => (
        <span
          key={way}
          {...INKED}
          data-overall={way}
          title={`Overall size along ${way}`}
          className="pointer-events-none absolute z-[1] -translate-x-1/2 -translate-y-1/2 rounded-sm bg-sheet/85 px-1.5 py-0.5 text-[13px] leading-tight whitespace-nowrap"
          style={{ left: label.x, top: label.y }}
        >
          <Shown value={value} quantity="length" unit={unit} />
        </span>
      ))}
    </>
  );
}

/** Dimension lines of a step with their figures. */
function Lines({ step, dimensions, view }: { step: string; dimensions: readonly Dimension[]; view: View }) {
  return (
    <>
      <Drawing lines={dimensions} ink="var(--brass)" />
      {dimensions.map((dimension) => (
        <Label key={dimension.mark.field} step={step} dimension={dimension} perPixel={view.mmPerPixel()} />
      ))}
    </>
  );
}

/** The dimension lines and grips of one step. */
function MarksOf({ step, marks, view }: Marks & { view: View }) {
  const points = marks.filter((mark) => mark.type === 'point');
  const turns = marks.filter((mark) => mark.type === 'turn');
  const sizes = marks.filter((mark) => mark.type === 'size');
  return (
    <>
      <Lines step={step} dimensions={linesOf(marks, view, [])} view={view} />
      {turns.map((mark) => (
        <TurnGrip key={mark.field} step={step} mark={mark} view={view} />
      ))}
      {sizes.map((mark) => (
        <SizeGrip key={mark.field} step={step} mark={mark} view={view} />
      ))}
      {points.map((mark) => (
        <PointGrip key={fieldOf(mark)} step={step} mark={mark} view={view} />
      ))}
    </>
  );
}

function Label({ step: id, dimension, perPixel }: { step: string; dimension: Dimension; perPixel: number }) {
  const { mark, label } = dimension;
  const store = useBenchStore();
  const design = useDesign();
  const seen = useBench((bench) => bench.seen?.steps.find((step) => step.id === id)?.resolved[mark.field]);
  const place = { step: id, field: mark.field };
  const hold = useRef<
    | {
        x: number;
        y: number;
        value: number;
        pull: Dimension['pull'];
        step: number;
        moved: boolean;
        group: string;
      }
    | undefined
  >(undefined);
  const exists = design.steps.some((step) => step.id === id && step.set[mark.field] !== undefined);
  if (!seen || !exists) return null;
  const quantity = quantityAt(design.steps.find((step) => step.id === id)!.kind, mark.field)!;
  const can = literalAt(design, place) !== undefined;

  const onPointerDown = (event: PointerEvent<HTMLButtonElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    // Pulled figures are rounded to what a pixel can tell apart.
    const step = 10 ** Math.floor(Math.log10(Math.max(perPixel, 1e-9) * 1.2));
    hold.current = {
      x: event.clientX,
      y: event.clientY,
      value: seen.value,
      pull: dimension.pull,
      step,
      moved: false,
      group: `pull ${++pulls}`,
    };
  };
  const onPointerMove = (event: PointerEvent) => {
    const at = hold.current;
    if (!at || !can) return;
    const [x, y] = [event.clientX - at.x, event.clientY - at.y];
    if (!at.moved && Math.hypot(x, y) < 3) return;
    if (!at.moved) store.getState().scrub(true);
    at.moved = true;
    const value = Math.max(at.step, Math.round((at.value + at.pull(x, y)) / at.step) * at.step);
    store
      .getState()
      .edit(`Pull the ${mark.field}`, (draft) => void pull(draft, place, value, at.step, quantity), at.group);
  };
  const onPointerUp = () => {
    const at = hold.current;
    hold.current = undefined;
    store.getState().scrub(false);
    if (at && !at.moved) focusField();
  };
  const focusField = () =>
    document.querySelector<HTMLInputElement>(`[data-place="${id}.${mark.field}"]`)?.focus();

  return (
    <button
      type="button"
      {...INKED}
      data-dimension={mark.field}
      aria-label={`Go to the ${mark.field}`}
      title={can ? 'Pull to change, click to type' : 'This follows from an expression: click to see it'}
      className={`absolute z-[1] -translate-x-1/2 -translate-y-1/2 touch-none rounded-sm bg-sheet/85 px-1.5 py-0.5 text-[13px] leading-tight font-medium whitespace-nowrap pointer-coarse:px-2.5 pointer-coarse:py-2 ${can ? 'cursor-move border-b-[1.5px] border-brass-line hover:border-brass' : ''}`}
      style={{ left: label.x, top: label.y }}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={onPointerUp}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === ' ') focusField();
      }}
    >
      {mark.type === 'across' && 'Ø '}
      <Shown value={seen.value} quantity={seen.quantity} unit={design.unit} />
    </button>
  );
}
