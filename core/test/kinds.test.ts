/** What every registered kind promises, tried on an example of it. */
import { expect } from 'chai';
import { KINDS, kindNamed, yieldsOf } from '../src/design/registry';
import { stepOf, addStep, setInput } from '../src/design/edit';
import { createCache, evaluate, type Cache } from '../src/design/evaluate';
import { writeAt } from '../src/design/literal';
import { answering } from '../src/design/offers';
import type { Design } from '../src/design/schema';
import { moved, turned, type Motion } from '../src/geometry/motion';
import { distance, norm, sub } from '../src/geometry/vector';
import { fieldMeta, isOptional, type AnyKind } from '../src/kind/kind';
import { membersOf, pathsOf, typeOf, type Result, type Value } from '../src/kind/value';
import { cellOf } from '../src/measure/field';
import { sayWords } from '../src/measure/format';
import { QUANTITIES, type Quantity } from '../src/measure/quantity';
import { run } from './helpers';
import { exampleOf } from './kind-example';
import { follow } from './led';
import { byChords, expectSound } from './sound';

const resultIn = async (design: Design, id: string, cache?: Cache) =>
  (await run(design, cache)).steps.find((step) => step.id === id)!;

/** A third of a turn about x = y = z, and a shift. */
const MOTION: Motion = { origin: [5, -3, 8], ex: [0, 1, 0], ey: [0, 0, 1], ez: [1, 0, 0] };

/** The same design with a placed copy of its last step, moved by `MOTION`. */
function withPlaced(design: Design, id: string): readonly [Design, string] {
  const next = structuredClone(design);
  const copy = addStep(next, 'place', next.steps.length, {
    turn: '120 deg',
    axisX: '1',
    axisY: '1',
    axisZ: '1',
    moveX: '5 mm',
    moveY: '-3 mm',
    moveZ: '8 mm',
  });
  setInput(next, copy, 'of', id);
  return [next, copy];
}

/** So many answers of a search are read. */
const SEEN = 15;

const UNITS: Partial<Record<Quantity, string>> = { number: '', angle: ' rad' };
const written = (value: number, quantity: Quantity) =>
  `${value}${UNITS[quantity] ?? ` ${QUANTITIES[quantity].unit}`}`;

/** Fields of a kind that hold a figure, and cells of the rows in use. */
function figureFields(kind: AnyKind, design: Design, id: string): readonly (readonly [string, Quantity])[] {
  const cells = Object.entries(stepOf(design, id).rows ?? {}).flatMap(([table, rows]) =>
    rows.length
      ? Object.keys(kind.tables?.[table]?.row.shape ?? {}).map((column) => `${table}.0.${column}`)
      : [],
  );
  return [...Object.keys(kind.schema.shape), ...cells].flatMap((field) => {
    const quantity = fieldMeta(kind, field)?.quantity;
    return quantity ? [[field, quantity] as const] : [];
  });
}

const schemaAt = (kind: AnyKind, field: string) => {
  const cell = cellOf(field);
  return cell ? kind.tables![cell.table]!.row.shape[cell.column]! : kind.schema.shape[field]!;
};

function expectWhole(name: string, kind: AnyKind): void {
  expect(kind.kind).equal(name);
  expect(kindNamed(name)).equal(kind);
  for (const field of Object.keys(kind.schema.shape)) {
    const meta = fieldMeta(kind, field);
    expect(
      meta?.quantity ?? meta?.choices ?? meta?.text,
      `${field} has a quantity, choices or text`,
    ).not.equal(undefined);
    expect(isOptional(kind, field) || kind.defaults[field] !== undefined, `${field} has a default`).equal(
      true,
    );
  }
  for (const field of Object.keys(kind.defaults)) expect(kind.schema.shape).to.have.property(field);
  const places = { ...kind.schema.shape, ...kind.inputs, ...kind.tables };
  for (const field of Object.values(kind.faults ?? {})) expect(places).to.have.property(field);
}

/** A complaint must stand at a field that the kind has, and not be a mistake of the program. */
function expectOwnComplaints(
  kind: AnyKind,
  complaints: readonly { field: string; says: never[] | readonly unknown[] }[],
  what: string,
) {
  for (const { field, says } of complaints) {
    const [first] = field.split('.');
    const known = { ...kind.schema.shape, ...kind.inputs, ...kind.tables };
    expect(known, `${what}: complaint at ${field}`).to.have.property(first!);
    const told = sayWords(says as Parameters<typeof sayWords>[0], 'mm');
    expect(told, what).not.match(/calculation of this step failed|NaN|Infinity|undefined/);
  }
}

