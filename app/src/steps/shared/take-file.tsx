/** Brings something in from a file: a line to press, how far it is, and what is wrong with the file. */
import { useRef, useState } from 'react';
import { ReadingLine } from '../../ui/reading';
import { cancelReading } from '../../worker/read-file';

interface TakeFile {
  /** What the line says. */
  readonly says: string;
  /** Endings of the files. */
  readonly accept: string;
  /** Set where nothing can be done before. */
  readonly wanted?: boolean;
  /** Name of the field, for those who do not see it. */
  readonly name: string;
  /** Reads it and edits the step; says why it cannot be read. */
  take(file: File): Promise<string | undefined>;
}

/** A line that brings a file in. */
export function TakeFile({ says, accept, name, wanted = false, take }: TakeFile) {
  const files = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<string>();
  const [reading, setReading] = useState<string>();
  const bringIn = async (file: File | undefined) => {
    if (!file) return;
    setTrouble(undefined);
    setReading(file.name);
    setTrouble(await take(file));
    setReading(undefined);
  };
  return (
    <div className="mt-0.5 text-[12.5px]">
      <button
        type="button"
        className={wanted ? 'font-semibold text-thread hover:underline' : 'text-quiet hover:text-ink'}
        onClick={() => files.current?.click()}
      >
        {says}
      </button>
      <input
        ref={files}
        type="file"
        accept={accept}
        aria-label={name}
        className="hidden"
        onChange={(event) => {
          void bringIn(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {reading && <ReadingLine name={reading} onCancel={cancelReading} />}
      {trouble && (
        <p role="alert" className="text-madder">
          {trouble}
        </p>
      )}
    </div>
  );
}
