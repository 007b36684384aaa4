/** Findings about a compression spring. */
import type { Finding } from '../../kind/value';
import { mm, told, words } from '../../measure/words';
import type { Duty, Ends } from '../../trade/duty';

/** An index outside this range is hard to coil (EN 13906-1: 4 ≤ w ≤ 20). */
const INDEX_RANGE = [4, 20] as const;

/** What is to be said of a compression spring as it is calculated. */
export function compressionFindings({ spring, wire, ends, drawn, strength }: Duty): Finding[] {
  const findings: Finding[] = [...otherwise(ends, drawn)];
  const [low, high] = INDEX_RANGE;
  const { index, loaded, solidLength, linearTravel, axialGap } = spring;
  const nearer = index - low < high - index ? low : high;
  const margin = Math.min(index - low, high - index);
  findings.push({
    name: 'index',
    level: margin >= 0 ? 'good' : 'note',
    says:
      margin >= 0
        ? words`Index ${told(index, 'number')} can be coiled`
        : words`Index ${told(index, 'number')} is hard to coil`,
    ...(margin < 0 && { detail: words`between ${low} and ${high} is usual` }),
    value: index,
    limit: nearer,
    margin,
    quantity: 'number',
  });
  if (axialGap > wire)
    findings.push({
      name: 'tangling',
      level: 'note',
      says: ['Tangles when loose'],
      detail: words`a gap of ${mm(axialGap)} lets the wire of another in`,
      value: axialGap,
      limit: wire,
      margin: wire - axialGap,
      quantity: 'length',
    });
  if (!loaded) return findings;
  if (strength !== undefined) findings.push(strengthFinding(loaded.stress, strength));
  const room = loaded.length - solidLength;
  findings.push({
    name: 'solid',
    level: room >= 0 ? 'good' : 'fault',
    says:
      room >= 0
        ? words`${mm(room)} left before it is solid`
        : words`Cannot be pressed to ${mm(loaded.length)}: solid at ${mm(solidLength)}`,
    value: loaded.length,
    limit: solidLength,
    margin: room,
    quantity: 'length',
  });
  if (room >= 0 && loaded.travel > linearTravel * (1 + 1e-9))
    findings.push({
      name: 'linear',
      level: 'note',
      says: ['Load is higher than calculated'],
      detail: words`the widest coil closes after ${mm(linearTravel)}, and the spring grows stiffer`,
      value: loaded.travel,
      limit: linearTravel,
      margin: linearTravel - loaded.travel,
      quantity: 'length',
    });
  return findings;
}

function strengthFinding(stress: number, strength: number): Finding {
  const holds = stress <= strength;
  return {
    name: 'strength',
    level: holds ? 'good' : 'fault',
    says: holds
      ? words`Loaded to ${told(stress, 'stress')} of the ${told(strength, 'stress')} it bears`
      : words`Overloaded: ${told(stress, 'stress')} where it bears ${told(strength, 'stress')}`,
    value: stress,
    limit: strength,
    margin: strength - stress,
    quantity: 'stress',
  };
}

const same = (a: Ends, b: Ends): boolean =>
  a.dead.every((coils, i) => Math.abs(coils - b.dead[i]!) < 1e-9) &&
  a.ground.every((flat, i) => flat === b.ground[i]);

/** Ends that are calculated otherwise than they are drawn. */
function otherwise(ends: Ends, drawn: Ends): Finding[] {
  if (same(ends, drawn)) return [];
  const coils = (of: Ends) => of.dead[0] + of.dead[1];
  return [
    {
      name: 'drawn',
      level: 'note',
      says: ['Calculated otherwise than drawn'],
      detail: words`calculated with ${coils(ends)} coils that do not work${groundWords(ends)}, drawn with ${coils(drawn)}${groundWords(drawn)}`,
      value: coils(ends),
      limit: coils(drawn),
      margin: -Math.abs(coils(ends) - coils(drawn)),
      quantity: 'number',
      mend: { says: ['Calculate it as drawn'], set: { ends: 'drawn' } },
    },
  ];
}

const groundWords = ({ ground }: Ends): string =>
  ground[0] && ground[1] ? ' and ground ends' : ground[0] || ground[1] ? ' and one ground end' : '';
