/** The legs of runs, straights and bends in turn: where they lie, and as figures. */
import { z } from 'zod';
import { angle, length, table, type FilledRows } from '../../kind/kind';
import type { Result } from '../../kind/value';
import { bendRows, realBends, type At, type BendRow, type Corners, type Vertex } from '../../path/bends';
import { pathWith, type Leg, type Path } from '../../path/path';

/** A run as corner points, and as bend rows. */
export const LEG_TABLES = {
  points: table({
    noun: 'point',
    least: 2,
    row: z.object({
      x: length(),
      y: length().optional(),
      z: length().optional(),
      radius: length({ atLeast: 0 }).optional(),
    }),
    carriedOn: ['x', 'y', 'z'],
    fresh: { x: '0 mm', y: '0 mm', z: '0 mm' },
  }),
  bends: table({
    noun: 'row',
    least: 1,
    row: z.object({
      length: length({ atLeast: 0 }),
      rotation: angle().optional(),
      angle: angle({ atLeast: 0 }).optional(),
      radius: length({ atLeast: 0 }).optional(),
    }),
    fresh: { length: '50 mm', angle: '90 deg' },
  }),
};

/** Both tables of a run by its corners; `given` are the bend rows with those that bend by nothing. @throws Complaint */
export function legRows(
  vertices: readonly Vertex[],
  corners: Corners,
  at: At,
): {
  readonly points: FilledRows[string];
  readonly bends: FilledRows[string];
  readonly given: FilledRows[string];
} {
  const rows = bendRows(vertices, corners, at);
  const plain = (list: readonly BendRow[]) => list.map((row) => ({ ...row }));
  return {
    points: vertices.map(({ point: [x, y, z], radius }) => ({ x, y, z, radius })),
    bends: plain(realBends(rows)),
    given: plain(rows),
  };
}

/**
 * The lengths of fair corners are known only once they are measured: legs by the pieces they are. A straight without
 * length is none.
 */
export function withLengths(path: Path, legs: readonly Leg[]): Path {
  let next = 0;
  return pathWith(path, {
    legs: legs.map((leg) => {
      if (leg.type === 'straight' && leg.from === leg.to) {
        const at = path.pieces[next]?.start ?? path.length;
        return { ...leg, from: at, to: at };
      }
      const { start, length } = path.pieces[next++]!;
      return { ...leg, from: start, to: start + length };
    }),
  });
}

/** Straights and bends of a run as figures: developed length, each straight, each bend. */
export function runResults(path: Path): Result[] {
  const legs = path.legs ?? [];
  const figures: Result[] = [
    { name: 'length', label: 'developed length', head: 'Length', value: path.length, quantity: 'length' },
    {
      name: 'bends',
      label: 'bends',
      head: 'Bends',
      value: legs.filter(({ type }) => type === 'bend').length,
      quantity: 'number',
    },
  ];
  const counts = { straight: 0, bend: 0 };
  for (const { type, from, to, angle: turned, axis } of legs) {
    const n = ++counts[type];
    if (type === 'straight') {
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
