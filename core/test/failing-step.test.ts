/** What goes wrong in one step stays there: the others are told all the same. */
import { expect } from 'chai';
import { addStep } from '../src/design/edit';
import { kindNamed } from '../src/design/registry';
import { emptyDesign, type Design } from '../src/design/schema';
import { report } from '../src/exchange/report';
import { Complaint, told, words } from '../src/measure/words';
import { meshVolume } from '../src/mesh/data/topology';
import { KernelError } from '../src/solid/kernel/error';
import type { FilletedBody } from '../src/solid/body/body';
import { valueOf } from './helpers';
import { inLong } from './runs';

const go = async () => {};

/** Something of a kind done by another function, while some work is done. */
async function instead<T>(
  kind: string,
  part: 'check' | 'evaluate' | 'measure',
  act: () => never,
  work: () => Promise<T>,
): Promise<T> {
  const known = kindNamed(kind) as unknown as Record<string, unknown>;
  const own = known[part];
  known[part] = act;
  try {
    return await work();
  } finally {
    known[part] = own;
  }
}

/** A ball in a ring whose walls it meets at a shallow angle. */
function rounded(radius: string): Design {
  const made = emptyDesign('Rounded');
  addStep(made, 'ball', 0, { diameter: '30 mm', originX: '11 mm' });
  addStep(made, 'ring', 1, { inner: '10 mm', thickness: '6 mm' });
  addStep(made, 'add', 2, {});
  addStep(made, 'weld', 3, { radius });
  return made;
}

describe('a step that fails', () => {
  const design = (): Design => {
    const made = emptyDesign('Two balls');
    addStep(made, 'ball', 0, { diameter: '10 mm' });
    addStep(made, 'cylinder', 1, { diameter: '8 mm', height: '20 mm' });
    return made;
  };
  const FAILURES: readonly (readonly [string, () => Error, RegExp])[] = [
    [
      'what the kernel made wrongly',
      () => new KernelError(words`it has ${told(967.5832142177636, 'volume')}`),
      /967\.6 mm³/,
    ],
    [
      'a mistake of the program',
      () => new TypeError("Cannot read properties of undefined (reading 'x')"),
      /failed/,
    ],
    ['a calculation that is too deep', () => new RangeError('Maximum call stack size exceeded'), /failed/],
    ['something that has no room', () => new Complaint('This has no room.'), /no room/],
  ];
  for (const [what, error, says] of FAILURES)
    for (const part of ['check', 'evaluate', 'measure'] as const)
      it(`${what}, in its ${part}: told at the step, and all other steps are reported`, async () => {
        const whole = await report(design());
        const found = await instead(
          'ball',
          part,
          () => {
            throw error();
          },
          () => report(design()),
        );
        const others = <T extends { step: string | null }>(all: T[]) =>
          all.filter(({ step }) => step === 'cylinder');
        expect(others(found.figures)).deep.equal(others(whole.figures));
        // How it stands to a body that is not made cannot be told.
        const ofItself = (all: typeof found.findings) =>
          others(all.filter(({ name }) => name !== 'overlap ball'));
        expect(ofItself(found.findings)).deep.equal(ofItself(whole.findings));
        const toldOf =
          part === 'check'
            ? found.findings.filter(({ name }) => name === 'unchecked').map(({ detail }) => detail)
            : found.complaints.filter(({ step }) => step === 'ball').map((one) => one.says);
        expect(toldOf).lengthOf(1);
        expect(toldOf[0]).match(says);
      });

  it('joints that a rolled ball would fold over keep no other step from being reported', async () => {
    const design = rounded('0.5 mm');
    addStep(design, 'cylinder', 4, { originX: '100 mm' });
    const { figures, findings, complaints } = await report(design);
    for (const id of ['ball', 'ring', 'add', 'cylinder']) {
      const volume = figures.some(({ step, name }) => step === id && name === 'volume');
      expect(volume, id).equal(true);
      expect(
        findings.some(({ step }) => step === id),
        id,
      ).equal(true);
    }
    expect(complaints).have.length(1);
    const [{ step, field, says }] = complaints as [(typeof complaints)[0]];
    expect([step, field]).deep.equal(['weld', 'radius']);
    const most = /^What a ball of this radius leaves runs through itself where .*: up to 0\.4\d+ mm/.exec(
      says,
    );
    expect(most, says).not.equal(null);
    for (const { says, detail = '' } of findings) expect(`${says} ${detail}`).not.match(/\d\.\d{7}/);
  });

  inLong('joints that do not fold hold what their meshes hold, up to the radius that is told', async () => {
    for (const radius of [0.3, 0.44]) {
      const design = rounded(`${radius} mm`);
      const { figures } = await report(design);
      const volumes = ['add', 'weld'].map((id) =>
        figures.find(({ step, name }) => step === id && name === 'volume')!,
      );
      const held: number[] = [];
      for (const id of ['add', 'weld']) {
        const { positions, triangles } = await ((await valueOf(design, id)) as FilletedBody).solid(0.005, go);
        held.push(meshVolume(positions, triangles));
      }
      const [laid, meshed] = [volumes, held.map((value) => ({ value }))].map(
        ([before, after]) => after!.value - before!.value,
      );
      expect(meshed, `${radius} mm`).closeTo(laid!, volumes[1]!.within!);
    }
  });

  it('prints no raw digits of a figure, wherever its message is printed', () => {
    for (const [value, quantity, says] of [
      [967.5832142177636, 'volume', '967.583 mm3'],
      [1 / 3, 'length', '0.333333 mm'],
      [Math.PI / 7, 'angle', '25.7143°'],
      [2 / 3, 'number', '0.666667'],
    ] as const)
      expect(new Complaint(words`It is ${told(value, quantity)}.`).message).equal(`It is ${says}.`);
  });
});
