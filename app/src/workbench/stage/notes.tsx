/** Notes beside the stage, and the pins of those that belong to a place of the part. */
import { acceptOf } from '@nematos/core/exchange/formats';
import { X } from 'lucide-react';
import { useRef, useState, type ChangeEvent } from 'react';
import { flushSync } from 'react-dom';
import { Vector3 } from 'three';
import { stepName } from '@nematos/core/design/edit';
import { addNote, dropNote, takeNotes, writeNote, type Noted } from '@nematos/core/design/notes';
import type { Design, Note } from '@nematos/core/design/schema';
import type { Vec3 } from '@nematos/core/geometry/vector';
import { counted } from '@nematos/core/measure/words';
import { useBench, useBenchStore, useDesign, useOfDesign, type BenchStore } from '../../bench/bench';
import { chosenStep, selecting } from '../../bench/selection';
import type { View } from '../../render/view';
import { Button } from '../../ui/controls';
import { keepLocalText, localText } from '../../ui/local';
import { showOnSheet } from '../../ui/motion';
import { readFile } from '../../worker/read-file';
import { SidePanel } from './side-panel';

const NAME_KEY = 'nematos:note-author';

/** Shows a note, and puts the cursor into it at once: who types on must not lose a letter. */
function enter(store: BenchStore, id: string): void {
  flushSync(() => store.getState().look({ notes: true }));
  document.querySelector<HTMLElement>(`[data-note="${id}"] textarea`)?.focus();
}

/** Adds a note, and puts the cursor into it. */
function begin(store: BenchStore, noted: Noted): void {
  let id = '';
  const day = new Date().toISOString().slice(0, 10);
  const author = localText(NAME_KEY) ?? '';
  store.getState().annotate('Add a note', (draft) => void (id = addNote(draft, noted, author, day)));
  enter(store, id);
}

/** A note on a place of a step's body. */
export function noteAt(store: BenchStore, step: string, [x, y, z]: Vec3): void {
  store.getState().pick(undefined);
  const round = (value: number) => Math.round(value * 1000) / 1000;
  begin(store, { step, place: [round(x), round(y), round(z)] });
}

/** Numbered pins where notes belong to places of steps that are shown. */
export function NotePins({ view }: { view: View | undefined; frame: number }) {
  const store = useBenchStore();
  const notes = useOfDesign((design) => design.notes);
  if (!view || !notes) return null;
  return notes.map(({ id, place, text }, i) => {
    const at = place && view.project(new Vector3(...place));
    if (!at) return null;
    return (
      <button
        key={id}
        type="button"
        data-note-pin={id}
        title={text || 'Note'}
        aria-label={`Note ${i + 1}: ${text}`}
        className="absolute grid size-5 -translate-x-1/2 -translate-y-full place-items-center rounded-full rounded-bl-none border border-sheet bg-thread text-[11px] font-semibold text-page"
        style={{ left: at.x, top: at.y }}
        onClick={() => enter(store, id)}
      >
        {i + 1}
      </button>
    );
  });
}

/** What was noted, to be read, written and taken over from a reviewer's file. */
export function NotesPanel() {
  const store = useBenchStore();
  const design = useDesign();
  const on = useBench((bench) => bench.view.notes ?? false);
  const chosen = useBench((bench) => chosenStep(bench.view));
  const picking = useBench((bench) => bench.picking?.what === 'note');
  if (!on) return null;
  const { notes = [] } = design;
  const step = design.steps.find(({ id }) => id === chosen);
  const { pick } = store.getState();
  return (
    <SidePanel
      name="Notes"
      closing="Fold the notes away"
      onClose={() => store.getState().look({ notes: undefined })}
    >
      <ol className="mt-1 space-y-2">
        {notes.map((note, i) => (
          <NoteLine key={note.id} note={note} number={i + 1} design={design} />
        ))}
      </ol>
      {!notes.length && <p className="mt-1 text-quiet">No notes yet.</p>}
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button onClick={() => begin(store, {})}>Note on the design</Button>
        {step && <Button onClick={() => begin(store, { step: step.id })}>Note on {stepName(step)}</Button>}
        <Button aria-pressed={picking} onClick={() => pick(picking ? undefined : { step: '', what: 'note' })}>
          {picking ? 'Click the place …' : 'Note on a place'}
        </Button>
      </div>
      <Author />
      <FromReviewer />
    </SidePanel>
  );
}

