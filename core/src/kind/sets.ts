/** Sets of paths: a step that takes a path is made for each of a set; and the figures that every path has. */
import { distance } from '../geometry/vector';
import { Complaint } from '../measure/words';
import { pathExtent } from '../path/lay';
import type { Path, PathSet } from '../path/path';
import type { AnyKind } from './kind';
import type { Figure, Value } from './value';

const MOST_PATHS = 400;

/** Makes the value of a step; where a set stands for a path, a set of values. @throws Complaint */
export function lift(
  kind: AnyKind,
  figures: Record<string, unknown>,
  inputs: Record<string, Value | undefined>,
): Value {
  const slots = Object.keys(kind.inputs).filter(
    (slot) => inputs[slot]?.type === 'paths' && !kind.inputs[slot]!.sets,
  );
  if (!slots.length) return kind.evaluate(figures, inputs);
  const sets = slots.map((slot) => (inputs[slot] as PathSet).paths);
  const count = Math.max(...sets.map((paths) => paths.length));
  const odd = sets.findIndex((paths) => paths.length !== 1 && paths.length !== count);
  if (odd >= 0)
    throw new Complaint(`This set has ${sets[odd]!.length} paths, another here ${count}.`, slots[odd]);
  const made = Array.from({ length: count }, (_x, i) => {
    const mine = { ...inputs };
    slots.forEach((slot, k) => (mine[slot] = sets[k]![sets[k]!.length === 1 ? 0 : i]));
    return kind.evaluate(figures, mine);
  });
  return pathSet(made.flatMap((value) => (value.type === 'paths' ? value.paths : [value as Path])));
}

/** Inputs of the first of what is made, where sets stand for paths: tables come out as in it. */
export const firstOf = (
  kind: AnyKind,
  inputs: Record<string, Value | undefined>,
): Record<string, Value | undefined> =>
  Object.fromEntries(
    Object.entries(inputs).map(([slot, value]) => [
      slot,
      value?.type === 'paths' && !kind.inputs[slot]!.sets ? value.paths[0] : value,
    ]),
  );

/** A set, or the path itself where it is the only one. @throws Complaint when there are too many. */
export function pathSet(paths: readonly Path[]): Path | PathSet {
  if (paths.length > MOST_PATHS)
    throw new Complaint(`This makes ${paths.length} paths; up to ${MOST_PATHS} can be laid at once.`);
  return paths.length === 1 ? paths[0]! : { type: 'paths', paths };
}

/** What is measured of every path, but for what a kind tells itself. */
export function pathFigures(path: Path, own: readonly Figure[]): Figure[] {
  const [least, most] = pathExtent(path, 0);
  const ends = path.closed ? 0 : distance(path.at(0).position, path.at(path.length).position);
  const all: Figure[] = [
    { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
    { name: 'pathExtentX', label: 'extent, x', value: most[0] - least[0], quantity: 'length' },
    { name: 'pathExtentY', label: 'extent, y', value: most[1] - least[1], quantity: 'length' },
    { name: 'pathExtentZ', label: 'extent, z', value: most[2] - least[2], quantity: 'length' },
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
  return all.filter(({ name }) => !own.some((figure) => figure.name === name));
}

/** Figures of a set as a whole. */
export function setFigures({ paths }: PathSet): Figure[] {
  const lengths = paths.map((path) => path.length);
  return [
    { name: 'paths', label: 'paths', head: 'Paths', value: paths.length, quantity: 'number' },
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
