/** Pointing at the part and reading: what is at a place, and what lies between two. */
import { useEffect, useState } from 'react';
import { Vector3 } from 'three';
import { addStep, stepName, stepOf } from '@nematos/core/design/edit';
import { followsPath, type KindName } from '@nematos/core/design/registry';
import type { Neighbours } from '@nematos/core/solid/neighbours';
import type { FacesApart } from '@nematos/core/solid/face-gap';
import type { Least } from '@nematos/core/kinds/measures/least';
import { betweenTwo, isNamed, type BetweenTwo, type Probed } from '@nematos/core/kinds/measures/probe';
import { FIRST, SECOND, writtenPoint, writtenSpot } from '@nematos/core/kinds/measures/spots';
import { ask, askDeep, leave, nextOf } from '../../worker/client';
import { Menu, MenuLine } from '../../ui/controls';
import { showOnSheet } from '../../ui/motion';
import { useBench, useBenchStore, useDesign, useUnit } from '../../bench/bench';
import { selecting, shownCount } from '../../bench/selection';
import type { Pointed } from '../../bench/state';
import type { View } from '../../render/view';
import { INKED } from './inked';
import { Spot, spotOf, type Keep } from './measured-spot';
import { Line, Lines, SidePanel } from './side-panel';

/** What was pointed at, as far as it is known; undefined where nothing is measured. */
export interface Measured {
  readonly pointed: readonly Pointed[] | undefined;
  readonly found: readonly (Probed | undefined)[];
  readonly between?: BetweenTwo;
  /** Between the lines that both places are on; awaited while it is undefined. */
  readonly least?: Least | undefined;
  /** Of two bodies; awaited while it is undefined. */
  readonly gap?: Neighbours | undefined;
  /** Of the two faces that were pointed at; awaited while it is undefined. */
  readonly faces?: FacesApart | undefined;
  /** Set if the calculation was stopped. */
  readonly failed?: boolean;
}

const NONE: readonly Pointed[] = [];

/** Asks what was picked, again when the design changes. */
export function useMeasured(): Measured {
  const store = useBenchStore();
  const pointed = useBench((bench) => bench.probing);
  const keys = useBench(({ seen }) =>
    (pointed ?? NONE).map(({ step }) => seen?.steps.find(({ id }) => id === step)?.key).join(),
  );
  const [known, setKnown] = useState<{ of: unknown; found: readonly (Probed | undefined)[] }>();
  const [gap, setGap] = useState<Neighbours>();
  const [least, setLeast] = useState<Least>();
  const [faces, setFaces] = useState<FacesApart>();
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    setGap(undefined);
    setFaces(undefined);
    setLeast(undefined);
    setFailed(false);
    if (!pointed?.length) return;
    const session = crypto.randomUUID();
    let gone = false;
    const design = store.getState().history.present;
    void (async () => {
      const found: (Probed | undefined)[] = [];
      for (const { step, at } of pointed)
        found.push(await ask((geometry) => geometry.probe(design, step, at, nextOf(session))));
      if (gone) return;
      setKnown({ of: pointed, found });
      const [a, b] = pointed;
      const [first, second] = found;
      if (!b || !first || !second) return;
      const steps = [a!.step, b.step] as const;
      const near = await ask((geometry) => geometry.least(design, steps, [first, second], nextOf(session)));
      if (gone) return;
      setLeast(near);
      // A place by name is on a line, not on a face.
      if (typeof a!.at !== 'number' && typeof b.at !== 'number') {
        const places = [a!.at, b.at] as const;
        const deep = nextOf(`${session} gap`);
        const between = await askDeep((kernel) => kernel.faces(design, steps, places, deep));
        if (gone) return;
        setFaces(between);
      }
      if (a!.step === b.step) return;
      const bodies = await askDeep((kernel) => kernel.gap(design, a!.step, b.step, nextOf(`${session} gap`)));
      if (!gone) setGap(bodies);
    })().catch(() => !gone && setFailed(true));
    return () => {
      gone = true;
      leave(session);
      leave(`${session} gap`);
    };
  }, [store, pointed, keys]);
  const found = known && known.of === pointed ? known.found : [];
  const [a, b] = found;
  const same = pointed?.[0]?.step === pointed?.[1]?.step;
  return {
    pointed,
    found,
    ...(a && b && { between: betweenTwo(a, b, same) }),
    ...(gap && { gap }),
    ...(faces && { faces }),
    ...(least && { least }),
    failed,
  };
}

