/** What the things on a stage look like: materials of bodies, inks of lines, and what is clear. */
import {
  BackSide,
  Color,
  DoubleSide,
  LineBasicMaterial,
  MeshBasicMaterial,
  MeshLambertMaterial,
  type Material,
} from 'three';
import type { Material as BodyMaterial } from '@nematos/core/measure/materials';
import type { Step } from '@nematos/core/design/schema';
import { colourOf } from '@nematos/core/view/made-of';
import type { Opening } from '@nematos/core/view/opening';
import type { Theme } from '../ui/theme';
import type { Looks } from '../worker/messages';
import { clipping, hatched } from './caps';
import { roomLight } from './light';

const INK: Record<Theme, { line: string; aside: string; ghost: string; edge: string; shadow: number }> = {
  light: { edge: '#1d2b2f', line: '#3a4a9f', aside: '#b3623f', ghost: '#3a4a9f', shadow: 0.12 },
  dark: { edge: '#10181b', line: '#97a4f5', aside: '#e0997a', ghost: '#97a4f5', shadow: 0.34 },
};

/** Triangles seen from inside. */
const INSIDE = '#a83a3a';

/** So many materials of bodies are kept where none of them is shown. */
const KEPT = 24;

/** Steps with the colour they give to what comes through them, as far as they have one. */
export type Colours = readonly Pick<Step, 'id' | 'colour'>[];

const clear = (opacity: number): MeshBasicMaterial =>
  new MeshBasicMaterial({ transparent: true, opacity, depthWrite: false });

/** The materials of one stage; made once and kept: a renderer compiles a program for each new material. */
export class Materials {
  readonly line = new LineBasicMaterial({ transparent: true, opacity: 0.65 });
  readonly chosenLine = new LineBasicMaterial();
  readonly asideLine = new LineBasicMaterial({ transparent: true, opacity: 0.75 });
  readonly ghost = clear(0.13);
  /** What is cut away, where it is still to be seen. */
  readonly cutAway = clear(0.1);
  /** Edges of triangles, and those that are seen from inside. */
  readonly wire = new MeshBasicMaterial({ wireframe: true, transparent: true, opacity: 0.5 });
  readonly inside: MeshBasicMaterial;
  /** What is taken away from a body, until it is. */
  private readonly shell = clear(0.22);
  private readonly ofBodies = new Map<string, Material>();
  private opening: Opening | undefined;

  /** `pixels` is how many there are to a CSS pixel. */
  constructor(pixels: number) {
    this.inside = hatched(INSIDE, new Color('#ffffff'), { hatch: 'single', k: 0 }, pixels, BackSide);
  }

  /** For a part of a body that looks so, in the colour of the last step it came through that has one. */
  of({ look: [own, ...matt], hatch, clear, by }: Looks[number], colours: Colours): Material {
    if (clear) return this.shell;
    const look = [colourOf(colours, by) ?? own, ...matt] as const;
    const key = `${look.join()} ${hatch}`;
    let found = this.ofBodies.get(key);
    if (!found) {
      this.ofBodies.set(key, (found = surface(look)));
      found.userData.hatch = hatch;
      this.clip(found);
    }
    return found;
  }

  /** Draws no longer what an opening cuts away, or all again. */
  open(opening: Opening | undefined): void {
    this.opening = opening;
    for (const material of [...this.ofBodies.values(), this.wire, this.inside]) this.clip(material);
    if (!opening) return;
    this.cutAway.clippingPlanes = opening.planes.map((plane) => clipping(plane).negate());
    this.cutAway.clipIntersection = !opening.corner;
  }

  private clip(material: Material) {
    material.clippingPlanes = this.opening?.planes.map(clipping) ?? [];
    material.clipIntersection = this.opening?.corner ?? false;
    material.clipShadows = true;
    // By the side that is lit: a foot that is thinner than the shadow's bias would leave a bright edge on the ground.
    material.shadowSide = DoubleSide;
  }

  /** Takes the inks of a theme; tells that of edges, and how dark a shadow is. */
  dress(theme: Theme): { readonly edge: string; readonly shadow: number } {
    const ink = INK[theme];
    for (const one of [this.ghost, this.shell, this.cutAway]) one.color.set(ink.ghost);
    for (const one of [this.line, this.chosenLine]) one.color.set(ink.line);
    this.wire.color.set(ink.edge);
    this.asideLine.color.set(ink.aside);
    return ink;
  }

  /** Turns the room that metal mirrors, rad about z. */
  turnRoom(azimuth: number): void {
    for (const material of this.ofBodies.values())
      if (material instanceof MeshBasicMaterial) material.envMapRotation.set(0, 0, azimuth);
  }

  /** Frees the materials of combined bodies, except the last ones. */
  thin(): void {
    for (const [key, material] of [...this.ofBodies].slice(0, -KEPT)) {
      material.dispose();
      this.ofBodies.delete(key);
    }
  }

  /** Lets the programs of a renderer go. */
  dispose(): void {
    const { line, chosenLine, asideLine, ghost, cutAway, wire, inside, shell } = this;
    for (const one of [line, chosenLine, asideLine, ghost, cutAway, wire, inside, shell]) one.dispose();
    for (const one of this.ofBodies.values()) one.dispose();
  }
}

/** Metal mirrors the room in its own colour; what is not metal is lit. */
function surface([colour, roughness, metalness]: BodyMaterial['look']): Material {
  // Matt stuff gives back all around what it takes in: less to the eye than a mirror does.
  const matt = metalness < 0.5;
  const color = new Color(colour).multiplyScalar(matt ? 1.4 : 1.6);
  const made = matt
    ? new MeshLambertMaterial({ color })
    : new MeshBasicMaterial({ color, envMap: roomLight(roughness) });
  made.userData.colour = colour;
  return made;
}
