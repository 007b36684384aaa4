import { z } from 'zod';
import { choice, length, pathKind, table } from '../../kind/kind';
import { cellField, writtenRows } from '../../measure/field';
import type { Mend, Finding } from '../../kind/value';
import { distance, type Vec3 } from '../../geometry/vector';
import type { Led, PointMark } from '../../kind/mark';
import { Complaint, mm, words, unlessRefused } from '../../measure/words';
import { bendsThrough, type At, type Vertex } from '../../path/bends';
import { samplePath, planIntervals } from '../../path/sample';
import { pathWith, pathOf, type Path } from '../../path/path';
import { LEG_TABLES, legRows, runResults, withLengths } from './legs';

const view = (noun: string) =>
  table({
    noun,
    least: 2,
    row: z.object({
      along: length(),
      across: length(),
      radius: length({ atLeast: 0 }).optional(),
    }),
    carriedOn: ['along', 'across'],
    fresh: { along: '0 mm', across: '0 mm' },
  });
const schema = z.object({
  radius: length({ atLeast: 0 }),
  corners: choice('bent', 'faired', 'mitred'),
});
interface Point {
  readonly along: number;
  readonly across: number;
  readonly radius?: number | undefined;
}
type View = 'front' | 'top';

/** A path and what its two views disagree in. */
interface TwoView extends Path {
  readonly mismatch?: { readonly view: View; readonly by: number; readonly mend: Mend };
}

/** Run drawn as straights in front view and in top view over the same length. */
export const twoView = pathKind({
  kind: 'two-view',
  title: 'Run',
  noun: 'two-view run',
  words: [
    'front view',
    'plan and elevation',
    'two view',
    'run',
    'views',
    'front',
    'top',
    'plan',
    'elevation',
    'projection',
    'tube',
    'pipe',
  ],
  inputs: {},
  schema,
  // The run as points and as bend rows follows from the views.
  tables: { front: view('point'), top: view('point'), ...LEG_TABLES },
  needs: (_figures, name) => name === 'front' || name === 'top',
  defaults: { radius: '20 mm', corners: 'bent' },
  rows: {
    front: [
      { along: '0 mm', across: '0 mm' },
      { along: '80 mm', across: '0 mm' },
      { along: '140 mm', across: '60 mm' },
      { along: '220 mm', across: '60 mm' },
    ],
    top: [
      { along: '0 mm', across: '0 mm' },
      { along: '110 mm', across: '0 mm' },
      { along: '160 mm', across: '40 mm' },
      { along: '220 mm', across: '40 mm' },
    ],
  },
  evaluate({ radius, corners, front, top }) {
    const merged = mergeViews(front, top, radius);
    const { curves, legs } = bendsThrough(merged.vertices, corners, false, placesOf(merged));
    const mismatch = endsOf(front, top);
    const path = withLengths(pathOf(curves), legs);
    const projected = corners === 'mitred' ? undefined : projectedArcs(front, top, radius);
    return pathWith(path, {
      ...(mismatch && { mismatch }),
      ...(projected && { aside: () => [projected] }),
    });
  },
  fill({ radius, corners, front, top }) {
    const merged = mergeViews(front, top, radius);
    const { points, bends } = legRows(merged.vertices, corners, placesOf(merged));
    return { points, bends };
  },
  marks: viewMarks,
  results: runResults,
  async check(path) {
    const { mismatch } = path as TwoView;
    const finding: Finding = mismatch
      ? {
          name: 'views',
          level: 'fault',
          says: words`The ${mismatch.view} view ends ${mm(mismatch.by)} short of the other`,
          detail: ['only the length they share is laid'],
          value: mismatch.by,
          limit: 0,
          margin: -mismatch.by,
          quantity: 'length',
          mend: mismatch.mend,
          place: path.at(path.length).position,
        }
      : {
          name: 'views',
          level: 'good',
          says: ['Both views end at the same length'],
          value: 0,
          limit: 0,
          margin: 0,
          quantity: 'length',
        };
    return { findings: [finding], limits: [] };
  },
});

/** Grips of the points of both views, where they lie in space; where the views have a point at one length it is one. */
function viewMarks(
  _path: Path,
  _set: unknown,
  _filled: unknown,
  resolved: Readonly<Record<string, { readonly value: number }>>,
): PointMark[] {
  const rows = (name: View) =>
    writtenRows(resolved, name, ['along', 'across']).map(([along, across]): Point => ({ along, across }));
  const views = { front: rows('front'), top: rows('top') };
  const ways = { front: 2, top: 1 } as const;
  const marks: (PointMark & { readonly along: number })[] = [];
  for (const name of ['front', 'top'] as const)
    views[name].forEach(({ along, across }, row) => {
      const other = views[name === 'front' ? 'top' : 'front'];
      // Beyond the end of the other view there is no place for it.
      if (along < other[0]!.along || along > other.at(-1)!.along) return;
      const beside = at(other, along, false);
      const led: Led[] = [
        { field: cellField(name, row, 'along'), way: 0 },
        { field: cellField(name, row, 'across'), way: ways[name] },
      ];
      const point: Vec3 = name === 'front' ? [along, beside, across] : [along, across, beside];
      const same = marks.findIndex((mark) => distance(mark.at, point) < SAME_PLACE);
      if (same >= 0) marks[same] = { ...marks[same]!, led: [...marks[same]!.led, ...led] };
      else marks.push({ type: 'point', led, name: `Point ${row + 1} of the ${name} view`, at: point, along });
    });
  return [...marks]
    .sort((a, b) => a.along - b.along)
    .map(({ along: _along, ...mark }, i) => ({ ...mark, number: i + 1 }));
}

