/** Sets: a step that takes one value is made for each of a set; and the results that every path has. */
import { distance } from '../geometry/vector';
import { Complaint, counted } from '../measure/words';
import { pathExtent } from '../path/sample';
import { firstAxis, freeFrame } from '../path/frame';
import type { Path } from '../path/path';
import { bodiesResults } from './body-results';
import { Detailed, type AnyKind, type Context, type InputValues, type MadeFrom } from './kind';
import { membersOf, typeOf, type Result, type SetOf, type Single, type Value } from './value';

const MOST_MEMBERS = 400;

/** An input, or one of several in it, that holds a set where one value is taken. */
interface Place {
  readonly slot: string;
  /** Which of several. */
  readonly at?: number;
  readonly members: readonly Single[];
}

const placesOf = (kind: AnyKind, inputs: InputValues): Place[] =>
  Object.entries(kind.inputs).flatMap(([slot, { sets }]): Place[] => {
    const given = inputs[slot];
    if (sets || !given) return [];
    if (isOne(given)) return given.type === 'set' ? [{ slot, members: given.members }] : [];
    return given.flatMap((value, at) => (value.type === 'set' ? [{ slot, at, members: value.members }] : []));
  });

const isOne = (given: Value | readonly Value[]): given is Value => !Array.isArray(given);

/** The inputs with member `i` in the place of every set; sets of one stand for all. */
function withMembers(inputs: InputValues, places: readonly Place[], i: number): InputValues {
  const mine: Record<string, InputValues[string]> = { ...inputs };
  for (const { slot, at, members } of places) {
    const member = members[members.length === 1 ? 0 : i]!;
    mine[slot] = at === undefined ? member : (mine[slot] as readonly Value[]).with(at, member);
  }
  return mine;
}

/** A value, and what each of its members was made from. */
export interface Lifted {
  readonly value: Value;
  readonly madeFrom: readonly MadeFrom[];
}

/** Makes the value of a step; where a set stands for one value, a set of what is made of each. @throws Complaint */
export async function lift(
  kind: AnyKind,
  figures: Record<string, unknown>,
  inputs: InputValues,
  context: Context,
): Promise<Lifted> {
  const make = async (mine: InputValues): Promise<Lifted> => {
    const made = await kind.evaluate(figures, mine, context);
    const { value, detail } = made instanceof Detailed ? made : { value: made, detail: undefined };
    const from = { figures, inputs: mine, detail };
    return { value, madeFrom: membersOf(value).map(() => from) };
  };
  const places = placesOf(kind, inputs);
  if (!places.length) return make(inputs);
  const count = Math.max(...places.map(({ members }) => members.length));
  const odd = places.find(({ members }) => members.length !== 1 && members.length !== count);
  if (odd)
    throw new Complaint(
      `This set has ${counted(odd.members.length, odd.members[0]!.type)}, another here ${count}.`,
      odd.slot,
    );
  const members: Single[] = [];
  const madeFrom: MadeFrom[] = [];
  for (let i = 0; i < count; i++) {
    await context.poll(i / count);
    const made = await make(withMembers(inputs, places, i));
    members.push(...membersOf(made.value));
    madeFrom.push(...made.madeFrom);
  }
  return { value: setOf(members), madeFrom };
}

/** Inputs of the first of what is made, where sets stand for single values: tables come out as in it. */
export const firstOf = (kind: AnyKind, inputs: InputValues): InputValues =>
  withMembers(inputs, placesOf(kind, inputs), 0);

/** A set, or its member where it is the only one. @throws Complaint when there are too many. */
export function setOf<T extends Single>(members: readonly T[]): T | SetOf<T> {
  const [first] = members as readonly [T];
  if (members.length > MOST_MEMBERS)
    throw new Complaint(
      `This makes ${counted(members.length, first.type)}; up to ${MOST_MEMBERS} can be made at once.`,
    );
  return members.length === 1 ? first : { type: 'set', memberType: first.type, members };
}

/** Extents of less than this part of its length are rounding. */
const FLAT = 1e-8;

/** What is measured of every path, but for what a kind tells itself. */
export function pathResults(path: Path, own: readonly Result[]): Result[] {
  const [least, most] = pathExtent(path, 0);
  const wide = (axis: 0 | 1 | 2) => {
    const width = most[axis] - least[axis];
    return width < FLAT * path.length ? 0 : width;
  };
  const ends = path.closed ? 0 : distance(path.at(0).position, path.at(path.length).position);
  const all: Result[] = [
    { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
    { name: 'pathExtentX', label: 'extent, x', value: wide(0), quantity: 'length' },
    { name: 'pathExtentY', label: 'extent, y', value: wide(1), quantity: 'length' },
    { name: 'pathExtentZ', label: 'extent, z', value: wide(2), quantity: 'length' },
    { name: 'endToEnd', label: 'end to end', head: 'End to end', value: ends, quantity: 'length' },
    { name: 'turning', label: 'turns through', value: path.turning, quantity: 'angle' },
  ];
  const { curvature, at } = path.tightest;
  if (curvature > 0)
    all.push(
      {
        name: 'tightestRadius',
        label: 'tightest bend',
        head: 'Tightest bend',
        value: 1 / curvature,
        quantity: 'length',
      },
      { name: 'tightestAt', label: 'tightest at', head: 'Tightest at', value: at, quantity: 'length' },
    );
  // What a frame that turns no more than it must is short of when it comes round.
  const left = path.closed ? freeFrame(path, firstAxis(path)).left : 0;
  if (Math.abs(left) > 1e-9)
    all.push({ name: 'closingTwist', label: 'closing twist', value: left, quantity: 'angle' });
  return all.filter(({ name }) => !own.some((figure) => figure.name === name));
}

const HEADS: Readonly<Record<Single['type'], string>> = {
  path: 'Paths',
  section: 'Sections',
  body: 'Bodies',
  duty: 'Duties',
  measure: 'Measures',
};

/** Results of a set as a whole: how many there are, and of paths how long. */
export function setResults(set: SetOf): Result[] {
  const head = HEADS[typeOf(set)];
  const label = head.toLowerCase();
  const count: Result = { name: label, label, head, value: set.members.length, quantity: 'number' };
  const told = [count, ...(set.results ?? [])];
  const bodies = set.members.filter((one) => one.type === 'body');
  if (bodies.length) return [...told, ...bodiesResults(bodies)];
  const lengths = set.members.flatMap((one) => (one.type === 'path' ? [one.length] : []));
  if (!lengths.length) return told;
  return [
    ...told,
    {
      name: 'length',
      label: 'length of all',
      head: 'Length',
      value: lengths.reduce((sum, length) => sum + length, 0),
      quantity: 'length',
    },
    { name: 'shortest', label: 'shortest', value: Math.min(...lengths), quantity: 'length' },
    { name: 'longest', label: 'longest', value: Math.max(...lengths), quantity: 'length' },
  ];
}
