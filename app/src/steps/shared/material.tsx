import { MATERIALS, MATERIAL_IDS, OWN } from '@nematos/core/measure/materials';
import { Fig, Pick, useSet } from '../../fields/editor';

const WORDS = [
  ...MATERIAL_IDS.map((id) => [id, MATERIALS[id].name] as const),
  [OWN, 'a material of one’s own'] as const,
];

/** What a body is made of, as a sentence. */
export function OfMaterial() {
  const set = useSet();
  return (
    <>
      Of <Pick field="material" name="material" options={WORDS} />
      {set.material === OWN && (
        <>
          , density <Fig field="ownDensity" name="density" />
        </>
      )}
      .
    </>
  );
}
