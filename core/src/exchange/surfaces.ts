/** What triangles out of a file must be to be worked with: closed, of one mind about what is outside, not too many. */
import { runNow } from '../geometry/task';
import { Complaint } from '../measure/words';
import { inspectMesh, weld, type EdgeFault } from '../mesh/data/topology';
import type { Triangles } from '../mesh/data/mesh';
import { MOST_KEPT } from '../mesh/data/packed';
import { shellFault, type ShellFault } from '../mesh/verify/shells';

/**
 * Triangles by their corners, nine numbers each in the file's own unit, as one closed surface that looks outward. Corners in one
 * place, but for rounding where that is needed to close it, are one; triangles without an area between two of them are left out.
 * @throws Complaint where they do not bound a solid
 */
export function surfacesOf(soup: Float32Array): Triangles {
  const count = soup.length / 9;
  if (!count)
    throw new Complaint(
      'There are no triangles in this file: send the part out as a solid where it was made.',
    );
  if (count > MOST_KEPT)
    throw new Complaint(
      `This file has ${count} triangles, more than the ${MOST_KEPT} that can be worked with here: make it coarser where it comes from.`,
    );
  if (!soup.every(Number.isFinite))
    throw new Complaint('This file has corners that are no numbers: send it out again where it was made.');
  let surfaces = sharing(soup, weld(soup));
  let inspected = inspectMesh(surfaces);
  if (inspected.openEdges) {
    surfaces = sharing(soup, weldRounded(soup));
    inspected = inspectMesh(surfaces);
  }
  const { edges, volume } = inspected;
  for (const [fault, says] of FAULTS) {
    const { count: many, place } = edges[fault];
    if (!place) continue;
    const near = place.map((x) => Number(x.toPrecision(4))).join(', ');
    throw new Complaint(
      `What is in this file does not close: ${many} ${many === 1 ? 'edge has' : 'edges have'} ${says}, the first near ${near}. Repair it in the program that made it.`,
    );
  }
  if (volume === 0)
    throw new Complaint(
      'What is in this file has no volume: send the part out as a solid where it was made.',
    );
  const outward = volume > 0 ? surfaces : turnedOver(surfaces);
  const fault = runNow(shellFault(outward));
  if (fault) throw new Complaint(SHELL_FAULTS[fault]);
  return outward;
}

const SHELL_FAULTS: Record<ShellFault, string> = {
  'inside out':
    'One of several parts in this file is turned inside out. Repair it in the program that made it.',
  'solid twice':
    'One of several parts in this file lies within another, and would count twice. Leave it out, or join them, where they were made.',
};

const FAULTS: readonly (readonly [EdgeFault, string])[] = [
  ['open', 'a triangle on one side only'],
  ['doubled', 'more than two triangles'],
  ['turned', 'triangles that face against each other'],
];

/** Triangles that share the corners which are the same. */
function sharing(soup: Float32Array, same: Uint32Array): Triangles {
  const places: number[] = [];
  const index = new Uint32Array(same.length);
  same.forEach((first, i) => {
    if (first === i) {
      index[i] = places.length / 3;
      places.push(soup[3 * i]!, soup[3 * i + 1]!, soup[3 * i + 2]!);
    } else index[i] = index[first]!;
  });
  const kept: number[] = [];
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [index[t]!, index[t + 1]!, index[t + 2]!];
    if (a !== b && b !== c && c !== a) kept.push(a, b, c);
  }
  return { positions: Float32Array.from(places), triangles: Uint32Array.from(kept) };
}

/** Corners as far apart as numbers are rounded where files are written count as one: a part of the largest of them. */
const ROUNDED = 1e-6;

/** Of every corner the number of the first that it is one with by rounding. */
function weldRounded(soup: Float32Array): Uint32Array {
  const within = ROUNDED * soup.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  /** First corners by cells of a grid; those within reach of a corner are in its own cell, or just beyond a side of it. */
  const cells = new Map<string, number[]>();
  const cell = (x: number) => Math.floor(x / (8 * within));
  return weld(soup).map((first, i) => {
    if (first !== i) return first;
    const at = [soup[3 * i]!, soup[3 * i + 1]!, soup[3 * i + 2]!] as const;
    const [xs, ys, zs] = at.map((x) => [...new Set([cell(x - within), cell(x + within)])]) as [
      number[],
      number[],
      number[],
    ];
    for (const x of xs)
      for (const y of ys)
        for (const z of zs)
          for (const other of cells.get(`${x} ${y} ${z}`) ?? [])
            if (at.every((one, k) => Math.abs(one - soup[3 * other + k]!) <= within)) return other;
    const key = at.map(cell).join(' ');
    cells.set(key, [...(cells.get(key) ?? []), i]);
    return i;
  });
}

function turnedOver({ positions, triangles }: Triangles): Triangles {
  const over = triangles.slice();
  for (let t = 0; t < over.length; t += 3) [over[t + 1], over[t + 2]] = [over[t + 2]!, over[t + 1]!];
  return { positions, triangles: over };
}
