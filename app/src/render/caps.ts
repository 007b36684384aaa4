/** Cut faces of opened bodies: filled, hatched and outlined, laid where planes meet their meshes. */
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  Plane as ThreePlane,
  Vector3,
  type Side,
} from 'three';
import type { Plane } from '@nematos/core/geometry/plane';
import { cutterOf, facesOfLoops, filledFace, type CutFace } from '@nematos/core/mesh/cut/cut';
import type { Hatch } from '@nematos/core/measure/materials';
import type { Mesh as BodyMesh } from '@nematos/core/mesh/data/mesh';
import type { Opening } from '@nematos/core/view/opening';

/** A body that is cut. */
export interface CutBody {
  readonly step: string;
  readonly mesh: BodyMesh;
  readonly colour: string;
  readonly hatch: Hatch;
}

export interface Caps {
  readonly group: Group;
  /** Lays the cut faces again; by plane, its section of each body. */
  lay(bodies: readonly CutBody[], opening: Opening | undefined): CutFace[][];
  dress(ink: string): void;
  dispose(): void;
}

/** The plane as three has it: what lies before it stays. */
export const clipping = ({ point, normal }: Plane): ThreePlane =>
  new ThreePlane().setFromNormalAndCoplanarPoint(new Vector3(...normal), new Vector3(...point));

/** The planes that what stays of one cut face is clipped by. */
const besides = ({ planes, corner }: Opening, i: number): ThreePlane[] =>
  planes.flatMap((plane, k) => (k === i ? [] : [corner ? clipping(plane).negate() : clipping(plane)]));

const cutters = new WeakMap<BodyMesh, ReturnType<typeof cutterOf>>();
const cutterFor = (mesh: BodyMesh) => {
  let found = cutters.get(mesh);
  if (!found) cutters.set(mesh, (found = cutterOf(mesh)));
  return found;
};

/** Cut faces of the objects on a stage; `pixels` is how many there are to a CSS pixel. */
export function makeCaps(pixels: number): Caps {
  const group = new Group();
  const line = new LineBasicMaterial();
  const used: { dispose(): void }[] = [];
  const ink = new Color();

  const clear = () => {
    group.clear();
    for (const one of used.splice(0)) one.dispose();
  };

  return {
    group,
    lay(bodies, opening) {
      clear();
      return (opening?.planes ?? []).map((plane, i) => {
        const planes = besides(opening!, i);
        return bodies.map(({ step, mesh, colour, hatch }, k) => {
          const face = cutterFor(mesh)(plane);
          const fill = hatched(colour, ink, { hatch, k }, pixels);
          fill.clippingPlanes = planes;
          const edge = line.clone();
          edge.color.copy(ink);
          edge.clippingPlanes = planes;
          const [within, about] = geometriesOf(face);
          const faces = [new Mesh(within, fill), new LineSegments(about, edge)];
          for (const object of faces) {
            Object.assign(object.userData, { step, cap: true });
            used.push(object.geometry);
          }
          used.push(fill, edge);
          group.add(...faces);
          return face;
        });
      });
    },
    dress(next) {
      ink.set(next);
      for (const object of group.children)
        if (object instanceof LineSegments) (object.material as LineBasicMaterial).color.copy(ink);
    },
    dispose() {
      clear();
      line.dispose();
    },
  };
}

/** What fills a cut face, and its outlines: over the same points. */
function geometriesOf({ frame, loops }: CutFace): readonly [fill: BufferGeometry, edges: BufferGeometry] {
  const count = loops.reduce((n, loop) => n + loop.length / 2, 0);
  const places = new Float32Array(3 * count);
  const ends = new Uint32Array(2 * count);
  const corners: number[] = [];
  const {
    origin: [ox, oy, oz],
    ex: [xx, xy, xz],
    ey: [yx, yy, yz],
  } = frame;
  let at = 0;
  const put = (loop: Float64Array) => {
    const first = at;
    for (let i = 0; i < loop.length; i += 2, at++) {
      const x = loop[i]!;
      const y = loop[i + 1]!;
      places[3 * at] = ox + x * xx + y * yx;
      places[3 * at + 1] = oy + x * xy + y * yy;
      places[3 * at + 2] = oz + x * xz + y * yz;
      ends[2 * at] = at;
      ends[2 * at + 1] = at + 1;
    }
    ends[2 * at - 1] = first;
  };
  for (const face of facesOfLoops(loops)) {
    const first = at;
    for (const corner of filledFace(face)) corners.push(first + corner);
    put(face.outline);
    face.holes.forEach(put);
  }
  const position = new BufferAttribute(places, 3);
  return [Uint32Array.from(corners), ends.subarray(0, 2 * at)].map((index) => {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', position);
    geometry.setIndex(new BufferAttribute(index, 1));
    return geometry;
  }) as [BufferGeometry, BufferGeometry];
}

/** CSS pixels from line to line of the hatching, and how wide one is. */
const APART = 7;
const WIDE = 1.1;

/** How bare of ink a place is that lies so many lines across. */
const INKED = `float inked(float across) {
  float off = abs(fract(across) - 0.5) * 2.0;
  return smoothstep(hatchWide * 0.5, hatchWide * 2.2, off);
}`;
/** Lines as many times as far apart, and of how many in turn each is left out or crossed. */
const LINES: Readonly<Record<Hatch, { readonly apart: number; readonly code: number }>> = {
  single: { apart: 1, code: 0 },
  paired: { apart: 0.62, code: 1 },
  crossed: { apart: 1.25, code: 2 },
};

/** A flat colour with fine slanted lines in ink, as its material has them; of the next body they lean the other way. */
export function hatched(
  colour: string,
  ink: Color,
  { hatch, k }: { readonly hatch: Hatch; readonly k: number },
  pixels: number,
  side: Side = DoubleSide,
): MeshBasicMaterial {
  const material = new MeshBasicMaterial({
    color: new Color(colour).lerp(new Color('#ffffff'), side === DoubleSide ? 0.35 : 0),
    side,
  });
  const lean = (k % 2 ? -1 : 1) * Math.PI * (0.25 + 0.08 * Math.floor(k / 2));
  const uniforms = {
    hatchWay: {
      value: new Vector3(Math.cos(lean), Math.sin(lean), 1 / (LINES[hatch].apart * APART * pixels)),
    },
    // The ink itself: what is drawn follows it when the theme is another.
    hatchInk: { value: ink },
    hatchWide: { value: WIDE / (LINES[hatch].apart * APART) },
    hatchCode: { value: LINES[hatch].code },
  };
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, uniforms);
    shader.fragmentShader = shader.fragmentShader
      .replace(
        '#include <common>',
        '#include <common>\nuniform vec3 hatchWay;\nuniform vec3 hatchInk;\nuniform float hatchWide;\nuniform int hatchCode;\n' +
          INKED,
      )
      .replace(
        '#include <color_fragment>',
        `#include <color_fragment>
        float across = dot(gl_FragCoord.xy, hatchWay.xy) * hatchWay.z;
        // Of three lines in turn the third is left out where they go two by two.
        float bare = hatchCode == 1 && mod(floor(across), 3.0) > 1.5 ? 1.0 : inked(across);
        if (hatchCode == 2) bare = min(bare, inked(dot(gl_FragCoord.xy, vec2(-hatchWay.y, hatchWay.x)) * hatchWay.z));
        diffuseColor.rgb = mix(hatchInk, diffuseColor.rgb, 0.35 + 0.65 * bare);`,
      );
  };
  material.customProgramCacheKey = () => 'hatched';
  return material;
}
