/** Sharp edges and corners of what is carried along a path: the rims of its flat ends, and the edges along a straight one. */
import { composed, moved, STILL, turned, type Affine } from '../../geometry/motion';
import { add, distance, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { line, type Piece } from '../../path/curve';
import { pathOf, type Path } from '../../path/path';
import type { Placed } from '../../solid/body/body';
import { sectionStands } from '../../sweep/carry/stands';
import type { Swept } from '../../sweep/carry/swept';
import { nearestOn, type Mapped } from '../../path/nearest';

/** A place on a sharp edge, exact. */
export interface OnEdge {
  readonly place: Vec3;
  /** Unit vector along the edge; at a corner, where several meet, there is none. */
  readonly way?: Vec3;
  /** Of the edge, mm: where it is straight. */
  readonly length?: number;
  /** Which of the corners it is, from 1. */
  readonly corner?: number;
  /** Which of the edges it is on, from 0; at a corner, on none. */
  readonly edge?: number;
}

interface Edge extends Mapped {
  /** How near to it a place is taken to be meant on it, mm. */
  readonly near: number;
}

interface Edges {
  readonly edges: readonly Edge[];
  readonly corners: readonly (OnEdge & { readonly near: number })[];
}

/** Parts of a section's diagonal within which a corner, or an edge, is meant. */
const AT_CORNER = 0.08;
const ON_EDGE = 0.05;
/** Edges that leave the straight by less than this part of it are straight. */
const STRAIGHT = 1e-9;

/** The edges and corners of bodies, in their order: of each the corners at its start come first. */
export function edgesOf(leaves: readonly Placed[]): Edges {
  const edges: Edge[] = [];
  const corners: Omit<Edges['corners'][number], 'corner'>[] = [];
  for (const { leaf, map } of leaves)
    if (leaf.form === 'swept')
      for (const swept of leaf.swept) {
        const found = edgesAlong(swept, map);
        edges.push(...found.edges);
        corners.push(...found.corners);
      }
  return { edges, corners: corners.map((one, i) => ({ ...one, corner: i + 1 })) };
}

function edgesAlong(swept: Swept, map: Affine): Edges {
  const { section, carrier, ends, planes, into } = swept;
  const { path } = carrier;
  const flat = ends.every(({ shape }, i) => shape === 'flat' && !planes[i]);
  if (path.closed || !flat) return { edges: [], corners: [] };
  const { box } = section;
  const size = Math.hypot(box.right - box.left, box.high - box.low) * swept.scale;
  const rims = [section, into ?? section].map(({ contours }, i) => ({
    map: composed(sectionStands(swept, i * path.length), map),
    sharp: contours.filter((contour) => contour.corners.length),
  }));
  const about = rims.flatMap(({ sharp, map }) =>
    sharp.flatMap(betweenCorners).map((path): Edge => ({ path, map, near: ON_EDGE * size })),
  );
  const [starts, stops] = rims.map(({ sharp, map }) => cornersIn(sharp, map)) as [Vec3[], Vec3[]];
  const along = into ? [] : straightAlong(swept, map, starts, stops, size);
  return {
    edges: [...about, ...along],
    corners: [...starts, ...stops].map((place) => ({ place, near: AT_CORNER * size })),
  };
}

/** The edges from the corners at the start to those at the end, where they are straight. */
function straightAlong(
  swept: Swept,
  map: Affine,
  starts: readonly Vec3[],
  stops: readonly Vec3[],
  size: number,
): Edge[] {
  const { path } = swept.carrier;
  const sharp = swept.section.contours.filter((contour) => contour.corners.length);
  // An edge along it is straight where it runs through the middle of its ends, and a place between, as they lie.
  const through = [1 / 3, 1 / 2].map((part) => ({
    part,
    places: cornersIn(sharp, composed(sectionStands(swept, part * path.length), map)),
  }));
  return starts.flatMap((from, i): Edge[] => {
    const to = stops[i]!;
    const straight = through.every(
      ({ part, places }) => distance(places[i]!, add(from, scale(sub(to, from), part))) < STRAIGHT * size,
    );
    return straight ? [{ path: pathOf([line(from, to)]), map: STILL, near: ON_EDGE * size }] : [];
  });
}

/** A closed contour in the lengths that its corners part it into, each a path of its own. */
function betweenCorners({ pieces, corners }: Path): Path[] {
  const first = pieces.findIndex(({ start }) => start === corners[0]);
  const lengths: Piece[][] = [];
  for (let k = 0; k < pieces.length; k++) {
    const piece = pieces[(first + k) % pieces.length]!;
    if (corners.includes(piece.start)) lengths.push([]);
    lengths.at(-1)!.push(piece);
  }
  return lengths.map((mine) => pathOf(mine, { open: true }));
}

const cornersIn = (contours: readonly Path[], map: Affine): Vec3[] =>
  contours.flatMap((contour) => contour.corners.map((s) => moved(map, contour.at(s).position)));

/** The corner or edge that a point is near enough to, a corner before an edge; undefined where there is none. */
export function edgeNear({ edges, corners }: Edges, point: Vec3): OnEdge | undefined {
  const off = ({ place }: OnEdge) => distance(place, point);
  const corner = corners.filter((one) => off(one) <= one.near).toSorted((a, b) => off(a) - off(b))[0];
  if (corner) return { place: corner.place, corner: corner.corner! };
  let best: { readonly edge: number; readonly s: number; readonly far: number } | undefined;
  for (const [i, edge] of edges.entries()) {
    const found = nearestOn(edge, point);
    if (found.far <= edge.near && (!best || found.far < best.far)) best = { edge: i, ...found };
  }
  return best && { ...onEdge(edges[best.edge]!, best.s), edge: best.edge };
}

function onEdge({ path, map }: Edge, s: number): OnEdge {
  const { position, tangent } = path.at(s);
  const piece = path.pieces[path.locate(s).piece]!;
  const length =
    piece.form?.curve.shape === 'line' ? norm(turned(map, scale(tangent, piece.length))) : undefined;
  return {
    place: moved(map, position),
    way: unit(turned(map, tangent)),
    ...(length !== undefined && { length }),
  };
}
