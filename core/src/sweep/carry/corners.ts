/** Sharp corners of a path: left to be mitred, or turned by an arc. */
import { cross, dot, norm, scale, sub, unit, add, type Vec3 } from '../../geometry/vector';
import { Complaint, mm, told, words } from '../../measure/words';
import { arc, type Curve } from '../../path/curve';
import { partOf } from '../../path/wrap';
import { pathOf, pointOn, type Path } from '../../path/path';

/** Corners sharper than this (rad) have no mitre worth the name. */
const SHARPEST = (170 * Math.PI) / 180;

interface Joint {
  /** Piece that leads in; the next leads out. */
  readonly piece: number;
  readonly s: number;
  readonly angle: number;
  readonly into: Vec3;
  readonly out: Vec3;
}

function jointsOf(path: Path): Joint[] {
  const n = path.pieces.length;
  return path.corners.map((s) => {
    const next = path.pieces.findIndex((piece) => Math.abs(piece.start - s) < 1e-9 * path.length);
    const piece = (next + n - 1) % n;
    const before = path.pieces[piece]!;
    const into = pointOn(before, before.span).tangent;
    const out = pointOn(path.pieces[next]!, 0).tangent;
    return { piece, s, angle: Math.atan2(norm(cross(into, out)), dot(into, out)), into, out };
  });
}

const isStraight = (path: Path, k: number): boolean => {
  const { even, turning } = path.pieces[k % path.pieces.length]!;
  return even === true && turning < 1e-12;
};

/**
 * Refuses sharp corners where one of the sides is not straight, or which turn back on themselves.
 * @throws Complaint where a corner cannot be mitred
 */
export function checkMitres(path: Path): void {
  for (const { piece, s, angle } of jointsOf(path)) {
    if (!isStraight(path, piece) || !isStraight(path, piece + 1))
      throw new Complaint(
        words`The corner at ${mm(s)} along joins a bend: a mitre needs a straight on both sides. Round it, or bend it.`,
        'corners',
      );
    if (angle > SHARPEST)
      throw new Complaint(
        words`At ${mm(s)} along, the path turns back by ${told(angle, 'angle')}: too sharp for a mitre.`,
        'corners',
      );
  }
}

/**
 * The path with every sharp corner turned by an arc of that centreline radius.
 * @throws Complaint where it does not fit, at `field`; names the largest that does
 */
export function arcedCorners(path: Path, radius: number, field: string): Path {
  const joints = jointsOf(path);
  if (!joints.length) return path;
  const n = path.pieces.length;
  // What a corner takes of the straights beside it, in radii.
  const tangentStart = new Array<number>(n).fill(0);
  const tangentEnd = new Array<number>(n).fill(0);
  for (const joint of joints) {
    if (!isStraight(path, joint.piece) || !isStraight(path, joint.piece + 1))
      throw new Complaint(
        words`The corner at ${mm(joint.s)} along joins a bend: only a corner between straights can be turned here.`,
        'corners',
      );
    if (joint.angle > SHARPEST)
      throw new Complaint(
        words`At ${mm(joint.s)} along, the path turns back by ${told(joint.angle, 'angle')}: too sharp to turn.`,
        'corners',
      );
    const tangent = Math.tan(joint.angle / 2);
    tangentEnd[joint.piece] = tangent;
    tangentStart[(joint.piece + 1) % n] = tangent;
  }
  const most = path.pieces.map(({ length }, k) => length / (tangentStart[k]! + tangentEnd[k]!));
  const least = Math.min(...most);
  if (radius > least * (1 + 1e-9)) {
    const tight = most.indexOf(least);
    const joint = joints.find(({ piece }) => piece === tight || (piece + 1) % n === tight)!;
    throw new Complaint(
      words`The corner at ${mm(joint.s)} along has no room for a radius of ${mm(radius)}: up to ${mm(least)} fits.`,
      field,
    );
  }
  const trimStart = tangentStart.map((tangent) => radius * tangent);
  const trimEnd = tangentEnd.map((tangent) => radius * tangent);
  const curves: Curve[] = [];
  path.pieces.forEach((piece, k) => {
    if (piece.length - trimStart[k]! - trimEnd[k]! > 1e-9 * path.length) {
      const per = piece.span / piece.length;
      curves.push(partOf(piece, trimStart[k]! * per, piece.span - trimEnd[k]! * per));
    }
    const i = joints.findIndex((joint) => joint.piece === k);
    if (i < 0) return;
    const { into, out, angle } = joints[i]!;
    const corner = pointOn(piece, piece.span).position;
    const begin = add(corner, scale(into, -trimEnd[k]!));
    const inward = unit(sub(out, scale(into, dot(out, into))));
    curves.push(arc(add(begin, scale(inward, radius)), scale(inward, -1), into, radius, angle));
  });
  return pathOf(curves);
}
