/** A short text that is read when it is finished, and what is wrong with it. */
import { useState } from 'react';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import { useUnit } from '../bench/bench';

/** A figure that is typed and read with Enter or on leaving; what is wrong with it stands beneath. */
export function Typed({
  name,
  text,
  placeholder,
  onRead,
}: {
  name: string;
  text: string;
  placeholder?: string;
  /** Throws a Complaint where it cannot be read. */
  onRead(text: string): void;
}) {
  const unit = useUnit();
  const [typed, setTyped] = useState<string>();
  const [trouble, setTrouble] = useState<string>();
  const read = () => {
    if (typed === undefined) return;
    try {
      onRead(typed);
      setTyped(undefined);
      setTrouble(undefined);
    } catch (error) {
      setTrouble(
        error instanceof Complaint
          ? sayWords(error.says, unit)
          : 'This cannot be read: write a length, 12 mm say.',
      );
    }
  };
  return (
    <>
      <input
        aria-label={name}
        aria-invalid={trouble !== undefined}
        placeholder={placeholder}
        value={typed ?? text}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={read}
        onKeyDown={(event) => {
          if (event.key === 'Enter') read();
          else if (event.key === 'Escape') {
            setTyped(undefined);
            setTrouble(undefined);
          }
        }}
        className="w-[4.6rem] border-b border-brass-line bg-transparent px-0.5 outline-none focus:bg-wash"
      />
      {trouble && (
        <span role="alert" className="text-madder">
          {trouble}
        </span>
      )}
    </>
  );
}
