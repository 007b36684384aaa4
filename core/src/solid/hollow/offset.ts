/** Any body with room all round it: what is no farther from it than that is found place by place. */
import { STILL } from '../../geometry/motion';
import type { Poll } from '../../geometry/poll';
import { runPolling, type Task } from '../../geometry/task';
import { meshMassSteps } from '../../mesh/data/mass';
import { boxOf, groupsIn, type Mesh } from '../../mesh/data/mesh';
import { depthBelow, signedOf } from '../../mesh/query/signed-distance';
import { leavesOf, roughBounds, sizeAbout, type Body, type OffsetBody, type Placed } from '../body/body';
import { solidOf } from '../combine/combined';
import type { Combination } from '../kernel/kernel';
import { levelMesh, overLevel, stepFor, type Field } from '../kernel/level-set';
import { madeByOffset } from '../combine/offset-surface';

/** A body and all that is no farther from it than `by`, mm: round about its edges. */
export function offsetBody(of: Body, by: number): OffsetBody {
  const [first] = leavesOf(of);
  const outside: Placed = {
    map: STILL,
    material: first!.material,
    leaf: {
      form: 'piece',
      from: first!.leaf,
      bounds: () => roughBounds(of).map(({ at, within }) => ({ at, within: within + by })),
    },
  };
  const more = { form: 'offset', source: of, by, leaves: [outside] } as const;
  return madeByOffset(of, more, sizeAbout(of) + 2 * by, (...wanted) => offsetSolid(of, by, ...wanted));
}

async function offsetSolid(
  of: Body,
  by: number,
  tolerance: number,
  poll: Poll,
  trusted: boolean,
): Promise<Combination> {
  const whole = await solidOf(of, tolerance, poll, trusted);
  const [least, most] = boxOf(whole);
  const box = [least.map((x) => x - by), most.map((x) => x + by)] as const;
  const step = stepFor(Math.max(...box[1].map((x, k) => x - box[0][k]!)), tolerance);
  const field = await runPolling(fieldAbout(whole, by, box, step), poll);
  await poll(0.5);
  // There is something: the body itself.
  const mesh = (await levelMesh(field, box, step, tolerance, () => poll(0.6)))!;
  return {
    ...mesh,
    groups: groupsIn(mesh),
    volume: (await runPolling(meshMassSteps(mesh), poll)).mass.volume,
    parts: whole.parts ?? 1,
    skins: 0,
    mended: whole.mended,
  };
}

function* fieldAbout(
  whole: Mesh,
  by: number,
  box: readonly [readonly number[], readonly number[]],
  step: number,
): Task<Field> {
  const signed = yield* signedOf(whole);
  const depthAt = (x: number, y: number, z: number) => depthBelow(signed, x, y, z);
  const over = yield* overLevel(depthAt, box, step, -by);
  return ([x, y, z]) => over(x!, y!, z!);
}
