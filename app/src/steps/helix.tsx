import { setInput } from '@nematos/core/design/edit';
import { kindNamed } from '@nematos/core/design/registry';
import type { Design, Step } from '@nematos/core/design/schema';
import { Fig, Follows, Pick, Source, useEditing, useSet, useFigure, type Editor } from '../fields/editor';
import { PlacingLines } from './placing';

const LINKED = ['turns', 'pitch', 'height'] as const;
type Linked = (typeof LINKED)[number];

/** Outer, inner and overall figures refer to a section: the one swept along this path, or any. */
export function referToSection(draft: Design, step: Step): void {
  const refers = step.set.basis !== 'mean' || step.set.heightBasis === 'overall';
  if (!refers || step.from?.section) return;
  const swept = draft.steps.find((other) => other.from?.path === step.id)?.from?.section;
  const section = swept ?? draft.steps.find((other) => kindNamed(other.kind)?.yields === 'section')?.id;
  if (section) setInput(draft, step.id, 'section', section);
}

function Sentence() {
  const set = useSet();
  const has = (field: Linked) => set[field] !== undefined;
  const refers = set.basis !== 'mean' || (has('height') && set.heightBasis === 'overall');
  return (
    <>
      {has('turns') && <Fig field="turns" name="turns" after={has('pitch') ? 'turns' : 'turns,'} fractions />}
      {has('pitch') && (
        <>
          {has('turns') ? ' of pitch ' : 'Pitch '}
          <Fig field="pitch" name="pitch" />,
        </>
      )}{' '}
      <Pick
        field="hand"
        name="hand"
        options={[
          ['right', 'right'],
          ['left', 'left'],
        ]}
      />
      -handed
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
      {refers && (
        <>
          , for <Source slot="section" name="section" />
        </>
      )}
      .
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
  const turns = useFigure('turns')?.value;
  const height = useFigure('overallHeight')?.value;
  const start = useFigure('meanDiameter')?.value;
  const end = useFigure('endMeanDiameter')?.value;
  if (!turns || height === undefined || start === undefined || end === undefined) return null;
  const scale = 44 / Math.max(height, start, end);
  const count = Math.min(800, Math.ceil(turns * 24));
  const hand = step.set.hand === 'left' ? -1 : 1;
  const line = Array.from({ length: count + 1 }, (_x, i) => {
    const part = i / count;
    const r = ((start + (end - start) * part) / 2) * scale;
    const x = 26 + hand * r * Math.sin(2 * Math.PI * turns * part);
    return `${x.toFixed(1)},${(26 + (0.5 - part) * height * scale).toFixed(1)}`;
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
  More: () => <PlacingLines />,
  Drawing,
  results: ['length'],
};
