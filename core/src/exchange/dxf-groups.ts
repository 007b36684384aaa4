/** A DXF as its groups, looked at before they are taken for anything, and the entities they make up. */
import { Complaint } from '../measure/words';

/** One pair of lines: a code that says what the value is (DXF reference, group codes). */
export interface Group {
  readonly code: number;
  readonly value: string;
}

/** An entity with its groups in their order; of a polyline, its vertices are entities of their own. */
export interface Entity {
  readonly type: string;
  readonly groups: readonly Group[];
  readonly vertices: readonly Entity[];
}

export interface DxfContent {
  /** What `$INSUNITS` of the header says. */
  readonly unit: number | undefined;
  /** Entities of the drawing itself that are seen: nothing of sheets it is set on, or of layers that are off. */
  readonly entities: readonly Entity[];
}

const MOST_GROUPS = 1_000_000;
/** Larger figures are no lengths of anything, in any unit. */
const LARGEST = 1e9;

/** Entities that are read, and those that say something about a drawing without being part of it. */
const READ: ReadonlySet<string> = new Set([
  ...['LWPOLYLINE', 'POLYLINE', 'VERTEX', 'SEQEND', 'LINE', 'ARC', 'CIRCLE', 'ELLIPSE', 'SPLINE', 'INSERT'],
  ...['POINT', 'TEXT', 'MTEXT', 'ATTRIB', 'ATTDEF', 'DIMENSION', 'ARC_DIMENSION', 'LEADER', 'MULTILEADER'],
  ...['MLEADER', 'HATCH', 'TOLERANCE', 'VIEWPORT', 'IMAGE', 'WIPEOUT', 'XLINE', 'RAY', 'OLE2FRAME'],
]);

/** Groups whose value is a figure with a point in it (DXF reference, group codes). */
const isFigure = (code: number): boolean =>
  (code >= 10 && code <= 59) || (code >= 140 && code <= 147) || (code >= 210 && code <= 239);

/** The value of the first group with a code; undefined if there is no such group. */
export function figureAt({ groups }: Entity, code: number): number | undefined {
  const found = groups.find((group) => group.code === code);
  return found && Number(found.value);
}

/** Reads the unit and the visible entities of a DXF. @throws Complaint for an invalid number, a decimal comma or an unsupported entity */
export function dxfContent(text: string): DxfContent {
  const groups = groupsIn(text);
  const sections = sectionsIn(groups);
  const header = sections.get('HEADER') ?? [];
  const at = header.findIndex(({ code, value }) => code === 9 && value === '$INSUNITS');
  const unit = at < 0 ? undefined : Number(header[at + 1]?.value);
  const off = layersOff(sections.get('TABLES') ?? []);
  const seen = (entity: Entity): boolean =>
    figureAt(entity, 67) !== 1 &&
    figureAt(entity, 60) !== 1 &&
    !off.has(entity.groups.find(({ code }) => code === 8)?.value ?? '0');
  return { unit, entities: entitiesIn(sections.get('ENTITIES') ?? []).filter(seen) };
}

function groupsIn(text: string): Group[] {
  if (text.includes('\0'))
    throw new Complaint(
      'This is a binary DXF, or one in an encoding that is not read here: save it as text (ASCII) first.',
    );
  const groups: Group[] = [];
  let section = '';
  let line = 0;
  const lines = linesOf(text);
  for (let next = lines.next(); !next.done; next = lines.next()) {
    const code = next.value;
    line += 2;
    next = lines.next();
    if (!/^\s*-?\d{1,4}\s*$/.test(code)) {
      if (code.trim() === '' && (next.done || lines.next().done)) break;
      throw new Complaint(`This is not a readable DXF drawing: line ${line - 1} should be a group code.`);
    }
    if (next.done) break;
    if (groups.length >= MOST_GROUPS)
      throw new Complaint('This drawing is too large: it has more than a million entries.');
    const group = { code: Number(code), value: next.value.trim() };
    if (group.code === 2 && groups.at(-1)?.value === 'SECTION') section = group.value;
    if (section === 'ENTITIES') checkGroup(group, line);
    groups.push(group);
  }
  return groups;
}

