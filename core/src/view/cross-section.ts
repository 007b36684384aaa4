/** A plane square to the path of a body at a length along it, and the true section there. */
import type { Plane } from '../geometry/plane';
import { runNow } from '../geometry/task';
import { vec3 } from '../geometry/vector';
import { pathsOf, type Value } from '../kind/value';
import type { CutResults } from '../mesh/cut/cut-results';
import type { Path } from '../path/path';
import { momentsBy } from '../sweep/exact/figures';
import { standing } from '../sweep/carry/carrier';
import type { Swept } from '../sweep/carry/swept';

/** Where a path is cut. */
export interface CrossSection {
  /** The normal looks on along the path. */
  readonly plane: Plane;
  /** Length along the path, and of all of it, mm. */
  readonly s: number;
  readonly length: number;
  /** Of the section of a swept body there, exact; undefined where there is none, or its plane leans. */
  readonly figures?: Omit<CutResults, 'perimeter' | 'centroid'> & {
    /** Thickness, mm, where it has one. */
    readonly wall?: number;
  };
}

/** The plane square to what a value follows, at a length (mm) along it; undefined where it follows no path. */
export function crossSection(value: Value, at: number): CrossSection | undefined {
  const swept = value.type === 'body' && value.form === 'swept' ? value.swept[0] : undefined;
  const path = swept?.carrier.path ?? pathsOf(value)[0];
  if (!path) return undefined;
  const s = Math.min(path.length, Math.max(0, at));
  const { position, tangent } = path.at(s);
  const figures = swept && figuresAt(swept, path, s);
  return { plane: { point: position, normal: tangent }, s, length: path.length, ...(figures && { figures }) };
}

/** A section whose plane stands off square by more than this (rad) is not the one that is cut. */
const SQUARE = 1e-6;

function figuresAt(swept: Swept, path: Path, s: number): CrossSection['figures'] {
  const { piece, u } = path.locate(s);
  const here = standing();
  swept.carrier.stand(piece, u, here);
  const tangent = path.at(s).tangent;
  const n = vec3(here.n);
  const off = Math.hypot(...tangent.map((x, k) => x - n[k]!));
  if (off > SQUARE || here.lx !== 0 || here.ly !== 0) return undefined;
  const m = runNow(momentsBy(swept))(
    here,
    swept.ranges.map(({ from, to }) => piece >= from && piece < to),
  );
  const [area, cx, cy] = [m.m00, m.m10 / m.m00, m.m01 / m.m00];
  const { wall } = swept.section;
  return {
    area,
    ...(wall !== undefined && !swept.into && here.sx === here.sy && { wall: here.sx * wall }),
    second: { xx: m.m02 - area * cy * cy, yy: m.m20 - area * cx * cx, xy: m.m11 - area * cx * cy },
  };
}
