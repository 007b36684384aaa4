import { GeometryError } from '../../geometry/error';
import { bodyKind } from '../../kind/kind';
import { cellField } from '../../measure/field';
import { writtenFigure, writtenNumber } from '../../measure/format';
import type { Result } from '../../kind/value';
import { Complaint, told, words } from '../../measure/words';
import type { Path } from '../../path/path';
import { sectionOf, type Section } from '../../section/section';
import { withEvenWall } from '../../solid/hollow/hollow';
import { type SweptBody, sweptBody } from '../../sweep/body';
import { extentResults, massResults } from '../../kind/body-results';
import { checkSweep } from './check';
import { sectionStands } from '../../sweep/carry/stands';
import { planeOf } from '../../sweep/carry/hold';
import { dot, norm, unit } from '../../geometry/vector';
import { handlesOf, mixLaw, sizeLaws, twistLaw } from './given-laws';
import { materialGiven, OF_MATERIAL_DEFAULTS } from './of-material';
import { nearestStrands, strandResults } from './strands';
import { sweepMarks } from './sweep-marks';
import { SIZES, SWEEP, TWISTS, type SweepFigures } from './sweep-schema';
import { type End, type SweepPlan, type Swept } from '../../sweep/carry/swept';
import { OpenTwist, facingOf, sweptAlong } from '../../sweep/carry/carry';

/** Section carried along a path. */
export const sweep = bodyKind({
  kind: 'sweep',
  title: 'Body',
  noun: 'sweep',
  words: [
    'along a path',
    'guide',
    'sweep',
    'carry',
    'solid',
    'body',
    'wire',
    'pipe',
    'along',
    'taper',
    'twist',
    'flare',
    'loft',
    'blend',
  ],
  inputs: {
    path: { takes: 'path', sets: true },
    section: { takes: 'section' },
    guide: { takes: 'path', optional: true },
    into: { takes: 'section', optional: true },
  },
  schema: SWEEP,
  tables: { sizes: SIZES, twists: TWISTS },
  needs: ({ size, twistBy }, name) => (name === 'sizes' ? size === 'stations' : twistBy === 'stations'),
  defaults: {
    hold: 'free',
    facingX: '0',
    facingY: '0',
    facingZ: '1',
    guideSets: 'both',
    corners: 'mitred',
    bendRadius: '10 mm',
    by: 'centroid',
    byCorner: '1',
    right: '0 mm',
    up: '0 mm',
    turned: '0 deg',
    mirrored: 'no',
    pathIs: 'middle',
    size: 'even',
    endScale: '0.5',
    flare: '5 deg',
    sizeRun: 'smooth',
    wallRun: 'scaled',
    twistBy: 'none',
    twist: '180 deg',
    twistLay: '40 mm',
    twistRun: 'smooth',
    intoFrom: '0',
    intoTo: '1',
    intoRun: 'smooth',
    startShape: 'flat',
    endShape: 'flat',
    startSize: '1 mm',
    endSize: '1 mm',
    flushX: '0',
    flushY: '0',
    flushZ: '1',
    startFlush: '0 mm',
    endFlush: '0 mm',
    ...OF_MATERIAL_DEFAULTS,
  },
  faults: { 'walls-fill-length': 'startWall' },
  evaluate(figures, { path: given, section, guide, into }) {
    const paths = given.type === 'set' ? given.members : [given];
    const plan = { ...planOf(figures, section), ...(guide && { guide }), ...(into && { into }) };
    try {
      const swept = keepsWall(figures)
        ? paths.map((path) => withWallKept(path, section, plan))
        : paths.map((path) => sweptAlong(path, section, plan));
      return sweptBody(swept, section, materialGiven(figures), {
        leastWall: figures.leastWall,
        handles: handlesOf(figures, swept[0]!.carrier.path.length),
      });
    } catch (error) {
      if (error instanceof OpenTwist) throw withMends(error, figures);
      throw error;
    }
  },
  results: (body: SweptBody) => [...bodyResults(body), ...strandResults(body), ...sideResults(body)],
  async measure(body: SweptBody, poll) {
    await body.measured(poll);
    await nearestStrands(body, poll);
  },
  marks: sweepMarks,
  changesAlong: ({ size = 'even', twistBy = 'none', hold }) =>
    size !== 'even' || twistBy !== 'none' || hold === 'guided',
  check: checkSweep,
});

/** Of a section that stands upright in the plane of its path: how far it reaches in that plane, and across it. */
function sideResults({ swept }: SweptBody): Result[] {
  const [first] = swept;
  const plane = !first || first.round ? undefined : planeOf(first.original);
  if (!first || !plane) return [];
  const { section, original } = first;
  const { ex, ey } = sectionStands(first, original.length / 2);
  const { left, right, low, high } = section.box;
  const [wide, tall] = [norm(ex) * (right - left), norm(ey) * (high - low)];
  const lean = Math.abs(dot(unit(ex), plane));
  if (lean > UPRIGHT && lean < 1 - UPRIGHT) return [];
  const [within, across] = lean > 0.5 ? [tall, wide] : [wide, tall];
  return [
    { name: 'inPlane', label: 'width in the plane of the path', value: within, quantity: 'length' },
    { name: 'acrossPlane', label: 'height across that plane', value: across, quantity: 'length' },
  ];
}
/** A section leans less than this from the plane of its path, or from square to it. */
const UPRIGHT = 1e-6;

