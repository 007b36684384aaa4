/** Bodies for tests: a section carried along a path. */
import type { SweptBody } from '../src/sweep/body';
import { expect } from 'chai';
import { inspectMesh } from '../src/mesh/data/topology';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design, type Row } from '../src/design/schema';
import { sayWords } from '../src/measure/format';

export interface Carried {
  readonly path: {
    readonly kind: string;
    readonly set?: Record<string, string>;
    readonly rows?: Readonly<Record<string, readonly Row[]>>;
    readonly without?: readonly string[];
    /** The path that it is made from. */
    readonly on?: Carried['path'];
  };
  /** The path that the section points at. */
  readonly guide?: Carried['path'];
  readonly section: {
    readonly kind: string;
    readonly set?: Record<string, string>;
    readonly rows?: Readonly<Record<string, readonly Row[]>>;
  };
  readonly into?: Carried['section'];
  readonly sweep?: Record<string, string>;
  readonly rows?: Record<string, Row[]>;
}

export function bodyDesign({ path, guide, section, into, sweep = {}, rows }: Carried): Design {
  const design = emptyDesign('Test body');
  const put = (
    id: string,
    one: { kind: string; set?: Record<string, string>; rows?: Readonly<Record<string, readonly Row[]>> },
    without: readonly string[] = [],
  ): void => {
    const step = stepOf(design, addStep(design, one.kind, design.steps.length, one.set));
    step.id = id;
    if (one.rows) step.rows = structuredClone(one.rows) as Record<string, Row[]>;
    for (const field of without) delete step.set[field];
  };
  const putPath = (id: string, one: Carried['path']): void => {
    if (one.on) putPath(`${id}-base`, one.on);
    put(id, one, one.without);
    if (one.on) setInput(design, id, 'path', `${id}-base`);
    if (one.kind === 'stationed') setInput(design, id, 'section', 'section');
  };
  put('section', section);
  if (into) put('into', into);
  putPath('path', path);
  if (guide) putPath('guide', guide);
  put('sweep', { kind: 'sweep', set: sweep });
  setInput(design, 'sweep', 'path', 'path');
  setInput(design, 'sweep', 'section', 'section');
  if (into) setInput(design, 'sweep', 'into', 'into');
  if (guide) setInput(design, 'sweep', 'guide', 'guide');
  if (rows) stepOf(design, 'sweep').rows = rows;
  return design;
}

export async function carried(what: Carried): Promise<SweptBody> {
  const { steps } = await evaluate(bodyDesign(what), createCache());
  const bad = steps.find((step) => !step.value);
  if (bad) throw new Error(`${bad.id}: ${bad.complaints.map((one) => sayWords(one.says, 'mm')).join('; ')}`);
  return steps.at(-1)!.value as SweptBody;
}

/** Straight up from the origin, mm. */
export const straight = (length: number): Carried['path'] => ({
  kind: 'run',
  rows: {
    points: points([0, 0, 0], [0, 0, length]),
  },
});

export const near = (got: number, want: number, part = 1e-9) =>
  expect(got).closeTo(want, part * Math.abs(want));

/** Volume errors of meshes, each at a quarter of the tolerance of the one before. */
export function errors(body: SweptBody, tolerances: readonly number[]): number[] {
  return tolerances.map((tolerance) => {
    const report = inspectMesh(body.mesh(tolerance, 4e6));
    expect(report).deep.include({ openEdges: 0, degenerate: 0 });
    return Math.abs(report.volume - body.volume) / body.volume;
  });
}

/** Rows of a table of points, from figures in mm. */
export const points = (...places: readonly (readonly [number, number, number])[]): Row[] =>
  places.map(([x, y, z]) => ({ x: `${x} mm`, y: `${y} mm`, z: `${z} mm` }));
