/** The design itself, in and out. */
import { Complaint } from '../measure/words';
import { migrate } from '../design/migrate';
import { kindNamed } from '../design/registry';
import { strangeName } from '../design/strange';
import { FORMAT, designSchema, type Design } from '../design/schema';

/** Larger files are refused unread: no design grows to this by hand. */
const LARGEST_FILE = 100 * 1024 * 1024;

/** A design as the text of its file. */
export const writeDesign = (design: Design): string => JSON.stringify(design, null, 2) + '\n';

/** Why a file of that many bytes is not read, or undefined. */
export const sizeTrouble = (bytes: number): string | undefined =>
  bytes > LARGEST_FILE
    ? `The file has ${Math.round(bytes / 1048576)} MB; a design has 100 MB at most.`
    : undefined;

/** Reads a design. @throws Complaint for what is no JSON, not ours, of a newer version, broken, or has names no kind knows. */
export function readDesign(text: string): Design {
  const tooLarge = sizeTrouble(text.length);
  if (tooLarge) throw new Complaint(tooLarge);
  let raw: unknown;
  try {
    // Some programs write a mark of the byte order before the text.
    raw = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch {
    throw new Complaint('The file is not JSON, or it is cut off.');
  }
  if (typeof raw !== 'object' || raw === null || (raw as { format?: unknown }).format !== FORMAT)
    throw new Complaint('The file is JSON, but not a Nematos design.');
  const read = designSchema.safeParse(migrate(raw as Record<string, unknown>));
  if (!read.success) {
    const issue = read.error.issues[0]!;
    throw new Complaint(`The design is damaged at ${placeOf(issue.path)}: ${issue.message}`);
  }
  const design = read.data;
  const ids = new Set<string>();
  for (const [i, step] of design.steps.entries()) {
    if (ids.has(step.id)) throw new Complaint(`The design is damaged: two steps are called “${step.id}”.`);
    ids.add(step.id);
    const kind = kindNamed(step.kind);
    if (!kind)
      throw new Complaint(`Step ${i + 1} is of the kind “${step.kind}”, which this Nematos does not know.`);
    const strange = strangeName(step, kind);
    if (strange) throw new Complaint(`Step ${i + 1} (“${step.name ?? step.id}”) ${strange}`);
  }
  return design;
}

function placeOf(path: readonly PropertyKey[]): string {
  if (path.length === 0) return 'the top';
  return path.map((part) => (typeof part === 'number' ? `${part + 1}` : String(part))).join(' → ');
}
