import { Fig, type Editor } from './editor';

function Sentence() {
  return (
    <>
      Round, <Fig field="diameter" name="diameter" after="across" />.
    </>
  );
}

function Drawing() {
  return (
    <svg viewBox="0 0 40 40" className="size-9" aria-hidden>
      <circle cx="20" cy="20" r="15" fill="var(--hover)" stroke="currentColor" strokeWidth="1.2" />
      <path d="M20 3v34M3 20h34" stroke="var(--brass)" strokeWidth="0.8" strokeDasharray="3 2" />
    </svg>
  );
}

export const round: Editor = { Sentence, Drawing, results: ['area'] };
