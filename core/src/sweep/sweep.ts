import { z } from 'zod';
import { bodyKind, choice, length } from '../design/kind';
import type { Figure } from '../design/value';
import { MATERIALS, MATERIAL_IDS } from '../measure/materials';
import { Complaint, mm, words } from '../measure/words';
import { endReach } from '../path/coil';
import type { Path } from '../path/path';
import type { Section } from '../section/section';
import { activeCoils, compressionSpring, type SpringFigures } from '../spring/compression';
import { sweptBody, type Body } from './body';
import { checkSweep } from './check';

const schema = z.object({
  hold: choice('free'),
  material: choice(...MATERIAL_IDS),
  ends: choice('none', 'open', 'closed', 'ground'),
  loadedLength: length({ above: 0 }).optional(),
});

/** Section carried along a path; on a coil of round wire also the spring that it makes. */
export const sweep = bodyKind({
  kind: 'sweep',
  title: 'Body',
  noun: 'sweep',
  words: ['sweep', 'carry', 'solid', 'body', 'wire', 'spring', 'pipe', 'along'],
  inputs: { path: { takes: 'path', sets: true }, section: { takes: 'section' } },
  schema,
  defaults: { hold: 'free', material: 'spring-steel', ends: 'none' },
  evaluate(figures, { path: given, section }) {
    const paths = given.type === 'paths' ? given.paths : [given];
    for (const path of paths) {
      if (path.corners.length)
        throw new Complaint(
          words`The path has a sharp corner at ${mm(path.corners[0]!)} along: give it a radius, so that a wire can follow it.`,
          'path',
        );
      const tightest = 1 / path.tightest.curvature;
      if (section.reach >= tightest)
        throw new Complaint(
          words`The wire is too thick for this path: it bends to a radius of ${mm(tightest)} at ${mm(path.tightest.at)} along, and a wire of ${mm(section.diameter)} needs more than ${mm(section.reach)}.`,
          'section',
        );
    }
    return sweptBody(paths, section, figures.material, springOf(figures, paths[0]!, section));
  },
  figures: bodyFigures,
  check: checkSweep,
});

function springOf(
  { ends, loadedLength, material }: z.infer<typeof schema>,
  path: Path,
  section: Section,
): SpringFigures | undefined {
  if (ends === 'none') return undefined;
  if (!path.coil) throw new Complaint('Only a coil can be reckoned as a spring.', 'ends');
  const { shape } = path.coil;
  const stuff = MATERIALS[material];
  if (!('shear' in stuff))
    throw new Complaint(`No shear modulus is known for ${stuff.name}: choose a spring material.`, 'material');
  const active = activeCoils(shape.turns, ends);
  if (active <= 0)
    throw new Complaint(
      'A coil at each end does not work: with these ends more than 2 turns are needed.',
      'ends',
    );
  const free = shape.height + endReach(shape, section.diameter);
  if (loadedLength !== undefined && loadedLength > free)
    throw new Complaint(words`The spring is only ${mm(free)} long when free.`, 'loadedLength');
  return compressionSpring({
    shape,
    ends,
    wire: section.diameter,
    shear: stuff.shear,
    ...(loadedLength !== undefined && { loadedLength }),
  });
}

function bodyFigures({ length, volume, surface, extent, material, spring }: Body): Figure[] {
  const [least, most] = extent;
  const figures: Figure[] = [
    { name: 'wireLength', label: 'wire length', value: length, quantity: 'length' },
    { name: 'volume', label: 'volume', value: volume, quantity: 'volume' },
    { name: 'surface', label: 'surface', value: surface, quantity: 'area' },
    { name: 'mass', label: 'mass', value: (volume * MATERIALS[material].density) / 1000, quantity: 'mass' },
    { name: 'extentX', label: 'extent, x', value: most[0] - least[0], quantity: 'length' },
    { name: 'extentY', label: 'extent, y', value: most[1] - least[1], quantity: 'length' },
    { name: 'extentZ', label: 'extent, z', value: most[2] - least[2], quantity: 'length' },
  ];
  if (spring) figures.push(...springFigures(spring));
  return figures;
}

function springFigures({ loaded, ...spring }: SpringFigures): Figure[] {
  return [
    { name: 'index', label: 'index', value: spring.index, quantity: 'number' },
    { name: 'totalCoils', label: 'total coils', value: spring.totalCoils, quantity: 'number' },
    { name: 'activeCoils', label: 'active coils', value: spring.activeCoils, quantity: 'number' },
    { name: 'freeLength', label: 'free length', value: spring.freeLength, quantity: 'length' },
    { name: 'solidLength', label: 'solid length', value: spring.solidLength, quantity: 'length' },
    { name: 'axialGap', label: 'axial gap', value: spring.axialGap, quantity: 'length' },
    { name: 'rate', label: 'rate', value: spring.rate, quantity: 'rate' },
    { name: 'linearTravel', label: 'rate holds for', value: spring.linearTravel, quantity: 'length' },
    ...(loaded
      ? ([
          { name: 'loadedLength', label: 'loaded length', value: loaded.length, quantity: 'length' },
          { name: 'travel', label: 'travel', value: loaded.travel, quantity: 'length' },
          { name: 'load', label: 'load', value: loaded.force, quantity: 'force' },
          { name: 'stress', label: 'stress there', value: loaded.stress, quantity: 'stress' },
        ] as const)
      : []),
  ];
}
