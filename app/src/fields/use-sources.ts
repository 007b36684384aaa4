/** Steps that can be chosen for an input. */
import { useEffect, useId, useState } from 'react';
import { mayTake, sourcesOf, stepName } from '@nematos/core/design/edit';
import { fits, kindNamed, yieldsOf } from '@nematos/core/design/registry';
import { sourcesAt, type Design, type Step } from '@nematos/core/design/schema';
import { wantedAt } from '@nematos/core/kind/kind';
import { sayWords } from '@nematos/core/measure/format';
import { useBenchStore, useOfDesign, useUnit } from '../bench/bench';
import { ask, leave, nextOf } from '../worker/client';
import { useStepPictures, type Pictured } from './step-pictures';

/** What can be seen on the stage. */
const hasShape = (design: Design, id: string): boolean => {
  const step = design.steps.find((one) => one.id === id);
  const yields = step && yieldsOf(step, design.steps);
  return yields === 'body' || yields === 'path';
};

/** A step by itself: with what it is made of, and nothing else. */
function byItself(design: Design, id: string): Pictured {
  const made = sourcesOf(design, id).add(id);
  const steps = design.steps
    .filter((step) => made.has(step.id))
    .map((step) => (step.id === id ? { ...step, hidden: undefined } : step));
  return [id, { ...design, steps }];
}

const NONE: readonly Pictured[] = [];

/** What can be chosen for a slot, and why the rest cannot, which is known a moment after the list was opened. */
export function useSources(step: Step, slot: string, at?: number) {
  const store = useBenchStore();
  const unit = useUnit();
  const input = kindNamed(step.kind)!.inputs[slot]!;
  const [refused, setRefused] = useState<ReadonlyMap<string, string>>(new Map());
  const chosen = sourcesAt(step, slot);
  const options = useOfDesign((design) =>
    design.steps.filter(
      (other) =>
        refused.has(other.id) || (fits(other, design.steps, input) && mayTake(design, step.id, other.id)),
    ),
  )
    // A body stands in a list once.
    .filter(
      ({ id }) => !input.many || wantedAt(input) !== 'body' || !chosen.toSpliced(at ?? 0, 1).includes(id),
    )
    // What cannot be chosen comes last: known a moment later, it moves nothing else.
    .toSorted((a, b) => Number(refused.has(a.id)) - Number(refused.has(b.id)))
    .map((other) => [other.id, stepName(other)] as const);
  const session = useId();
  const [wanted, setWanted] = useState(NONE);
  const { pictures } = useStepPictures(wanted);
  const onOpen = (open: boolean) => {
    const design = store.getState().history.present;
    setWanted(
      open ? options.filter(([id]) => hasShape(design, id)).map(([id]) => byItself(design, id)) : NONE,
    );
    if (!open) return;
    ask((geometry) => geometry.candidates(design, step.id, [slot, at], nextOf(session)))
      .then((found) => {
        if (!found) return;
        const reasons = found.flatMap(({ id, refused: says }) =>
          says ? [[id, sayWords(says, unit)] as const] : [],
        );
        setRefused(new Map(reasons));
      })
      .catch(() => undefined);
  };
  useEffect(() => () => leave(session), [session]);
  const shapes = useOfDesign((design) =>
    options.map(([id]) => id).filter((id) => !refused.has(id) && hasShape(design, id)),
  );
  /** Lets the user click it on the part: what can stand there is shown. */
  const onPick = () =>
    store.getState().pick({
      step: step.id,
      what: 'input',
      slot,
      ...(at !== undefined && { at }),
      candidates: shapes,
    });
  return {
    options,
    refused,
    onOpen,
    onPick: shapes.length ? onPick : undefined,
    ...(wantedAt(input) !== 'section' && { pictures }),
  };
}
