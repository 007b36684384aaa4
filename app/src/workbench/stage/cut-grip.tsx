/** Taking hold of a cutting plane on the stage, and leading it along its normal. */
import { useRef } from 'react';
import { Vector2, Vector3 } from 'three';
import type { Plane } from '@nematos/core/geometry/plane';
import type { CutPlane } from '@nematos/core/view/opening';
import { useBench, useBenchStore } from '../../bench/bench';
import type { Engine } from '../../render/engine';
import type { View } from '../../render/view';
import { roundedAt, spanOf, type CutOpen } from './cut-open';
import { Dotted, Grip } from './grip';

/** A grip for each plane that the part is cut open by. */
export function CutGrips({
  engine,
  view,
  opened,
}: {
  engine: Engine;
  view: View;
  opened: CutOpen;
  frame: number;
}) {
  const cut = useBench((bench) => bench.view.cut);
  const planes = cut?.planes ?? [];
  const spans = planes.map((plane, i) => spanOf(plane, engine, opened.crossings[i]));
  return planes.map((plane, i) => {
    const placed = opened.placed[i];
    if (!placed) return null;
    // Planes that meet in the middle are held apart: each along the way of the next.
    const next = (i + 1) % planes.length;
    const beside = opened.placed[next];
    const aside = new Vector3();
    if (next !== i && beside)
      aside.copy(wayOf(planes[next]!, beside)).multiplyScalar(ASIDE * (spans[next]![1] - spans[next]![0]));
    return (
      <CutGrip
        key={i}
        i={i}
        plane={plane}
        placed={placed}
        aside={aside}
        engine={engine}
        view={view}
        span={spans[i]!}
      />
    );
  });
}

/** How far grips are held apart, as a part of where the next plane can be moved. */
const ASIDE = 0.3;

/** Which way the plane goes as its figure grows. */
function wayOf({ by, ...rest }: CutPlane, { normal }: Plane): Vector3 {
  if (by === 'x' || by === 'y' || by === 'z')
    return new Vector3(Number(by === 'x'), Number(by === 'y'), Number(by === 'z'));
  if ('way' in rest) return new Vector3(...rest.way).normalize();
  return new Vector3(...normal).multiplyScalar(rest.turned ? -1 : 1);
}

interface CutGripProps {
  readonly i: number;
  readonly plane: CutPlane;
  readonly placed: Plane;
  /** How far the grip stands from the middle of the plane. */
  readonly aside: Vector3;
  readonly engine: Engine;
  readonly view: View;
  readonly span: readonly [least: number, most: number];
}

/** Half the length of the line it is led along, CSS pixels. */
const REACH = 26;

function CutGrip({ i, plane, placed, aside, engine, view, span: [least, most] }: CutGripProps) {
  const store = useBenchStore();
  const hold = useRef<{ x: number; y: number; at: number; way: Vector2 } | undefined>(undefined);
  const way = wayOf(plane, placed);
  const point = new Vector3(...placed.point);
  // The place of the plane that is nearest to the middle of the part.
  const middle = new Vector3(...engine.middle());
  if (plane.by !== 'path') middle.add(aside);
  const place = plane.by === 'path' ? point : middle.addScaledVector(way, point.clone().sub(middle).dot(way));
  const at = view.project(place);
  const ahead = view.project(place.clone().addScaledVector(way, 20 * view.mmPerPixel()));
  if (!at || !ahead) return null;
  // What goes straight to the reader is led up and down.
  const seen = ahead.clone().sub(at).divideScalar(20);
  const led = seen.length() < 0.12 ? new Vector2(0, -1) : seen;
  const put = (value: number) => {
    const { cut } = store.getState().view;
    if (!cut) return;
    const next = Math.min(most, Math.max(least, roundedAt(value, engine)));
    store
      .getState()
      .look({ cut: { ...cut, planes: cut.planes.map((one, k) => (k === i ? { ...one, at: next } : one)) } });
  };
  const line = led.clone().setLength(REACH);
  return (
    <>
      <Dotted d={`M${at.x - line.x} ${at.y - line.y}L${at.x + line.x} ${at.y + line.y}`} dashes="2 3" />
      <Grip
        data-cut-grip={i}
        says={`Plane ${i + 1}: lead it, or move it by the arrow keys`}
        at={at}
        cursor="cursor-move"
        onTake={(event) => {
          hold.current = { x: event.clientX, y: event.clientY, at: plane.at, way: led.clone() };
        }}
        onLead={(event) => {
          const from = hold.current;
          if (!from) return;
          const along =
            ((event.clientX - from.x) * from.way.x + (event.clientY - from.y) * from.way.y) /
            from.way.lengthSq();
          put(from.at + along * view.mmPerPixel());
        }}
        onLetGo={() => {
          hold.current = undefined;
        }}
        onKeyDown={(event) => {
          const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
          if (!by) return;
          event.preventDefault();
          event.stopPropagation();
          put(plane.at + (by * (event.shiftKey ? 10 : 1) * (most - least)) / 100);
        }}
      >
        {/* A slot, as the plane is seen from its edge. */}
        <svg viewBox="0 0 16 16" className="size-4">
          <circle cx="8" cy="8" r="6.4" className="fill-sheet stroke-brass" strokeWidth="1.5" />
          <path
            d="M8 4v8"
            className="fill-none stroke-brass"
            strokeWidth="1.8"
            strokeLinecap="round"
            transform={`rotate(${(Math.atan2(led.y, led.x) * 180) / Math.PI} 8 8)`}
          />
        </svg>
      </Grip>
    </>
  );
}