function NoteLine({ note, number, design }: { note: Note; number: number; design: Design }) {
  const store = useBenchStore();
  const step = design.steps.find(({ id }) => id === note.step);
  const { annotate, look } = store.getState();
  return (
    <li data-note={note.id} className="rounded border border-hair bg-sheet px-2 py-1">
      <div className="flex items-baseline gap-1.5 text-xs text-quiet">
        <span className="font-semibold text-thread">{number}</span>
        {step ? (
          <button
            type="button"
            className="min-w-0 truncate hover:underline"
            onClick={() => {
              look(selecting(step.id));
              showOnSheet(step.id);
            }}
          >
            {stepName(step)}
          </button>
        ) : (
          <span>Design</span>
        )}
        <button
          type="button"
          aria-label={`Delete note ${number}`}
          title="Delete the note"
          className="ml-auto self-center rounded hover:text-ink"
          onClick={() => annotate('Delete a note', (draft) => dropNote(draft, note.id))}
        >
          <X size={12} />
        </button>
      </div>
      <textarea
        aria-label={`Text of note ${number}`}
        value={note.text}
        rows={1}
        placeholder="Write the note"
        className="-mx-1 my-1 block field-sizing-content w-[calc(100%+8px)] resize-none rounded-sm bg-transparent px-1 text-[13px] leading-snug"
        onChange={({ target }) =>
          annotate('Write a note', (draft) => writeNote(draft, note.id, target.value), `note ${note.id}`)
        }
      />
      {(note.by || note.day) && (
        <p className="text-xs text-quiet">{[note.by, note.day].filter(Boolean).join(', ')}</p>
      )}
    </li>
  );
}

/** Who writes: it stands with each note. */
function Author() {
  const [name, setName] = useState(() => localText(NAME_KEY) ?? '');
  return (
    <label className="mt-2 flex items-baseline gap-2 text-xs whitespace-nowrap text-quiet">
      Your name
      <input
        value={name}
        maxLength={60}
        className="editable min-w-0 grow text-[13px]"
        onChange={({ target }) => {
          setName(target.value);
          keepLocalText(NAME_KEY, target.value);
        }}
      />
    </label>
  );
}

/** Takes over the notes of a design file that somebody has sent back; who only reads is told how to send them. */
function FromReviewer() {
  const store = useBenchStore();
  const reading = useBench((bench) => bench.reading);
  const chooser = useRef<HTMLInputElement>(null);
  const [says, setSays] = useState<string>();
  if (reading)
    return (
      <p className="mt-2 text-xs leading-snug text-quiet">
        To send your notes back, choose Export: copy the review link, or save the design as a file.
      </p>
    );
  const take = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = '';
    if (!file) return;
    const { found, refused } = await readFile(file, (reader) => reader.designs(file));
    const other = found?.designs[0];
    if (!other) return setSays(refused ?? found?.refused[0]?.says ?? 'This file holds no design.');
    let taken = 0;
    store.getState().annotate('Import notes', (draft) => void (taken = takeNotes(draft, other)));
    setSays(taken ? `${counted(taken, 'note')} imported` : 'This file has no new notes.');
  };
  return (
    <p className="mt-2 text-xs text-quiet">
      <button
        type="button"
        className="rounded text-thread hover:underline"
        onClick={() => chooser.current?.click()}
      >
        Import notes from a file
      </button>
      <input
        ref={chooser}
        type="file"
        hidden
        accept={acceptOf('design')}
        aria-label="File with notes"
        onChange={(event) => void take(event)}
      />
      {says !== undefined && (
        <span role="status" className="block">
          {says}
        </span>
      )}
    </p>
  );
}
