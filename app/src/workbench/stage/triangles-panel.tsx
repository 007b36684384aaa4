/** The exported triangles of the part: how many, how large, how thin. */
import { useEffect, useMemo, useState } from 'react';
import { readableTolerance } from '@nematos/core/design/tolerance';
import { formatNumber } from '@nematos/core/measure/format';
import type { Vec3 } from '@nematos/core/geometry/vector';
import type { MeshFaults } from '@nematos/core/mesh/verify/faults';
import { triangleSizes } from '@nematos/core/mesh/query/triangle-sizes';
import { askDeep, leave, nextOf } from '../../worker/client';
import type { Drawn } from '../../worker/messages';
import { Line, Lines, Row, SidePanel } from './side-panel';
import { useBench, useBenchStore, useOfDesign } from '../../bench/bench';

const EDGES = [
  ['open', 'open edges', 'An open edge'],
  ['doubled', 'edges of more than two', 'An edge of more than two triangles'],
  ['turned', 'facing each other', 'Two triangles that face each other'],
] as const;

/** What a printer would stumble on, and the way there. */
function Faults({ bodies }: { bodies: readonly Drawn[] }) {
  const store = useBenchStore();
  const key = bodies.map((one) => `${one.step} ${one.key}`).join();
  const [known, setKnown] = useState<{ readonly of: string; readonly faults?: MeshFaults }>();
  useEffect(() => {
    const session = crypto.randomUUID();
    let gone = false;
    const design = store.getState().history.present;
    const steps = key.split(',').map((one) => one.split(' ')[0]!);
    askDeep((kernel) => kernel.faults(design, steps, nextOf(session))).then(
      (faults) => !gone && faults && setKnown({ of: key, faults }),
      () => !gone && setKnown({ of: key }),
    );
    return () => {
      gone = true;
      leave(session);
    };
  }, [store, key]);
  if (known?.of !== key)
    return <p className="mt-1.5 text-xs text-quiet">… looking for what a printer stumbles on</p>;
  const { faults } = known;
  if (!faults)
    return <p className="mt-1.5 text-xs text-madder">They could not be looked through to the end.</p>;
  const goTo = (finding: string, place: Vec3) =>
    store.getState().pin({ step: bodies[0]!.step, finding, place, level: 'fault' });
  const line = (says: string, count: string, finding: string, place: Vec3 | undefined) => (
    <Row key={says} says={says}>
      {place ? (
        <button
          type="button"
          className="text-madder underline decoration-dotted underline-offset-3"
          title="Show where"
          onClick={() => goTo(finding, place)}
        >
          {count}
        </button>
      ) : (
        count
      )}
    </Row>
  );
  return (
    <dl className="mt-1.5" data-faults>
      {EDGES.map(([fault, says, finding]) => {
        const { count, place } = faults.edges[fault];
        return line(says, count ? formatNumber(count, 9) : 'none', finding, place);
      })}
      {line('of no area', faults.degenerate ? formatNumber(faults.degenerate, 9) : 'none', '', undefined)}
      {line(
        'running through each other',
        faults.crossing ? 'some' : 'none',
        'Triangles that run through each other',
        faults.crossing,
      )}
    </dl>
  );
}

/** Shown beside the stage together with the triangles. */
export function TrianglesPanel({ shown }: { shown: readonly Drawn[] }) {
  const store = useBenchStore();
  const on = useBench((bench) => bench.view.triangles ?? false);
  const tolerance = useOfDesign(readableTolerance);
  const bodies = useMemo(() => shown.filter((one) => one.type === 'body'), [shown]);
  const sizes = useMemo(() => (on ? triangleSizes(bodies.map(({ mesh }) => mesh)) : undefined), [on, bodies]);
  if (!on) return null;
  const ready = tolerance !== undefined && bodies.every(({ key }) => key.endsWith('!!'));
  const coarser = bodies.find((one) => one.coarse);
  return (
    <SidePanel
      name="Triangles"
      closing="Hide the triangles"
      busy={!ready}
      onClose={() => store.getState().look({ triangles: undefined })}
    >
      {!sizes && <p className="mt-1 text-quiet">There is no body to be seen.</p>}
      {sizes && (
        <Lines quiet={!ready}>
          <Row says="triangles">
            <span data-triangles>{formatNumber(sizes.count, 9)}</span>
          </Row>
          {tolerance !== undefined && <Line says="chord tolerance" value={tolerance} quantity="length" />}
          <Line says="longest edge" value={sizes.longest} quantity="length" />
          <Line says="shortest edge" value={sizes.shortest} quantity="length" />
          <Line says="thinnest corner" value={sizes.thinnest} quantity="angle" />
        </Lines>
      )}
      {sizes && ready && <Faults bodies={bodies} />}
      <p className="mt-1.5 text-xs leading-snug text-quiet">
        {tolerance === undefined
          ? 'The chord tolerance cannot be read. Correct it under Export.'
          : !ready
            ? 'The export mesh is being made …'
            : coarser
              ? 'Too many triangles to show. The exported file has all of them.'
              : 'This is the mesh that is exported. Faces seen from inside are hatched in red.'}
      </p>
    </SidePanel>
  );
}
