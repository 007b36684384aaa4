/** Main results and findings, along the edge of the stage. */
import { ChevronRight } from 'lucide-react';
import { Fragment, useState, type ReactNode } from 'react';
import { stepName } from '@nematos/core/design/edit';
import { useBench, useBenchStore, useDesign, useOfDesign, useUnit } from '../../bench/bench';
import { selecting, shownCount } from '../../bench/selection';
import { Resulting, Said, toneOf } from '../../ui/figure';
import type { SeenStep } from '../../worker/messages';
import { MendButton } from '../worksheet/mend';
import { BetweenBodies, MayMeetButton } from './between';
import { Calculating, useOutdated } from './calculating';
import { Extent } from './extent';
import { useTold, type Found, type Group, type Told } from './groups';
import { LevelSign } from './level-sign';
import { Reach } from './reach';

/** Results and findings beside the part. */
export function Ledger() {
  const store = useBenchStore();
  const open = useBench((bench) => !bench.view.folded);
  const calculating = useBench((bench) => bench.progress !== undefined);
  const busy = useBench(
    (bench) => bench.progress !== undefined || bench.halted || bench.trouble !== undefined,
  );
  const outdated = useOutdated();
  const told = useTold();
  const empty = useOfDesign(({ steps }) => steps.length === 0);
  const setOpen = (on: boolean) => store.getState().look({ folded: !on });
  if (empty) return null;
  if (!open)
    return (
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="mt-2 mr-4 flex items-center gap-1.5 self-end text-quiet hover:text-ink"
        aria-expanded={false}
      >
        <LevelSign level={told.worst} outdated={outdated} /> {calculating ? 'Calculating' : 'Results'}
      </button>
    );
  const any = told.groups.some(
    ({ results, findings, mend }) =>
      findings.length || mend.length || results.some(({ results }) => results.some(({ head }) => head)),
  );
  if (!any && !busy && !told.chosen) return null;
  return (
    <aside aria-label="Results and findings" className="min-h-0 overflow-y-auto px-4 pt-2.5 pb-4">
      <div>
        <h2 className={`flex items-center justify-between ${HEADING}`}>
          {told.whole ? 'Whole part' : 'Results'}
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
        {told.whole ? <Several told={told} outdated={outdated} /> : <One told={told} outdated={outdated} />}
        {told.chosen && <Chosen step={told.chosen} />}
        <Calculating />
      </div>
    </aside>
  );
}

const HEADING = 'text-[11px] font-semibold text-quiet';

interface GroupProps {
  readonly told: Told;
  readonly outdated: boolean;
}

/** Of a single body: its results, then its findings. */
function One({ told: { groups }, outdated }: GroupProps) {
  const [group] = groups;
  if (!group) return null;
  return (
    <>
      <Results group={group} />
      <Findings group={group} outdated={outdated} title>
        <Troubles />
      </Findings>
    </>
  );
}

/** More bodies than this are folded at first. */
const MOST_OPEN = 3;

/** Of several bodies: all together, then each by its name. */
function Several({ told: { groups, whole }, outdated }: GroupProps) {
  const unit = useUnit();
  return (
    <>
      <dl className="mt-1" data-measured="whole">
        {(whole?.figures ?? []).map(
          (figure) =>
            figure.head && (
              <div key={figure.name} className="flex justify-between gap-3 py-[1.4px]">
                <dt className="text-quiet">{figure.head}</dt>
                <dd>
                  <Resulting figure={figure} unit={unit} />
                </dd>
              </div>
            ),
        )}
        <Extent figures={whole?.figures ?? []} />
      </dl>
      <ul className={`mt-1 space-y-1 ${outdated ? 'text-quiet' : ''}`} data-outdated={outdated}>
        <Troubles />
        {whole?.findings.map((one) => (
          <FindingLine key={one.step + one.finding.name} {...one} outdated={outdated} />
        ))}
      </ul>
      <BetweenBodies />
      {groups.map((group) => (
        <Body key={group.id} group={group} outdated={outdated} open={groups.length <= MOST_OPEN} />
      ))}
    </>
  );
}

