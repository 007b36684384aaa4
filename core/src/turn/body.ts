/** A section turned about the z axis, kept as exactly that: figures come from it, triangles when asked. */
import { finished, remembered, type Steps } from '../geometry/steps';
import { STILL, type Motion } from '../geometry/motion';
import type { Material } from '../measure/materials';
import type { Bodily, Extent } from '../mesh/bodily';
import { turnedMesh } from './mesh';
import { turnedExtent, turnedMass, turnedSurface, type Turned } from './turned';

export interface TurnedBody extends Bodily {
  readonly form: 'turned';
  readonly turned: Turned;
}

/** A body of a turned section; its figures are worked out when they are asked for. */
export function turnedBody(turned: Turned, material: Material): TurnedBody {
  const mass = turnedMass(turned);
  const surface = remembered(() => turnedSurface(turned));
  const extent = remembered(() => extentIn(STILL));
  function* extentIn(motion: Motion): Steps<Extent> {
    yield;
    return turnedExtent(turned, motion);
  }
  return {
    type: 'body',
    form: 'turned',
    turned,
    material,
    volume: mass.volume,
    mass,
    get surface() {
      return surface.value();
    },
    get extent() {
      return extent.value();
    },
    extentIn,
    async measured(poll) {
      await surface.known(poll);
      await extent.known(poll);
    },
    async weighed() {},
    meshing: (...wanted) => turnedMesh(turned, ...wanted),
    mesh: (...wanted) => finished(turnedMesh(turned, ...wanted)),
  };
}
