/** Drawing primitives in a plane, mm, y upwards: what cuts and patterns are drawn with, whatever file they go into. */

export type Point = readonly [x: number, y: number];

/** Closed loops, x and y in turn; a place is inside where an odd number of them surrounds it. */
export type Loops = readonly Float64Array[];

export type Primitive =
  | { readonly type: 'line'; readonly from: Point; readonly to: Point }
  /** Anticlockwise between two angles, rad; a circle where they are a whole turn apart. */
  | {
      readonly type: 'arc';
      readonly centre: Point;
      readonly radius: number;
      readonly from: number;
      readonly to: number;
    }
  /** Cubic Bézier curves end to end: 3 n + 1 control points. */
  | { readonly type: 'spline'; readonly controls: readonly Point[] }
  | {
      readonly type: 'text';
      readonly at: Point;
      readonly says: string;
      /** Of capital letters, mm. */
      readonly height: number;
      readonly anchor: 'start' | 'middle' | 'end';
      /** Turned anticlockwise, rad. */
      readonly turned?: number;
    }
  /** Outlines, filled with a colour (#rrggbb) where there is one. */
  | { readonly type: 'region'; readonly loops: Loops; readonly fill?: string };

/** Primitives of one line type. */
export interface Layer {
  readonly name: string;
  readonly line: 'solid' | 'dashed' | 'chain';
  /** Of its lines, mm. */
  readonly width: number;
  readonly primitives: readonly Primitive[];
}

export interface Sheet {
  readonly title: string;
  readonly layers: readonly Layer[];
}

export interface Box {
  readonly left: number;
  readonly right: number;
  readonly low: number;
  readonly high: number;
}

/** A letter is about this part of its height wide. */
const LETTER = 0.7;

/** Places that bound a primitive; of an arc its ends and where it runs along an axis, of a spline its control points. */
function placesOf(one: Primitive): Point[] {
  switch (one.type) {
    case 'line':
      return [one.from, one.to];
    case 'arc': {
      const quarter = Math.PI / 2;
      const angles = [one.from, one.to];
      for (let k = Math.ceil(one.from / quarter); k * quarter < one.to; k++) angles.push(k * quarter);
      return angles.map((a) => [
        one.centre[0] + one.radius * Math.cos(a),
        one.centre[1] + one.radius * Math.sin(a),
      ]);
    }
    case 'spline':
      return [...one.controls];
    case 'text': {
      const wide = LETTER * one.height * one.says.length;
      const from = { start: 0, middle: -wide / 2, end: -wide }[one.anchor];
      const [c, s] = [Math.cos(one.turned ?? 0), Math.sin(one.turned ?? 0)];
      return [from, from + wide].flatMap((x) =>
        [0, one.height].map((y): Point => [one.at[0] + x * c - y * s, one.at[1] + x * s + y * c]),
      );
    }
    case 'region':
      return one.loops.flatMap((loop) =>
        Array.from({ length: loop.length / 2 }, (_x, i): Point => [loop[2 * i]!, loop[2 * i + 1]!]),
      );
  }
}

/** The box about everything on a sheet; of an empty one it is a point. */
export function boxOf({ layers }: Sheet): Box {
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const { primitives } of layers)
    for (const one of primitives)
      for (const [x, y] of placesOf(one)) {
        left = Math.min(left, x);
        right = Math.max(right, x);
        low = Math.min(low, y);
        high = Math.max(high, y);
      }
  return left <= right ? { left, right, low, high } : { left: 0, right: 0, low: 0, high: 0 };
}
