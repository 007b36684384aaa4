/**
 * Every file format: how its files are called, what they hold, and how they are read and written. Menus, file choosers, the
 * command line, the help page and messages follow from this list. Readers and writers are loaded when they are first used.
 */
import type { Bore } from './dxf';
import type { Point } from './follow';
import type { Sheet } from '../drawing/sheet';
import type { Mesh } from '../mesh/data/mesh';
import type { Sent } from './solid';

interface Named {
  readonly id: string;
  /** As it is called in sentences. */
  readonly name: string;
  /** How its files end, the usual ending first. */
  readonly endings: readonly [string, ...string[]];
  /** Media type of a file (RFC 6838). */
  readonly media: string;
  /** What the help page says about it. */
  readonly help: string;
}

type Bytes = Uint8Array<ArrayBuffer>;

/** Triangles out of a file. */
export interface PartContent {
  /** Nine numbers for each triangle. */
  readonly corners: Float32Array;
  /** Millimetres in one unit of the file, where the file says so. */
  readonly unit?: number;
}

/** Solids as triangles. */
export interface PartFormat extends Named {
  readonly holds: 'part';
  /** Its line in the export menu, where it is written. */
  readonly label?: string;
  readonly note?: string;
  /** Makes the file of bodies, under the name of the design. */
  write?(bodies: readonly Sent[], name: string): Promise<Bytes>;
  /** Reads the bytes of a file. @throws Complaint where they cannot be read */
  read?(bytes: Uint8Array): Promise<PartContent>;
}

/** Closed loops of lines and arcs, and circles that are holes. */
export interface OutlineContent {
  readonly loops: readonly Point[][];
  readonly bores: readonly Bore[];
}

/** Outlines in a plane, mm. */
export interface OutlineFormat extends Named {
  readonly holds: 'outline';
  /** Makes the text of a drawing. */
  write?(sheet: Sheet): Promise<string>;
  /** Reads the text of a drawing. @throws Complaint where it cannot be read */
  read?(text: string): Promise<OutlineContent>;
}

/** Rows of figures, designs, and several designs: what is read and written depends on the table or the shelf. */
interface OtherFormat extends Named {
  readonly holds: 'rows' | 'design' | 'designs';
  readonly read: true;
  readonly write: true;
}

export type Format = PartFormat | OutlineFormat | OtherFormat;
export type Holds = Format['holds'];
type Of<H extends Holds> = Extract<Format, { holds: H }>;

const text = (made: string): Bytes => new TextEncoder().encode(made);
/** STL knows one solid only: all bodies in one. */
const whole = async (bodies: readonly Sent[]): Promise<Mesh> =>
  (await import('../mesh/data/mesh')).joinMeshes(bodies.map(({ mesh }) => mesh));

