/** The line of a step, force against travel for one, with its axes and the place where the step stands. */
import type { Axis } from '@nematos/core/kind/value';
import { sayFigure } from '@nematos/core/measure/format';
import { useUnit } from '../bench/bench';
import { useEditing } from './editor';

const WIDE = 330;
const TALL = 118;
const LEFT = 40;
const BELOW = 20;
const ABOVE = 14;

/** The graph of the step that is edited here; nothing where it has none. */
export function StepGraph() {
  const { seen } = useEditing();
  const unit = useUnit();
  const graph = seen?.graph;
  if (!graph || graph.points.length < 2) return null;
  const [right, top] = [0, 1].map((k) => Math.max(...graph.points.map((point) => point[k]!))) as [
    number,
    number,
  ];
  if (!(right > 0) || !(top > 0)) return null;
  const x = (value: number) => LEFT + ((WIDE - LEFT - 8) * value) / right;
  const y = (value: number) => TALL - BELOW - ((TALL - BELOW - ABOVE) * value) / top;
  const told = (value: number, { quantity }: Axis) => sayFigure(value, quantity, unit);
  const line = graph.points.map(([a, b]) => `${x(a).toFixed(1)},${y(b).toFixed(1)}`).join(' ');
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${TALL}`}
      className="mt-1.5 w-full max-w-[330px] fill-quiet text-[10.5px] tabular-nums"
      role="img"
      aria-label={`${graph.y.label} against ${graph.x.label}: ${told(top, graph.y)} at ${told(right, graph.x)}`}
    >
      <path d={`M${LEFT} ${ABOVE - 6}V${TALL - BELOW}H${WIDE - 4}`} fill="none" stroke="var(--hair)" />
      <polyline points={line} fill="none" stroke="var(--thread)" strokeWidth="1.6" strokeLinejoin="round" />
      <text x={LEFT - 4} y={y(top) + 4} textAnchor="end">
        {told(top, graph.y)}
      </text>
      <text x={LEFT - 4} y={TALL - BELOW} textAnchor="end">
        0
      </text>
      <text x={x(right)} y={TALL - 6} textAnchor="end">
        {told(right, graph.x)}
      </text>
      <text x={LEFT} y={TALL - 6}>
        {graph.x.label}
      </text>
      <text x={LEFT + 5} y={ABOVE - 3}>
        {graph.y.label}
      </text>
      {graph.at && (
        <>
          <path
            d={`M${LEFT} ${y(graph.at[1])}H${x(graph.at[0])}V${TALL - BELOW}`}
            fill="none"
            stroke="var(--quiet)"
            strokeWidth=".7"
            strokeDasharray="2 2"
          />
          <circle cx={x(graph.at[0])} cy={y(graph.at[1])} r="3.4" fill="var(--thread)" />
        </>
      )}
    </svg>
  );
}