/** Lines one after another: all at once they would take many times the memory of the text. */
function* linesOf(text: string): Generator<string, void> {
  const end = /\r\n|\r|\n/g;
  let from = 0;
  for (let found = end.exec(text); found; found = end.exec(text)) {
    yield text.slice(from, found.index);
    from = end.lastIndex;
  }
  if (from < text.length) yield text.slice(from);
}

function checkGroup({ code, value }: Group, line: number): void {
  if (code === 0 && !['SECTION', 'ENDSEC', 'EOF'].includes(value) && !READ.has(value))
    throw new Complaint(
      `This drawing holds a ${value.slice(0, 40)}, which is not read here: break it up into lines, arcs and splines first.`,
    );
  if (!isFigure(code)) return;
  if (/^[-+]?\d*,\d+$/.test(value))
    throw new Complaint(
      `The figures of this drawing are written with commas (“${value.slice(0, 40)}”): save it with decimal points.`,
    );
  if (value === '' || !Number.isFinite(Number(value)))
    throw new Complaint(
      `“${value.slice(0, 40)}” in line ${line} of this drawing is not a number. Export the drawing again.`,
    );
  if (Math.abs(Number(value)) > LARGEST)
    throw new Complaint(`“${value.slice(0, 40)}” in line ${line} of this drawing is too large for a figure.`);
  // Which way an entity faces: its plane's normal.
  if ((code === 210 || code === 220) && Math.abs(Number(value)) > 1e-9)
    throw new Complaint('This drawing holds parts that are drawn from the side: turn them first.');
  if (code === 230 && Number(value) < 0)
    throw new Complaint('This drawing holds parts that are drawn from below: turn them over first.');
}

/** The groups between SECTION and ENDSEC, by name; those of one name together. */
function sectionsIn(groups: readonly Group[]): Map<string, Group[]> {
  const sections = new Map<string, Group[]>();
  let section: Group[] | undefined;
  groups.forEach(({ code, value }, i) => {
    const after = groups[i + 1];
    if (code === 0 && value === 'SECTION' && after?.code === 2) {
      section = sections.get(after.value) ?? [];
      sections.set(after.value, section);
    } else if (code === 0 && (value === 'ENDSEC' || value === 'EOF')) section = undefined;
    else if (section && groups[i - 1]?.value !== 'SECTION') section.push(groups[i]!);
  });
  return sections;
}

/** Groups from each of code 0 to the next. */
function recordsIn(groups: readonly Group[]): { type: string; groups: Group[] }[] {
  const records: { type: string; groups: Group[] }[] = [];
  for (const group of groups)
    if (group.code === 0) records.push({ type: group.value, groups: [] });
    else records.at(-1)?.groups.push(group);
  return records;
}

function entitiesIn(groups: readonly Group[]): Entity[] {
  const entities: (Entity & { vertices: Entity[] })[] = [];
  /** The polyline whose vertices follow. */
  let open: { vertices: Entity[] } | undefined;
  for (const record of recordsIn(groups)) {
    const entity = { ...record, vertices: [] };
    if (record.type === 'VERTEX' && open) open.vertices.push(entity);
    else if (record.type === 'SEQEND') open = undefined;
    else {
      if (open) throw new Complaint('This drawing is damaged: a polyline in it does not end (SEQEND).');
      entities.push(entity);
      if (record.type === 'POLYLINE') open = entity;
    }
  }
  if (open)
    throw new Complaint('This drawing is damaged or cut off: a polyline in it does not end (SEQEND).');
  return entities;
}

/** Names of layers that are frozen or turned off. */
function layersOff(tables: readonly Group[]): Set<string> {
  const off = new Set<string>();
  for (const { type, groups } of recordsIn(tables)) {
    if (type !== 'LAYER') continue;
    const of = (code: number) => groups.find((group) => group.code === code)?.value;
    // A colour below 0 turns a layer off.
    if (Number(of(70) ?? 0) & 1 || Number(of(62) ?? 0) < 0) off.add(of(2) ?? '');
  }
  return off;
}
