/** What a body is made of, as its step says it. */
import { choice, figure } from '../../kind/kind';
import { MATERIAL_IDS, materialOf, OWN, type Material } from '../../measure/materials';

/** Figures of a kind that says what its body is made of; see `materialGiven`. */
export const OF_MATERIAL = {
  material: choice(...MATERIAL_IDS, OWN),
  ownDensity: figure('density', { above: 0, atMost: 30 }),
  ownYoungs: figure('stress', { above: 0 }).optional(),
  ownShear: figure('stress', { above: 0 }).optional(),
  ownStrength: figure('stress', { above: 0 }).optional(),
};
export const OF_MATERIAL_DEFAULTS = { material: 'spring-steel', ownDensity: '7.85 g/cm^3' };

interface OfMaterial {
  readonly material: Parameters<typeof materialOf>[0];
  readonly ownDensity: number;
  readonly ownYoungs?: number | undefined;
  readonly ownShear?: number | undefined;
  readonly ownStrength?: number | undefined;
}

/** The material that is chosen, or one's own by its figures. */
export const materialGiven = ({
  material,
  ownDensity,
  ownYoungs,
  ownShear,
  ownStrength,
}: OfMaterial): Material =>
  materialOf(material, {
    density: ownDensity,
    ...(ownYoungs !== undefined && { youngs: ownYoungs }),
    ...(ownShear !== undefined && { shear: ownShear }),
    ...(ownStrength !== undefined && { strength: ownStrength }),
  });
