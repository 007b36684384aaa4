/** Meshes as 3MF (3MF Core Specification 1.3): a zip of a model in mm that slicers take as it is. */
import { strToU8, zipSync } from 'fflate';
import { weld } from '../mesh/data/topology';
import type { Triangles } from '../mesh/data/mesh';
import { escaped } from './text';
import { materialKey, type Sent } from './solid';

const TYPES = `<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>`;
const RELATIONS = `<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`;

const short = (x: number) => String(Number(x.toPrecision(8)));

/** Bodies, in mm, as a 3MF package of that title: an object of its own name and material each. */
export function threeMf(bodies: readonly Sent[], title: string): Uint8Array<ArrayBuffer> {
  const used = bodies.flatMap(({ material, faces }) => [
    material,
    ...(faces ?? []).map((one) => one.material),
  ]);
  const materials = [...new Map(used.map((material) => [materialKey(material), material])).values()];
  const indexOf = (material: Sent['material']) =>
    materials.findIndex((one) => materialKey(one) === materialKey(material));
  const bases = materials.map(
    ({ name, look }) => `<base name="${escaped(name)}" displaycolor="${look[0].toUpperCase()}"/>`,
  );
  const objects = bodies.map(({ mesh, name, material, faces }, i) => {
    const index = indexOf(material);
    const others = faces?.map((one) => ({ ...one, index: indexOf(one.material) }));
    return `<object id="${i + 2}" type="model" name="${escaped(name)}" pid="1" pindex="${index}">${meshText(mesh, others)}</object>`;
  });
  const items = bodies.map((_body, i) => `<item objectid="${i + 2}"/>`);
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en-US" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><metadata name="Title">${escaped(title)}</metadata><metadata name="Application">Nematos</metadata><resources><basematerials id="1">${bases.join('')}</basematerials>${objects.join('')}</resources><build>${items.join('')}</build></model>`;
  return zipSync(
    {
      '[Content_Types].xml': strToU8(TYPES),
      '_rels/.rels': strToU8(RELATIONS),
      '3D/3dmodel.model': strToU8(model),
    },
    { level: 6 },
  ) as Uint8Array<ArrayBuffer>;
}

/** Corners in one place are one: the format asks for a closed mesh by its indices. */
function meshText(
  { positions, triangles }: Triangles,
  looks: readonly { first: number; count: number; index: number }[] = [],
): string {
  const same = weld(positions);
  const index = new Map<number, number>();
  const vertices: string[] = [];
  for (let i = 0; i < same.length; i++) {
    if (index.has(same[i]!)) continue;
    index.set(same[i]!, index.size);
    vertices.push(
      `<vertex x="${short(positions[3 * i]!)}" y="${short(positions[3 * i + 1]!)}" z="${short(positions[3 * i + 2]!)}"/>`,
    );
  }
  const faces: string[] = [];
  let look = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => index.get(same[triangles[t + k]!]!)!);
    while (looks[look] && t / 3 >= looks[look]!.first + looks[look]!.count) look++;
    const of = looks[look] ? ` pid="1" p1="${looks[look]!.index}"` : '';
    faces.push(`<triangle v1="${a}" v2="${b}" v3="${c}"${of}/>`);
  }
  return `<mesh><vertices>${vertices.join('')}</vertices><triangles>${faces.join('')}</triangles></mesh>`;
}
