/** What is being calculated, for how long, and how far it is; to be stopped. */
import { useEffect, useState } from 'react';
import { stepName } from '@nematos/core/design/edit';
import { useBench, useBenchStore, useDesign } from '../../bench/bench';
import type { Calculating as Told } from '../../bench/state';

/** Whether the findings are of an earlier state of the design, and have been for more than a moment. */
export const useOutdated = (): boolean =>
  useBench(
    ({ checkedOf, history, halted, progress, trouble }) =>
      checkedOf !== undefined &&
      checkedOf !== history.present &&
      (halted || progress !== undefined || trouble !== undefined),
  );

/** Whole seconds that have passed since a time in ms; updates every second. */
function useSeconds(since: number): number {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const ticking = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(ticking);
  }, []);
  return Math.max(0, Math.floor((now - since) / 1000));
}

function StopButton() {
  const store = useBenchStore();
  return (
    <button
      type="button"
      className="rounded border border-hair bg-sheet px-1.5 text-ink hover:bg-hover"
      title="Stop the calculation. What is finished stays."
      onClick={() => store.getState().halt()}
    >
      Stop
    </button>
  );
}

function Bar({ done }: { done: number }) {
  return (
    <span className="my-1 block h-[3px] overflow-hidden rounded bg-hair" aria-hidden>
      <span
        className="block h-full rounded bg-thread"
        style={{ width: `${Math.round(100 * Math.min(1, Math.max(0.02, done)))}%` }}
      />
    </span>
  );
}

/** Below the results, so that showing it moves none of them. */
const PANEL = 'sticky bottom-0 mt-3 rounded-md border border-hair bg-page/95 px-2 py-1.5 text-xs text-quiet';

function InResults({ told }: { told: Told }) {
  const { steps } = useDesign();
  const seconds = useSeconds(told.since);
  const at = steps.findIndex(({ id }) => id === told.step);
  return (
    <div className={PANEL} data-calculating={told.task}>
      <p className="flex items-start justify-between gap-2">
        <span>
          <span role="status">Calculating the {told.task}</span>{' '}
          <span className="whitespace-nowrap tabular-nums">{seconds} s</span>
          {at >= 0 && (
            <span className="block">
              {stepName(steps[at]!)}, step {at + 1} of {steps.length}
            </span>
          )}
        </span>
        <StopButton />
      </p>
      <Bar done={at < 0 ? told.done : (at + Math.min(1, told.done)) / steps.length} />
    </div>
  );
}

/** With the results: what is under way, or that it was stopped. */
export function Calculating() {
  const store = useBenchStore();
  const told = useBench((bench) => bench.progress);
  const halted = useBench((bench) => bench.halted);
  if (told) return <InResults told={told} />;
  if (!halted) return null;
  return (
    <div className={PANEL} data-calculating="stopped">
      <p className="flex items-start justify-between gap-2">
        <span role="status">Stopped before the end. Grey results are out of date.</span>
        <button
          type="button"
          className="rounded border border-hair bg-sheet px-1.5 text-ink hover:bg-hover"
          onClick={() => store.getState().resume()}
        >
          Calculate
        </button>
      </p>
    </div>
  );
}

/** At a step: that it is the one that is calculated. */
export function CalculatingStep({ id }: { id: string }) {
  const told = useBench(({ progress }) => (progress?.step === id ? progress : undefined));
  return told ? <AtStep told={told} /> : null;
}

/** Stands where nothing has to make room for it: what is about to be clicked must not move. */
function AtStep({ told }: { told: Told }) {
  const seconds = useSeconds(told.since);
  return (
    <span
      className="flex min-w-0 items-center gap-2 text-[11px] whitespace-nowrap text-quiet"
      data-calculating-step
    >
      <span className="w-10">
        <Bar done={told.done} />
      </span>
      <span className="truncate tabular-nums">
        {told.task}, {seconds} s
      </span>
      <StopButton />
    </span>
  );
}
