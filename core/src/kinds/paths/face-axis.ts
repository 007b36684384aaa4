import { z } from 'zod';
import { choice, length, pathKind } from '../../kind/kind';
import { ledBy, type Mark } from '../../kind/mark';
import type { Result } from '../../kind/value';
import { runPolling } from '../../geometry/task';
import { add, distance, norm, scale, sub, unit, type Vec3, vec3 } from '../../geometry/vector';
import { Complaint } from '../../measure/words';
import { flatFaceAt, roundFaceAt, type FlatFace, type RoundFace } from '../../mesh/query/face-fit';
import { line } from '../../path/curve';
import { pathOf, pathWith, type Path } from '../../path/path';
import { meshToRead } from './mesh-to-read';

/** A path read from a face. */
interface FaceAxis extends Path {
  readonly face: RoundFace | FlatFace;
}

const schema = z.object({
  face: choice('any', 'round', 'flat'),
  x: length(),
  y: length(),
  z: length(),
  rim: choice('near', 'far'),
  beyond: length({ atLeast: 0 }),
});

/** Straight line out of a body: along the axis of one of its round faces, or square to a flat one from its middle. */
export const faceAxis = pathKind({
  kind: 'face-axis',
  title: 'Face axis',
  noun: 'face axis',
  words: ['face', 'hole', 'bore', 'boss', 'flange', 'axis', 'centre', 'attach', 'normal', 'file', 'mesh'],
  // The body stays a part of its own: it is there to be led to.
  inputs: { body: { takes: 'body', beside: true } },
  schema,
  defaults: {
    face: 'any',
    x: '0 mm',
    y: '0 mm',
    z: '0 mm',
    rim: 'near',
    beyond: '20 mm',
  },
  async evaluate({ face, x, y, z: up, rim, beyond }, { body }, { poll }): Promise<FaceAxis> {
    const mesh = await meshToRead(body, poll);
    const place: Vec3 = [x, y, up];
    const round = face === 'flat' ? undefined : await runPolling(roundFaceAt(mesh, place), poll);
    if (round) return roundAxis(round, rim, beyond);
    if (face === 'round')
      throw new Complaint(
        'The face there is not round: choose a place in a hole or on a round outside.',
        'face',
      );
    return squareLine(await runPolling(flatFaceAt(mesh, place), poll), beyond);
  },
  marks: (_path, set, _filled, resolved) => placeMarks(set, resolved),
  results: (path) => [
    { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
    ...faceResults((path as FaceAxis).face),
    ...endResults(path),
  ],
});

/** From the one rim to the other, and on beyond it. */
function roundAxis(face: RoundFace, rim: 'near' | 'far', beyond: number): FaceAxis {
  const [a, b] = rim === 'near' ? face.ends : [face.ends[1], face.ends[0]];
  return pathWith(pathOf([line(a, add(b, scale(unit(sub(b, a)), beyond)))]), { face });
}

/** From the middle of the face outward. @throws Complaint where it has no length */
function squareLine(face: FlatFace | undefined, beyond: number): FaceAxis {
  if (!face) throw new Complaint('There is no face there: choose a place farther from an edge.', 'x');
  if (!(beyond > 0))
    throw new Complaint('A flat face has no depth: say how far the line goes beyond it.', 'beyond');
  return pathWith(pathOf([line(face.middle, add(face.middle, scale(face.normal, beyond)))]), { face });
}

function faceResults(face: RoundFace | FlatFace): Result[] {
  if ('area' in face)
    return [{ name: 'area', label: 'area of the face', head: 'Face', value: face.area, quantity: 'area' }];
  const { radius, sagitta, hole, ends, around } = face;
  return [
    {
      name: 'diameter',
      label: hole ? 'diameter of the hole' : 'diameter of the round',
      head: 'Diameter',
      value: 2 * radius,
      // The round may run through the corners of its triangles, or within them.
      within: 2 * sagitta,
      quantity: 'length',
    },
    {
      name: 'depth',
      label: hole ? 'depth of the hole' : 'height of the round',
      value: distance(...ends),
      quantity: 'length',
    },
    { name: 'around', label: 'angle about its axis', value: around, quantity: 'angle' },
  ];
}

/** Corners of triangles are rounded by more than this part of their size. */
const ROUNDED = 1e-7;

function endResults(path: Path): Result[] {
  const end = path.at(path.length).position;
  const least = ROUNDED * (norm(end) + path.length);
  return (['x', 'y', 'z'] as const).map((axis, k) => ({
    name: `end${axis.toUpperCase()}`,
    label: `${axis} of its end`,
    value: Math.abs(end[k]!) < least ? 0 : end[k]!,
    quantity: 'length',
  }));
}

/** The place on the face, to be led over the body. */
function placeMarks(
  set: Readonly<Record<string, string>>,
  resolved: Readonly<Record<string, { readonly value: number }>>,
): Mark[] {
  const at = vec3(['x', 'y', 'z'].map((field) => resolved[field]?.value ?? 0));
  return [
    {
      type: 'point',
      led: ledBy('x', 'y', 'z').filter(({ field }) => field in set),
      name: 'Place on the face',
      at,
    },
  ];
}
