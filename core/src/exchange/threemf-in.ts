/** What is in a 3MF package (3MF Core Specification 1.3): the triangles of all that it builds, where that stands. */
import { XMLParser } from 'fast-xml-parser';
import { composed, determinant, moved, STILL, type Affine } from '../geometry/motion';
import { type Vec3, vec3 } from '../geometry/vector';
import { Complaint } from '../measure/words';
import { MOST_KEPT } from '../mesh/data/packed';
import { textIn } from './decode';
import { tooMany } from './stl-in';
import { entriesIn, isZip } from './zip-in';

/** mm in each of its units. */
const UNITS: ReadonlyMap<string, number> = new Map([
  ['micron', 0.001],
  ['millimeter', 1],
  ['centimeter', 10],
  ['inch', 25.4],
  ['foot', 304.8],
  ['meter', 1000],
]);

/** A model of as many triangles as can be worked with has about 12 MB. */
const MOST_BYTES = 25e6;
/** Objects are made of objects: so deep at most. */
const DEEPEST = 20;
/** So many of them are put in place at most, and so many corners of all of them. */
const MOST_PLACED = 10_000;
const MOST_CORNERS = 6 * MOST_KEPT;

/** Corners of all triangles, nine numbers each, and how many mm one of its units is. */
export interface ThreeMfContent {
  readonly corners: Float32Array;
  readonly unit: number;
}

type Named = Readonly<Record<string, string>>;
interface ObjectNode extends Record<string, unknown> {
  readonly id: string;
  readonly mesh?: {
    readonly vertices?: { readonly vertex?: readonly Named[] };
    readonly triangles?: { readonly triangle?: readonly Named[] };
  };
  readonly components?: { readonly component?: readonly Named[] };
}
interface ModelNode {
  readonly unit?: string;
  readonly resources?: { readonly object?: readonly ObjectNode[] };
  readonly build?: { readonly item?: readonly Named[] };
}

/** Reads a package. @throws Complaint where it cannot be read */
export function readThreeMf(bytes: Uint8Array): ThreeMfContent {
  const { unit = 'millimeter', resources, build } = modelIn(bytes);
  const size = UNITS.get(unit);
  if (size === undefined)
    throw new Complaint(
      `The unit of this file is not known here: ${unit.slice(0, 40)}. Export it in millimetres.`,
    );
  const objects = new Map((resources?.object ?? []).map((one) => [one.id, one]));
  const corners: number[] = [];
  let [count, cornersPlaced] = [0, 0];
  const add = (id: string | undefined, map: Affine, depth: number): void => {
    const object = objects.get(id ?? '');
    if (!object || depth > DEEPEST) throw damaged();
    if (++count > MOST_PLACED)
      throw new Complaint(`This file builds more than ${MOST_PLACED} objects. Export fewer of them.`);
    cornersPlaced += object.mesh?.vertices?.vertex?.length ?? 0;
    if (cornersPlaced > MOST_CORNERS) throw tooMany();
    const places = (object.mesh?.vertices?.vertex ?? []).map(({ x, y, z }): Vec3 =>
      moved(map, [coordinate(x), coordinate(y), coordinate(z)]),
    );
    // What is mirrored is turned over.
    const over = determinant(map) < 0;
    for (const { v1, v2, v3 } of object.mesh?.triangles?.triangle ?? [])
      for (const corner of over ? [v1, v3, v2] : [v1, v2, v3]) {
        const place = places[Number(corner)];
        if (!place) throw damaged();
        corners.push(...place);
      }
    if (corners.length > 9 * MOST_KEPT) throw tooMany();
    for (const one of object.components?.component ?? [])
      add(one.objectid, composed(mapOf(one.transform), map), depth + 1);
  };
  for (const item of build?.item ?? []) add(item.objectid, mapOf(item.transform), 0);
  return { corners: Float32Array.from(corners), unit: size };
}

const damaged = () => new Complaint('This is no 3MF file that can be read, or it is cut off.');

function coordinate(text: string | undefined): number {
  const value = Number(text?.trim() || NaN);
  if (!Number.isFinite(value))
    throw new Complaint(
      `A corner in this file has the coordinate “${(text ?? '').slice(0, 40)}”, which is not a number.`,
    );
  return value;
}

const LISTS: ReadonlySet<string> = new Set(['object', 'vertex', 'triangle', 'component', 'item']);

function modelIn(bytes: Uint8Array): ModelNode {
  if (!isZip(bytes)) throw damaged();
  const models = entriesIn(bytes).filter(({ name }) => name.endsWith('.model'));
  const entry = models.find(({ name }) => name.replace(/^\//, '') === '3D/3dmodel.model') ?? models[0];
  if (!entry) throw damaged();
  if (entry.size > MOST_BYTES)
    throw new Complaint(
      `The model in this file has ${Math.round(entry.size / 1e6)} MB; at most ${MOST_BYTES / 1e6} MB are possible. Export it with a coarser mesh.`,
    );
  const text = textIn(entry.bytes());
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '',
    parseAttributeValue: false,
    removeNSPrefix: true,
    isArray: (name) => LISTS.has(name),
  });
  let model: ModelNode | undefined;
  try {
    ({ model } = parser.parse(text) as { model?: ModelNode });
  } catch {
    throw damaged();
  }
  if (typeof model !== 'object') throw damaged();
  return model;
}

/** Twelve numbers: where the axes go, and the origin. */
function mapOf(text: string | undefined): Affine {
  if (text === undefined) return STILL;
  const n = text.trim().split(/\s+/).map(Number);
  if (n.length !== 12 || !n.every(Number.isFinite)) throw damaged();
  const row = (i: number) => vec3(n.slice(3 * i, 3 * i + 3));
  return { ex: row(0), ey: row(1), ez: row(2), origin: row(3) };
}