/** The places pointed at, and a line between them. */
export function MeasureMarks({ view, measured }: { view: View | undefined; measured: Measured }) {
  const { found, between } = measured;
  if (!view || !found.length) return null;
  const spots = found.map((one) => one && view.project(new Vector3(...spotOf(one))));
  const [a, b] = spots;
  return (
    <svg
      {...INKED}
      className="pointer-events-none absolute inset-0 size-full"
      aria-hidden
      data-measured={found.length}
    >
      {a && b && between && (
        <path
          d={`M${a.x} ${a.y}L${b.x} ${b.y}`}
          stroke="var(--thread)"
          strokeWidth="1.5"
          strokeDasharray="5 4"
        />
      )}
      {spots.map(
        (at, i) =>
          at && (
            <g key={i} transform={`translate(${at.x} ${at.y})`}>
              <circle r="8" fill="var(--sheet)" stroke="var(--thread)" strokeWidth="1.6" />
              <text textAnchor="middle" dy="3.6" fontSize="10.5" fontWeight="600" fill="var(--thread)">
                {'AB'[i]}
              </text>
            </g>
          ),
      )}
    </svg>
  );
}

/** Beside the stage while it is measured. */
export function MeasurePanel({ measured }: { measured: Measured }) {
  const store = useBenchStore();
  const unit = useUnit();
  const { pointed, found, between, least, faces, gap, failed } = measured;
  if (!pointed) return null;
  const { probe } = store.getState();
  const keep: Keep = (kind, set, steps) => {
    let kept = '';
    store.getState().edit('Keep a measure', (draft) => {
      const [of, to] = steps.map(({ step }) => step);
      const above = [of, to].map((id) => draft.steps.findIndex((step) => step.id === id) + 1);
      kept = addStep(draft, kind, Math.max(shownCount(store.getState()), ...above), set);
      stepOf(draft, kept).from = { of: of!, ...(to !== undefined && to !== of && { to }) };
    });
    store.getState().look(selecting(kept));
    requestAnimationFrame(() => showOnSheet(kept));
  };
  /** Between both places that were pointed at. */
  const keepTwo = (kind: KindName, set: Record<string, string>) => {
    const [a, b] = found;
    if (!a || !b) return;
    const written = { ...writtenSpot(a, unit, FIRST), ...writtenSpot(b, unit, SECOND) };
    keep(kind, { ...set, ...written }, pointed);
  };
  /** Between the faces there: by the places themselves. */
  const keepFaces = () => {
    const [a, b] = pointed.map(({ at }) => at);
    if (typeof a !== 'object' || typeof b !== 'object') return;
    const written = { ...writtenPoint(a, unit, FIRST), ...writtenPoint(b, unit, SECOND) };
    keep('measure-length', { what: 'faces', ...written }, pointed);
  };
  const two = pointed.length === 2 && pointed[0]!.step !== pointed[1]!.step;
  return (
    <SidePanel name="Measure" closing="Measure no more" onClose={() => probe(undefined)}>
      {pointed.map((one, i) => (
        <Spot
          key={i}
          sign={'AB'[i]!}
          pointed={one}
          found={found[i]}
          asked={!failed && i >= found.length}
          keep={keep}
          amounts={i === 0 || two}
        />
      ))}
      {failed && (
        <p role="alert" className="mt-1 text-madder">
          It could not be measured to the end: point at it again.
        </p>
      )}
      {between && (
        <Between
          between={between}
          least={least}
          faces={faces}
          keepFaces={keepFaces}
          gap={two ? gap : undefined}
          edges={found.every((one) => one?.edge)}
          named={found.every((one) => one && isNamed(one))}
          keepTwo={keepTwo}
          keepGap={() => keep('measure-length', { what: 'gap' }, pointed)}
        />
      )}
      <div className="mt-1.5 flex flex-wrap items-baseline gap-x-3 text-xs text-quiet">
        <span>
          {pointed.length === 0
            ? 'Pick a place on the part, or choose'
            : pointed.length === 1
              ? 'Pick another place, or choose'
              : 'Pick again to start over, or choose'}
        </span>
        <ByName />
      </div>
      {found.some((one) => one) && (
        <p className="mt-1 text-xs leading-snug text-quiet">
          ≈ depends on where you pointed, or is read off triangles; all else is exact.
        </p>
      )}
    </SidePanel>
  );
}

