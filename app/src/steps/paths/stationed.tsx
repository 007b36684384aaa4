import { RowsTable } from '../../fields/rows-table';
import { Fig, Follows, Pick, Source, useEditing, useSet, useResult, type Editor } from '../../fields/editor';
import { referToSection } from '@nematos/core/design/edit';
import { Hand } from '../shared/hand';
import { PlacingLines } from '../shared/placing';

const LINKED = ['turns', 'pitch', 'height'] as const;

function Sentence() {
  const set = useSet();
  const has = (field: (typeof LINKED)[number]) => set[field] !== undefined;
  const closed = set.closedStart !== '0' || set.closedEnd !== '0';
  const refers = closed || set.basis !== 'mean' || (has('height') && set.heightBasis === 'overall');
  return (
    <>
      {has('turns') && <Fig field="turns" name="turns" after={has('pitch') ? 'turns' : 'turns,'} fractions />}
      {has('pitch') && (
        <>
          {has('turns') ? ' of pitch ' : 'Pitch '}
          <Fig field="pitch" name="pitch" />,
        </>
      )}{' '}
      <Hand />
      {has('height') && (
        <>
          , <Fig field="height" name="height" after="tall" />{' '}
          <Pick
            field="heightBasis"
            name="height measured"
            also={referToSection}
            options={[
              ['overall', 'overall'],
              ['centres', 'between wire centres'],
            ]}
          />
        </>
      )}
      ;{' '}
      <Pick
        field="basis"
        name="diameter measured"
        also={referToSection}
        options={[
          ['outer', 'outer'],
          ['mean', 'mean'],
          ['inner', 'inner'],
        ]}
      />{' '}
      <Fig field="diameter" name="diameter" before="diameter" />, described by{' '}
      <Pick
        field="described"
        name="stations give"
        options={[
          ['whole', 'the whole'],
          ['half', 'its half'],
        ]}
      />
      . Closed coils: <Fig field="closedStart" name="closed coils at the start" fractions /> below,{' '}
      <Fig field="closedEnd" name="closed coils at the end" fractions /> above
      {closed && (
        <>
          , passing over in <Fig field="transition" name="transition" after="turns" fractions />
        </>
      )}
      {refers && (
        <>
          ; for <Source slot="section" name="section" />
        </>
      )}
      .
    </>
  );
}

function Table() {
  return (
    <RowsTable
      table="stations"
      columns={[
        { name: 'turn', head: 'turn' },
        { name: 'height', head: 'height' },
        { name: 'diameter', head: 'diameter' },
        { name: 'pitch', head: 'pitch' },
      ]}
    />
  );
}

/** The pitch along the coil, small. */
function Drawing() {
  const { seen } = useEditing();
  const turns = useResult('turns')?.value;
  const rows = seen?.filled?.stations ?? [];
  const closed = useResult('closedPitch')?.value ?? 0;
  const middle = useResult('pitch')?.value;
  if (!turns || middle === undefined) return null;
  const most = Math.max(middle, ...rows.map((row) => row.pitch ?? 0)) * 1.15 || 1;
  const knots = [
    ...(closed > 0
      ? ([
          [0, closed],
          [turns, closed],
        ] as const)
      : []),
    [turns / 2, middle] as const,
    ...rows.map((row) => [row.turn!, row.pitch!] as const),
  ].sort((a, b) => a[0] - b[0]);
  const at = ([turn, pitch]: readonly [number, number]) =>
    `${(4 + (44 * turn) / turns).toFixed(1)},${(34 - (28 * pitch) / most).toFixed(1)}`;
  return (
    <svg viewBox="0 0 52 38" className="w-13" aria-hidden>
      <path d="M4 4v30h46" fill="none" stroke="var(--hair)" />
      <polyline points={knots.map(at).join(' ')} fill="none" stroke="var(--thread)" strokeWidth="1.4" />
      {rows.map((row, i) => {
        const [x, y] = at([row.turn!, row.pitch!]).split(',');
        return <circle key={i} cx={x} cy={y} r="2.2" fill="var(--brass)" />;
      })}
    </svg>
  );
}

export const stationed: Editor = {
  Sentence,
  Table,
  Drawing,
  Following: () => (
    <Follows
      fields={LINKED}
      figure={{ height: 'overallHeight' }}
      given={(draft, step, field) => {
        if (field !== 'height') return;
        step.set.heightBasis = 'overall';
        referToSection(draft, step);
      }}
    />
  ),
  More: () => <PlacingLines />,
  results: ['length'],
};
