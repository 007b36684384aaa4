/** Points of what is shown that reach farthest: what a view has to hold. */
import { BufferGeometry, Mesh, LineSegments, Vector3, type Object3D } from 'three';

/** Ways in which points are looked for: so many spread evenly over a ball, and those that flat views look square to. */
const SPREAD = 96;
const SQUARE = [1, 0, 0, -1, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 1, 0, 0, -1];
const WAYS = SPREAD + SQUARE.length / 3;
/** Points that are looked at, at most. */
const LOOKED_AT = 3000;

/** Each next turned by the golden angle, a step lower: x, y, z one after another. */
const TURN = Math.PI * (3 - Math.sqrt(5));
const ways = Float64Array.from({ length: 3 * WAYS }, (_x, i) => {
  const k = Math.floor(i / 3);
  if (k >= SPREAD) return SQUARE[i - 3 * SPREAD]!;
  const z = 1 - (2 * k + 1) / SPREAD;
  const out = Math.sqrt(1 - z * z);
  return [out * Math.cos(k * TURN), out * Math.sin(k * TURN), z][i % 3]!;
});

/** The points of objects that reach farthest, about evenly all round. */
export function outermostOf(objects: readonly Object3D[]): Vector3[] {
  const arrays = objects.flatMap((object) =>
    (object instanceof Mesh || object instanceof LineSegments) && object.geometry instanceof BufferGeometry
      ? [object.geometry.getAttribute('position').array]
      : [],
  );
  const all = arrays.reduce((sum, { length }) => sum + length / 3, 0);
  const step = 3 * Math.max(1, Math.floor(all / LOOKED_AT));
  const most = new Float64Array(WAYS).fill(-Infinity);
  const found = new Float64Array(3 * WAYS);
  for (const points of arrays)
    for (let i = 0; i + 2 < points.length; i += step) {
      const [x, y, z] = [points[i]!, points[i + 1]!, points[i + 2]!];
      for (let k = 0; k < WAYS; k++) {
        const far = ways[3 * k]! * x + ways[3 * k + 1]! * y + ways[3 * k + 2]! * z;
        if (far <= most[k]!) continue;
        most[k] = far;
        found.set([x, y, z], 3 * k);
      }
    }
  return all ? Array.from(most, (_far, k) => new Vector3().fromArray(found, 3 * k)) : [];
}
