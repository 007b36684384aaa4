/** Brings the outline of a drawing in: SVG or DXF. */
import { setInput, stepOf } from '@nematos/core/design/edit';
import { useBenchStore, useUnit } from '../bench/bench';
import { useEditing } from '../fields/editor';
import { askExchange } from '../worker/client';
import { TakeFile } from './take-file';

/** Takes an outline in from a drawing. */
export function SectionFiles() {
  const { step } = useEditing();
  const store = useBenchStore();
  const unit = useUnit();
  const take = async (file: File) => {
    const { drawing, refused } = await askExchange((exchange) => exchange.drawing(file, unit));
    if (drawing)
      store.getState().edit(`Bring in ${file.name}`, (draft) => {
        stepOf(draft, step.id).rows = { points: drawing.points, bores: drawing.bores };
        setInput(draft, step.id, 'path', undefined);
      });
    return refused;
  };
  return (
    <TakeFile
      says="Bring in a drawing, SVG or DXF …"
      what="The drawing"
      accept=".svg,.dxf"
      name="A drawing to bring in"
      take={take}
    />
  );
}
