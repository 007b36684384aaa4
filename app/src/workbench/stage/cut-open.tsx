/** The part cut open: planes, where they stand, and what is seen and measured of the cut. */
import { FlipHorizontal2, Plus, X } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { stepName } from '@nematos/core/design/edit';
import { followsPath } from '@nematos/core/design/registry';
import { evaluateGivens, givenLookup } from '@nematos/core/design/givens';
import { asFigure, evaluateFigure, parseExpression } from '@nematos/core/measure/expression';
import { writtenFigure } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import { facesOfLoops, type CutFace } from '@nematos/core/mesh/cut/cut';
import { cutResults, cutWithin, principal, thinnestWall } from '@nematos/core/mesh/cut/cut-results';
import { planeOf, type CutPlane } from '@nematos/core/view/opening';
import type { CrossSection } from '@nematos/core/view/cross-section';
import type { CutMeasures } from '@nematos/core/view/cut-measures';
import type { CutView } from '../../data/record';
import { Choice, Sign, Tick } from '../../ui/controls';
import { SentOutlines } from '../../ui/outlines';
import { ask, leave, nextOf } from '../../worker/client';
import type { Drawn } from '../../worker/messages';
import { useBench, useBenchStore, useDesign, useUnit } from '../../bench/bench';
import type { Engine } from '../../render/engine';
import { useCutMeasures } from './cut-measures';
import { Line, Lines, SidePanel } from './side-panel';
import { Typed } from '../../fields/typed';

const NO_PLANES: readonly CutPlane[] = [];

/** The place of each plane that is square to a path; asked for again when the path or the length changes. */
function useCrossings(planes: readonly CutPlane[]): readonly (CrossSection | undefined)[] {
  const store = useBenchStore();
  const asked = planes.map((cut) => (cut.by === 'path' ? `${cut.step} ${cut.at}` : '')).join();
  const keys = useBench(({ seen }) =>
    planes.map((cut) => (cut.by === 'path' ? seen?.steps.find(({ id }) => id === cut.step)?.key : '')).join(),
  );
  const [found, setFound] = useState<readonly (CrossSection | undefined)[]>([]);
  useEffect(() => {
    if (!planes.some(({ by }) => by === 'path')) return;
    const session = crypto.randomUUID();
    let gone = false;
    const crossing = (cut: CutPlane) =>
      cut.by === 'path'
        ? ask((geometry) =>
            geometry.crossSection(store.getState().history.present, cut.step, cut.at, nextOf(session)),
          )
        : undefined;
    void (async () => {
      const next: (CrossSection | undefined)[] = [];
      for (const cut of planes) next.push(await crossing(cut));
      if (!gone) setFound(next);
    })().catch(() => undefined);
    return () => {
      gone = true;
      leave(session);
    };
    // oxlint-disable-next-line react/exhaustive-deps -- what is asked says which planes they are
  }, [store, asked, keys]);
  return found;
}

/** Cuts the stage open as the view says; the faces of each plane, and the path's sections there. */
export function useCutOpen(engine: Engine | undefined, shown: readonly Drawn[], colours: unknown) {
  const store = useBenchStore();
  const cut = useBench((bench) => bench.view.cut);
  // It may be cut open before anything is seen: the first plane waits for that.
  useEffect(() => {
    if (cut?.planes.length === 0 && engine?.shows())
      store.getState().look({ cut: { ...cut, planes: [firstCut(engine, 'y')] } });
  }, [store, cut, engine, shown]);
  const planes = cut?.planes ?? NO_PLANES;
  const crossings = useCrossings(planes);
  const [faces, setFaces] = useState<readonly CutFace[][]>([]);
  const placed = useMemo(
    () => planes.map((one, i) => planeOf(one, crossings[i]?.plane)),
    [planes, crossings],
  );
  useEffect(() => {
    const known = placed.filter((plane) => plane !== undefined);
    const opening = known.length
      ? { planes: known, corner: (cut?.corner ?? false) && known.length > 1, shell: cut?.shell ?? false }
      : undefined;
    const laid = engine?.cut(opening) ?? [];
    let k = 0;
    const next = placed.map((plane) => (plane ? (laid[k++] ?? []) : []));
    setFaces((before) => (next.length || before.length ? next : before));
  }, [engine, shown, colours, placed, cut?.corner, cut?.shell]);
  return { faces, crossings, placed, measures: useCutMeasures(shown, placed) };
}

/** The planes that a stage is cut open by, and what they meet. */
export type CutOpen = ReturnType<typeof useCutOpen>;

const WAYS = [
  ['x', 'square to x'],
  ['y', 'square to y'],
  ['z', 'square to z'],
  ['own', 'square to a direction'],
] as const;

