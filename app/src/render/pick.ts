/** What of a scene is under the pointer. */
import { Raycaster, Vector2, Vector3, type Mesh, type Object3D } from 'three';
import type { Vec3 } from '@nematos/core/geometry/vector';
import type { Mesh as BodyMesh } from '@nematos/core/mesh/data/mesh';
import { rayHits } from '@nematos/core/mesh/query/ray';
import { isOpen } from '@nematos/core/view/opening';
import type { PaneCamera } from './camera';
import type { StageScene } from './scene';

/** A step, and where on it. */
export interface Picked {
  readonly step: string;
  /** mm */
  readonly place: Vec3;
}

/** How near to a line the pointer is on it, CSS pixels. */
const AT_LINE = 4;

/** The nearest that is seen by a camera at a place of its pane, -1 to 1 from left to right and from below. */
export function pickAt(stage: StageScene, seen: PaneCamera, x: number, y: number): Picked | undefined {
  const caster = new Raycaster();
  caster.params.Line.threshold = AT_LINE * seen.mmPerPixel();
  caster.setFromCamera(new Vector2(x, y), seen.camera);
  const { ray } = caster;
  let best: (Picked & { readonly far: number }) | undefined;
  const offer = (far: number, object: Object3D, cap = false) => {
    if (best && best.far <= far) return;
    const place = ray.at(far, new Vector3()).toArray();
    // What is cut away is not there; the cut face itself lies in the plane.
    if (cap || !stage.opening || !isOpen(stage.opening, place))
      best = { far, step: object.userData.step as string, place };
  };
  for (const object of stage.pickable()) {
    const mesh = (object as Mesh).geometry.userData.mesh as BodyMesh | undefined;
    if (mesh)
      for (const far of rayHits(mesh, ray.origin.toArray(), ray.direction.toArray())) offer(far, object);
    else
      for (const { distance } of caster.intersectObject(object, false))
        offer(distance, object, object.userData.cap === true);
  }
  return best && { step: best.step, place: best.place };
}
