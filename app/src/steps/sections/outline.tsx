import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { cellField } from '@nematos/core/measure/field';
import { nudge, pull } from '@nematos/core/design/literal';
import type { Design } from '@nematos/core/design/schema';
import { useBenchStore } from '../../bench/bench';
import { RowsTable } from '../../fields/rows-table';
import { SectionFiles } from './section-files';
import { MoreLine, Source, useEditing, useResult, type Editor } from '../../fields/editor';
import { SECTION_RESULTS, SectionWord, useContours } from './section';

let drags = 0;

function Sentence() {
  const { step } = useEditing();
  const count = step.rows?.points?.length ?? 0;
  return (
    <>
      <SectionWord />{' '}
      {step.from?.path ? (
        <>
          of <Source slot="path" name="outline" />
        </>
      ) : (
        `of ${count} points`
      )}
      .
    </>
  );
}

const SIZE = 200;

/** Ways to move a point of the outline: pulled by the pointer, and by arrow keys. `top` is how high the drawing begins. */
function usePulledPoints(contours: ReturnType<typeof useContours>, top: number) {
  const { step } = useEditing();
  const store = useBenchStore();
  const held = useRef<{ row: number; group: string; scale: number } | undefined>(undefined);
  const cell = (row: number, column: string) => ({ step: step.id, field: cellField('points', row, column) });
  const edit = (recipe: (draft: Design) => void, group: string) =>
    store.getState().edit('Move a point of the outline', recipe, group);
  return {
    onPointerDown: (row: number) => (event: PointerEvent<SVGCircleElement>) => {
      event.currentTarget.ownerSVGElement!.setPointerCapture(event.pointerId);
      held.current = { row, group: `outline ${++drags}`, scale: contours!.scale };
      store.getState().scrub(true);
    },
    onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
      if (!held.current || !contours) return;
      const { row, group, scale } = held.current;
      const box = event.currentTarget.getBoundingClientRect();
      const per = SIZE / box.width;
      const [ox, oy] = contours.at(0, 0);
      const to = [
        ((event.clientX - box.left) * per - ox) / scale,
        (oy - top - (event.clientY - box.top) * per) / scale,
      ];
      const round = 10 ** Math.floor(Math.log10(per / scale));
      edit(
        (draft) => ['x', 'y'].forEach((k, i) => void pull(draft, cell(row, k), to[i]!, round, 'length')),
        group,
      );
    },
    onPointerUp: () => {
      held.current = undefined;
      store.getState().scrub(false);
    },
    onKeyDown: (row: number) => (event: KeyboardEvent) => {
      const by = WAYS[event.key];
      if (!by) return;
      event.preventDefault();
      const steps = by[1] * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
      edit((draft) => void nudge(draft, cell(row, by[0]), steps), `point ${row}`);
    },
  };
}

/** Which column of a point an arrow key changes, and which way. */
const WAYS: Readonly<Record<string, readonly [column: 'x' | 'y', by: 1 | -1]>> = {
  ArrowLeft: ['x', -1],
  ArrowRight: ['x', 1],
  ArrowDown: ['y', -1],
  ArrowUp: ['y', 1],
};

/** The outline large, its points to be pulled. */
function Outline() {
  const { step, seen } = useEditing();
  const contours = useContours(SIZE);
  const x = useResult('centroidX')?.value ?? 0;
  const y = useResult('centroidY')?.value ?? 0;
  const tall = (contours?.high ?? 0) + 0.14 * SIZE;
  const top = (SIZE - tall) / 2;
  const { onPointerDown, onPointerMove, onPointerUp, onKeyDown } = usePulledPoints(contours, top);
  if (!contours) return null;
  const points = (step.rows?.points ?? []).flatMap((_row, i) => {
    const [px, py] = ['x', 'y'].map((k) => seen?.resolved[cellField('points', i, k)]?.value);
    return px === undefined || py === undefined ? [] : [{ i, at: contours.at(px, py) }];
  });
  const [cx, cy] = contours.at(x, y);
  return (
    <svg
      viewBox={`0 ${top} ${SIZE} ${tall}`}
      className="mx-auto mt-1.5 block w-full max-w-64 touch-none"
      role="group"
      aria-label="The outline; its points can be moved"
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
    >
      <path
        d={contours.path}
        fill="var(--hover)"
        fillRule="evenodd"
        stroke="currentColor"
        strokeWidth="1.2"
      />
      <path d={`M${cx - 7} ${cy}h14M${cx} ${cy - 7}v14`} stroke="var(--brass)" strokeDasharray="3 2" />
      {points.map(({ i, at: [px, py] }) => (
        <circle
          key={i}
          cx={px}
          cy={py}
          r="4"
          tabIndex={0}
          role="button"
          aria-label={`Point ${i + 1}: arrow keys move it`}
          className="cursor-move fill-brass stroke-sheet"
          onPointerDown={onPointerDown(i)}
          onKeyDown={onKeyDown(i)}
        />
      ))}
    </svg>
  );
}

function Table() {
  return (
    <>
      <Outline />
      <RowsTable
        table="points"
        columns={[
          { name: 'x', head: 'x' },
          { name: 'y', head: 'y' },
          { name: 'radius', head: 'radius' },
          { name: 'chamfer', head: 'cut off' },
          { name: 'arc', head: 'arc' },
          { name: 'hole', head: 'hole' },
        ]}
      />
      <SectionFiles />
    </>
  );
}

export const outline: Editor = {
  Sentence,
  Table,
  More: () => (
    <>
      <MoreLine label="a plane path instead of points">
        <Source slot="path" name="outline" />
      </MoreLine>
      <p className="mt-1 text-quiet">Round holes, by their middle and diameter:</p>
      <RowsTable
        table="bores"
        columns={[
          { name: 'x', head: 'x' },
          { name: 'y', head: 'y' },
          { name: 'diameter', head: 'diameter' },
        ]}
      />
    </>
  ),
  results: SECTION_RESULTS,
};
