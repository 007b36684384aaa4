/** Results and findings as they stand beside the part: by body, the whole part first. */
import { useMemo } from 'react';
import { stepName } from '@nematos/core/design/edit';
import type { Result, Finding, Level } from '@nematos/core/kind/value';
import { byBody } from '@nematos/core/view/by-body';
import { useBench, useDesign } from '../../bench/bench';
import { chosenStep, shownCount } from '../../bench/selection';
import type { SeenStep } from '../../worker/messages';

export interface Found {
  readonly step: string;
  readonly finding: Finding;
}

/** Results and findings of one body. */
export interface Group {
  readonly id: string;
  /** Undefined where there is but one. */
  readonly name: string | undefined;
  /** Steps whose results it has: what the body has to do stands above what it is. */
  readonly results: readonly SeenStep[];
  readonly findings: readonly Found[];
  /** Steps that cannot be made. */
  readonly mend: readonly string[];
  readonly worst: Level;
}

const RANK: Record<Level, number> = { fault: 0, note: 1, good: 2 };

/** What is in order of several steps is said once. */
const saidOnce = (findings: readonly Found[]): Found[] =>
  findings.filter(({ finding: { level, says } }, i) => {
    const same = JSON.stringify(says);
    return (
      level !== 'good' || findings.findIndex(({ finding }) => JSON.stringify(finding.says) === same) === i
    );
  });

const worstOf = (findings: readonly Found[], mend: readonly string[]): Level =>
  mend.length
    ? 'fault'
    : findings.reduce<Level>(
        (worst, { finding: { level } }) => (RANK[level] < RANK[worst] ? level : worst),
        'good',
      );

export interface Told {
  readonly groups: readonly Group[];
  /** Of all bodies together, and what is found between them; undefined where there is but one. */
  readonly whole: { readonly figures: readonly Result[]; readonly findings: readonly Found[] } | undefined;
  /** The chosen step where it is a path, or a body that others are made of: told below all else. */
  readonly chosen: SeenStep | undefined;
  readonly worst: Level;
}

/** What there is to be told of what is on the stage. */
export function useTold(): Told {
  const design = useDesign();
  const seen = useBench((bench) => bench.seen);
  const checked = useBench((bench) => bench.checked);
  const count = useBench(shownCount);
  const selected = useBench((bench) => chosenStep(bench.view));
  const told = useMemo(() => {
    const shown = design.steps.slice(0, count);
    const passed = new Set(shown.map(({ id }) => id));
    const steps = seen?.steps.filter(({ id }) => passed.has(id)) ?? [];
    const bodies = byBody(shown);
    const parts = new Set(bodies.map(({ body }) => body));
    const found = (step: SeenStep): Found[] =>
      (checked[step.id]?.findings ?? []).map((finding) => ({ step: step.id, finding }));
    // What is in order is said of the part, not of all that it was made of.
    const isTold = ({ step, finding }: Found, { yields }: SeenStep) =>
      finding.level !== 'good' || (finding.name !== 'bend' && (yields !== 'body' || parts.has(step)));
    const group = (id: string, name: string | undefined, of: readonly SeenStep[]): Group => {
      const findings = of
        .flatMap((step) => found(step).filter((one) => isTold(one, step)))
        .filter(({ finding }) => bodies.length < 2 || finding.other === undefined)
        .sort((a, b) => RANK[a.finding.level] - RANK[b.finding.level]);
      const mend = of.filter(({ state }) => state === 'fault').map((step) => step.id);
      const made = of.find((step) => step.id === id && step.yields);
      const results = [...of.filter(({ yields }) => yields === 'duty'), ...(made ? [made] : [])];
      return { id, name, results, findings: saidOnce(findings), mend, worst: worstOf(findings, mend) };
    };
    const nameOf = (id: string) => stepName(design.steps.find((step) => step.id === id)!);
    if (bodies.length < 2) {
      const main = bodies[0]?.body ?? steps.findLast(({ yields }) => yields === 'path')?.id ?? '';
      return { groups: [group(main, undefined, steps)], whole: undefined };
    }
    const grouped = bodies.map(({ body, steps: own }) =>
      group(
        body,
        nameOf(body),
        steps.filter(({ id }) => own.has(id)),
      ),
    );
    const apart = steps.filter(({ id }) => !bodies.some((one) => one.steps.has(id)));
    const rest = group('rest', 'Other steps', apart);
    const between = steps
      .flatMap(found)
      .filter(({ finding }) => finding.other !== undefined)
      .sort((a, b) => RANK[a.finding.level] - RANK[b.finding.level]);
    return {
      groups: rest.findings.length || rest.mend.length ? [...grouped, rest] : grouped,
      whole: { figures: seen?.whole ?? [], findings: between },
    };
  }, [design, seen, checked, count]);
  const chosen = seen?.steps.find(
    ({ id, yields }) =>
      id === selected &&
      // What was said is of a step that may be gone by now.
      design.steps.some((step) => step.id === id) &&
      (yields === 'path' || yields === 'body') &&
      !told.groups.some((group) => group.id === id),
  );
  const levels = [...told.groups.map(({ worst }) => worst), worstOf(told.whole?.findings ?? [], [])];
  return {
    ...told,
    chosen,
    worst: levels.reduce((worst, level) => (RANK[level] < RANK[worst] ? level : worst)),
  };
}