/** Points nearer to one another than this, mm, are one. */
const SAME_PLACE = 1e-9;

/** Where a mistake at a corner is told: at the point of the view it came from. */
const placesOf = ({ fields }: ReturnType<typeof mergeViews>): At => ({
  radius: (i) => fields[i]!.radius,
  point: (i) => fields[i]!.point,
});

/** A view must go forwards; at one length it may step across once. @throws Complaint */
function checkView(points: readonly Point[], name: View): void {
  points.forEach(({ along, across }, i) => {
    if (i === 0) return;
    const before = points[i - 1]!;
    if (along < before.along)
      throw new Complaint('The points of a view go forwards along the length.', cellField(name, i, 'along'));
    if (along === before.along && (across === before.across || points[i - 2]?.along === along))
      throw new Complaint('This point is given twice.', cellField(name, i, 'along'));
  });
}

const at = (points: readonly Point[], along: number, later: boolean): number => {
  const exact = points.filter((point) => point.along === along);
  if (exact.length) return exact.at(later ? -1 : 0)!.across;
  const i = points.findIndex((point) => point.along > along);
  const [a, b] = [points[i - 1]!, points[i]!];
  return a.across + ((b.across - a.across) * (along - a.along)) / (b.along - a.along);
};

/** Corner points in space: the breakpoints of both views over the length they share. */
function mergeViews(front: readonly Point[], top: readonly Point[], usual: number) {
  checkView(front, 'front');
  checkView(top, 'top');
  const from = Math.max(front[0]!.along, top[0]!.along);
  const to = Math.min(front.at(-1)!.along, top.at(-1)!.along);
  if (!(to > from))
    throw new Complaint('The two views have no length in common.', cellField('top', 0, 'along'));
  const lengths = [...new Set([...front, ...top].map(({ along }) => along))]
    .filter((along) => along >= from && along <= to)
    .sort((a, b) => a - b);
  const vertices: Vertex[] = [];
  const fields: { radius: string; point: string }[] = [];
  for (const along of lengths) {
    // Where a view steps across at one length there are two corners.
    const steps = [front, top].some((view) => view.filter((point) => point.along === along).length > 1);
    for (const later of steps ? [false, true] : [false]) {
      const own = (
        [
          ['front', front],
          ['top', top],
        ] as const
      ).flatMap(([name, view]) => {
        const i = later
          ? view.findLastIndex((point) => point.along === along)
          : view.findIndex((point) => point.along === along);
        return i < 0 ? [] : [{ name, i, radius: view[i]!.radius }];
      });
      const named = own.find(({ radius }) => radius !== undefined) ?? own[0]!;
      vertices.push({
        point: [along, at(top, along, later), at(front, along, later)],
        radius: named.radius ?? usual,
      });
      fields.push({
        radius: cellField(named.name, named.i, 'radius'),
        point: cellField(named.name, named.i, 'along'),
      });
    }
  }
  return { vertices, fields };
}

/** Whether one view ends before the other, and what would carry it on. */
function endsOf(front: readonly Point[], top: readonly Point[]): TwoView['mismatch'] {
  const by = front.at(-1)!.along - top.at(-1)!.along;
  if (Math.abs(by) <= 1e-9) return undefined;
  const name: View = by > 0 ? 'top' : 'front';
  const [short, full] = by > 0 ? [top, front] : [front, top];
  return {
    view: name,
    by: Math.abs(by),
    mend: {
      says: words`Carry the ${name} view on to ${mm(full.at(-1)!.along)}`,
      set: { [cellField(name, short.length - 1, 'along')]: `${full.at(-1)!.along} mm` },
    },
  };
}

/** What would come of drawing the arcs in both views and joining the drawings: a comparison, and no true bends. */
function projectedArcs(
  front: readonly Point[],
  top: readonly Point[],
  usual: number,
): Float64Array | undefined {
  const drawn = (points: readonly Point[]) => {
    const vertices = points.map(({ along, across, radius = usual }): Vertex => ({
      point: [along, across, 0],
      radius,
    }));
    const { curves } = bendsThrough(vertices, 'bent', false, { radius: () => '', point: () => '' });
    const path = pathOf(curves);
    const { positions } = samplePath(path, planIntervals(path, { angle: 0.05, step: path.length / 200 }));
    return Array.from({ length: positions.length / 3 }, (_x, i): Point => ({
      along: positions[3 * i]!,
      across: positions[3 * i + 1]!,
    }));
  };
  // Arcs that do not fit in a view cannot be drawn there.
  return unlessRefused(() => {
    const [f, t] = [drawn(front), drawn(top)];
    const from = Math.max(f[0]!.along, t[0]!.along);
    const to = Math.min(f.at(-1)!.along, t.at(-1)!.along);
    const lengths = [...new Set([...f, ...t].map(({ along }) => along))]
      .filter((x) => x >= from && x <= to)
      .sort((a, b) => a - b);
    const points = lengths.map((x): Vec3 => [x, at(t, x, false), at(f, x, false)]);
    return Float64Array.from(points.flat());
  }, undefined);
}