/** Whether its wall stays as thick as it is while its size changes. */
const keepsWall = ({ wallRun, size }: SweepFigures): boolean => wallRun === 'kept' && size !== 'even';

/** A tube whose wall stays the same, square to the path. @throws Complaint at "wallRun", or at the figure in fault */
function withWallKept(path: Path, tube: Section, plan: SweepPlan): Swept {
  const scaled = { says: ['Let the wall change with the size'], set: { wallRun: 'scaled' } };
  const [outline, bore, more] = tube.contours;
  if (!bore || more || tube.wall === undefined)
    throw new Complaint(
      'Only a tube has one wall all round. Choose a tube as the section.',
      'wallRun',
      scaled,
    );
  if (plan.into)
    throw new Complaint('The wall changes where one section passes into another.', 'wallRun', scaled);
  const { symmetry, diameter, corners } = tube;
  const full = sectionOf(tube.name, [outline!], { symmetry, diameter, corners });
  const [start, end] = plan.ends.map((one): End => ({ ...one, wall: 0 })) as [End, End];
  const swept = sweptAlong(path, full, { ...plan, ends: [start, end] });
  try {
    return withEvenWall(swept, tube.wall, plan.ends);
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    const says =
      error.field || error instanceof GeometryError
        ? error.says
        : 'Where the tube is narrowest this wall leaves no bore.';
    throw new Complaint(says, 'wallRun', scaled);
  }
}

function planOf(figures: SweepFigures, section: Section): SweepPlan {
  const end = (which: 'start' | 'end'): End => ({
    shape: figures[`${which}Shape`],
    size: figures[`${which}Shape`] === 'flush' ? figures[`${which}Flush`] : figures[`${which}Size`],
    wall: figures[`${which}Wall`] ?? 0,
  });
  const { facingX, facingY, facingZ } = figures;
  return {
    hold: figures.hold,
    facing: figures.hold === 'facing' ? facingOf(facingX, facingY, facingZ) : [0, 0, 1],
    guideSizes: figures.guideSets === 'both',
    corners: figures.corners,
    bendRadius: figures.bendRadius,
    placement: {
      by: figures.by,
      corner: figures.byCorner,
      right: figures.right,
      up: figures.up,
      mirrored: figures.mirrored === 'yes',
    },
    pathIs: figures.pathIs,
    turned: figures.turned,
    laws(long, closed) {
      const round = closed ? long : undefined;
      const [width, height] = sizeLaws(figures, section, long, round);
      return { width, height, twist: twistLaw(figures, long, round), mix: mixLaw(figures, long) };
    },
    ends: [end('start'), end('end')],
    flush:
      figures.startShape === 'flush' || figures.endShape === 'flush'
        ? facingOf(figures.flushX, figures.flushY, figures.flushZ, 'flushX')
        : [0, 0, 1],
  };
}

/** Offers the two nearest twists that close, the way the twist was given. */
function withMends(open: OpenTwist, { twistBy, twist, twists }: SweepFigures): Complaint {
  const degrees = (angle: number) => `${writtenNumber(Number(((angle * 180) / Math.PI).toFixed(7)), 12)} deg`;
  const turn = 2 * Math.PI;
  const changes = [open.less, open.more];
  switch (twistBy) {
    case 'lay': {
      const last = turn * open.turns;
      // No twist at all has no lay.
      const mends = changes
        .filter((change) => Math.abs(last + change) > 1e-6)
        .map((change) => {
          const lay = (turn * open.length) / (last + change);
          return {
            says: words`Twist once in ${told(lay, 'length')}`,
            set: { twistLay: writtenFigure(lay, 'length', 'mm', 12) },
          };
        });
      return new Complaint(open.says, 'twistLay', ...mends);
    }
    case 'stations': {
      const field = cellField('twists', twists.length - 1, 'angle');
      const now = twists.at(-1)!.angle;
      const mends = changes.map((change) => ({
        says: words`End turned by ${told(now + change, 'angle')}`,
        set: { [field]: degrees(now + change) },
      }));
      return new Complaint(open.says, field, ...mends);
    }
    default: {
      const now = twistBy === 'total' ? twist : 0;
      const mends = changes.map((change) => ({
        says: words`Twist by ${told(now + change, 'angle')}`,
        set: { twistBy: 'total', twist: degrees(now + change) },
      }));
      return new Complaint(open.says, twistBy === 'none' ? 'twistBy' : 'twist', ...mends);
    }
  }
}

/** What is measured of a swept body. */
export const bodyResults = (body: SweptBody): Result[] => [
  { name: 'wireLength', label: 'length', head: 'Cut length', value: body.length, quantity: 'length' },
  // Where it folds over itself, what they would say is not so.
  ...(body.fold ? [] : massResults(body)),
  ...extentResults(body),
];