/** Begins with a plane through the middle of what is shown, the side in front taken away. */
function firstCut(engine: Engine, by: 'x' | 'y' | 'z'): CutPlane {
  return { by, at: roundedAt(engine.middle()['xyz'.indexOf(by)]!, engine) };
}

/** A place along a direction, rounded to what can be told apart of the part. */
export const roundedAt = (at: number, engine: Engine): number => {
  const step = 10 ** Math.floor(Math.log10(Math.max(engine.size(), 1e-6) / 100));
  return Number((Math.round(at / step) * step).toFixed(6));
};

/** The panel beside the views while the part is cut open. */
export function CutPanel({ engine, opened }: { engine: Engine; opened: CutOpen }) {
  const store = useBenchStore();
  const cut = useBench((bench) => bench.view.cut);
  if (!cut?.planes.length) return null;
  const become = (next: CutView | undefined) => store.getState().look({ cut: next });
  const put = (i: number, plane: CutPlane) =>
    become({ ...cut, planes: cut.planes.map((one, k) => (k === i ? plane : one)) });
  const unused = (['y', 'x', 'z'] as const).find((by) => !cut.planes.some((one) => one.by === by));
  return (
    <SidePanel name="Cut open" closing="Close it again" onClose={() => become(undefined)}>
      {cut.planes.map((plane, i) => (
        <PlaneLine
          key={i}
          plane={plane}
          i={i}
          engine={engine}
          crossing={opened.crossings[i]}
          faces={opened.faces[i] ?? []}
          measured={opened.measures[i]}
          onChange={(next) => put(i, next)}
          onRemove={() => {
            const planes = cut.planes.filter((_one, k) => k !== i);
            become(planes.length ? { ...cut, planes } : undefined);
          }}
        />
      ))}
      <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
        {unused && cut.planes.length < 3 && (
          <button
            type="button"
            className="inline-flex items-center gap-1 text-quiet hover:text-ink"
            onClick={() => become({ ...cut, planes: [...cut.planes, firstCut(engine, unused)] })}
          >
            <Plus size={12} /> Another plane
          </button>
        )}
        {cut.planes.length > 1 && (
          <Tick
            on={cut.corner ?? false}
            onChange={(corner) => become({ ...cut, corner })}
            says="Only their corner"
          />
        )}
        <Tick
          on={cut.shell ?? false}
          onChange={(shell) => become({ ...cut, shell })}
          says="Show the cut-away part"
        />
      </div>
    </SidePanel>
  );
}

interface PlaneProps {
  readonly plane: CutPlane;
  readonly i: number;
  readonly engine: Engine;
  readonly crossing: CrossSection | undefined;
  readonly faces: readonly CutFace[];
  /** What is met, once it is measured more closely than by what is drawn. */
  readonly measured: CutMeasures | undefined;
  onChange(plane: CutPlane): void;
  onRemove(): void;
}

/** The direction of a plane of one's own, typed. */
function OwnWay({
  plane,
  i,
  onChange,
}: Pick<PlaneProps, 'i' | 'onChange'> & { plane: CutPlane & { by: 'own' } }) {
  return (
    <Typed
      name={`Direction of plane ${i + 1}`}
      text={plane.way.join(' ')}
      onRead={(text) => {
        const way = text
          .trim()
          .split(/[\s,;]+/)
          .map((part) => Number(part.replace('−', '-')));
        if (way.length !== 3 || way.some((x) => !Number.isFinite(x)) || way.every((x) => x === 0))
          throw new Complaint('Three numbers, not all 0: how far it goes in x, y and z.');
        onChange({ ...plane, way: way as unknown as [number, number, number] });
      }}
    />
  );
}