interface BetweenProps {
  readonly between: BetweenTwo;
  readonly least: Least | undefined;
  readonly faces: FacesApart | undefined;
  readonly gap: Neighbours | undefined;
  /** Whether both places are on sharp edges. */
  readonly edges: boolean;
  /** Whether both places are known exactly, as ends and corners are; others are where somebody pointed. */
  readonly named: boolean;
  keepTwo(kind: KindName, set: Record<string, string>): void;
  keepFaces(): void;
  keepGap(): void;
}

/** What lies between both places that were pointed at. */
function Between({ between, least, faces, gap, edges, named, keepTwo, keepFaces, keepGap }: BetweenProps) {
  const { centres, along, straight, angle } = between;
  return (
    <>
      <Lines title="Between the places A and B">
        {centres !== undefined && (
          <Line
            says={edges ? 'edge to edge' : 'centre to centre'}
            value={centres}
            quantity="length"
            rough={!named}
            onKeep={() => keepTwo('measure-length', { what: 'centres' })}
          />
        )}
        {along !== undefined && (
          <Line
            says="along the path"
            value={along}
            quantity="length"
            rough={!named}
            onKeep={() => keepTwo('measure-length', { what: 'along' })}
          />
        )}
        <Line
          says={centres === undefined ? 'apart' : 'on the surface'}
          value={straight}
          quantity="length"
          rough
        />
        {angle !== undefined && (
          <Line says="angle" value={angle} quantity="angle" onKeep={() => keepTwo('measure-angle', {})} />
        )}
      </Lines>
      {(least || faces || gap) && (
        <Lines title="Least distance">
          {least && (
            <Line
              says={edges ? 'of the edges' : 'of the lines'}
              value={least.value}
              quantity="length"
              onKeep={() => keepTwo('measure-length', { what: 'lines' })}
            />
          )}
          {faces && !edges && (
            <Line says="of the faces" value={faces.gap} quantity="length" rough onKeep={keepFaces} />
          )}
          {gap && (
            <Line
              says={gap.overlap ? 'the bodies overlap by' : 'of the bodies'}
              value={Math.abs(gap.gap)}
              quantity="length"
              rough
              onKeep={keepGap}
            />
          )}
        </Lines>
      )}
    </>
  );
}

/** Places that have a name, for who does not point. */
function ByName() {
  const store = useBenchStore();
  const design = useDesign();
  const steps = design.steps.filter((step) => followsPath(step, design.steps));
  const take = (step: string, at: number) => {
    const { probing = NONE, probe } = store.getState();
    probe([...(probing.length > 1 ? [] : probing), { step, at }]);
  };
  return (
    <Menu
      align="end"
      trigger={
        <button type="button" className="underline decoration-dotted underline-offset-3 hover:text-ink">
          a place by name
        </button>
      }
    >
      {steps.flatMap((step) =>
        (
          [
            [0, 'start'],
            [0.5, 'middle'],
            [1, 'end'],
          ] as const
        ).map(([at, says]) => (
          <MenuLine key={step.id + says} onSelect={() => take(step.id, at)}>
            {stepName(step)}, its {says}
          </MenuLine>
        )),
      )}
    </Menu>
  );
}
