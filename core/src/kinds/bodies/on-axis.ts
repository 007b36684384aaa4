/** What kinds of bodies round an axis have in common: where the axis is, what they are made of, what is measured of them. */
import { moved, STILL, turnedFrame } from '../../geometry/motion';
import { distance, type Vec3 } from '../../geometry/vector';
import { Complaint } from '../../measure/words';
import type { Poll } from '../../geometry/poll';
import type { Path } from '../../path/path';
import { isMade, leavesOf, sizeAbout, type Body } from '../../solid/body/body';
import { solidOf } from '../../solid/combine/combined';
import { placedBody } from '../../solid/body/placed';
import { PLACING, PLACING_DEFAULTS, placedAt, type Axis, type Placing } from '../paths/placing';
import { runPolling } from '../../geometry/task';
import type { CheckContext, Checked } from '../../kind/kind';
import type { Finding } from '../../kind/value';
import { inspectSteps } from '../../mesh/data/topology';
import { meshCrossing } from '../../mesh/verify/crossing';
import type { Mesh } from '../../mesh/data/mesh';
import { anyBodyResults } from '../../kind/body-results';
import type { Section } from '../../section/section';
import { turnedBody } from '../../turn/body';
import { turnedBy } from '../../turn/turned';
import { materialGiven, OF_MATERIAL, OF_MATERIAL_DEFAULTS } from './of-material';

/** Figures of a kind whose bodies stand on an axis. */
export const ON_AXIS = { ...PLACING, ...OF_MATERIAL };
export const ON_AXIS_DEFAULTS = { ...PLACING_DEFAULTS, ...OF_MATERIAL_DEFAULTS };
/** The place: a path, or another body, on whose axis it stands. */
export const ON_AXIS_INPUTS = { place: { takes: ['path', 'body'], optional: true, beside: true } } as const;

/** The axis of a body that has one: it was turned about it, or goes straight along it. @throws Complaint at the place */
export function axisIn(place: Path | Body | undefined): Path | Axis | undefined {
  if (place?.type !== 'body') return place;
  const [{ leaf, map } = NO_LEAF, ...more] = leavesOf(place);
  const at = (point: Vec3) => moved(map, point);
  if (!more.length && leaf?.form === 'turned') {
    const [least, most] = leaf.extent;
    return { foot: at([0, 0, least[2]]), top: at([0, 0, most[2]]) };
  }
  if (!more.length && leaf?.form === 'swept' && leaf.paths.length === 1) {
    const [path] = leaf.paths as [Path];
    const [foot, top] = [path.at(0).position, path.at(path.length).position];
    if (Math.abs(distance(foot, top) - path.length) < 1e-9 * path.length)
      return { foot: at(foot), top: at(top) };
  }
  throw new Complaint(
    'This body has no axis of its own: choose a round or a straight one, or a path.',
    'place',
  );
}
const NO_LEAF = { leaf: undefined, map: STILL };

/** A body made about the z axis, on the axis that is given. */
export const onAxis = (
  body: Body,
  figures: Placing & { readonly startAngle: number },
  place: Path | Body | undefined,
): Body => placedBody(body, turnedFrame(placedAt(figures, axisIn(place)), figures.startAngle));

/** A section turned once round the axis that is given. */
export const roundBody = (
  section: Section,
  figures: Parameters<typeof onAxis>[1] & Parameters<typeof materialGiven>[0],
  place: Path | Body | undefined,
): Body => onAxis(turnedBody(turnedBy(section, 0, 2 * Math.PI), materialGiven(figures)), figures, place);

/** Chord tolerance of the mesh that is looked at, as a part of the size, and its triangles at most. */
const CHECKED = 1 / 600;
const MOST = 60_000;

/** Whether its triangles close, and do not run through one another. */
export const checkClosed = async (body: Body, { poll }: CheckContext): Promise<Checked> =>
  checkMesh(await runPolling(body.meshing(CHECKED * sizeAbout(body), MOST), poll), poll);

/** The same of any body, after what overlaps itself in it was made clean: of one made of triangles, what is shown of it. */
export const checkSolid = async (body: Body, { poll }: CheckContext): Promise<Checked> => {
  const tolerance = isMade(body) ? body.shownAt : CHECKED * sizeAbout(body);
  return checkMesh(await solidOf(body, tolerance, poll), poll);
};

async function checkMesh(mesh: Mesh, poll: Poll): Promise<Checked> {
  const { openEdges, volume } = await runPolling(inspectSteps(mesh), poll);
  const place = await meshCrossing(mesh, poll);
  const bad = openEdges > 0 || !(volume > 0) || place !== undefined;
  const closed: Finding = {
    name: 'closed',
    level: bad ? 'fault' : 'good',
    says: [place ? 'Its surface runs through itself' : bad ? 'Surface is not closed' : 'Surface is closed'],
    ...(bad && { blocks: true, detail: ['changing one of its figures a little may do'] }),
    ...(place && { place }),
    value: bad ? 1 : 0,
    limit: 0,
    margin: bad ? -1 : 0,
    quantity: 'number',
  };
  return { findings: [closed], limits: [] };
}

/** What is the same in all of them. */
export const MEASURED = {
  check: checkClosed,
  results: anyBodyResults,
  measure: (body: Body, poll: Poll) => body.measured(poll),
} as const;
