/** Grips of how a section is carried: set off its path, turned, twisted and made larger towards the end. */
import { moved, type Motion } from '../../geometry/motion';
import { unit, type Vec3 } from '../../geometry/vector';
import { ledAlong, type Mark } from '../../kind/mark';
import { isRound } from '../../section/section';
import type { SweptBody } from '../../sweep/body';
import { sectionStands } from '../../sweep/carry/stands';

/** Of the figures that are in use: what is round is not seen to be turned. */
export function sweepMarks(
  body: SweptBody,
  set: Readonly<Record<string, string>>,
  _filled: unknown,
  resolved: Readonly<Record<string, { readonly value: number }>>,
): Mark[] {
  const used = (field: string) => Boolean(resolved[field]?.value);
  const { swept } = body;
  const [first, last] = [swept[0]!, swept.at(-1)!];
  const start = sectionStands(first, 0);
  const { box, reach } = first.section;
  const round = isRound(first.section);
  const rim = (stands: Motion): Vec3 => moved(stands, [reach, 0, 0]);
  const marks: Mark[] = [];
  if (used('turned') && !round)
    marks.push({ type: 'turn', field: 'turned', centre: start.origin, axis: start.ez, at: rim(start) });
  if (used('right') || used('up'))
    marks.push({
      type: 'point',
      led: [
        { field: 'right', way: 0 },
        { field: 'up', way: 1 },
      ],
      name: 'Off its path',
      at: moved(start, [(box.left + box.right) / 2, (box.low + box.high) / 2, 0]),
      moved: { ...start, ex: unit(start.ex), ey: unit(start.ey) },
    });
  if (last.carrier.path.closed) return marks;
  if (set.twistBy === 'total' && !round) marks.push(turnAtEnd('twist', body));
  if (set.size === 'taper') {
    const end = sectionStands(last, last.carrier.path.length);
    marks.push(ledAlong('endScale', 'Its size at the end', rim(end), unit(end.ex), 1 / reach));
  }
  return marks;
}

/** The turn of a section about its path where that ends. */
export function turnAtEnd(field: string, { swept }: SweptBody): Mark {
  const last = swept.at(-1)!;
  const stands = sectionStands(last, last.carrier.path.length);
  const at = moved(stands, [last.section.reach, 0, 0]);
  return { type: 'turn', field, centre: stands.origin, axis: stands.ez, at };
}
