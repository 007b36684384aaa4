/** The legs of runs, straights and bends in turn: where they lie, and as figures. */
import type { Figure } from '../../kind/value';
import { pathWith, type Leg, type Path } from '../../path/path';

/**
 * The lengths of fair corners are known only once they are measured: legs by the pieces they are. A straight without
 * length is none.
 */
export function withLengths(path: Path, legs: readonly Leg[]): Path {
  let next = 0;
  return pathWith(path, {
    legs: legs.map((leg) => {
      if (leg.shape === 'straight' && leg.from === leg.to) {
        const at = path.pieces[next]?.start ?? path.length;
        return { ...leg, from: at, to: at };
      }
      const { start, length } = path.pieces[next++]!;
      return { ...leg, from: start, to: start + length };
    }),
  });
}

/** Straights and bends of a run as figures: developed length, each straight, each bend. */
export function runFigures(path: Path): Figure[] {
  const legs = path.legs ?? [];
  const figures: Figure[] = [
    { name: 'length', label: 'developed length', head: 'Length', value: path.length, quantity: 'length' },
    {
      name: 'bends',
      label: 'bends',
      head: 'Bends',
      value: legs.filter(({ shape }) => shape === 'bend').length,
      quantity: 'number',
    },
  ];
  const counts = { straight: 0, bend: 0 };
  for (const { shape, from, to, angle: turned, axis } of legs) {
    const n = ++counts[shape];
    if (shape === 'straight') {
      figures.push({ name: `straight${n}`, label: `straight ${n}`, value: to - from, quantity: 'length' });
      continue;
    }
    figures.push(
      { name: `bend${n}`, label: `bend ${n}`, value: turned!, quantity: 'angle' },
      {
        name: `bend${n}Plane`,
        label: `plane of bend ${n} to the level`,
        value: Math.acos(Math.min(1, Math.abs(axis![2]))),
        quantity: 'angle',
      },
    );
  }
  return figures;
}