export const FORMATS: readonly Format[] = [
  {
    id: '3mf',
    holds: 'part',
    name: '3MF',
    endings: ['3mf'],
    media: 'model/3mf',
    label: 'Print mesh, 3MF',
    note: 'with its unit',
    help: 'Mesh with its unit; several bodies stay apart.',
    write: async (bodies, name) => (await import('./threemf')).threeMf(bodies, name),
    read: async (bytes) => (await import('./threemf-in')).readThreeMf(bytes),
  },
  {
    id: 'stl',
    holds: 'part',
    name: 'STL',
    endings: ['stl'],
    media: 'model/stl',
    label: 'Print mesh, STL',
    note: 'binary',
    help: 'Mesh without a unit; binary or text.',
    write: async (bodies) => (await import('./stl')).binaryStl(await whole(bodies)),
    read: async (bytes) => ({ corners: (await import('./stl-in')).readStl(bytes) }),
  },
  {
    id: 'stl-text',
    holds: 'part',
    name: 'STL as text',
    endings: ['stl'],
    media: 'model/stl',
    label: 'Print mesh, STL',
    note: 'as text',
    help: 'The same mesh as lines of text.',
    write: async (bodies, name) => text((await import('./stl')).asciiStl(await whole(bodies), name)),
  },
  {
    id: 'glb',
    holds: 'part',
    name: 'GLB',
    endings: ['glb'],
    media: 'model/gltf-binary',
    label: 'Scene, GLB',
    note: 'with its material',
    help: 'A scene with its materials, for viewers.',
    write: async (bodies, name) => (await import('./glb')).glb(bodies, name),
  },
  {
    id: 'obj',
    holds: 'part',
    name: 'OBJ',
    endings: ['obj'],
    media: 'model/obj',
    label: 'Scene, OBJ',
    note: 'with its normals',
    help: 'Mesh with its normals, without a unit.',
    write: async (bodies, name) => text((await import('./obj')).obj(bodies, name)),
    read: async (bytes) => ({ corners: (await import('./obj-in')).readObj(bytes) }),
  },
  {
    id: 'svg',
    holds: 'outline',
    name: 'SVG',
    endings: ['svg'],
    media: 'image/svg+xml',
    help: 'Outlines of sections, cuts and saddles.',
    write: async (sheet) => (await import('./sheet-svg')).sheetSvg(sheet),
    read: async (drawing) => ({ loops: (await import('./svg')).svgLoops(drawing), bores: [] }),
  },
  {
    id: 'dxf',
    holds: 'outline',
    name: 'DXF',
    endings: ['dxf'],
    media: 'image/vnd.dxf',
    help: 'Outlines of sections, cuts and saddles.',
    write: async (sheet) => (await import('./sheet-dxf')).sheetDxf(sheet),
    read: async (drawing) => {
      const [loops, bores] = (await import('./dxf')).dxfLoops(drawing);
      return { loops, bores };
    },
  },
  {
    id: 'csv',
    holds: 'rows',
    name: 'CSV',
    endings: ['csv', 'tsv', 'txt'],
    media: 'text/csv',
    help: 'Points, bend rows and other tables.',
    read: true,
    write: true,
  },
  {
    id: 'json',
    holds: 'design',
    name: 'Design, JSON',
    endings: ['json'],
    media: 'application/json',
    help: 'A text file that opens in every later version.',
    read: true,
    write: true,
  },
  {
    id: 'zip',
    holds: 'designs',
    name: 'All designs, ZIP',
    endings: ['zip'],
    media: 'application/zip',
    help: 'The whole shelf.',
    read: true,
    write: true,
  },
];

/** Formats of one content that can be written, in the order of menus. */
export const writableFormats = <H extends Holds>(holds: H) =>
  FORMATS.filter((one): one is Of<H> & Required<Pick<Of<H>, 'write'>> => one.holds === holds && !!one.write);

/** Formats of some contents that can be read. */
export const readableFormats = (...holds: readonly Holds[]): readonly Format[] =>
  FORMATS.filter((one) => holds.includes(one.holds) && one.read);

/** What a file chooser lets through that takes some contents: the endings of their files. */
export const acceptOf = (...holds: readonly Holds[]): string =>
  readableFormats(...holds)
    .flatMap(({ endings }) => endings.map((ending) => `.${ending}`))
    .join();

/** Names of formats in a sentence: "STL, OBJ or 3MF". */
export function namesOf(formats: readonly Format[], last: 'or' | 'and'): string {
  const names = formats.map(({ name }) => name);
  const [one = '', ...before] = names.toReversed();
  return before.length ? `${before.toReversed().join(', ')} ${last} ${one}` : one;
}

/** How a file ends, in lower case. */
export const endingOf = (file: string): string => /\.([^.]+)$/.exec(file)?.[1]?.toLowerCase() ?? '';

/** The format that reads a file of that name as one of these contents, if any does. */
export const readerFor = (file: string, ...holds: readonly Holds[]): Format | undefined =>
  readableFormats(...holds).find(({ endings }) => endings.includes(endingOf(file)));
