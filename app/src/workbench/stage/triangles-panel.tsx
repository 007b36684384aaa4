/** What the triangles of the part are, as they are sent out: how many, how large, how thin. */
import { useMemo } from 'react';
import { readableTolerance } from '@nematos/core/design/edit';
import { formatNumber } from '@nematos/core/measure/format';
import { triangleSizes } from '@nematos/core/mesh/sizes';
import type { Drawn } from '../../worker/messages';
import { Line, Lines, SidePanel } from './side-panel';
import { useBench, useBenchStore, useOfDesign } from '../../bench/bench';

/** Stands beside the stage while triangles are shown. */
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
          <dt className="text-quiet">triangles</dt>
          <dd className="text-right" data-triangles>
            {formatNumber(sizes.count, 9)}
          </dd>
          {tolerance !== undefined && <Line says="chord tolerance" value={tolerance} quantity="length" />}
          <Line says="longest edge" value={sizes.longest} quantity="length" />
          <Line says="shortest edge" value={sizes.shortest} quantity="length" />
          <Line says="thinnest corner" value={sizes.thinnest} quantity="angle" />
        </Lines>
      )}
      <p className="mt-1.5 text-xs leading-snug text-quiet">
        {tolerance === undefined
          ? 'The chord tolerance cannot be read: mend it under Send out.'
          : !ready
            ? 'They are being made as they are sent out …'
            : coarser
              ? 'So fine there would be more than can be shown: the file has more.'
              : 'As they are sent out. Hatched in red is what is seen from inside.'}
      </p>
    </SidePanel>
  );
}
