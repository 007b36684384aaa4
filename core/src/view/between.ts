/** What is found between the bodies of different steps: overlaps, contacts, and gaps that are too narrow. */
import { mayMeet, stepName } from '../design/edit';
import type { Evaluation } from '../design/evaluate';
import { evaluateGivens, givenLookup } from '../design/givens';
import { complained } from '../design/complained';
import type { Design } from '../design/schema';
import type { Poll } from '../geometry/poll';
import { bodiesOf, type Finding } from '../kind/value';
import { asFigure, evaluateFigure, parseExpression } from '../measure/expression';
import { held } from '../measure/format';
import { Complaint, mm, told, words, type Words } from '../measure/words';
import { lookAt, standingsOf, type Standing } from '../solid/interference';
import { partOf } from './part';

/** A finding of two bodies, and the later of their steps. */
export interface Between {
  readonly step: string;
  readonly finding: Finding;
}

/** The least gap that is wanted between bodies, mm. @throws Complaint at "gap" */
export function wantedGap({ between, givens, unit }: Design): number {
  if (!between?.gap) return 0;
  const lookup = givenLookup(evaluateGivens(givens));
  const gap = asFigure(evaluateFigure(parseExpression(between.gap), lookup), 'length', unit);
  if (!(gap >= 0)) throw new Complaint(words`The least gap is ${mm(gap)}; it must be 0 or more.`, 'gap');
  return gap;
}

/** What is found between the visible bodies of a design; of one that has a single body, nothing. */
export async function findingsBetween(design: Design, { steps }: Evaluation, poll: Poll): Promise<Between[]> {
  const shown = partOf(design.steps)
    .map((step) => ({ step, bodies: bodiesOf(steps.find(({ id }) => id === step.id)?.value) }))
    .filter(({ bodies }) => bodies.length);
  if (shown.length < 2) return [];
  const made: typeof shown = [];
  for (const { step, bodies } of shown) {
    // One that cannot be meshed says so itself, and keeps no others from being checked.
    const looked = await complained(() => lookAt(bodies, poll));
    if (!(looked instanceof Complaint)) made.push({ step, bodies });
  }
  if (made.length < 2) return [];
  let wanted = 0;
  let unreadable: Words | undefined;
  try {
    wanted = wantedGap(design);
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    unreadable = error.says;
  }
  const standings = await complained(() =>
    standingsOf(
      made.map(({ bodies }) => bodies),
      wanted,
      poll,
    ),
  );
  const last = made.at(-1)!.step.id;
  if (standings instanceof Complaint)
    return [trouble(last, 'unchecked', ['Bodies could not be checked against each other'], standings.says)];
  const { close, least } = standings;
  const stepsOf = ({ pair: [i, j] }: Standing) => [made[i]!.step, made[j]!.step] as const;
  const findingOf = (standing: Standing): Between => {
    const [one, other] = stepsOf(standing);
    const { finding, ...more } = saidOf(standing, [stepName(one), stepName(other)], wanted);
    const { gap, place } = standing;
    return {
      step: other.id,
      finding: {
        name: `${finding} ${one.id}`,
        ...more,
        value: gap,
        limit: wanted,
        margin: gap - wanted,
        quantity: 'length',
        place,
        other: one.id,
      },
    };
  };
  const told = close
    .filter((standing) => {
      const [one, other] = stepsOf(standing);
      return !mayMeet(design, [one.id, other.id]);
    })
    .map(findingOf);
  // What leaves least room is told of where all is well.
  if (least && !told.some(({ finding }) => finding.level !== 'good')) told.push(findingOf(least));
  if (unreadable)
    told.push(trouble(last, 'gap wanted', ['The least gap between bodies cannot be read'], unreadable));
  return told;
}

/** What keeps bodies from being checked against each other. */
const trouble = (step: string, name: string, says: Words, detail: Words): Between => ({
  step,
  finding: { name, level: 'fault', says, detail, value: 0, limit: 0, margin: 0, quantity: 'length' },
});

/** What is said of two bodies, by their names. */
function saidOf(
  { how, gap: exact, within, shared }: Standing,
  [one, other]: readonly [string, string],
  wanted: number,
): { finding: string } & Pick<Finding, 'level' | 'says' | 'detail'> {
  const gap = held(exact, within);
  if (how === 'overlap')
    return {
      finding: 'overlap',
      level: wanted > 0 ? 'fault' : 'note',
      says: [`${one} and ${other} overlap`],
      detail: shared
        ? words`They share about ${told(shared.volume, 'volume')}. Move one of them, or add them.`
        : ['Move one of them, or add them.'],
    };
  if (how === 'touch' ? wanted > 0 : exact + within < wanted)
    return {
      finding: 'near',
      level: 'fault',
      says:
        how === 'touch'
          ? [`${one} and ${other} touch`]
          : words`${one} and ${other} are about ${mm(gap)} apart`,
      detail: words`At least ${mm(wanted)} is wanted. Move one of them.`,
    };
  return how === 'touch'
    ? { finding: 'touch', level: 'good', says: [`${one} and ${other} touch`] }
    : { finding: 'apart', level: 'good', says: words`${one} and ${other} are about ${mm(gap)} apart` };
}
