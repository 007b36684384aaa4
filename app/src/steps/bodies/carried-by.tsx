/** The point of the section that the path runs through: by its name, or pressed in a drawing of the section. */
import type { KeyboardEvent } from 'react';
import { stepOf } from '@nematos/core/design/edit';
import { sourceAt } from '@nematos/core/design/schema';
import { useBench, useBenchStore } from '../../bench/bench';
import { Fig, MoreLine, Pick, useEditing, useSet } from '../../fields/editor';
import { useContours } from '../sections/section';

const NAMES = [
  ['centroid', 'centroid'],
  ['origin', 'origin'],
  ['left', 'left side'],
  ['right', 'right side'],
  ['top', 'top'],
  ['bottom', 'bottom'],
  ['corner', 'corner'],
] as const;

const SIZE = 96;
/** More corners than these cannot be told apart in so small a drawing. */
const MOST_CORNERS = 60;

/** The point of the section that the path runs through: a choice, and a drawing to press it in. */
export function CarriedBy() {
  const set = useSet();
  return (
    <>
      <MoreLine label="carried by its">
        <Pick field="by" name="point of the section" options={NAMES} />
        {set.by === 'corner' && <Fig field="byCorner" name="number of the corner" />}
      </MoreLine>
      <Points />
    </>
  );
}

interface Choosable {
  readonly by: string;
  readonly corner?: string;
  readonly says: string;
  readonly at: readonly [number, number];
}

function Points() {
  const { step } = useEditing();
  const set = useSet();
  const store = useBenchStore();
  const section = sourceAt(step, 'section') ?? '';
  const contours = useContours(SIZE, section);
  const figures = useBench((bench) => bench.seen?.steps.find(({ id }) => id === section)?.results);
  if (!contours) return null;
  const tall = contours.high + 0.14 * SIZE;
  const points = pointsOf(contours, (name) => figures?.find((figure) => figure.name === name)?.value ?? 0);
  // Of several in one place only the first would be reached by the pointer: the chosen one, or else the first named.
  const isChosen = ({ by, corner }: Choosable) => by === set.by && (!corner || corner === set.byCorner);
  const near = (a: Choosable, b: Choosable) =>
    Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]) * contours.scale < 2;
  const told = [...points.filter(isChosen), ...points.filter((one) => !isChosen(one))];
  const apart = told.filter((one, i) => !told.slice(0, i).some((other) => near(one, other)));
  const choose = ({ by, corner, says }: Choosable) =>
    store.getState().edit(`Carry it by its ${says}`, (draft) => {
      const mine = stepOf(draft, step.id).set;
      mine.by = by;
      if (corner) mine.byCorner = corner;
    });
  const onKeyDown = (point: Choosable) => (event: KeyboardEvent) => {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    choose(point);
  };
  return (
    <svg
      viewBox={`0 ${(SIZE - tall) / 2} ${SIZE} ${tall}`}
      className="mx-auto my-1 block w-36"
      role="radiogroup"
      aria-label="Point of the section that the path runs through"
    >
      <path
        d={contours.path}
        fill="var(--hover)"
        fillRule="evenodd"
        stroke="currentColor"
        strokeWidth="0.8"
      />
      {apart.map((point) => {
        const chosen = isChosen(point);
        const [px, py] = contours.at(...point.at);
        return (
          <circle
            key={point.says}
            cx={px}
            cy={py}
            r={chosen ? 3.4 : 2.6}
            tabIndex={0}
            role="radio"
            aria-checked={chosen}
            aria-label={point.says}
            className={`cursor-pointer ${chosen ? 'fill-thread stroke-sheet' : 'fill-sheet stroke-brass hover:fill-brass'}`}
            onClick={() => choose(point)}
            onKeyDown={onKeyDown(point)}
          >
            <title>{point.says}</title>
          </circle>
        );
      })}
    </svg>
  );
}

/** What of a section can be chosen: what has a name, and its corners. */
function pointsOf(
  contours: NonNullable<ReturnType<typeof useContours>>,
  value: (figure: string) => number,
): Choosable[] {
  const { left, right, low, high } = contours.box;
  const [x, y] = [(left + right) / 2, (low + high) / 2];
  const places: Record<string, readonly [number, number]> = {
    centroid: [value('centroidX'), value('centroidY')],
    origin: [0, 0],
    left: [left, y],
    right: [right, y],
    top: [x, high],
    bottom: [x, low],
  };
  const corners = contours.corners.length > MOST_CORNERS ? [] : contours.corners;
  return [
    ...NAMES.flatMap(([by, says]) => (places[by] ? [{ by, says, at: places[by] }] : [])),
    ...corners.map((at, i) => ({
      by: 'corner',
      corner: String(i + 1),
      says: `corner ${i + 1}`,
      at: [at.x, at.y] as const,
    })),
  ];
}