function Body({ group, outdated, open: first }: { group: Group; outdated: boolean; open: boolean }) {
  const [open, setOpen] = useState(first);
  return (
    <section aria-label={group.name} className="mt-3" data-body={group.id}>
      <h2 className={HEADING}>
        <button
          type="button"
          aria-expanded={open}
          className="flex w-full items-center gap-1.5 rounded text-left hover:text-ink"
          onClick={() => setOpen(!open)}
        >
          <ChevronRight size={12} className={`shrink-0 ${open ? 'rotate-90' : ''}`} />
          <span className="min-w-0 grow truncate text-ink">{group.name}</span>
          {!open && <LevelSign level={group.worst} outdated={outdated} />}
        </button>
      </h2>
      {open && (
        <>
          <Results group={group} />
          <Findings group={group} outdated={outdated} />
        </>
      )}
    </section>
  );
}

function Results({ group: { id, results } }: { group: Group }) {
  const body = results.find((step) => step.id === id);
  return (
    <dl className="mt-1">
      {results.map((step) => (
        <OwnResults key={step.id} step={step} />
      ))}
      <Extent figures={body?.results ?? []} quiet={body?.awaited} />
    </dl>
  );
}

interface FindingsProps {
  readonly group: Group;
  readonly outdated: boolean;
  /** Whether they stand under a heading of their own. */
  readonly title?: boolean;
  readonly children?: ReactNode;
}

function Findings({ group: { findings, mend }, outdated, title, children }: FindingsProps) {
  return (
    <>
      {title && <h2 className={`mt-4 ${HEADING} [&:not(:has(+ul>li))]:hidden`}>Findings</h2>}
      <ul className={`mt-1 space-y-1 ${outdated ? 'text-quiet' : ''}`} data-outdated={outdated}>
        {children}
        {mend.map((id) => (
          <WantsMending key={id} id={id} />
        ))}
        {findings.map((one) => (
          <FindingLine key={one.step + one.finding.name} {...one} outdated={outdated} />
        ))}
      </ul>
    </>
  );
}

/** What went wrong beyond the figures, and what is drawn more coarsely than it should be. */
function Troubles() {
  const trouble = useBench((bench) => bench.trouble);
  const count = useBench(shownCount);
  const steps = useDesign().steps;
  const coarse = useBench(({ drawn }) =>
    steps.slice(0, count).some(({ id }) => {
      const one = drawn.get(id);
      return one?.type === 'body' && one.coarse;
    }),
  );
  return (
    <>
      {trouble && (
        <li className="flex gap-2">
          <LevelSign level="fault" />
          {trouble}
        </li>
      )}
      {coarse && <DrawnCoarsely />}
    </>
  );
}

/** What a step is called; nothing once it is gone. */
const useNameOf = (id: string): string =>
  useOfDesign(({ steps }) => {
    const step = steps.find((one) => one.id === id);
    return step ? stepName(step) : '';
  });

/** Results of the selected step, if it is not a body of the part. */
function Chosen({ step }: { step: SeenStep }) {
  const name = useNameOf(step.id);
  return (
    <>
      <h2 className={`mt-4 ${HEADING}`}>{name}</h2>
      <dl className="mt-1" data-measured={step.id}>
        <OwnResults step={step} />
        <Extent figures={step.results} quiet={step.awaited} />
      </dl>
    </>
  );
}

/** A step with a mistake in it: a click leads there. */
function WantsMending({ id }: { id: string }) {
  const store = useBenchStore();
  const name = useNameOf(id);
  const shown = useBench(({ drawn }) => drawn.has(id));
  return (
    <li className="flex gap-2">
      <LevelSign level="fault" />
      <button
        type="button"
        className="text-left hover:underline"
        onClick={() => store.getState().look(selecting(id))}
      >
        {name} cannot be made
        <span className="block text-xs text-quiet">
          {shown ? 'its last valid shape is shown' : 'nothing of it is shown'}
        </span>
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
function OwnResults({ step: { id, results, awaited } }: { step: SeenStep }) {
  const unit = useUnit();
  const [open, setOpen] = useState<string>();
  const main = results.filter(({ head }) => head);
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

function FindingLine({ step, finding, outdated }: Found & { readonly outdated: boolean }) {
  const unit = useUnit();
  const store = useBenchStore();
  const pinned = useBench(({ pinned: mark }) => mark?.step === step && mark.finding === finding.name);
  return (
    <li className="flex gap-2" data-finding={finding.name} data-level={finding.level}>
      <LevelSign level={finding.level} outdated={outdated} />
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
