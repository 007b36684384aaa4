import { Memo } from '../../geometry/memo';
import type { Poll } from '../../geometry/poll';
import type { Mesh } from '../../mesh/data/mesh';
import { sizeAbout, type Body } from '../../solid/body/body';
import { solidOf } from '../../solid/combine/combined';

/** Chord tolerance of a body that is read, as a part of its size; triangles out of a file are as they are. */
const FINE = 1 / 1000;

/** Of bodies: what is read of them changes more often. */
const MESHES = new Memo<Body, Mesh>();

/** The triangles of a body, to read paths from; the same each time. */
export const meshToRead = (body: Body, poll: Poll): Promise<Mesh> =>
  // Whether it runs through itself is told where it is made: its faces are where they are.
  MESHES.later(body, () => solidOf(body, sizeAbout(body) * FINE, poll, true));
