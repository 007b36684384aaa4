import type { Design, Step } from '@nematos/core/design/schema';
import {
  Fig,
  Follows,
  MoreLine,
  OptionalSource,
  Pick,
  Source,
  useSet,
  type Editor,
} from '../../fields/editor';
import { RowsTable } from '../../fields/rows-table';
import { Three } from './place';

const WAYS = [
  ['round', 'round an axis'],
  ['screw', 'as a screw'],
  ['row', 'in a row'],
  ['along', 'along a path'],
  ['rows', 'at rows of a table'],
  ['mirror', 'as a mirrored pair'],
] as const;

/** Figures that a way of repeating begins with: of copies, span and step two. */
const BEGINS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  round: { copies: '6', span: '360 deg' },
  screw: { copies: '6', step: '60 deg' },
  row: { copies: '5', apart: '10 mm', axisX: '1', axisY: '0', axisZ: '0' },
  along: { copies: '6' },
  rows: {},
  mirror: {},
};

function begin(_draft: Design, step: Step, way: string): void {
  for (const field of ['copies', 'span', 'step', 'long', 'apart']) delete step.set[field];
  Object.assign(step.set, BEGINS[way]);
  if (way === 'rows' && !step.rows?.places?.length)
    (step.rows ??= {}).places = [
      { x: '0 mm', y: '0 mm', z: '0 mm' },
      { x: '20 mm', y: '0 mm', z: '0 mm' },
    ];
}

function Sentence() {
  const set = useSet();
  return (
    <>
      Repeat <Source slot="of" name="what is repeated" />{' '}
      <Pick field="way" name="way of repeating" options={WAYS} also={begin} />
      <Way way={set.way!} />.
    </>
  );
}

function Way({ way }: { way: string }) {
  switch (way) {
    case 'round':
    case 'screw':
      return (
        <>
          : <Given span="span" step="step" />
          {way === 'screw' && (
            <>
              , rising <Fig field="pitch" name="rise a turn" after="a turn" />
            </>
          )}
        </>
      );
    case 'row':
      return (
        <>
          : <Given span="long" step="apart" />, in the direction{' '}
          <Three field="axis" says="direction of the row" />
        </>
      );
    case 'along':
      return (
        <>
          : <Fig field="copies" name="copies" after="copies" /> along{' '}
          <OptionalSource slot="along" none="choose a path" noun="path" />,{' '}
          <Pick
            field="turning"
            name="attitude"
            options={[
              ['turning', 'turning with it'],
              ['upright', 'never turned'],
            ]}
          />
        </>
      );
    case 'mirror':
      return (
        <>
          , mirrored in{' '}
          <Pick
            field="across"
            name="mirrored in"
            options={[
              ['x', 'x'],
              ['y', 'y'],
              ['z', 'z'],
            ]}
          />
        </>
      );
    default:
      return null;
  }
}

/** Copies, span and step: two are given, the third can be given instead. */
function Given({ span, step }: { span: 'span' | 'long'; step: 'step' | 'apart' }) {
  const set = useSet();
  return (
    <>
      {set.copies !== undefined && <Fig field="copies" name="copies" after="copies" />}
      {set.copies !== undefined && ', '}
      {set[span] !== undefined && <Fig field={span} name="span" after="in all" />}
      {set[span] !== undefined && set[step] !== undefined && ', '}
      {set[step] !== undefined && <Fig field={step} name="step" after="from one to the next" />}
    </>
  );
}

function Table() {
  const set = useSet();
  return set.way === 'rows' ? (
    <RowsTable
      table="places"
      columns={[
        { name: 'x', head: 'x' },
        { name: 'y', head: 'y' },
        { name: 'z', head: 'z' },
        { name: 'turn', head: 'turned by' },
      ]}
    />
  ) : null;
}

function More() {
  const { way } = useSet();
  return (
    <>
      {(way === 'round' || way === 'screw' || way === 'rows') && (
        <MoreLine label="axis along x, y, z">
          <Three field="axis" says="axis" />
        </MoreLine>
      )}
      {way !== 'row' && way !== 'along' && (
        <MoreLine label="through x, y, z">
          <Three field="about" says="point of the axis" />
        </MoreLine>
      )}
      <MoreLine label="left out">{null}</MoreLine>
      <RowsTable table="left" columns={[{ name: 'number', head: 'copy' }]} />
    </>
  );
}

/** The one of copies, span and step that follows from the others. */
function Following() {
  switch (useSet().way) {
    case 'round':
    case 'screw':
      return <Follows fields={['copies', 'span', 'step']} />;
    case 'row':
      return <Follows fields={['copies', 'long', 'apart']} />;
    default:
      return null;
  }
}

export const repeat: Editor = {
  Sentence,
  Following,
  Table,
  More,
  results: ['bodies', 'paths', 'volume', 'mass'],
};
