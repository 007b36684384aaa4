/** What every body has, whatever it is made of. */
import type { Mass } from '../../geometry/mass';
import type { Poll } from '../../geometry/poll';
import type { Task } from '../../geometry/task';
import type { Material } from '../../measure/materials';
import type { Bounded, Extent } from './extent';
import type { MeshMemory } from './memory';
import type { Mesh } from './mesh';

export interface Bodily extends Bounded {
  readonly type: 'body';
  readonly material: Material;
  /** Volume with its moments about the origin, mm³ and up. */
  readonly volume: number;
  readonly mass: Mass;
  /** mm² */
  readonly surface: number;
  /** It takes long where it was not looked for before, see `ownExtent`. */
  readonly extent: Extent;
  /** Works out volume, surface and mass, giving way now and then; until then they may not be asked for where they are estimates. */
  measured(poll: Poll): Promise<void>;
  /** The same of volume and mass alone, where that is sooner. */
  weighed(poll: Poll): Promise<void>;
  /** Triangles within `tolerance` (mm) as it is drawn at once, coarser where more than `most` would be needed; laid in `memory`, else fresh. */
  mesh(tolerance: number, most: number, memory?: MeshMemory): Mesh;
  /** The same in steps. */
  meshing(tolerance: number, most: number, memory?: MeshMemory): Task<Mesh>;
}
