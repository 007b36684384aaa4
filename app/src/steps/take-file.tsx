/** Brings something in from a file: a line to press, how far it is, and what is wrong with the file. */
import { useRef, useState } from 'react';
import { stopExchange } from '../worker/client';

interface TakeFile {
  /** What the line says. */
  readonly says: string;
  /** What is brought in, as it stands at the beginning of a sentence: “The drawing”. */
  readonly what: string;
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
export function TakeFile({ says, what, accept, name, wanted = false, take }: TakeFile) {
  const files = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<string>();
  const [reading, setReading] = useState<string>();
  const bringIn = async (file: File | undefined) => {
    if (!file) return;
    setTrouble(undefined);
    setReading(file.name);
    try {
      setTrouble(await take(file));
    } catch (error) {
      const broke = error instanceof Error ? error.message : String(error);
      setTrouble(broke === 'stopped' ? undefined : `${what} could not be read: ${broke}`);
    }
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
