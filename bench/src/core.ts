/** Speed of the core: the mesher, and the clearance of a path to itself. */
import type { SweptBody } from '@nematos/core/sweep/body';
import {
  BufferAttribute,
  BufferGeometry,
  Curve,
  DoubleSide,
  MeshBasicMaterial,
  Raycaster,
  Mesh as ThreeMesh,
  TubeGeometry,
  Vector3,
} from 'three';
import { selfClearance } from '@nematos/core/check/clearance';
import { createCache, evaluate } from '@nematos/core/design/evaluate';
import { addStep, setInput } from '@nematos/core/design/edit';
import { emptyDesign } from '@nematos/core/design/schema';
import type { Path } from '@nematos/core/path/path';
import { meshOfSize } from '@nematos/core/sweep/skin/mesh';
import { type Mesh } from '@nematos/core/mesh/data/mesh';
import { SpentMemory } from '@nematos/core/mesh/data/memory';
import { rimOf } from '@nematos/core/sweep/skin/rim';
import { rayHits } from '@nematos/core/mesh/query/ray';
import { cutterOf, facesOfLoops, filledFace } from '@nematos/core/mesh/cut/cut';
import { FRAME, ONE_FRAME, fixedWork, heldAgainst, inFrames } from './fixed-work';
import { median, race, ratio, type Row } from './measure';

const CORNERS = 16;
const STEPS = 31_250; // 16 × 2 × 31,250 = 1,000,000 triangles
const RADIUS = 10;
const TURNS = 500;
const HEIGHT = 2000;

async function body(
  section = 'round',
  set: Record<string, string> = { diameter: '2 mm' },
  law = {},
): Promise<SweptBody> {
  const design = emptyDesign('bench');
  addStep(design, section, 0, set);
  addStep(design, 'helix', 1, { diameter: `${2 * RADIUS} mm`, turns: String(TURNS), height: `${HEIGHT} mm` });
  const id = addStep(design, 'sweep', 2, law);
  setInput(design, id, 'path', 'helix');
  const { steps } = await evaluate(design, createCache());
  return steps[2]!.value as SweptBody;
}

/** The same helix as three wants it. */
class Helix extends (Curve as unknown as new () => Curve<Vector3>) {
  override getPoint(t: number, target = new Vector3()): Vector3 {
    const angle = 2 * Math.PI * TURNS * t;
    return target.set(RADIUS * Math.cos(angle), RADIUS * Math.sin(angle), HEIGHT * t);
  }
}

export async function mesherRows(): Promise<Row[]> {
  const [swept] = (await body()).swept;
  const rims = swept!.section.contours.map((contour) =>
    rimOf(contour, { chord: 1, step: contour.length / CORNERS }),
  );
  // As in the application, where the memory of a mesh that is shown no more is laid into again.
  const memory = new SpentMemory();
  const done = ({ positions, normals, triangles }: Mesh) =>
    memory.giveBack([positions, normals, triangles].map(({ buffer }) => buffer as ArrayBuffer));
  const size = { intervals: [STEPS], rims, tolerance: 0 };
  const ours = () => done(meshOfSize(swept!, size, memory));
  const fresh = () => meshOfSize(swept!, size);
  const curve = new Helix();
  // Arc lengths are looked up in a table of this many entries: as many as there are stations, as a user would.
  curve.arcLengthDivisions = STEPS;
  const theirs = () => new TubeGeometry(curve, STEPS, 1, CORNERS, false);
  // A star of twelve corners, twisted once in 30 mm, each side in one: the same number of triangles.
  const [twisted] = (
    await body('star', { tips: '6', size: '3 mm', valley: '0.6' }, { twistBy: 'lay', twistLay: '30 mm' })
  ).swept;
  const starRims = twisted!.section.contours.map((contour) => rimOf(contour, { chord: 1, step: 10 }));
  const starSides = starRims[0]!.sides.length / 2;
  const starSteps = Math.round((STEPS * CORNERS) / starSides);
  const star = () =>
    done(meshOfSize(twisted!, { intervals: [starSteps], rims: starRims, tolerance: 0 }, memory));
  const out = fresh();
  const copy = () => [out.positions.slice(), out.normals.slice(), out.triangles.slice()];
  /** Takes as much fresh memory and writes once on every page of 4 kB: what the system asks for it. */
  const touch = () => {
    for (const { length } of [out.positions, out.normals, out.triangles]) {
      const fresh = new Uint32Array(length);
      for (let i = 0; i < length; i += 1024) fresh[i] = 1;
    }
  };
  const [mine, tube, copied, touched, starred, freshly] = race(
    [ours, theirs, copy, touch, star, fresh],
    9,
  ) as [number[], number[], number[], number[], number[], number[]];
  const faster = ratio(tube, mine);
  const copies = ratio(mine, copied);
  const slower = ratio(starred, mine);
  const rate = out.triangles.length / 3 / median(mine) / 1000;
  return [
    {
      what: `sweep mesher against TubeGeometry of three, 1 M triangles, same stations and corners (${rate.toFixed(0)} M triangles a second: ${median(mine).toFixed(0)} ms, laid where a mesh stood that is shown no more; in fresh memory ${ratio(tube, freshly).toFixed(1)} times, ${median(freshly).toFixed(0)} ms, ${median(touched).toFixed(0)} of them its first touch)`,
      measured: `${faster.toFixed(1)} times faster`,
      bar: 'at least 15 times',
      met: faster >= 15,
    },
    {
      what: 'sweep mesher against copying its own output',
      measured: `${copies.toFixed(1)} times the copy`,
      bar: 'at most 6 times',
      met: copies <= 6,
    },
    {
      what: `a star of ${starSides} corners with a twist, 1 M triangles with exact normals (${median(starred).toFixed(0)} ms), against the round`,
      measured: `${slower.toFixed(1)} times the round`,
      bar: 'at most 3 times',
      met: slower <= 3,
    },
  ];
}

