import { useBench, useOfDesign, useUnit } from '../../bench/bench';
import { RowsTable, type Column } from '../../fields/rows-table';
import { referToLast } from '@nematos/core/design/edit';
import { writtenFigure } from '@nematos/core/measure/format';
import { sourceAt, type Design, type Row, type Step } from '@nematos/core/design/schema';
import { type Editor, Fig, Pick, Source, useEditing, useSet } from '../../fields/editor';
import { HOLDS } from './holds';
import { OfMaterial } from '../shared/material';
import { PickOnPart } from '../shared/pick-on-part';
import { More } from './sweep-more';

const HOLD_WORDS = HOLDS.map(([hold, word]) => [hold, word] as const);

/** A guide is wanted as soon as the section is guided: the nearest path that is not carried along itself. */
function referToGuide(draft: Design, step: Step, hold: string): void {
  if (hold === 'guided') referToLast(draft, step, 'guide', 'path', sourceAt(step, 'path'));
}

/** A law by stations begins with a row at either end. */
const beginStations =
  (table: 'sizes' | 'twists', first: Row, last: Row) =>
  (_draft: Design, step: Step, chosen: string): void => {
    if (chosen === 'stations' && !step.rows?.[table]?.length) (step.rows ??= {})[table] = [first, last];
  };

function Sentence() {
  const { step } = useEditing();
  const set = useSet();
  return (
    <>
      Carry <Source slot="section" name="section" /> along <Source slot="path" name="path" />, held{' '}
      <Pick field="hold" name="hold" options={HOLD_WORDS} also={referToGuide} />
      {set.hold === 'facing' && (
        <>
          {' '}
          <Fig field="facingX" name="direction faced, x" />, <Fig field="facingY" name="direction faced, y" />
          , <Fig field="facingZ" name="direction faced, z" />
        </>
      )}
      {set.hold === 'guided' && (
        <>
          {' '}
          by <Source slot="guide" name="guide" />, which sets{' '}
          <Pick
            field="guideSets"
            name="what the guide sets"
            options={[
              ['both', 'turn and size'],
              ['turn', 'its turn'],
            ]}
          />
        </>
      )}
      {step.from?.into && (
        <>
          , passing into <Source slot="into" name="section it passes into" />
        </>
      )}
      ; <Size />, <Twist />
      <Ends />
      {'. '}
      <OfMaterial />
    </>
  );
}

/** Sections whose size is their diameter, and those that have one wall all round. */
const ROUND = new Set(['round', 'tube']);
const HOLLOW = new Set(['tube', 'box-tube']);

/** Whether the section is of one of some kinds. */
function useSectionIn(kinds: ReadonlySet<string>): boolean {
  const { step } = useEditing();
  return useOfDesign(({ steps }) =>
    steps.some(({ id, kind }) => id === step.from?.section && kinds.has(kind)),
  );
}

function Size() {
  const { step } = useEditing();
  const set = useSet();
  const unit = useUnit();
  // Stations begin as wide as the section is.
  const wide = useBench(
    ({ seen }) =>
      seen?.steps
        .find(({ id }) => id === step.from?.section)
        ?.results.find(({ name }) => name === 'sectionWidth')?.value,
  );
  const hollow = useSectionIn(HOLLOW);
  const width = wide === undefined ? {} : { width: writtenFigure(wide, 'length', unit) };
  return (
    <>
      <Pick
        field="size"
        name="size along the path"
        also={beginStations('sizes', { part: '0', ...width }, { part: '1', ...width })}
        options={[
          ['even', 'of one size'],
          ['taper', 'tapering'],
          ['flare', 'flaring'],
          ['stations', 'sized by stations'],
        ]}
      />
      {set.size === 'taper' && (
        <>
          {' '}
          to <Fig field="endScale" name="size at the end" after="of its size" />
        </>
      )}
      {set.size === 'flare' && (
        <>
          {' '}
          by <Fig field="flare" name="flare" />
        </>
      )}
      {hollow && set.size !== 'even' && (
        <>
          {' '}
          with a wall that{' '}
          <Pick
            field="wallRun"
            name="wall along the path"
            options={[
              ['scaled', 'changes with it'],
              ['kept', 'stays the same'],
            ]}
          />
        </>
      )}
    </>
  );
}

function Twist() {
  const set = useSet();
  return (
    <>
      <Pick
        field="twistBy"
        name="twist"
        also={beginStations('twists', { part: '0', angle: '0 deg' }, { part: '1', angle: '180 deg' })}
        options={[
          ['none', 'not twisted'],
          ['total', 'twisted in all by'],
          ['lay', 'twisted once in'],
          ['stations', 'twisted by stations'],
        ]}
      />
      {set.twistBy === 'total' && (
        <>
          {' '}
          <Fig field="twist" name="twist in all" />
        </>
      )}
      {set.twistBy === 'lay' && (
        <>
          {' '}
          <Fig field="twistLay" name="length of one turn" />
        </>
      )}
    </>
  );
}

const SHAPES = [
  ['flat', 'flat'],
  ['domed', 'domed'],
  ['chamfered', 'chamfered'],
  ['flush', 'ground flush'],
] as const;

function Ends() {
  const { step } = useEditing();
  // A closed path has no ends: it ends where it begins.
  const closed = useBench(
    (bench) => bench.seen?.steps.find(({ id }) => id === step.from?.path)?.closed ?? false,
  );
  if (closed) return null;
  return (
    <>
      ; its ends <EndWords which="start" /> and <EndWords which="end" />
    </>
  );
}

function EndWords({ which }: { which: 'start' | 'end' }) {
  const set = useSet();
  const shape = set[`${which}Shape`];
  return (
    <>
      <Pick field={`${which}Shape`} name={`shape of the ${which}`} options={SHAPES} />
      {shape === 'domed' && (
        <>
          {' '}
          <Fig field={`${which}Size`} name={`height of the dome at the ${which}`} after="high" />
        </>
      )}
      {shape === 'chamfered' && (
        <>
          {' '}
          by <Fig field={`${which}Size`} name={`chamfer at the ${which}`} />
        </>
      )}
    </>
  );
}

const PLACE = [
  { name: 'part', head: 'part' },
  { name: 'along', head: 'or length' },
] as const;

/** The columns of a size: of what is round the diameter, unless it is made oval. */
function useSizeColumns(): readonly Column[] {
  const { step } = useEditing();
  const round = useSectionIn(ROUND);
  const oval = step.rows?.sizes?.some(({ height }) => height !== undefined) ?? false;
  return round && !oval
    ? [{ name: 'width', head: 'diameter' }]
    : [
        { name: 'width', head: 'width' },
        { name: 'height', head: 'height' },
      ];
}

function Table() {
  const set = useSet();
  const sizes = useSizeColumns();
  return (
    <>
      {set.size === 'stations' && (
        <>
          <RowsTable table="sizes" columns={[...PLACE, ...sizes]} />
          <PickOnPart what="sizes" noun="station" />
        </>
      )}
      {set.twistBy === 'stations' && (
        <>
          <RowsTable table="twists" columns={[...PLACE, { name: 'angle', head: 'turned by' }]} />
          <PickOnPart what="twists" noun="station" />
        </>
      )}
    </>
  );
}

export const sweep: Editor = { Sentence, Table, More, results: ['volume', 'mass', 'inPlane', 'acrossPlane'] };
