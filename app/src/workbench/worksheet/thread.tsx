/** The thread down the margin of the sheet, and the needle on it: how far the part is made. */
import { useEffect, useRef, useState, type RefObject } from 'react';
import { stepName } from '@nematos/core/design/edit';
import { useBench, useBenchStore, useOfDesign } from '../../bench/bench';
import { shownCount } from '../../bench/selection';

interface Laid {
  /** Height of each knot, from the top of the sheet. */
  readonly knots: readonly number[];
  /** Where each passage ends: the places the needle can stand, the first before all steps. */
  readonly stops: readonly number[];
  readonly end: number;
}

const X = 26;

/** The thread beside the steps, with the needle on it. */
export function Thread({ sheet }: { sheet: RefObject<HTMLElement | null> }) {
  const names = useOfDesign((design) => design.steps.map(stepName));
  const order = useOfDesign((design) => design.steps.map((step) => step.id).join(' '));
  const store = useBenchStore();
  const count = useBench(shownCount);
  const { knots, stops, end } = useLaid(sheet, order);
  const dragging = useRef(false);

  const place = stops[Math.min(count, stops.length - 1)];
  if (place === undefined) return null;

  const put = (next: number) => {
    const steps = names.length;
    const needle = Math.min(steps, Math.max(0, next));
    store.getState().look({ needle: needle === steps ? undefined : needle });
  };

  const nearest = (clientY: number) => {
    const y = clientY - sheet.current!.getBoundingClientRect().top;
    return stops.reduce((best, stop, i) => (Math.abs(stop - y) < Math.abs(stops[best]! - y) ? i : best), 0);
  };

  return (
    <>
      <svg className="pointer-events-none absolute top-0 left-0 w-12" height={end} aria-hidden>
        <path
          d={threadPath(Math.min(106, place - 12), [...knots.slice(0, count), place])}
          fill="none"
          stroke="var(--thread)"
          strokeWidth="2"
        />
        <path
          d={`M${X} ${place + 8}V${Math.max(place + 8, Math.min(end, (stops.at(-1) ?? place) + 96))}`}
          stroke="var(--thread)"
          strokeWidth="2"
          strokeDasharray="0.1 7"
          strokeLinecap="round"
        />
      </svg>
      <div
        role="slider"
        tabIndex={0}
        aria-label="Needle: how far the part is made"
        aria-orientation="vertical"
        aria-valuemin={0}
        aria-valuemax={names.length}
        aria-valuenow={count}
        aria-valuetext={count ? `after ${names[count - 1]}` : 'before the first step'}
        title="Drag the needle to go back over how the part was made"
        className="absolute grid h-6 w-8 cursor-ns-resize touch-none place-items-center"
        style={{ left: X - 16, top: place - 12 }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          dragging.current = true;
        }}
        onPointerMove={(event) => {
          if (dragging.current) put(nearest(event.clientY));
        }}
        onPointerUp={() => (dragging.current = false)}
        onPointerCancel={() => (dragging.current = false)}
        onKeyDown={(event) => {
          const by = { ArrowUp: -1, ArrowLeft: -1, ArrowDown: 1, ArrowRight: 1 }[event.key];
          const to = { Home: 0, End: names.length }[event.key];
          if (by === undefined && to === undefined) return;
          event.preventDefault();
          put(to ?? count + by!);
        }}
      >
        <svg viewBox="0 0 20 14" className="h-[14px] w-5" aria-hidden>
          <path d="M3.5 2.5 16.5 11.5" stroke="currentColor" strokeWidth="2.6" strokeLinecap="round" />
        </svg>
      </div>
    </>
  );
}

/** The places of the passages of a sheet, measured again when one grows or moves. */
function useLaid(sheet: RefObject<HTMLElement | null>, order: string): Laid {
  const [laid, setLaid] = useState<Laid>({ knots: [], stops: [], end: 0 });
  useEffect(() => {
    const root = sheet.current;
    if (!root) return;
    const measure = () => {
      const top = root.getBoundingClientRect().top;
      const steps = [...root.querySelectorAll<HTMLElement>('[data-step]')];
      const knots = steps.map((step) => step.getBoundingClientRect().top - top + 10.5);
      const bottoms = steps.map((step) => step.getBoundingClientRect().bottom - top + 10);
      const end = root.scrollHeight;
      setLaid({ knots, stops: [(knots[0] ?? 120) - 26, ...bottoms], end });
    };
    const observer = new ResizeObserver(measure);
    observer.observe(root);
    root.querySelectorAll('[data-step]').forEach((step) => observer.observe(step));
    measure();
    return () => observer.disconnect();
    // Steps that change places keep their sizes: no observer tells of it, their order does.
  }, [sheet, order]);
  return laid;
}

/** A slightly slack thread from the top through the knots. */
function threadPath(from: number, through: readonly number[]): string {
  let y = from;
  let path = `M${X} ${y}`;
  through.forEach((next, i) => {
    const slack = i % 2 ? 1.6 : -1.6;
    const mid = (y + next) / 2;
    path += `C${X + slack} ${mid},${X + slack} ${mid},${X} ${next}`;
    y = next;
  });
  return path;
}
