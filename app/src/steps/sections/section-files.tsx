/** Brings the outline of a drawing in: SVG or DXF. */
import { setInput, stepOf } from '@nematos/core/design/edit';
import { acceptOf, namesOf, readableFormats } from '@nematos/core/exchange/formats';
import { useBenchStore, useUnit } from '../../bench/bench';
import { useEditing } from '../../fields/editor';
import { readFile } from '../../worker/read-file';
import { TakeFile } from '../shared/take-file';

/** Takes an outline in from a drawing. */
export function SectionFiles() {
  const { step } = useEditing();
  const store = useBenchStore();
  const unit = useUnit();
  const take = async (file: File) => {
    const { found, refused } = await readFile(file, (reader) => reader.drawing(file, unit));
    if (found)
      store.getState().edit(`Bring in ${file.name}`, (draft) => {
        stepOf(draft, step.id).rows = { points: found.points, bores: found.bores };
        setInput(draft, step.id, 'path', undefined);
      });
    return refused;
  };
  return (
    <TakeFile
      says={`Bring in a drawing, ${namesOf(readableFormats('outline'), 'or')} …`}
      accept={acceptOf('outline')}
      name="A drawing to bring in"
      take={take}
    />
  );
}
