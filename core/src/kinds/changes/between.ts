/** What is said of the bodies of a set: how much room they leave each other. */
import { Memo } from '../../geometry/memo';
import type { Poll } from '../../geometry/poll';
import type { Checked } from '../../kind/kind';
import { bodiesOf, type Result, type SetOf } from '../../kind/value';
import { mm, words } from '../../measure/words';
import { nearestNeighbours, type Neighbours } from '../../solid/neighbours';

const KNOWN = new Memo<SetOf, Neighbours | undefined>();

const neighboursOf = (set: SetOf, poll: Poll): Promise<Neighbours | undefined> =>
  KNOWN.later(set, () => nearestNeighbours(bodiesOf(set), poll));

/** The least gap between neighbours, where there are any. */
export async function gapResults(set: SetOf, poll: Poll): Promise<Result[]> {
  const found = await neighboursOf(set, poll);
  if (!found) return [];
  const { gap, within } = found;
  return [
    {
      name: 'gap',
      label: 'least gap',
      head: 'Least gap',
      value: gap,
      quantity: 'length',
      ...(within && { within }),
    },
  ];
}

/** Whether neighbours run into each other: then volume and mass count what they share for each. */
export async function gapFindings(set: SetOf, poll: Poll): Promise<Checked> {
  const found = await neighboursOf(set, poll);
  if (!found) return { findings: [], limits: [] };
  const { gap, overlap, pair, place } = found;
  return {
    findings: [
      {
        name: 'between',
        level: overlap ? 'note' : 'good',
        says: overlap ? ['Copies run into each other'] : words`Copies clear each other by ${mm(gap)}`,
        ...(overlap && {
          detail: words`numbers ${pair[0] + 1} and ${pair[1] + 1}; volume and mass count what they share for each of them, until they are added to one`,
        }),
        value: gap,
        limit: 0,
        margin: gap,
        quantity: 'length',
        place,
      },
    ],
    limits: [],
  };
}
