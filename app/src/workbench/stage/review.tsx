/** The replay: shows what each step makes, with its figures. */
import { Pause, Play, SkipBack, SkipForward, StepBack, StepForward, X } from 'lucide-react';
import { useEffect, useState, type KeyboardEvent } from 'react';
import { stepName } from '@nematos/core/design/edit';
import type { Step } from '@nematos/core/design/schema';
import { kindNamed } from '@nematos/core/design/registry';
import { Sign } from '../../ui/controls';
import { showOnSheet, wantsStill } from '../../ui/motion';
import { Resulting, toneOf } from '../../ui/figure';
import { useBench, useBenchStore, useDesign, useUnit } from '../../bench/bench';
import { selecting, shownCount } from '../../bench/selection';
import { editorOf } from '../../steps';

/** Seconds that each step stands. */
const PACES = [
  ['4', 'slowly'],
  ['2', 'evenly'],
  ['1', 'quickly'],
] as const;

/** The bar of the replay, under the part. */
export function ReviewBar() {
  const store = useBenchStore();
  const { steps } = useDesign();
  const at = useBench(shownCount);
  const step = steps[at - 1];
  const go = (next: number) => {
    const to = Math.min(steps.length, Math.max(1, next));
    const { id } = steps[to - 1]!;
    store.getState().look({ needle: to === steps.length ? undefined : to, ...selecting(id) });
    showOnSheet(id, 'center');
  };
  const playing = usePlaying(at, steps.length, go);
  if (!step) return null;
  const close = () => store.getState().look({ review: undefined, needle: undefined });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by) playing.step(by);
    else if (event.key === 'Escape') close();
    else return;
    event.preventDefault();
  };
  return (
    <section
      aria-label="Replay"
      onKeyDown={onKeyDown}
      className="absolute inset-x-6 bottom-3 z-10 mx-auto max-w-xl rounded-md border border-hair bg-raised/95 px-3 py-2 shadow-[0_6px_24px_-10px_rgb(0_0_0/0.3)]"
    >
      <div className="flex items-baseline gap-2">
        <span className="text-xs text-quiet">
          {at} of {steps.length}
        </span>
        <span className="font-serif text-[15px]" aria-live="polite">
          {stepName(step)}
        </span>
        <span className="text-xs text-quiet">{kindNamed(step.kind)?.noun}</span>
        <Sign name="Close the review" className="-my-1 -mr-1.5 ml-auto size-6" onClick={close}>
          <X size={13} />
        </Sign>
      </div>
      <StepResults step={step} />
      <div className="mt-1 flex items-center gap-1">
        <StepButtons playing={playing} at={at} of={steps.length} />
        <span
          role="progressbar"
          aria-label="How far it is made"
          aria-valuenow={at}
          aria-valuemin={0}
          aria-valuemax={steps.length}
          className="mx-2 h-0.5 grow bg-hair"
        >
          <span className="block h-full bg-thread" style={{ width: `${(100 * at) / steps.length}%` }} />
        </span>
        <select
          aria-label="Pace"
          value={playing.pace}
          onChange={(event) => playing.setPace(event.target.value)}
          className="rounded border border-hair bg-raised px-1 text-xs"
        >
          {PACES.map(([seconds, says]) => (
            <option key={seconds} value={seconds}>
              {says}
            </option>
          ))}
        </select>
      </div>
    </section>
  );
}

/** Goes from step to step at a pace, until the last or until it is stopped. */
function usePlaying(at: number, last: number, go: (step: number) => void) {
  const [playing, setPlaying] = useState(() => !wantsStill());
  const [pace, setPace] = useState('2');
  const ended = at >= last;
  useEffect(() => {
    if (!playing || ended) return;
    const timer = setTimeout(() => go(at + 1), 1000 * Number(pace));
    return () => clearTimeout(timer);
    // oxlint-disable-next-line react/exhaustive-deps -- each step is the next one's cause
  }, [playing, ended, at, pace]);
  return {
    on: playing && !ended,
    pace,
    setPace,
    /** Begins again at the end, and stops or goes on elsewhere. */
    toggle() {
      if (ended) go(1);
      setPlaying(ended || !playing);
    },
    /** By hand: it no longer goes by itself. */
    step(by: number) {
      setPlaying(false);
      go(at + by);
    },
  };
}

/** What a step makes, in figures. */
function StepResults({ step }: { readonly step: Step }) {
  const unit = useUnit();
  const seen = useBench((bench) => bench.seen?.steps.find(({ id }) => id === step.id));
  const named = editorOf(step.kind)?.results ?? [];
  const figures = named.flatMap((name) => seen?.results.find((figure) => figure.name === name) ?? []);
  return (
    <p className={`mt-0.5 flex min-h-5 flex-wrap gap-x-4 ${toneOf(seen?.awaited)}`}>
      {seen?.state === 'fault' && <span className="text-madder">It cannot be made.</span>}
      {figures.map((figure) => (
        <span key={figure.name} className="whitespace-nowrap">
          <span className="text-quiet">{figure.label}</span> <Resulting figure={figure} unit={unit} />
        </span>
      ))}
    </p>
  );
}

interface StepButtonsProps {
  readonly playing: ReturnType<typeof usePlaying>;
  readonly at: number;
  readonly of: number;
}

/** Buttons to the first step, back, on and to the last, and by itself. */
function StepButtons({ playing, at, of }: StepButtonsProps) {
  const [first, last] = [at <= 1, at >= of];
  return (
    <>
      <Sign name="To the first step" onClick={() => playing.step(-of)} disabled={first}>
        <SkipBack size={14} />
      </Sign>
      <Sign name="The step before" onClick={() => playing.step(-1)} disabled={first}>
        <StepBack size={14} />
      </Sign>
      <Sign name={playing.on ? 'Pause' : 'Play'} autoFocus onClick={playing.toggle}>
        {playing.on ? <Pause size={15} /> : <Play size={15} />}
      </Sign>
      <Sign name="The next step" onClick={() => playing.step(1)} disabled={last}>
        <StepForward size={14} />
      </Sign>
      <Sign name="To the last step" onClick={() => playing.step(of)} disabled={last}>
        <SkipForward size={14} />
      </Sign>
    </>
  );
}
