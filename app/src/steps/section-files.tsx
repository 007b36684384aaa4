/** Brings the outline of a drawing in: SVG or DXF. */
import { useRef, useState } from 'react';
import { setInput, stepOf } from '@nematos/core/design/edit';
import { useBenchStore, useUnit } from '../bench/bench';
import { useEditing } from '../fields/editor';
import { askExchange, stopExchange } from '../worker/client';

/** Takes an outline in from a drawing. */
export function SectionFiles() {
  const { step } = useEditing();
  const store = useBenchStore();
  const unit = useUnit();
  const files = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<string>();
  const [reading, setReading] = useState<string>();
  const bringIn = async (file: File | undefined) => {
    if (!file) return;
    setTrouble(undefined);
    setReading(file.name);
    try {
      const { drawing, refused } = await askExchange((exchange) => exchange.drawing(file, unit));
      if (drawing)
        store.getState().edit(`Bring in ${file.name}`, (draft) => {
          stepOf(draft, step.id).rows = { points: drawing.points, bores: drawing.bores };
          setInput(draft, step.id, 'path', undefined);
        });
      setTrouble(refused);
    } catch (error) {
      const says = error instanceof Error ? error.message : String(error);
      setTrouble(says === 'stopped' ? undefined : `The drawing could not be read: ${says}`);
    }
    setReading(undefined);
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
      {reading && (
        <p role="status" className="text-quiet">
          Reading {reading} …{' '}
          <button type="button" className="text-thread hover:underline" onClick={stopExchange}>
            Stop
          </button>
        </p>
      )}
      {trouble && (
        <p role="alert" className="text-madder">
          {trouble}
        </p>
      )}
    </div>
  );
}
