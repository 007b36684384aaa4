/** Main results and findings, along the edge of the stage. */
import { partOf } from '@nematos/core/view/part';
import { ChevronRight } from 'lucide-react';
import { Fragment, useState } from 'react';
import { BetweenBodies, MayMeetButton } from './between';
import { Reach } from './reach';
import { stepName } from '@nematos/core/design/edit';
import type { Figure, Finding, Level } from '@nematos/core/kind/value';
import { formatNumber } from '@nematos/core/measure/format';
import { MM_IN } from '@nematos/core/measure/quantity';
import { Resulting, Said, toneOf } from '../../ui/figure';
import { MendButton } from '../worksheet/mend';
import type { SeenStep } from '../../worker/messages';
import { useBench, useBenchStore, useDesign, useUnit } from '../../bench/bench';
import { selecting, chosenStep, shownCount } from '../../bench/selection';

/** The sign of a finding: told by shape as well as by colour. */
export function LevelSign({ level }: { level: Level }) {
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

interface Found {
  readonly step: string;
  readonly finding: Finding;
}

/** What is in order of several bodies is said once. */
const saidOnce = (findings: readonly Found[]): Found[] =>
  findings.filter(({ finding: { level, says } }, i) => {
    const same = JSON.stringify(says);
    return (
      level !== 'good' || findings.findIndex(({ finding }) => JSON.stringify(finding.says) === same) === i
    );
  });

const RANK: Record<Level, number> = { fault: 0, note: 1, good: 2 };

/** What there is to be told of what is on the stage. */
function useTold() {
  const design = useDesign();
  const seen = useBench((bench) => bench.seen);
  const checked = useBench((bench) => bench.checked);
  const count = useBench(shownCount);
  const selected = useBench((bench) => chosenStep(bench.view));
  const drawn = useBench((bench) => bench.drawn);
  const passed = new Set(design.steps.slice(0, count).map((step) => step.id));
  const steps = seen?.steps.filter((step) => passed.has(step.id)) ?? [];
  const parts = new Set(partOf(design.steps.slice(0, count)).map(({ id }) => id));
  const told =
    steps.find((step) => step.id === selected && step.yields === 'body') ??
    steps.findLast((step) => parts.has(step.id) && step.yields) ??
    steps.findLast((step) => step.yields === 'path');
  // What the part has to do stands above what it is.
  const duties = steps.filter((step) => step.yields === 'duty');
  const findings = steps
    .flatMap((step) => (checked[step.id]?.findings ?? []).map((finding) => ({ step: step.id, finding })))
    .sort((a, b) => RANK[a.finding.level] - RANK[b.finding.level]);
  // What is in order is said of the part, not of all that it was made of.
  const used = new Set(
    steps
      .filter(({ id, yields }) => yields === 'body' && !parts.has(id) && id !== selected)
      .map(({ id }) => id),
  );
  const news = saidOnce(
    findings.filter(
      ({ step, finding }) => finding.level !== 'good' || (finding.name !== 'bend' && !used.has(step)),
    ),
  );
  const mend = steps.filter((step) => step.state === 'fault');
  return {
    told,
    main: [...duties, ...(told ? [told] : [])],
    // The path that is worked on is measured below what is made of it.
    path: steps.find((step) => step.id === selected && step !== told && step.yields === 'path'),
    news,
    mend,
    worst: mend.length ? 'fault' : (findings[0]?.finding.level ?? 'good'),
    coarse: [...drawn.values()].some((one) => one.type === 'body' && one.coarse && passed.has(one.step)),
    called: (id: string) => stepName(design.steps.find((step) => step.id === id)!),
  } as const;
}

/** Results and findings beside the part. */
export function Ledger() {
  const store = useBenchStore();
  const trouble = useBench((bench) => bench.trouble);
  const open = useBench((bench) => !bench.view.folded);
  const setOpen = (on: boolean) => store.getState().look({ folded: !on });
  const { told, main, path, news, mend, worst, coarse, called } = useTold();
  const any = main.some((step) => step.figures.some(({ head }) => head));
  const wanting = news.length > 0 || mend.length > 0 || coarse || trouble;

  if (!open)
    return (
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="mt-2 mr-4 flex items-center gap-1.5 self-end text-quiet hover:text-ink"
        aria-expanded={false}
      >
        <LevelSign level={worst} /> Results
      </button>
    );
  if (!any && !wanting) return null;
  return (
    <aside aria-label="Results and findings" className="min-h-0 overflow-y-auto px-4 pt-2.5 pb-4">
      <div>
        {any && (
          <>
            <h2 className="flex items-center justify-between text-[11px] font-semibold text-quiet">
              Results
              <button
                type="button"
                aria-expanded
                title="Fold away"
                aria-label="Fold the results away"
                className="rounded hover:text-ink"
                onClick={() => setOpen(false)}
              >
                <ChevronRight size={14} />
              </button>
            </h2>
            <dl className="mt-1">
              {main.map((step) => (
                <Figures key={step.id} step={step} />
              ))}
              <Extent figures={told?.figures ?? []} quiet={told?.awaited} />
            </dl>
          </>
        )}
        {path && (
          <>
            <h2 className="mt-4 text-[11px] font-semibold text-quiet">{called(path.id)}</h2>
            <dl className="mt-1" data-measured={path.id}>
              <Figures step={path} />
              <Extent figures={path.figures} quiet={path.awaited} />
            </dl>
          </>
        )}
        {wanting && (
          <>
            <h2 className="mt-4 text-[11px] font-semibold text-quiet">Findings</h2>
            <ul className="mt-1 space-y-1">
              {trouble && (
                <li className="flex gap-2">
                  <LevelSign level="fault" />
                  {trouble}
                </li>
              )}
              {mend.map(({ id }) => (
                <WantsMending key={id} id={id} name={called(id)} />
              ))}
              {coarse && <DrawnCoarsely />}
              {news.map(({ step, finding }) => (
                <FindingLine key={step + finding.name} step={step} finding={finding} />
              ))}
            </ul>
          </>
        )}
        <BetweenBodies />
      </div>
    </aside>
  );
}

/** A step with a mistake in it: a click leads there. */
function WantsMending({ id, name }: { id: string; name: string }) {
  const store = useBenchStore();
  return (
    <li className="flex gap-2">
      <LevelSign level="fault" />
      <button
        type="button"
        className="text-left hover:underline"
        onClick={() => store.getState().look(selecting(id))}
      >
        {name} cannot be made
        <span className="block text-xs text-quiet">the last good shape is shown</span>
      </button>
    </li>
  );
}

function DrawnCoarsely() {
  return (
    <li className="flex gap-2">
      <LevelSign level="note" />
      <span>
        Drawn more coarsely than usual
        <span className="block text-xs leading-snug text-quiet">
          fine, it would take more triangles than can be drawn; figures and files keep their precision
        </span>
      </span>
    </li>
  );
}

/** Main results of a step; in a quieter tone while newer ones are awaited. A click asks what a result shall come to. */
function Figures({ step: { id, figures, awaited } }: { step: SeenStep }) {
  const unit = useUnit();
  const [open, setOpen] = useState<string>();
  const main = figures.filter(({ head }) => head);
  return main.map((figure) => {
    const isOpen = open === figure.name;
    return (
      <Fragment key={figure.name}>
        <div
          className="flex justify-between gap-3 py-[1.4px]"
          data-result={figure.name}
          data-awaited={awaited}
        >
          <dt className="text-quiet">{figure.head}</dt>
          <dd className={toneOf(awaited)}>
            <button
              type="button"
              aria-expanded={isOpen}
              title="Make it another value"
              className="rounded decoration-dotted underline-offset-3 hover:underline"
              onClick={() => setOpen(isOpen ? undefined : figure.name)}
            >
              <Resulting figure={figure} unit={unit} />
            </button>
          </dd>
        </div>
        {isOpen && (
          <dd>
            <Reach step={id} figure={figure} onClose={() => setOpen(undefined)} />
          </dd>
        )}
      </Fragment>
    );
  });
}

function Extent({ figures, quiet }: { figures: readonly Figure[]; quiet?: boolean | undefined }) {
  const unit = useUnit();
  const sides = ['X', 'Y', 'Z'].flatMap(
    (axis) => figures.find(({ name }) => name === `extent${axis}` || name === `pathExtent${axis}`) ?? [],
  );
  if (sides.length < 3) return null;
  return (
    <div className="flex justify-between gap-3 py-[1.4px]">
      <dt className="text-quiet">Extent</dt>
      <dd className={`text-right ${toneOf(quiet)}`}>
        {sides.map((side, i) => (
          <span key={side.name}>
            {i > 0 && <span className="text-quiet"> × </span>}
            {formatNumber(side.value / MM_IN[unit], 3)}
          </span>
        ))}{' '}
        <span className="unit">{unit}</span>
      </dd>
    </div>
  );
}

function FindingLine({ step, finding }: { step: string; finding: Finding }) {
  const unit = useUnit();
  const store = useBenchStore();
  const pinned = useBench(({ pinned: mark }) => mark?.step === step && mark.finding === finding.name);
  return (
    <li className="flex gap-2" data-finding={finding.name} data-level={finding.level}>
      <LevelSign level={finding.level} />
      <span>
        {finding.place ? (
          <button
            type="button"
            aria-pressed={pinned}
            title={pinned ? 'Clear' : 'Show where'}
            className={`text-left underline decoration-dotted underline-offset-3 hover:decoration-solid ${pinned ? 'font-semibold' : ''}`}
            onClick={() => {
              const { pin, look } = store.getState();
              if (pinned) return pin(undefined);
              look(selecting(step));
              pin({ step, finding: finding.name, place: finding.place!, level: finding.level });
            }}
          >
            <Said says={finding.says} unit={unit} />
          </button>
        ) : (
          <Said says={finding.says} unit={unit} />
        )}
        {finding.detail && (
          <span className="block text-xs leading-snug text-quiet">
            <Said says={finding.detail} unit={unit} />
          </span>
        )}
        <MayMeetButton step={step} finding={finding} />
        {finding.mend && <MendButton step={{ id: step }} mend={finding.mend} />}
      </span>
    </li>
  );
}
