/** What is taken hold of on the stage, and the dotted line that belongs to it. */
import type { ComponentProps, KeyboardEvent, PointerEvent } from 'react';

interface GripProps extends Pick<ComponentProps<'button'>, 'children'> {
  readonly [data: `data-${string}`]: string | number;
  /** What it is, for who does not see it; and how it is led. */
  readonly says: string;
  /** In CSS pixels of the pane. */
  readonly at: { readonly x: number; readonly y: number };
  readonly cursor: string;
  onTake(event: PointerEvent<HTMLButtonElement>): void;
  onLead(event: PointerEvent<HTMLButtonElement>): void;
  onLetGo(): void;
  onKeyDown(event: KeyboardEvent): void;
}

/** A grip: it keeps the pointer until the button is released. Further attributes (data-…) are its button's. */
export function Grip({ says, at, cursor, onTake, onLead, onLetGo, onKeyDown, children, ...data }: GripProps) {
  return (
    <button
      type="button"
      {...data}
      aria-label={says}
      title={says}
      className={`absolute grid size-6 pointer-coarse:size-10 -translate-x-1/2 -translate-y-1/2 touch-none place-items-center rounded-full ${cursor}`}
      style={{ left: at.x, top: at.y }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        onTake(event);
      }}
      onPointerMove={onLead}
      onPointerUp={onLetGo}
      onPointerCancel={onLetGo}
      onKeyDown={onKeyDown}
    >
      {children}
    </button>
  );
}

/** A dotted line over the whole pane. */
export const Dotted = ({ d, dashes }: { d: string; dashes: string }) => (
  <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
    <path d={d} fill="none" stroke="var(--brass)" strokeWidth="1" strokeDasharray={dashes} />
  </svg>
);
