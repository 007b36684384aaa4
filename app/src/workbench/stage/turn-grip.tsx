/** A grip on a circle about an axis: it is led round, and the part turns with it. */
import { useRef } from 'react';
import { Vector3, type Vector2 } from 'three';
import { pull } from '@nematos/core/design/literal';
import type { TurnMark } from '@nematos/core/kind/mark';
import { useBenchStore } from '../../bench/bench';
import type { View } from '../../render/view';
import { Dotted, Grip } from './grip';

const DEGREE = Math.PI / 180;
let turns = 0;

/** The circle and its grip; nothing where the axis lies across the view, since there is nothing to lead round. */
export function TurnGrip({ step: id, mark, view }: { step: string; mark: TurnMark; view: View }) {
  const store = useBenchStore();
  const hold = useRef<{ mark: TurnMark; value: number; group: string } | undefined>(undefined);
  const axis = new Vector3(...mark.axis);
  const drawn = within(mark, view);
  const centre = view.project(new Vector3(...mark.centre));
  const at = view.project(new Vector3(...drawn.at));
  const facing = axis.dot(view.toEye());
  if (!centre || !at || Math.abs(facing) < 0.15) return null;

  const valueNow = () =>
    store.getState().seen?.steps.find((one) => one.id === id)?.resolved[mark.field]?.value ?? 0;
  const turnTo = (value: number, step: number, group: string) =>
    store
      .getState()
      .edit(
        'Turn it',
        (draft) =>
          void pull(draft, { step: id, field: mark.field }, Math.round(value / step) * step, step, 'angle'),
        group,
      );
  const end = () => {
    hold.current = undefined;
    store.getState().scrub(false);
  };
  const says = 'Its turn: lead it round, or turn it by the arrow keys; Shift by 15°';
  return (
    <>
      <Dotted d={circle(drawn, view)} dashes="2 4" />
      <Grip
        data-turn={mark.field}
        says={says}
        at={at}
        cursor="cursor-grab active:cursor-grabbing"
        onTake={() => {
          hold.current = { mark, value: valueNow(), group: `turn ${++turns}` };
          store.getState().scrub(true);
        }}
        onLead={(event) => {
          const from = hold.current;
          if (!from) return;
          const box = event.currentTarget.parentElement!.getBoundingClientRect();
          const by = angleNear(from.mark, view, event.clientX - box.left, event.clientY - box.top);
          turnTo(from.value + by, (event.shiftKey ? 15 : 1) * DEGREE, from.group);
        }}
        onLetGo={end}
        onKeyDown={(event) => {
          const by = { ArrowLeft: 1, ArrowUp: 1, ArrowRight: -1, ArrowDown: -1 }[event.key];
          if (!by) return;
          event.preventDefault();
          const step = (event.shiftKey ? 15 : 1) * DEGREE;
          turnTo(valueNow() + by * step, step, `turn ${mark.field}`);
        }}
      >
        {/* A crescent that leans the way it goes. */}
        <svg viewBox="0 0 16 16" className="size-4">
          <circle cx="8" cy="8" r="6.2" className="fill-sheet/70 stroke-brass" strokeWidth="1.5" />
          <path
            d="M5 9.5a3.6 3.6 0 0 1 6-3"
            className="fill-none stroke-brass"
            strokeWidth="1.6"
            strokeLinecap="round"
          />
        </svg>
      </Grip>
    </>
  );
}

/** Px of a pane that a grip keeps off its edges: above, the words of the views and the bar of chosen bodies stand over it. */
const OFF = { above: 76, beside: 12 };
/** The smallest part of its circle that a grip comes nearer on. */
const LEAST = 0.2;

/** The mark with a circle that is no larger than there is room for about its middle. */
function within(mark: TurnMark, view: View): TurnMark {
  const middle = view.project(new Vector3(...mark.centre));
  if (!middle) return mark;
  const round = pointsOf(mark, view);
  const [width, height] = view.size();
  /** How much of the way from the middle to the edge is free, of the farthest that goes there. */
  const free = (way: (point: Vector2) => number, edge: number) =>
    Math.min(1, (edge - way(middle)) / Math.max(1, ...round.map((point) => way(point) - way(middle))));
  const part = Math.min(
    free(({ y }) => -y, -OFF.above),
    free(({ y }) => y, height - OFF.beside),
    free(({ x }) => -x, -OFF.beside),
    free(({ x }) => x, width - OFF.beside),
  );
  // Where the middle is out of sight itself, or nearly, it stays as it is.
  if (part >= 1 || part < LEAST) return mark;
  const at = new Vector3(...mark.centre).lerp(new Vector3(...mark.at), part);
  return { ...mark, at: [at.x, at.y, at.z] };
}

/** Where the grip is on the screen once it has been led round by an angle. */
function placeAt(mark: TurnMark, view: View, angle: number): Vector2 | undefined {
  const [centre, axis] = [new Vector3(...mark.centre), new Vector3(...mark.axis)];
  const arm = new Vector3(...mark.at).sub(centre).applyAxisAngle(axis, angle);
  return view.project(arm.add(centre));
}

/** By how much the grip has to be led round to come nearest to a place on the screen: −180° to 180°. */
function angleNear(mark: TurnMark, view: View, x: number, y: number): number {
  let [best, least] = [0, Infinity];
  for (let i = -180; i < 180; i++) {
    const at = placeAt(mark, view, i * DEGREE);
    const far = at ? Math.hypot(at.x - x, at.y - y) : Infinity;
    if (far < least) [best, least] = [i * DEGREE, far];
  }
  return best;
}

const SIDES = 64;

/** Places on the screen all along the circle. */
const pointsOf = (mark: TurnMark, view: View): Vector2[] =>
  Array.from({ length: SIDES + 1 }, (_x, i) => placeAt(mark, view, (2 * Math.PI * i) / SIDES)).filter(
    (point): point is Vector2 => point !== undefined,
  );

/** The circle that the grip goes round, as it is seen. */
const circle = (mark: TurnMark, view: View): string =>
  pointsOf(mark, view)
    .map(({ x, y }, i) => `${i ? 'L' : 'M'}${x} ${y}`)
    .join('');
