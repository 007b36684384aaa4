import { setInput, stepOf } from '@nematos/core/design/edit';
import { kindNamed } from '@nematos/core/design/registry';
import type { Design, Step } from '@nematos/core/design/schema';
import { writtenNumber } from '@nematos/core/design/literal';
import { MM_IN } from '@nematos/core/measure/quantity';
import { Menu, MenuLine } from '../ui/controls';
import { Shown } from '../ui/figure';
import { useBenchStore, useUnit } from '../workbench/bench';
import { Fig, MoreLine, Pick, Source, useEditing, useFigure, type Editor } from './editor';

const LINKED = ['turns', 'pitch', 'height'] as const;
type Linked = (typeof LINKED)[number];

/** Outer, inner and overall figures refer to a section: the one swept along this path, or any. */
function referToSection(draft: Design, step: Step): void {
  const refers = step.set.basis !== 'mean' || step.set.heightBasis === 'overall';
  if (!refers || step.from?.section) return;
  const swept = draft.steps.find((other) => other.from?.path === step.id)?.from?.section;
  const section = swept ?? draft.steps.find((other) => kindNamed(other.kind)?.yields === 'section')?.id;
  if (section) setInput(draft, step.id, 'section', section);
}

function Sentence() {
  const { step } = useEditing();
  const { set } = step;
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

/** The figure that follows from the two given; choosing it gives it in place of one of them. */
function Following() {
  const { step, seen } = useEditing();
  const store = useBenchStore();
  const unit = useUnit();
  const follows = LINKED.find((field) => step.set[field] === undefined);
  const figure = useFigure(follows === 'height' ? 'overallHeight' : (follows ?? ''));
  if (!follows || !figure || !seen) return null;
  const give = (instead: Linked) =>
    store.getState().edit(`Give the ${follows}`, (draft) => {
      const { set } = stepOf(draft, step.id);
      delete set[instead];
      const text = writtenNumber(figure.value / (follows === 'turns' ? 1 : MM_IN[draft.unit]), 6);
      set[follows] = follows === 'turns' ? text : `${text} ${draft.unit}`;
      if (follows === 'height') {
        set.heightBasis = 'overall';
        referToSection(draft, stepOf(draft, step.id));
      }
    });
  return (
    <Menu
      trigger={
        <button
          type="button"
          className="rounded text-quiet hover:text-ink"
          title={`Give the ${follows} instead`}
          aria-label={`${figure.label}: give it instead of another`}
        >
          {follows === 'height' ? 'overall' : follows}{' '}
          <span className="border-b border-dotted border-quiet font-semibold text-ink">
            <Shown value={figure.value} quantity={figure.quantity} unit={unit} />
          </span>
        </button>
      }
    >
      {LINKED.filter((field) => field !== follows).map((field) => (
        <MenuLine key={field} onSelect={() => give(field)}>
          Give the {follows}; let the {field} follow
        </MenuLine>
      ))}
    </Menu>
  );
}

function More() {
  return (
    <>
      <MoreLine label="starts at an angle of">
        <Fig field="startAngle" name="start angle" />
      </MoreLine>
      <MoreLine label="axis from x, y, z">
        <Fig field="originX" name="x of the axis" />
        <Fig field="originY" name="y of the axis" />
        <Fig field="originZ" name="z of the axis" />
      </MoreLine>
      <MoreLine label="axis along x, y, z">
        <Fig field="axisX" name="direction in x" />
        <Fig field="axisY" name="direction in y" />
        <Fig field="axisZ" name="direction in z" />
      </MoreLine>
    </>
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

export const helix: Editor = { Sentence, Following, More, Drawing, results: ['length'] };
