/** A grip at the far corner of a part: led outward the part grows about a place that stays, inward it shrinks. */
import { useRef, type PointerEvent } from 'react';
import { Vector2, Vector3 } from 'three';
import { pull, textAt, writeAt } from '@nematos/core/design/literal';
import type { SizeMark } from '@nematos/core/kind/mark';
import type { Vec3 } from '@nematos/core/geometry/vector';
import { useBenchStore } from '../../bench/bench';
import type { View } from '../../render/view';
import { Dotted, Grip } from './grip';

/** Sizes are rounded to this, and made no smaller. */
const STEP = 0.01;
/** Ways that are seen shorter than this part of their length cannot be led along. */
const SHORT = 0.2;
/** Corners nearer to the place that stays than this, CSS pixels, are no handle. */
const NEAR = 12;
let drags = 0;

/** Where it is taken hold of, in CSS pixels and on which corner, and what is written then. */
interface Held {
  readonly mark: SizeMark;
  readonly corner: Vec3;
  readonly x: number;
  readonly y: number;
  readonly sizes: Readonly<Record<string, number>>;
  readonly mirror: string;
  readonly group: string;
}

/** The grip and the line to the place that stays. */
export function SizeGrip({ step: id, mark, view }: { step: string; mark: SizeMark; view: View }) {
  const store = useBenchStore();
  const hold = useRef<Held | undefined>(undefined);
  const fixed = view.project(new Vector3(...mark.fixed));
  const held = hold.current && mark.corners[hold.current.mark.corners.indexOf(hold.current.corner)];
  const corner = held ?? cornerFor(mark, view);
  const at = corner && view.project(new Vector3(...corner));
  if (!at || !fixed) return null;

  const sizesNow = () => {
    const resolved = store.getState().seen?.steps.find((one) => one.id === id)?.resolved ?? {};
    return Object.fromEntries(
      [mark.field, ...mark.fields].map((field) => [field, resolved[field]?.value ?? 1]),
    );
  };
  const mirrorNow = () => textAt(store.getState().history.present, { step: id, field: mark.mirror });
  const sizeTo = (sizes: Held['sizes'], mirror: string, group: string) =>
    store.getState().edit(
      'Draw it larger or smaller',
      (draft) => {
        for (const [field, value] of Object.entries(sizes))
          pull(draft, { step: id, field }, Math.max(STEP, Math.round(value / STEP) * STEP), STEP, 'number');
        const place = { step: id, field: mark.mirror };
        if (textAt(draft, place) !== mirror) writeAt(draft, place, mirror);
      },
      group,
    );
  const onLead = (event: PointerEvent) => {
    const from = hold.current;
    if (!from) return;
    const way = new Vector2(event.clientX - from.x, event.clientY - from.y);
    const { mark: then, corner: at, sizes, mirror, group } = from;
    const along = event.shiftKey ? alongOne(then, at, view, way) : undefined;
    const field = along ? then.fields[along.k]! : then.field;
    const ratio = along ? along.ratio : ratioOf(then, at, view, way);
    const name = along && 'xyz'[along.k]!;
    const beyond = ratio < 0 && name !== undefined && (mirror === 'none' || mirror === name);
    const next = !beyond ? mirror : mirror === name ? 'none' : name;
    // Ways it was drawn out before on this drag are as they were.
    sizeTo({ ...sizes, [field]: sizes[field]! * (beyond ? -ratio : ratio) }, next, group);
  };
  const end = () => {
    hold.current = undefined;
    store.getState().scrub(false);
  };
  const says =
    'Its size: lead it out or in, or use the arrow keys; Shift draws it out one way, and mirrors it where it is led past the place that stays';
  return (
    <>
      <Dotted d={`M${fixed.x} ${fixed.y}L${at.x} ${at.y}`} dashes="1 5" />
      <Grip
        data-size={mark.field}
        says={says}
        at={at}
        cursor="cursor-nwse-resize"
        onTake={({ clientX: x, clientY: y }) => {
          const group = `size ${++drags}`;
          hold.current = { mark, corner, x, y, sizes: sizesNow(), mirror: mirrorNow(), group };
          store.getState().scrub(true);
        }}
        onLead={onLead}
        onLetGo={end}
        onKeyDown={(event) => {
          const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
          if (!by) return;
          event.preventDefault();
          const next = sizesNow()[mark.field]! + by * STEP * (event.shiftKey ? 10 : 1);
          sizeTo({ [mark.field]: next }, mirrorNow(), `size ${mark.field}`);
        }}
      >
        {/* Rings of growth about a heart. */}
        <svg viewBox="0 0 16 16" className="size-4">
          <circle cx="8" cy="8" r="6.2" className="fill-sheet/70 stroke-brass" strokeWidth="1.5" />
          <circle cx="8" cy="8" r="3.4" className="fill-none stroke-brass" strokeWidth="1.2" />
          <circle cx="8" cy="8" r="1" className="fill-brass" />
        </svg>
      </Grip>
    </>
  );
}

/** The corner that is farthest from the place that stays, as it is seen, of those that can be reached, if there are any. */
function cornerFor({ corners, fixed }: SizeMark, view: View): Vec3 | undefined {
  const from = view.project(new Vector3(...fixed));
  if (!from) return undefined;
  const seen = corners.flatMap((corner) => {
    const at = view.project(new Vector3(...corner));
    const far = at?.distanceTo(from) ?? 0;
    return at && far > NEAR ? [{ corner, far, within: view.contains(at) }] : [];
  });
  const [best] = seen.sort((a, b) => Number(b.within) - Number(a.within) || b.far - a.far);
  return best?.corner;
}

/** How many times as far from the place that stays a corner is, once it has been led by so much on the screen. */
function ratioOf({ fixed }: SizeMark, corner: Vec3, view: View, by: Vector2): number {
  const [from, to] = [view.project(new Vector3(...fixed))!, view.project(new Vector3(...corner))!];
  const arm = to.sub(from);
  return 1 + by.dot(arm) / arm.lengthSq();
}

/** The way, of three, that a corner was led along most, and how many times as far out it is on it: less than 0 beyond. */
function alongOne({ fixed, ways }: SizeMark, corner: Vec3, view: View, by: Vector2) {
  const here = view.project(new Vector3(...corner))!;
  const full = 1 / view.mmPerPixel();
  let best: { readonly k: number; readonly ratio: number; readonly most: number } | undefined;
  ways.forEach((way, k) => {
    const seen = view.project(new Vector3(...corner).add(new Vector3(...way)))?.sub(here);
    const arm = way.reduce((sum, x, i) => sum + x * (corner[i]! - fixed[i]!), 0);
    if (!seen || seen.length() < SHORT * full || Math.abs(arm) * full < NEAR) return;
    const most = Math.abs(by.dot(seen)) / seen.length();
    if (!best || most > best.most) best = { k, ratio: 1 + by.dot(seen) / seen.lengthSq() / arm, most };
  });
  return best;
}
