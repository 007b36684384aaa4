import { referToSection, stepOf } from '@nematos/core/design/edit';
import { useBenchStore } from '../../bench/bench';
import { Choice } from '../../ui/controls';
import {
  Fig,
  Follows,
  MoreLine,
  Pick,
  Source,
  useEditing,
  useSet,
  useResult,
  type Editor,
} from '../../fields/editor';
import { Hand } from '../shared/hand';
import { PlacingLines } from '../shared/placing';

const LINKED = ['turns', 'pitch', 'height'] as const;
type Linked = (typeof LINKED)[number];

function Sentence() {
  const set = useSet();
  const has = (field: Linked) => set[field] !== undefined;
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
      <Fig field="diameter" name="diameter" before="diameter" />{' '}
      <Pick
        field="taper"
        name="taper"
        options={[
          ['none', 'throughout'],
          ['diameter', 'running to'],
          ['angle', 'tapering at'],
        ]}
        also={(_draft, { set: figures }, chosen) => {
          if (chosen === 'diameter') figures.endDiameter ??= figures.diameter ?? '10 mm';
          if (chosen === 'angle') figures.halfAngle ??= '5 deg';
        }}
      />
      {set.taper === 'diameter' && (
        <>
          {' '}
          <Fig field="endDiameter" name="diameter at the end" />
        </>
      )}
      {set.taper === 'angle' && (
        <>
          {' '}
          <Fig field="halfAngle" name="half-angle" />
        </>
      )}
      ; its ends <ClosedEnds />
      {refers && (
        <>
          ; for <Source slot="section" name="section" />
        </>
      )}
      .
    </>
  );
}

/** Closed coils at the ends: none, or how many. */
function ClosedEnds() {
  const { step } = useEditing();
  const store = useBenchStore();
  const set = useSet();
  const closed = set.closedStart !== '0' || set.closedEnd !== '0';
  return (
    <>
      <Choice
        value={closed ? 'closed' : 'open'}
        name="ends of the coil"
        options={[
          ['open', 'open'],
          ['closed', 'closed'],
        ]}
        onChoose={(chosen) =>
          store.getState().edit('Choose the ends of the coil', (draft) => {
            const drafted = stepOf(draft, step.id);
            drafted.set.closedStart = drafted.set.closedEnd = chosen === 'closed' ? '1' : '0';
            referToSection(draft, drafted);
          })
        }
      />
      {closed && (
        <>
          , <Fig field="closedStart" name="closed coils at the start" fractions /> coil below and{' '}
          <Fig field="closedEnd" name="closed coils at the end" fractions /> above
        </>
      )}
    </>
  );
}

function Following() {
  return (
    <Follows
      fields={LINKED}
      figure={{ height: 'overallHeight' }}
      given={(draft, step, field) => {
        if (field !== 'height') return;
        step.set.heightBasis = 'overall';
        referToSection(draft, step);
      }}
    />
  );
}

/** The coil seen from the side, from its own figures. */
function Drawing() {
  const { step } = useEditing();
  const turns = useResult('turns')?.value;
  const height = useResult('overallHeight')?.value;
  const start = useResult('meanDiameter')?.value;
  const end = useResult('endMeanDiameter')?.value;
  const closedPitch = useResult('closedPitch')?.value ?? 0;
  if (!turns || height === undefined || start === undefined || end === undefined) return null;
  const scale = 44 / Math.max(height, start, end);
  // Closed coils climb by their own pitch, the others share the rest.
  const [below, above] = [step.set.closedStart, step.set.closedEnd].map((coils) => Number(coils) || 0) as [
    number,
    number,
  ];
  const climbs = Math.max(0, height - (below + above) * closedPitch) / Math.max(1e-9, turns - below - above);
  const risen = (turn: number) =>
    Math.min(turn, below) * closedPitch +
    Math.max(0, Math.min(turn, turns - above) - below) * climbs +
    Math.max(0, turn - (turns - above)) * closedPitch;
  const count = Math.min(800, Math.ceil(turns * 24));
  const hand = step.set.hand === 'left' ? -1 : 1;
  const line = Array.from({ length: count + 1 }, (_x, i) => {
    const part = i / count;
    const r = ((start + (end - start) * part) / 2) * scale;
    const x = 26 + hand * r * Math.sin(2 * Math.PI * turns * part);
    return `${x.toFixed(1)},${(26 + (height / 2 - risen(part * turns)) * scale).toFixed(1)}`;
  });
  return (
    <svg viewBox="0 0 52 52" className="size-13" aria-hidden>
      <polyline
        points={line.join(' ')}
        fill="none"
        stroke="var(--thread)"
        strokeWidth="1.2"
        strokeLinejoin="round"
      />
    </svg>
  );
}

export const helix: Editor = {
  Sentence,
  Following,
  More: () => (
    <>
      <MoreLine label="turns over which the pitch passes on from closed coils">
        <Fig field="transition" name="transition" fractions />
      </MoreLine>
      <PlacingLines />
    </>
  ),
  Drawing,
  results: ['length'],
};