/** Every pair of segments' ends further apart than 0.6 turns. */
function bruteForce(path: Path, samples: number): number {
  const p = Float64Array.from({ length: 3 * (samples + 1) });
  for (let i = 0; i <= samples; i++) p.set(path.at((path.length * i) / samples).position, 3 * i);
  const apart = Math.ceil((0.6 / TURNS) * samples);
  let least = Infinity;
  for (let i = 0; i <= 3 * samples; i += 3)
    for (let j = i + 3 * apart; j <= 3 * samples; j += 3) {
      const [x, y, z] = [p[i]! - p[j]!, p[i + 1]! - p[j + 1]!, p[i + 2]! - p[j + 2]!];
      const d = x * x + y * y + z * z;
      if (d < least) least = d;
    }
  return Math.sqrt(least);
}

export async function clearanceRow(): Promise<Row> {
  const path = (await body()).paths[0]!;
  const samples = 10_000;
  const poll = async () => {};
  const tree: number[] = [];
  const brute: number[] = [];
  // As in the application, where it is asked again at every edit: warm, but for the first rounds.
  for (let round = 0; round < 25; round++) {
    let start = performance.now();
    await selfClearance(path, [samples], 1000, poll);
    tree.push(performance.now() - start);
    if (round % 4) continue;
    start = performance.now();
    bruteForce(path, samples);
    brute.push(performance.now() - start);
  }
  const warm = tree.slice(8);
  const faster = median(brute) / median(warm);
  return {
    what: `clearance of a path of 10,000 samples against all pairs (${median(warm).toFixed(0)} ms)`,
    measured: `${faster.toFixed(0)} times faster`,
    bar: 'at least 100 times',
    met: faster >= 100,
  };
}

/** Steps along the part that is cut. */
const CUT_STEPS = 12_500; // 16 × 2 × 12,500 = 400,000 triangles
/** A pointer followed over a long coil: what is under it found, as the stage does and as three does. */
export async function pointRow(): Promise<Row> {
  const mesh = await largeMesh();
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setIndex(new BufferAttribute(mesh.triangles, 1));
  geometry.computeBoundingSphere();
  const object = new ThreeMesh(geometry, new MeshBasicMaterial({ side: DoubleSide }));
  const rays = Array.from({ length: 40 }, (_x, i) => {
    const turn = 0.7 * i;
    const from = new Vector3(60 * Math.cos(turn), 60 * Math.sin(turn), 200 + 40 * i);
    return new Raycaster(from, new Vector3(0, 0.02 * (i % 5), 40 * i + 210).sub(from).normalize());
  });
  const fixed = fixedWork(FRAME);
  const meanwhile: number[] = [];
  const times = rays.map(({ ray: { origin, direction } }) => {
    const begun = performance.now();
    rayHits(mesh, origin.toArray(), direction.toArray());
    const time = performance.now() - begun;
    meanwhile.push(fixed());
    return time;
  });
  const begun = performance.now();
  for (const ray of rays) ray.intersectObject(object);
  const theirs = (performance.now() - begun) / rays.length;
  const held = heldAgainst(times.slice(5), meanwhile);
  return {
    what: `a pointer over ${mesh.triangles.length / 3000} k triangles, what is under it found, 95th percentile of ${times.length - 5}`,
    measured: `${inFrames(held)}, ${(theirs / median(times)).toFixed(1)} times as fast as three's ray`,
    bar: ONE_FRAME,
    met: held.met,
  };
}

/** A coil of 400,000 triangles. */
async function largeMesh(): Promise<Mesh> {
  const [swept] = (await body()).swept;
  const rims = swept!.section.contours.map((contour) =>
    rimOf(contour, { chord: 1, step: contour.length / CORNERS }),
  );
  return meshOfSize(swept!, { intervals: [CUT_STEPS], rims, tolerance: 0 });
}

/** A plane dragged through a long coil: the cut face found, and filled, at each of many places. */
export async function cutRow(): Promise<Row> {
  const mesh = await largeMesh();
  const cut = cutterOf(mesh);
  const fixed = fixedWork(FRAME);
  const times: number[] = [];
  const meanwhile: number[] = [];
  let loops = 0;
  for (let i = 0; i < 40; i++) {
    const begun = performance.now();
    const face = cut({ point: [0, -9 + 0.45 * i, 0], normal: [0, 1, 0] });
    for (const one of facesOfLoops(face.loops)) filledFace(one);
    times.push(performance.now() - begun);
    meanwhile.push(fixed());
    loops += face.loops.length / 40;
  }
  const held = heldAgainst(times.slice(5), meanwhile);
  return {
    what: `a plane dragged through ${mesh.triangles.length / 3000} k triangles, the cut face of ${loops.toFixed(0)} outlines found and filled, 95th percentile of ${times.length - 5}`,
    measured: inFrames(held),
    bar: ONE_FRAME,
    met: held.met,
  };
}
