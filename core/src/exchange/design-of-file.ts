/** A new design of what is in a file: a part of triangles, or an outline that becomes a section. */
import { addStep, stepOf } from '../design/edit';
import { emptyDesign, type Design, type Row } from '../design/schema';
import { Complaint } from '../measure/words';
import { readOutline } from './outline-in';
import { namesOf, readableFormats, readerFor } from './formats';
import { readPart } from './part-in';

/** Reads a file by the ending of its name. @throws Complaint where it cannot be read, or is of another kind */
export async function designOfFile(name: string, bytes: Uint8Array): Promise<Design> {
  const design = emptyDesign(name.replace(/\.[^.]*$/, ''));
  const format = readerFor(name, 'part', 'outline');
  if (format?.holds === 'part') {
    addStep(design, 'part-from-file', 0, { ...(await readPart(name, bytes)), file: name });
  } else if (format?.holds === 'outline') {
    const { points, bores } = await readOutline(name, bytes);
    const id = addStep(design, 'outline', 0);
    const rows: Record<string, Row[]> = { points, bores };
    stepOf(design, id).rows = rows;
  } else
    throw new Complaint(
      `This file cannot become a design. Choose a ${namesOf(readableFormats('part', 'outline'), 'or')} file.`,
    );
  return design;
}
