/** Brings the outline of a drawing in: SVG or DXF. */
import { useRef, useState } from 'react';
import { setInput, stepOf } from '@nematos/core/design/edit';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import { useBenchStore, useUnit } from '../bench/bench';
import { useEditing } from '../fields/editor';

const LARGEST = 5e6;

/** Takes an outline in from a drawing. */
export function SectionFiles() {
  const { step } = useEditing();
  const store = useBenchStore();
  const unit = useUnit();
  const files = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<string>();
  const bringIn = async (file: File | undefined) => {
    if (!file) return;
    try {
      if (file.size > LARGEST) throw new Complaint('This drawing is larger than 5 MB.');
      const [{ readDrawing }, text] = await Promise.all([
        import('@nematos/core/exchange/drawing'),
        file.text(),
      ]);
      const { points, bores } = readDrawing(file.name, text);
      store.getState().edit(`Bring in ${file.name}`, (draft) => {
        stepOf(draft, step.id).rows = { points, bores };
        setInput(draft, step.id, 'path', undefined);
      });
      setTrouble(undefined);
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      setTrouble(sayWords(error.says, unit));
    }
  };
  return (
    <div className="mt-0.5 text-[12.5px]">
      <button type="button" className="text-quiet hover:text-ink" onClick={() => files.current?.click()}>
        Bring in a drawing, SVG or DXF …
      </button>
      <input
        ref={files}
        type="file"
        accept=".svg,.dxf"
        aria-label="A drawing to bring in"
        className="hidden"
        onChange={(event) => {
          void bringIn(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {trouble && (
        <p role="alert" className="text-madder">
          {trouble}
        </p>
      )}
    </div>
  );
}
