/** The rarer figures of a sweep. */
import { useBenchStore } from '../../bench/bench';
import { OWN } from '@nematos/core/measure/materials';
import { stepOf } from '@nematos/core/design/edit';
import { CarriedBy } from './carried-by';
import { Fig, MoreLine, OptionalSource, Pick, useEditing, useSet } from '../../fields/editor';
import { Holds } from './holds';

const RUNS = [
  ['smooth', 'smoothly'],
  ['linear', 'straight'],
] as const;

const YES_NO = [
  ['no', 'no'],
  ['yes', 'yes'],
] as const;

const SIDES = [
  ['inside', 'inside'],
  ['middle', 'middle'],
  ['outside', 'outside'],
] as const;

const CORNERS = [
  ['mitred', 'mitred'],
  ['rounded', 'rounded about their inner edge'],
  ['bent', 'bent'],
] as const;

/** The rarer figures of a sweep. */
export function More() {
  return (
    <>
      <Holds />
      <CarriedBy />
      <Seated />
      <Moduli />
      <Passage />
      <Flush />
      <MoreLine label="bore closed by a wall at start, end">
        <Wall field="startWall" name="wall at the start" />
        <Wall field="endWall" name="wall at the end" />
      </MoreLine>
      <MoreLine label="least wall wanted">
        <Wall field="leastWall" name="least wall wanted" />
      </MoreLine>
    </>
  );
}

/** How the section sits on the path. */
function Seated() {
  const { step } = useEditing();
  const store = useBenchStore();
  const set = useSet();
  const quarterTurn = () =>
    store.getState().edit('Turn the section by 90°', (draft) => {
      const { set: drafted } = stepOf(draft, step.id);
      const now = (drafted.turned ?? '0 deg').trim();
      drafted.turned = /^0( ?(deg|°))?$/.test(now)
        ? '90 deg'
        : now === '90 deg'
          ? '0 deg'
          : `${now} + 90 deg`;
    });
  return (
    <>
      <MoreLine label="shifted right, up">
        <Fig field="right" name="shift to the right" />
        <Fig field="up" name="shift upwards" />
      </MoreLine>
      <MoreLine label="turned by">
        <Fig field="turned" name="turn of the section" />
        <button type="button" className="rounded text-thread hover:underline" onClick={quarterTurn}>
          turn by 90°
        </button>
      </MoreLine>
      <MoreLine label="mirrored">
        <Pick field="mirrored" name="mirrored" options={YES_NO} />
      </MoreLine>
      <MoreLine label="the path is its">
        <Pick field="pathIs" name="side of the body that the path is" options={SIDES} />
      </MoreLine>
      <MoreLine label="corners of the path">
        <Pick field="corners" name="corners of the path" options={CORNERS} />
        {set.corners === 'bent' && <Fig field="bendRadius" name="radius of the bends" />}
      </MoreLine>
    </>
  );
}

/** What a material of one's own bears. */
function Moduli() {
  const set = useSet();
  if (set.material !== OWN) return null;
  return (
    <>
      <MoreLine label="its moduli: of elasticity, of shear">
        <Fig field="ownYoungs" name="modulus of elasticity" optional />
        <Fig field="ownShear" name="shear modulus" optional />
      </MoreLine>
      <MoreLine label="it bears, in shear">
        <Fig field="ownStrength" name="stress that it bears" optional />
      </MoreLine>
    </>
  );
}

/** What the section passes into, and how its size and twist run. */
function Passage() {
  const { step } = useEditing();
  const set = useSet();
  return (
    <>
      <MoreLine label="passes into">
        <OptionalSource slot="into" none="no other section" noun="section it passes into" />
      </MoreLine>
      {step.from?.into && (
        <MoreLine label="from, to (parts of the length)">
          <Fig field="intoFrom" name="where the passage begins" />
          <Fig field="intoTo" name="where the passage ends" />
          <Pick field="intoRun" name="how it passes" options={RUNS} />
        </MoreLine>
      )}
      {(set.size === 'stations' || set.size === 'taper') && (
        <MoreLine label="its size runs">
          <Pick field="sizeRun" name="how the size runs" options={RUNS} />
        </MoreLine>
      )}
      {set.twistBy === 'stations' && (
        <MoreLine label="its twist runs">
          <Pick field="twistRun" name="how the twist runs" options={RUNS} />
        </MoreLine>
      )}
    </>
  );
}

/** Where ends are flush with a plane, where that is. */
function Flush() {
  const set = useSet();
  if (set.startShape !== 'flush' && set.endShape !== 'flush') return null;
  return (
    <>
      <MoreLine label="ground inside its tips by">
        {set.startShape === 'flush' && <Fig field="startFlush" name="how far inside the start" />}
        {set.endShape === 'flush' && <Fig field="endFlush" name="how far inside the end" />}
      </MoreLine>
      <MoreLine label="planes square to x, y, z">
        <Fig field="flushX" name="direction of the planes, x" />
        <Fig field="flushY" name="direction of the planes, y" />
        <Fig field="flushZ" name="direction of the planes, z" />
      </MoreLine>
    </>
  );
}

/** A thickness that may be left open. */
function Wall({ field, name }: { field: string; name: string }) {
  const { step } = useEditing();
  const store = useBenchStore();
  if (step.set[field] !== undefined) return <Fig field={field} name={name} optional />;
  return (
    <button
      type="button"
      className="editable text-quiet"
      aria-label={`${name}: none`}
      onClick={() =>
        store.getState().edit(`Give a ${name}`, (draft) => {
          stepOf(draft, step.id).set[field] = draft.unit === 'in' ? '0.04 in' : '1 mm';
        })
      }
    >
      none
    </button>
  );
}