describe('every kind', () => {
  for (const [name, kind] of Object.entries(KINDS))
    describe(name, () => {
      const cache = createCache();
      it('is declared completely', () => expectWhole(name, kind));

      it('is found by its words', () => {
        expect(kind.words.length).above(2);
        for (const word of [...kind.words, kind.title]) {
          const found = answering(word).findIndex((offer) => offer.kind === name);
          expect(found, `${word} finds it among the first`).within(0, SEEN - 1);
        }
        for (const word of kind.words) expect(word).equal(word.toLowerCase());
      });

      it('is ready as it is added, with finite results of known units', async () => {
        const [design, id] = exampleOf(name);
        const { state, complaints, value, results } = await resultIn(design, id, cache);
        expect(state, JSON.stringify(complaints)).equal('ready');
        expect(value && typeOf(value)).equal(yieldsOf(stepOf(design, id), design.steps));
        const names = results.map((figure) => figure.name);
        expect(new Set(names).size, 'names of results differ').equal(names.length);
        for (const { name: called, label, value: amount, within = 0, quantity } of results) {
          expect([amount, within].every(Number.isFinite), called).equal(true);
          expect(label).not.equal('');
          expect(QUANTITIES).to.have.property(quantity);
        }
      });

      it('shows marks that go where their figures lead them', async () => {
        const [design, id] = exampleOf(name);
        await follow(design, id);
      });

      if (kind.yields === 'path' || kind.kind === 'place' || kind.kind === 'repeat')
        it('has the derivatives and the length of its points', async () => {
          const [design, id] = exampleOf(name);
          const { value } = await resultIn(design, id, cache);
          for (const path of pathsOf(value).slice(0, 3)) {
            expectSound(path);
            expect(path.length).closeTo(byChords(path), 1e-6 * path.length);
          }
        });

      if (['path', 'body'].includes(kind.yields as string))
        it('is the same once it is moved', async () => {
          const [design, id] = exampleOf(name);
          const before = await resultIn(design, id, cache);
          const [next, copy] = withPlaced(design, id);
          const after = await resultIn(next, copy, cache);
          expect(after.state, JSON.stringify(after.complaints)).equal('ready');
          expectMoved(before.value!, after.value!);
          expectSameResults(before.results, after.results);
        });

      it('says at the figure what is wrong with it', async () => {
        const [design, id] = exampleOf(name);
        // The figures of solids take long; the finite ones are looked at above.
        const wanted = kind.yields === 'body' ? 'shape' : 'all';
        const told = async (field: string, text: string) => {
          const next = structuredClone(design);
          writeAt(next, { step: id, field }, text);
          return (await evaluate(next, cache, undefined, wanted)).steps.find((step) => step.id === id)!;
        };
        for (const [field, quantity] of figureFields(kind, design, id)) {
          const wrongUnit = quantity === 'mass' ? '1 mm' : '1 g';
          for (const bad of ['1/0', 'abc', '3 +', wrongUnit]) {
            const { state, complaints } = await told(field, bad);
            expect(state, `${field} = ${bad}`).equal('fault');
            expect(
              complaints.map((one) => one.field),
              `${field} = ${bad}`,
            ).include(field);
          }
          for (const value of [-1e7, -5, 0, 1e7]) {
            const text = written(value, quantity);
            const { state, complaints, results } = await told(field, text);
            const allowed = schemaAt(kind, field).safeParse(value).success;
            const what = `${field} = ${text}`;
            if (!allowed)
              expect(
                complaints.map((one) => one.field),
                what,
              ).include(field);
            if (state === 'fault') expect(complaints, what).not.deep.equal([]);
            expectOwnComplaints(kind, complaints as never, what);
            for (const one of results) expect(Number.isFinite(one.value), `${one.name}: ${what}`).equal(true);
          }
        }
      });
    });

  it('has a name of its own that no object has', () => expect(kindNamed('toString')).equal(undefined));
});

/** Results that move with a body: what each becomes, and by how much it is shifted. */
const MOVED_RESULTS: readonly (readonly [before: string, after: string, shift: number])[] = [
  ...['length', 'wireLength', 'volume', 'surface', 'mass'].map((name) => [name, name, 0] as const),
  ...(['extent', 'pathExtent'] as const).flatMap((stem) =>
    (['XY', 'YZ', 'ZX'] as const).map(([from, to]) => [`${stem}${from}`, `${stem}${to}`, 0] as const),
  ),
  ['centreX', 'centreY', MOTION.origin[1]],
  ['centreY', 'centreZ', MOTION.origin[2]],
  ['centreZ', 'centreX', MOTION.origin[0]],
];

/** Results of a moved value are those of the value, along the moved axes. */
function expectSameResults(before: readonly Result[], after: readonly Result[]): void {
  for (const [from, to, shift] of MOVED_RESULTS) {
    const a = before.find(({ name }) => name === from);
    const b = after.find(({ name }) => name === to);
    if (!a || !b) continue;
    const off = (a.within ?? 0) + (b.within ?? 0);
    expect(b.value, `${from} as ${to}`).closeTo(a.value + shift, 1e-8 * Math.abs(a.value) + 1e-7 + off);
  }
}

/** Every place of the one is where the motion takes that of the other. */
function expectMoved(before: Value, after: Value): void {
  const [a, b] = [membersOf(before), membersOf(after)];
  expect(b.length).equal(a.length);
  for (const [i, one] of a.entries()) {
    const other = b[i]!;
    if (one.type !== 'path' || other.type !== 'path') continue;
    const size = one.length;
    for (const part of [0, 0.31, 0.77, 1]) {
      const [from, to] = [one.at(part * one.length), other.at(part * other.length)];
      expect(distance(moved(MOTION, from.position), to.position)).below(1e-9 * (size + 20));
      expect(norm(sub(turned(MOTION, from.tangent), to.tangent))).below(1e-7);
      expect(to.curvature).closeTo(from.curvature, 1e-6 * (from.curvature + 1 / size));
    }
  }
}
