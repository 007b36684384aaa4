/** What the sentences of kept measures share: where, and how it should be. */
import { stepOf } from '@nematos/core/design/edit';
import { figureName } from '@nematos/core/design/measured-names';
import { FIRST, SECOND } from '@nematos/core/kinds/measures/spots';
import { writtenFigure } from '@nematos/core/measure/format';
import { useBenchStore } from '../../bench/bench';
import { Fig, OptionalSource, Pick, Source, useEditing, useResult, useSet } from '../../fields/editor';

const PLACES = [
  ['start', 'the start'],
  ['middle', 'the middle'],
  ['end', 'the end'],
  ['along', 'a place along it, at'],
  ['joint', 'joint'],
  ['corner', 'corner'],
  ['point', 'what is nearest to'],
] as const;

/** A spot in words. */
function Spot({ second, of }: { second?: boolean; of: React.ReactNode }) {
  const set = useSet();
  const at = second ? SECOND : FIRST;
  const name = (what: string) => `${what} of the ${second ? 'second' : 'first'} place`;
  const place = set[at('place')];
  return (
    <>
      <Pick field={at('place')} name={name('kind')} options={PLACES} />{' '}
      {place === 'along' && <Fig field={at('along')} name={name('length along')} />}
      {(place === 'joint' || place === 'corner') && <Fig field={at(place)} name={name('number')} />}
      {place === 'point' && (
        <>
          <Fig field={at('x')} name={name('x')} />, <Fig field={at('y')} name={name('y')} />,{' '}
          <Fig field={at('z')} name={name('z')} />
        </>
      )}{' '}
      of {of}
    </>
  );
}

/** From one spot to another. */
export function FromTo() {
  return (
    <>
      from <Spot of={<Source slot="of" name="what is measured" />} /> to{' '}
      <Spot second of={<OptionalSource slot="to" none="the same" noun="other step" />} />
    </>
  );
}

/** At one spot. */
export const AtSpot = () => <Spot of={<Source slot="of" name="what is measured" />} />;

/** What it should be, and how far off it may be; or that nothing is wanted. */
export function Wanted() {
  const { step } = useEditing();
  const store = useBenchStore();
  const measured = useResult('measured');
  if (step.set.wanted !== undefined)
    return (
      <>
        ; wanted <Fig field="wanted" name="wanted value" optional /> ±{' '}
        <Fig field="tolerance" name="tolerance" />
      </>
    );
  const want = () =>
    store.getState().edit('Set the wanted value', (draft) => {
      const { set } = stepOf(draft, step.id);
      const { value, quantity } = measured!;
      set.wanted = writtenFigure(value, quantity, draft.unit, 4);
      set.tolerance ??= writtenFigure(Math.abs(value) / 1000, quantity, draft.unit, 1);
    });
  return (
    <>
      ;{' '}
      <button type="button" className="editable text-quiet" disabled={!measured} onClick={want}>
        nothing wanted
      </button>
    </>
  );
}

/** How figures of later steps can use it. */
export function InResults() {
  const { step } = useEditing();
  const name = figureName(step);
  if (name === undefined) return null;
  return (
    <span className="text-quiet" title="Write this name in a figure of a step below">
      in figures <code className="font-mono text-[12px] text-ink">{name}</code>
    </span>
  );
}
