/** Stations along a path, as they are kept and written. */

export interface Stations {
  /** xyz each. At a corner the tangent is that of the stretch that leaves it. */
  readonly positions: Float64Array;
  readonly tangents: Float64Array;
}

/** Writes place and unit tangent at entry o, from place and first derivative. Called in long loops. */
export function putStation({ positions, tangents }: Stations, o: number, d: Float64Array): void {
  const k = 1 / Math.sqrt(d[3]! * d[3]! + d[4]! * d[4]! + d[5]! * d[5]!);
  positions[o] = d[0]!;
  positions[o + 1] = d[1]!;
  positions[o + 2] = d[2]!;
  tangents[o] = k * d[3]!;
  tangents[o + 1] = k * d[4]!;
  tangents[o + 2] = k * d[5]!;
}
