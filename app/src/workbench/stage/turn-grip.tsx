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
  const centre = view.project(new Vector3(...mark.centre));
  const at = view.project(new Vector3(...mark.at));
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
      <Dotted d={circle(mark, view)} dashes="2 4" />
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

/** The circle that the grip goes round, as it is seen. */
const circle = (mark: TurnMark, view: View): string =>
  Array.from({ length: SIDES + 1 }, (_x, i) => placeAt(mark, view, (2 * Math.PI * i) / SIDES))
    .filter((point): point is Vector2 => point !== undefined)
    .map(({ x, y }, i) => `${i ? 'L' : 'M'}${x} ${y}`)
    .join('');
