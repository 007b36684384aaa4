import { stepOf } from '@nematos/core/design/edit';
import { sayFigure } from '@nematos/core/measure/format';
import { acceptOf, namesOf, readableFormats } from '@nematos/core/exchange/formats';
import { useBenchStore, useUnit } from '../../bench/bench';
import { Fig, useEditing, useResult, type Editor } from '../../fields/editor';
import { readFile } from '../../worker/read-file';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';
import { TakeFile } from '../shared/take-file';

function Sentence() {
  const { step } = useEditing();
  const unit = useUnit();
  const count = useResult('triangles')?.value;
  return (
    <>
      {step.set.file ? (
        <>
          The part in <span className="font-semibold break-all">{step.set.file}</span>
          {count !== undefined && `, ${sayFigure(count, 'number', unit)} triangles`}, of which one unit is{' '}
          <Fig field="unit" name="one unit of the file" />.
        </>
      ) : (
        'A part from a file.'
      )}{' '}
      <OfMaterial />
    </>
  );
}

function Below() {
  const { step } = useEditing();
  const store = useBenchStore();
  const unit = useUnit();
  const take = async (file: File) => {
    const { found, refused } = await readFile(file, (reader) => reader.part(file, unit));
    if (found)
      store.getState().edit(`Bring in ${file.name}`, (draft) => {
        const { set } = stepOf(draft, step.id);
        // A unit that a file told is not that of the next, which tells none.
        if (set.file?.toLowerCase().endsWith('.3mf')) set.unit = '1 mm';
        Object.assign(set, found, { file: file.name });
      });
    return refused;
  };
  return (
    <TakeFile
      says={`Bring in ${step.set.file ? 'another file' : 'a file'}, ${namesOf(readableFormats('part'), 'or')} …`}
      accept={acceptOf('part')}
      wanted={!step.set.file}
      name="A part to bring in"
      take={take}
    />
  );
}

export const partFromFile: Editor = {
  Sentence,
  Table: Below,
  More: () => <PlacingLines />,
  results: ['volume', 'mass'],
};
