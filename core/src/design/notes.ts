/** Notes on a design, on its steps, and on places of the part. */
import type { Design, Note } from './schema';

/** What a new note is of. */
export type Noted = Pick<Note, 'step' | 'place'>;

/** Adds an empty note; returns its id, which no other note has, of this design or of another. */
export function addNote(design: Design, noted: Noted, by: string, day: string): string {
  const id = crypto.randomUUID();
  (design.notes ??= []).push({ id, text: '', ...noted, ...(by && { by }), day });
  return id;
}

/** Gives a note another text. */
export function writeNote(design: Design, id: string, text: string): void {
  const note = design.notes?.find((one) => one.id === id);
  if (note) note.text = text;
}

/** Takes a note away. */
export function dropNote(design: Design, id: string): void {
  const left = design.notes?.filter((note) => note.id !== id) ?? [];
  if (left.length) design.notes = left;
  else delete design.notes;
}

/** Copies new and changed notes from another copy of the design. Returns how many. */
export function takeNotes(design: Design, from: Design): number {
  let taken = 0;
  for (const note of from.notes ?? []) {
    const known = design.notes?.find((one) => one.id === note.id);
    if (known?.text === note.text) continue;
    taken++;
    if (known) known.text = note.text;
    else (design.notes ??= []).push(structuredClone(note));
  }
  return taken;
}
