import type { Level } from '@nematos/core/kind/value';

/** The sign of a finding: told by shape as well as by colour; a ring where it is of an earlier state. */
export function LevelSign({ level, outdated = false }: { level: Level; outdated?: boolean }) {
  if (outdated)
    return (
      <svg viewBox="0 0 12 12" className="mt-[4px] size-3 shrink-0 text-quiet">
        <title>not up to date</title>
        <circle
          cx="6"
          cy="6"
          r="4.2"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.5"
          strokeDasharray="2.2 2.2"
        />
      </svg>
    );
  if (level === 'good')
    return (
      <svg viewBox="0 0 12 12" className="mt-[4px] size-3 shrink-0 text-moss">
        <title>good</title>
        <circle cx="6" cy="6" r="5" fill="currentColor" />
      </svg>
    );
  if (level === 'note')
    return (
      <svg viewBox="0 0 12 12" className="mt-[4px] size-3 shrink-0 text-ochre">
        <title>note</title>
        <path d="M6 .8 11.6 11H.4Z" fill="currentColor" />
      </svg>
    );
  return (
    <svg viewBox="0 0 12 12" className="mt-[4px] size-3 shrink-0 text-madder">
      <title>fault</title>
      <path d="M6 0 12 6 6 12 0 6Z" fill="currentColor" />
    </svg>
  );
}
