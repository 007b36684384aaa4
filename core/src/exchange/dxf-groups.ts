/** A look at the groups of a DXF before they are read: what its reader would pass over, or take for something else. */
import { Complaint } from '../measure/words';

const MOST_GROUPS = 1_000_000;

/** Entities that are read, and those that say something about a drawing without being part of it. */
const READ: ReadonlySet<string> = new Set([
  ...['LWPOLYLINE', 'POLYLINE', 'VERTEX', 'SEQEND', 'LINE', 'ARC', 'CIRCLE', 'ELLIPSE', 'SPLINE', 'INSERT'],
  ...['POINT', 'TEXT', 'MTEXT', 'ATTRIB', 'ATTDEF', 'DIMENSION', 'ARC_DIMENSION', 'LEADER', 'MULTILEADER'],
  ...['MLEADER', 'HATCH', 'TOLERANCE', 'VIEWPORT', 'IMAGE', 'WIPEOUT', 'XLINE', 'RAY', 'OLE2FRAME'],
]);

/** Groups whose value is a figure with a point in it (DXF reference, group codes). */
const isFigure = (code: number): boolean =>
  (code >= 10 && code <= 59) || (code >= 140 && code <= 147) || (code >= 210 && code <= 239);

/** Looks through all groups. @throws Complaint where a figure is none, or is written with a comma, or there is something in it that is not read */
export function checkGroups(text: string): void {
  if (text.includes('\0'))
    throw new Complaint(
      'This is a binary DXF, or one in an encoding that is not read here: save it as text (ASCII) first.',
    );
  const lines = text.split(/\r\n|\r|\n/);
  if (lines.length > 2 * MOST_GROUPS)
    throw new Complaint('This drawing is too large: it has more than a million entries.');
  let section = '';
  for (let i = 0; i + 1 < lines.length; i += 2) {
    if (!/^\s*-?\d{1,4}\s*$/.test(lines[i]!)) {
      if (lines[i]!.trim() === '' && i + 2 >= lines.length) break;
      throw new Complaint(`This is not a readable DXF drawing: line ${i + 1} should be a group code.`);
    }
    const code = Number(lines[i]);
    const value = lines[i + 1]!.trim();
    if (code === 2 && lines[i - 1]?.trim() === 'SECTION') section = value;
    if (section !== 'ENTITIES') continue;
    if (code === 0 && !['SECTION', 'ENDSEC', 'EOF'].includes(value) && !READ.has(value))
      throw new Complaint(
        `This drawing holds a ${value}, which is not read here: break it up into lines, arcs and splines first.`,
      );
    if (!isFigure(code)) continue;
    if (/^[-+]?\d*,\d+$/.test(value))
      throw new Complaint(
        `The figures of this drawing are written with commas (“${value}”): save it with decimal points.`,
      );
    if (value === '' || !Number.isFinite(Number(value)))
      throw new Complaint(`“${value.slice(0, 40)}” in line ${i + 2} of this drawing is no figure.`);
    // Which way an entity faces: its plane's normal.
    if ((code === 210 || code === 220) && Math.abs(Number(value)) > 1e-9)
      throw new Complaint('This drawing holds parts that are drawn from the side: turn them first.');
    if (code === 230 && Number(value) < 0)
      throw new Complaint('This drawing holds parts that are drawn from below: turn them over first.');
  }
}
