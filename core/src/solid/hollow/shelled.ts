/** Any body hollowed: what lies farther from its surface than the wall is thick is found place by place, and taken out. */
import { GeometryError } from '../../geometry/error';
import { STILL } from '../../geometry/motion';
import type { Poll } from '../../geometry/poll';
import { runPolling, type Task } from '../../geometry/task';
import { mm, words } from '../../measure/words';
import { nearest } from '../../mesh/query/nearest';
import { boxOf, groupsIn, type Mesh } from '../../mesh/data/mesh';
import { depthBelow, signedOf } from '../../mesh/query/signed-distance';
import { leavesOf, roughBounds, sizeAbout, type Body, type Placed, type ShelledBody } from '../body/body';
import { inWords, solidOf } from '../combine/combined';
import { checkRim, type Hollowing } from '../body/hollowing';
import { combine, type Combination } from '../kernel/kernel';
import { levelMesh, overLevel, stepFor, type Field } from '../kernel/level-set';
import { madeByOffset } from '../combine/offset-surface';

/** A body with a wall all along: its flat ends, square to the z axis, are open or have a floor. */
export function shelledBody(of: Body, how: Hollowing): ShelledBody {
  checkRim(how);
  const before = leavesOf(of);
  const inner: Placed = {
    map: STILL,
    material: before[0]!.material,
    leaf: { form: 'piece', from: before[0]!.leaf, bounds: () => roughBounds(of) },
  };
  const more = { form: 'shelled', source: of, hollowing: how, leaves: [...before, inner] } as const;
  return madeByOffset(of, more, sizeAbout(of), (...wanted) => shelled(of, how, before.length, ...wanted));
}

async function shelled(
  of: Body,
  how: Hollowing,
  number: number,
  tolerance: number,
  poll: Poll,
  trusted: boolean,
): Promise<Combination> {
  const whole = await solidOf(of, tolerance, poll, trusted);
  const within = await withinWalls(whole, how, tolerance, poll);
  const groups = groupsIn(whole);
  const inner = { ...within, groups: [{ leaf: number, first: 0, count: within.triangles.length / 3 }] };
  const made = await inWords('This could not be hollowed', () =>
    combine('subtract', [[{ ...whole, groups }], [inner]], tolerance, () => poll(0.9)),
  );
  if (!made) throw new GeometryError('wall-too-thick', 'Nothing is left of it: leave an end closed.');
  return { ...made, mended: whole.mended };
}

/** Hollows go so many places beyond open ends. */
const BEYOND = 1.5;

/** What lies within the walls of a closed mesh, as a mesh of its own. @throws Complaint at "wall" where that is nothing */
async function withinWalls(whole: Mesh, how: Hollowing, tolerance: number, poll: Poll): Promise<Mesh> {
  const [low, high] = boxOf(whole);
  const size = Math.max(...high.map((x, k) => x - low[k]!));
  const step = stepFor(size, tolerance);
  const { value, deepest } = await runPolling(fieldOf(whole, how, step), poll);
  await poll(0.5);
  const mesh = await levelMesh(value, [low, high], step, tolerance, () => poll(0.6));
  if (mesh) return mesh;
  throw new GeometryError(
    'wall-too-thick',
    words`With this wall nothing is left within: it must stay under ${mm(deepest())}.`,
  );
}

/** How far places are within the walls, mm: more than 0 in the hollow; and the thickest wall that would leave something. */
interface Within {
  readonly value: Field;
  deepest(): number;
}

/** Places each way among which the deepest is looked for, where there is no hollow. */
const LOOKS = 40;
/** Triangles nearer to the plane of an end than this part of the size lie in it. */
const ON = 1e-6;

function* fieldOf(whole: Mesh, { wall, floor, open }: Hollowing, step: number): Task<Within> {
  const box = boxOf(whole);
  const [low, high] = box;
  const size = Math.max(...high.map((x, k) => x - low[k]!));
  const [foot, head] = [low[2], high[2]];
  const isFlat = (level: number) => (z: number) => Math.abs(z - level) < ON * size;
  const [atFoot, atHead] = [facesAt(whole, isFlat(foot)), facesAt(whole, isFlat(head))];
  for (const [wanted, faces, name] of [
    [open.start, atFoot, 'lower'],
    [open.end, atHead, 'upper'],
  ] as const)
    if (wanted && !faces.size)
      throw new GeometryError(
        'not-hollowable',
        `Its ${name} end is not flat and cannot be open: choose other openings.`,
      );
  const all = yield* signedOf(whole);
  const ends = new Set([...atFoot, ...atHead]);
  const walls = ends.size ? yield* signedOf(withoutFaces(whole, ends)) : all;
  // Of open ends the hollow goes beyond; floors are told by their height.
  const beyond = BEYOND * step;
  const lowest = atFoot.size ? (open.start ? foot - beyond : foot + floor) : -Infinity;
  const highest = atHead.size ? (open.end ? head + beyond : head - floor) : Infinity;
  if (!(lowest < highest))
    throw new GeometryError(
      'floor-too-thick',
      words`Floors of that thickness fill the whole height of ${mm(head - foot)}: make them thinner.`,
    );
  const inset = 4 * ON * size;
  // Beyond an end the walls go on as they are there; what is nearest may be an end, which is no wall.
  const depthAt = (x: number, y: number, z: number): number => {
    const at = Math.min(head - inset, Math.max(foot + inset, z));
    const inside = depthBelow(all, x, y, at);
    return inside < 0 || !ends.has(nearest.triangle) ? inside : Math.abs(depthBelow(walls, x, y, at));
  };
  const over = yield* overLevel(depthAt, box, step, wall);
  const value: Field = ([x, y, z]) => Math.min(over(x!, y!, z!), z! - lowest, highest - z!);
  const deepest = () => {
    let most = 0;
    const along = (axis: 0 | 1 | 2) =>
      Array.from({ length: LOOKS }, (_x, i) => low[axis] + ((i + 1 / 2) / LOOKS) * (high[axis] - low[axis]));
    for (const z of along(2))
      for (const y of along(1)) for (const x of along(0)) most = Math.max(most, depthAt(x, y, z));
    return most;
  };
  return { value, deepest };
}

/** Triangles with all corners at a height. */
function facesAt({ positions: p, triangles }: Mesh, isThere: (z: number) => boolean): Set<number> {
  const found = new Set<number>();
  for (let t = 0; t < triangles.length / 3; t++)
    if ([0, 1, 2].every((k) => isThere(p[3 * triangles[3 * t + k]! + 2]!))) found.add(t);
  return found;
}

function withoutFaces(mesh: Mesh, faces: ReadonlySet<number>): Mesh {
  const triangles = mesh.triangles.filter((_v, i) => !faces.has(Math.floor(i / 3)));
  return { ...mesh, triangles };
}