function PlaneLine({ plane, i, engine, crossing, faces, measured, onChange, onRemove }: PlaneProps) {
  const design = useDesign();
  const unit = useUnit();
  // What follows a path: the paths themselves, and what is carried along them.
  const paths = design.steps.filter((step) => followsPath(step, design.steps));
  const ways = [...WAYS, ...paths.map((step) => [`path ${step.id}`, `square to ${stepName(step)}`] as const)];
  const [least, most] = spanOf(plane, engine, crossing);
  const step = (most - least) / 500;
  const put = (at: number) => onChange({ ...plane, at: Number(at.toFixed(6)) });
  return (
    <div className="mt-1.5" data-cut={i}>
      <div className="flex flex-wrap items-baseline gap-x-1.5">
        <Choice
          name={`Way of plane ${i + 1}`}
          value={plane.by === 'path' ? `path ${plane.step}` : plane.by}
          options={ways}
          onChoose={(way) => onChange(becoming(way, engine))}
        />
        <span className="text-quiet">at</span>
        <Typed
          name={`Place of plane ${i + 1}`}
          text={writtenFigure(plane.at, 'length', unit)}
          onRead={(text) => {
            const lookup = givenLookup(evaluateGivens(design.givens));
            put(asFigure(evaluateFigure(parseExpression(text), lookup), 'length', unit));
          }}
        />
        <span className="ml-auto flex">
          <Sign
            name="Keep the other side"
            className="size-6"
            onClick={() => onChange({ ...plane, turned: !plane.turned })}
          >
            <FlipHorizontal2 size={13} />
          </Sign>
          <SentOutlines
            loops={() => faces.flatMap((face) => face.loops)}
            name={`${design.name} cut ${i + 1}`}
            says="Outline as a drawing"
            disabled={!faces.length}
          />
          <Sign name={`Take plane ${i + 1} away`} className="size-6" onClick={onRemove}>
            <X size={13} />
          </Sign>
        </span>
      </div>
      {plane.by === 'own' && <OwnWay plane={plane} i={i} onChange={onChange} />}
      <input
        type="range"
        aria-label={`Plane ${i + 1}`}
        min={least}
        max={most}
        step={step || 'any'}
        value={plane.at}
        onChange={(event) => put(Number(event.target.value))}
        className="mt-1 w-full accent-thread"
      />
      <Measured
        faces={faces}
        measured={measured}
        crossing={crossing}
        gone={plane.by === 'path' && !paths.some(({ id }) => id === plane.step)}
      />
    </div>
  );
}

/** A plane of another kind, through the middle; square to a path a little way along it. */
function becoming(way: string, engine: Engine): CutPlane {
  const step = /^path (.*)$/.exec(way)?.[1];
  if (step !== undefined) return { by: 'path', step, at: roundedAt(engine.size() / 5, engine) };
  const by = way as 'x' | 'y' | 'z' | 'own';
  if (by === 'own') {
    const [x, , z] = engine.middle();
    return { by, way: [1, 0, 1], at: roundedAt((x + z) / Math.SQRT2, engine) };
  }
  return firstCut(engine, by);
}

/** From where to where a plane can be moved. */
export function spanOf(
  plane: CutPlane,
  engine: Engine,
  crossing: CrossSection | undefined,
): [number, number] {
  if (plane.by === 'path') return [0, crossing?.length ?? Math.max(1, plane.at)];
  const [low, high] = engine.box();
  if (plane.by === 'own') {
    const size = Math.hypot(...plane.way);
    const reach = (way: -1 | 1) =>
      plane.way.reduce((sum, x, k) => sum + (x / size) * (x * way > 0 ? high[k]! : low[k]!), 0);
    return [reach(-1), reach(1)];
  }
  const k = 'xyz'.indexOf(plane.by);
  return [low[k]!, high[k]!];
}

/** More corners than this are too many to look for the thinnest wall between them while a plane is led. */
const MOST_CORNERS = 4000;

/** The thinnest wall of what is cut; undefined where there is none, or too much to look through. */
function thinnestOf(faces: readonly CutFace[]): number | undefined {
  const loops = faces.map((face) => face.loops);
  if (loops.flat().reduce((sum, loop) => sum + loop.length / 2, 0) > MOST_CORNERS) return undefined;
  return thinnestWall(loops.flatMap(facesOfLoops));
}

/** What the cut measures: of all that is met, and of the section that is carried there. */
function Measured({
  faces,
  measured,
  crossing,
  gone,
}: Pick<PlaneProps, 'faces' | 'measured' | 'crossing'> & { gone: boolean }) {
  const figures = useMemo(() => cutResults(faces.flatMap(({ loops }) => loops)), [faces]);
  const within = useMemo(() => cutWithin(faces), [faces]);
  const thinnest = useMemo(() => thinnestOf(faces), [faces]);
  const exact = crossing?.figures;
  if (gone)
    return <p className="text-quiet">The path it was square to is gone: choose another way for it.</p>;
  if (!(figures.area > 0)) return <p className="text-quiet">Nothing is cut here.</p>;
  const { area, second } = exact ?? figures;
  const wall = exact?.wall ?? thinnest;
  const off = exact ? undefined : within;
  const closer = off && measured && measured.area.within < off.area ? measured : undefined;
  return (
    <Lines>
      <Line
        says={exact ? 'area of the section' : 'area cut'}
        value={closer?.area.value ?? area}
        quantity="area"
        within={closer?.area.within ?? off?.area}
      />
      {wall !== undefined && (
        <Line
          says={exact?.wall === undefined ? 'thinnest wall' : 'wall'}
          value={wall}
          quantity="length"
          within={exact?.wall === undefined ? within.wall : undefined}
        />
      )}
      <Line
        says="second moments"
        value={closer?.second.map((one) => one.value) ?? principal(second)}
        quantity="secondMoment"
        within={closer ? Math.max(...closer.second.map((one) => one.within)) : off?.second}
      />
      <Line says="outlines" value={figures.perimeter} quantity="length" rough />
    </Lines>
  );
}
