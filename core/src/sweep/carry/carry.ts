/** A section made ready to be carried along one path: placed, held, sized, its ends decided. */
import { GeometryError } from '../../geometry/error';
import { add, cross, dot, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { Complaint, mm, told, words } from '../../measure/words';
import { cutAt, type Cut } from '../../path/cut';
import { firstAxis, turnedOver } from '../../path/frame';
import type { Path } from '../../path/path';
import { matchSections, momentsBetween } from '../../section/match';
import { momentsOf } from '../../section/moments';
import { movedSection, placed, support } from '../../section/place';
import { isCentred, isRound, type Section } from '../../section/section';
import { carrierOf, standing, type Carrier } from './carrier';
import { withKeptDomes } from './dome';
import type { End, SweepPlan, Swept } from './swept';
import { planeOf } from './hold';
import { arcedCorners, checkMitres } from './corners';
import type { Plane } from '../../geometry/plane';
import { evenLaw, linearLaw, productLaw, type Law } from './laws';

type Laws = ReturnType<SweepPlan['laws']>;

/**
 * The section carried along the path by the plan: its place, size, turn and blend at each length (mm), before any mesh.
 * @throws Complaint at the figure in fault
 */
export function sweptAlong(given: Path, section: Section, plan: SweepPlan): Swept {
  const path = withCorners(given, section, plan);
  const { length, closed } = path;
  const asked = plan.laws(length, closed);
  const laws = plan.into ? asked : { ...asked, mix: evenLaw(0) };
  const alike = laws.width === laws.height;
  const { width, height } = closed ? laws : chamfered(laws, plan.ends, section, length);
  const floors = floorsOf(section, path, plan.ends);
  const knots = [width, height, laws.twist, laws.mix].flatMap((law) => law.knots);
  const cut = cutAt(path, [...knots, ...floors.filter((s) => s !== undefined)]);

  let mine = placed(section, plan.placement);
  let into = plan.into && placed(plan.into, plan.placement);
  // A turn of what is round would only twist its triangles.
  const turnless = isRound(mine) && isCentred(mine) && !into && alike && plan.pathIs === 'middle';
  const carrier = held(cut, path, plan, { ...laws, width, height }, turnless);
  if (plan.pathIs !== 'middle') {
    const beside = aside(carrier, path, plan);
    mine = beside(mine);
    into &&= beside(into);
  }
  const pairs = into && (plan.pairs ?? matchSections(mine, into));
  const round = isRound(mine) && isCentred(mine) && !into && alike;
  checkClosure(carrier, mine, laws.twist, round);
  const domes = plan.ends.map((one) => (!closed && one.shape === 'domed' ? one.size : 0)) as [number, number];
  const face = memo((mix: number) => (pairs ? momentsBetween(pairs[0]!, mix) : momentsOf(mine.contours[0]!)));
  return withKeptDomes({
    asked: { section, plan },
    original: given,
    carrier,
    section: mine,
    ...(into && { into }),
    ...(pairs && { pairs }),
    ranges: rangesOf(mine, cut.path, floors),
    domes,
    lip: !closed && plan.ends[1].shape === 'rounded' ? plan.ends[1].size : 0,
    ends: plan.ends,
    planes: closed ? [] : plan.ends.map((one, i) => flushPlane(path, plan.flush, one, i ? 'end' : 'start')),
    twist: laws.twist,
    round,
    first: firstAxis(path),
    scale: greatest(carrier),
    reach: Math.max(mine.reach, into?.reach ?? 0),
    middle(mix) {
      const { m00, m10, m01 } = face(mix);
      return [m10 / m00, m01 / m00];
    },
  });
}

/** The path with the section's place on it. `turnless` where its turn changes nothing. @throws Complaint where the hold says nothing */
function held(cut: Cut, path: Path, plan: SweepPlan, laws: Laws, turnless: boolean): Carrier {
  const { hold, facing, guide, guideSizes, turned: steady } = plan;
  const turned =
    steady === 0 ? laws.twist : { ...laws.twist, value: (s: number) => laws.twist.value(s) + steady };
  // What is round is the same however it is held, unless its plane stays as it is or a guide sizes it.
  const isFree = turnless && (hold === 'facing' || hold === 'seated');
  const carrier = carrierOf(cut, path, {
    ...laws,
    hold: isFree ? 'free' : hold,
    facing,
    ...(guide && { guide }),
    guideSizes,
    twist: turnless ? evenLaw(0) : turned,
  });
  if (hold === 'level') checkLevel(carrier);
  else if (!turnless) checkMeeting(carrier);
  return carrier;
}

/** Lengths at which holes begin and end where the ends have walls, mm. @throws Complaint where those fill the whole length */
function floorsOf({ contours }: Section, { closed, length }: Path, [start, end]: SweepPlan['ends']) {
  const walls = closed || contours.length === 1 ? ([0, 0] as const) : ([start.wall, end.wall] as const);
  if (walls[0] + walls[1] >= length)
    throw new GeometryError(
      'walls-fill-length',
      words`Walls of that thickness fill the whole length of ${mm(length)}.`,
    );
  return walls.map((wall, i) => (wall > 0 ? (i ? length - wall : wall) : undefined));
}

/** Pieces along which each contour runs: holes between the walls. */
function rangesOf(
  { contours }: Section,
  { pieces, length }: Path,
  [begin, finish]: readonly (number | undefined)[],
): Swept['ranges'] {
  const pieceAt = (s: number) => pieces.findIndex((piece) => Math.abs(piece.start - s) < 1e-7 * length);
  const hole = {
    from: begin === undefined ? 0 : pieceAt(begin),
    to: finish === undefined ? pieces.length : pieceAt(finish),
  };
  return contours.map((_contour, i) => (i ? hole : { from: 0, to: pieces.length }));
}

/** Width and height drawn in at ends that are chamfered. @throws Complaint where a chamfer is too large */
function chamfered(
  { width, height }: { readonly width: Law; readonly height: Law },
  ends: readonly [End, End],
  { box }: Section,
  length: number,
) {
  const [wide, high] = [box.right - box.left, box.high - box.low];
  ends.forEach(({ shape, size }, i) => {
    if (shape !== 'chamfered') return;
    const across = Math.min(wide, high);
    const field = i ? 'endSize' : 'startSize';
    if (2 * size >= across)
      throw new Complaint(words`A chamfer here is under ${mm(across / 2)}, half of the section.`, field);
    if (size >= length / 2) throw new Complaint('The chamfer is too long for this path.', field);
    const eased = (whole: number): Law => {
      const tip = { s: i ? length : 0, value: 1 - (2 * size) / whole };
      const full = { s: i ? length - size : size, value: 1 };
      return linearLaw(i ? [full, tip] : [tip, full]);
    };
    width = productLaw(width, eased(wide));
    height = productLaw(height, eased(high));
  });
  return { width, height };
}

/** The plane square to a direction through an end of the path, looking to where the path's middle lies. */
function flushPlane(path: Path, direction: Vec3, end: End, at: 'start' | 'end'): Plane | undefined {
  if (end.shape !== 'flush') return undefined;
  const tip = path.at(at === 'start' ? 0 : path.length).position;
  const other = sub(path.at(path.length / 2).position, tip);
  const side = dot(other, direction);
  if (Math.abs(side) < 1e-9 * path.length)
    throw new Complaint(
      'The path does not leave this plane: choose another direction for it to be square to.',
      'flushX',
    );
  const normal = scale(direction, Math.sign(side));
  return { point: add(tip, scale(normal, end.size)), normal };
}

function memo<T>(make: (x: number) => T): (x: number) => T {
  const known = new Map<number, T>();
  return (x) => {
    let found = known.get(x);
    if (found === undefined) known.set(x, (found = make(x)));
    return found;
  };
}

function withCorners(path: Path, section: Section, plan: SweepPlan): Path {
  if (!path.corners.length) return path;
  if (plan.corners === 'bent') return arcedCorners(path, plan.bendRadius, 'bendRadius');
  if (plan.corners === 'mitred') {
    checkMitres(path);
    return path;
  }
  // About its inner edge: so much beyond it that nothing collapses there.
  const { reach } = placed(section, plan.placement);
  return arcedCorners(path, reach * (1 + 1e-3), 'corners');
}

/** Where a section held level would be carried edge on. */
function checkLevel({ path, stand }: Carrier): void {
  const here = standing();
  path.pieces.forEach((piece, k) => {
    const looks = 8 * Math.max(1, Math.ceil(piece.turning));
    for (let i = 0; i <= looks; i++) {
      stand(k, (piece.span * i) / looks, here);
      if (here.cn < 1e-3)
        throw new Complaint(
          words`Held level, the section would be carried edge on at ${mm(piece.start + piece.lengthTo((piece.span * i) / looks))} along, where the path has turned by a right angle.`,
          'hold',
        );
    }
  });
}

/** Frames on both sides of a mitred corner that differ by more than this (rad) do not meet. */
const MEETING = 1e-6;

/** At a mitred corner both sections lie in one plane: they must be each other's mirror image in it. */
function checkMeeting({ path, stand }: Carrier): void {
  const [a, b] = [standing(), standing()];
  const n = path.pieces.length;
  for (const s of path.corners) {
    const next = path.pieces.findIndex((piece) => Math.abs(piece.start - s) < 1e-9 * path.length);
    // Where a closed path closes, what is missing is another matter.
    if (next === 0) continue;
    const before = (next + n - 1) % n;
    stand(before, path.pieces[before]!.span, a);
    stand(next, 0, b);
    const way: Vec3 = [b.n[0]!, b.n[1]!, b.n[2]!];
    const over = turnedOver([a.u[0]!, a.u[1]!, a.u[2]!], [a.n[0]!, a.n[1]!, a.n[2]!], way);
    const off = Math.abs(
      Math.atan2(dot(cross(over, [b.u[0]!, b.u[1]!, b.u[2]!]), way), dot(over, [b.u[0]!, b.u[1]!, b.u[2]!])),
    );
    if (off > MEETING)
      throw new Complaint(
        words`Held so, the section is turned by ${told(off, 'angle')} over the corner at ${mm(s)} along, and its sides do not meet in the mitre.`,
        'hold',
        { says: words`Hold it free`, set: { hold: 'free' } },
        { says: words`Round the corners`, set: { corners: 'rounded' } },
      );
  }
}

/** Moves sections so that the path is their inner or outer side, where it bends most. */
function aside(carrier: Carrier, path: Path, plan: SweepPlan): (section: Section) => Section {
  const { curvature, at } = path.tightest;
  if (!(curvature > 0)) throw new Complaint('A straight path has no inside: let it be the middle.', 'pathIs');
  if (plan.hold === 'free' && !planeOf(path))
    throw new Complaint(
      'Held free, the section turns about a path in space, and no side of it stays inside: hold it facing or seated.',
      'pathIs',
    );
  const { piece, u } = carrier.path.locate(at);
  const here = standing();
  carrier.stand(piece, u, here);
  const { normal } = path.at(at);
  const x = dot(normal, [here.u[0]!, here.u[1]!, here.u[2]!]);
  const y = dot(normal, [here.w[0]!, here.w[1]!, here.w[2]!]);
  const size = Math.hypot(x, y) || 1;
  const [cx, cy] = [x / size, y / size];
  return (section) => {
    const outline = section.contours[0]!.pieces;
    const far = plan.pathIs === 'inside' ? -support(outline, cx, cy) : support(outline, -cx, -cy);
    return movedSection(section, far * cx, far * cy);
  };
}

/** On a closed path the section must come back onto itself. @throws Complaint offering the two nearest twists that close */
function checkClosure({ path, shift, stand }: Carrier, section: Section, twist: Law, round: boolean): void {
  if (!path.closed || round) return;
  const [a, b] = [standing(), standing()];
  stand(0, 0, a);
  stand(path.pieces.length - 1, path.pieces.at(-1)!.span, b);
  const off = (x: number, y: number) => Math.abs(x - y) > 1e-9 * Math.max(x, y, 1);
  if (off(a.sx, b.sx) || off(a.sy, b.sy))
    throw new Complaint('On a closed path the section must end as large as it began.', 'size');
  if (off(a.mix, b.mix))
    throw new Complaint(
      'On a closed path the section cannot pass into another: it must come back to itself.',
      'into',
    );
  const symmetry = off(a.sx, a.sy) ? (section.symmetry % 2 === 1 ? 1 : 2) : section.symmetry;
  if (symmetry === Infinity) return;
  const step = (2 * Math.PI) / symmetry;
  const over = shift / step;
  if (Math.abs(over - Math.round(over)) < 1e-7) return;
  throw new OpenTwist((Math.floor(over) - over) * step, (Math.ceil(over) - over) * step, {
    symmetry,
    length: path.length,
    turns: (twist.value(path.length) - twist.value(0)) / (2 * Math.PI),
  });
}

/** The twist of a closed body does not close: what it would have to be less or more, rad. */
export class OpenTwist extends Complaint {
  readonly less: number;
  readonly more: number;
  /** Of the path, mm; and how often the section is turned along it. */
  readonly length: number;
  readonly turns: number;
  constructor(
    less: number,
    more: number,
    { symmetry, length, turns }: { symmetry: number; length: number; turns: number },
  ) {
    super(
      words`This twist does not close: the section comes back to itself every ${told((2 * Math.PI) / symmetry, 'angle')}.`,
      'twist',
    );
    this.less = less;
    this.more = more;
    this.length = length;
    this.turns = turns;
  }
}

const LOOKS = 8;
function greatest({ path, stand, plain }: Carrier): number {
  if (plain) return 1;
  const here = standing();
  let most = 0;
  path.pieces.forEach((piece, k) => {
    for (let i = 0; i <= LOOKS; i++) {
      stand(k, (piece.span * i) / LOOKS, here);
      most = Math.max(most, here.sx, here.sy);
    }
  });
  return most;
}

/** A direction as a unit vector. @throws Complaint at the field where it has no length */
export const facingOf = (x: number, y: number, z: number, field = 'facingX'): Vec3 => {
  if (Math.hypot(x, y, z) < 1e-9)
    throw new Complaint('A direction needs at least one figure that is not 0.', field);
  return unit([x, y, z]);
};
