/** One chart along the path, with a cursor it shares with the stage and points that can be dragged. */
import { lastAtMost } from '@nematos/core/geometry/search';
import {
  CategoryScale,
  Chart,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  type ChartConfiguration,
  type Plugin,
} from 'chart.js';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { Lengthwise } from '@nematos/core/view/lengthwise';
import { pull, textAt, writeAt, type Place } from '@nematos/core/design/literal';
import type { Design } from '@nematos/core/design/schema';
import { formatFigure, showing, writtenFigure } from '@nematos/core/measure/format';
import type { LengthUnit } from '@nematos/core/measure/expression';
import { MM_IN, type Quantity } from '@nematos/core/measure/quantity';
import type { Handle } from '@nematos/core/path/path';
import { useTheme } from '../../ui/theme';
import { ink, setTicks } from '../foot/chart-style';
import { useBench, useBenchStore, useUnit } from '../../bench/bench';

Chart.register(CategoryScale, Filler, LinearScale, LineController, LineElement, PointElement);

let drags = 0;

interface Props {
  readonly step: string;
  readonly data: Lengthwise;
  readonly channel: Lengthwise['channels'][number];
}

/** The chart of a channel on a canvas, drawn again when the channel changes, with a line at the cursor. */
function useChannelChart({ data, channel }: Props, handles: readonly Handle[]) {
  const unit = useUnit();
  const theme = useTheme();
  const cursor = useBench((bench) => bench.cursor);
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart>(undefined);

  useEffect(() => {
    const made = new Chart(canvas.current!, plainConfig());
    chart.current = made;
    return () => made.destroy();
  }, []);

  useEffect(() => {
    if (chart.current) drawChannel(chart.current, data, channel, handles, unit);
  }, [data, channel, handles, unit, theme]);

  useEffect(() => {
    const made = chart.current as (Chart & { $cursor?: number | undefined; $says?: string }) | undefined;
    if (!made) return;
    made.$cursor = cursor === undefined ? undefined : data.s[cursor]! / MM_IN[unit];
    if (cursor !== undefined) {
      const shown = formatFigure(channel.values[cursor]!, channel.quantity, unit);
      made.$says = Number.isFinite(channel.values[cursor]!)
        ? `${shown.number} ${shown.unit}`.trim()
        : 'none near';
    }
    made.draw();
  }, [cursor, data, channel, unit, theme]);
  return { canvas, chart, cursor };
}

/** One channel along the path, with points that can be pulled. */
export function LengthwiseChart(props: Props) {
  const { step, data, channel } = props;
  const store = useBenchStore();
  const unit = useUnit();
  const held = useRef<{ handle: Handle; group: string } | undefined>(undefined);
  const handles = data.handles.filter((handle) => handle.channel === channel.name);
  const { canvas, chart, cursor } = useChannelChart(props, handles);
  const factor = showing(channel.quantity, unit).factor;

  const at = (event: PointerEvent) => placeOf(event, chart.current!, MM_IN[unit], factor);
  const nearestHandle = (event: PointerEvent): Handle | undefined => {
    const { px, py, x, y } = at(event);
    return handles.find(
      ({ s, value }) =>
        Math.hypot(x.getPixelForValue(s / MM_IN[unit]) - px, y.getPixelForValue(value * factor) - py) < 12,
    );
  };
  const pullTo = (handle: Handle, value: number, round: number, group: string) =>
    store
      .getState()
      .edit(
        `Pull the ${channel.label.toLowerCase()}`,
        (draft) => writePulled(draft, { step, field: handle.field }, handle, value, round, channel.quantity),
        group,
      );
  const onPointerDown = (event: PointerEvent<HTMLCanvasElement>) => {
    const handle = nearestHandle(event);
    if (!handle) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { handle, group: `chart ${++drags}` };
    store.getState().scrub(true);
  };
  const onPointerMove = (event: PointerEvent<HTMLCanvasElement>) => {
    if (!chart.current) return;
    const { s, value, y } = at(event);
    if (held.current) {
      const { handle, group } = held.current;
      const perPixel = Math.abs(y.getValueForPixel(0)! - y.getValueForPixel(1)!) / factor;
      pullTo(handle, value, 10 ** Math.floor(Math.log10(perPixel * 1.5)), group);
      return;
    }
    event.currentTarget.style.cursor = nearestHandle(event) ? 'ns-resize' : 'crosshair';
    store.getState().point(nearestSample(data.s, s));
  };
  const end = () => {
    held.current = undefined;
    store.getState().scrub(false);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const next = (cursor ?? 0) + by * (event.shiftKey ? 20 : 4);
    store.getState().point(Math.min(data.s.length - 1, Math.max(0, next)));
  };
  return (
    <canvas
      ref={canvas}
      tabIndex={0}
      role="img"
      aria-label={`${channel.label} along the path. Arrow keys move the cursor.`}
      className="touch-none"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={end}
      onPointerCancel={end}
      onPointerLeave={() => !held.current && store.getState().point(undefined)}
      onKeyDown={onKeyDown}
    />
  );
}

/** Where on the chart a pointer is: in pixels, and along the path (mm) and in value; `per` mm and `factor` to what is shown. */
function placeOf(
  { currentTarget, clientX, clientY }: PointerEvent,
  chart: Chart,
  per: number,
  factor: number,
) {
  const box = currentTarget.getBoundingClientRect();
  const { x, y } = chart.scales as { x: LinearScale; y: LinearScale };
  const [px, py] = [clientX - box.left, clientY - box.top];
  return { px, py, s: x.getValueForPixel(px)! * per, value: y.getValueForPixel(py)! / factor, x, y };
}

/** Writes what a point was pulled to. A blank cell becomes a figure; an expression stays. */
function writePulled(
  draft: Design,
  place: Place,
  { offset }: Handle,
  value: number,
  round: number,
  quantity: Quantity,
): void {
  const next = (quantity === 'length' ? Math.max(0, value) : value) + offset;
  if (textAt(draft, place)) pull(draft, place, next, round, quantity);
  else writeAt(draft, place, writtenFigure(next, 'length', draft.unit, 4));
}

/** A chart with nothing on it yet. */
const plainConfig = (): ChartConfiguration<'line'> => ({
  type: 'line',
  data: { datasets: [] },
  options: {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    events: [],
    layout: { padding: { top: 14, right: 8 } },
    scales: {
      x: { type: 'linear', grid: { display: false } },
      y: { type: 'linear', border: { display: false } },
    },
  },
  plugins: [CURSOR],
});

/** Puts a channel and its points on the chart, in the colours of the page. */
function drawChannel(
  chart: Chart,
  data: Lengthwise,
  channel: Props['channel'],
  handles: readonly Handle[],
  unit: LengthUnit,
): void {
  const per = MM_IN[unit];
  const factor = showing(channel.quantity, unit).factor;
  const points = Array.from(data.s, (s, i) => ({ x: s / per, y: finite(channel.values[i]! * factor) }));
  chart.data.datasets = [
    {
      data: points as { x: number; y: number }[],
      borderColor: ink('thread'),
      backgroundColor: `${ink('thread')}18`,
      borderWidth: 1.8,
      pointRadius: 0,
      fill: 'origin',
      parsing: false,
      normalized: true,
      spanGaps: false,
    },
    {
      data: handles.map(({ s, value }) => ({ x: s / per, y: value * factor })),
      showLine: false,
      pointRadius: 5,
      pointBackgroundColor: ink('brass'),
      pointBorderColor: ink('sheet'),
      pointBorderWidth: 1.5,
      parsing: false,
    },
  ];
  scaleTo(chart, (data.s.at(-1) ?? 1) / per, rangeOf(channel.values, factor));
  chart.update('none');
}

/** Axes from 0 to the end of the path, and about the values there are. */
function scaleTo(chart: Chart, end: number, [least, most]: [number, number]): void {
  const x = chart.options.scales!.x!;
  const y = chart.options.scales!.y!;
  x.min = 0;
  x.max = end;
  // A figure that stays the same is a level line, not noise drawn large.
  const flat = most - least < 1e-6 * Math.max(Math.abs(most), Math.abs(least), 1e-9);
  const room = flat ? 0.3 * Math.abs(most) || 1e-9 : 0.1 * (most - least);
  y.suggestedMin = least >= 0 && least < 0.6 * most ? 0 : flat && least > 0 ? 0 : least - room;
  y.suggestedMax = most + room;
  setTicks(x, 7);
  setTicks(y, 5);
  y.grid = { color: ink('hair') };
}

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

function rangeOf(values: Float32Array, factor: number): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (const value of values) {
    if (!Number.isFinite(value)) continue;
    least = Math.min(least, value * factor);
    most = Math.max(most, value * factor);
  }
  return least > most ? [0, 1] : [least, most];
}

function nearestSample(s: Float32Array, at: number): number {
  const low = lastAtMost(s, at, 0, s.length - 2);
  return at - s[low]! < s[low + 1]! - at ? low : low + 1;
}

/** A dotted line at the cursor with the figure there. */
const CURSOR: Plugin<'line'> = {
  id: 'cursor',
  afterDatasetsDraw(chart) {
    const { $cursor, $says } = chart as Chart & { $cursor?: number; $says?: string };
    if ($cursor === undefined) return;
    const { ctx, chartArea, scales } = chart;
    const x = scales.x!.getPixelForValue($cursor);
    ctx.save();
    ctx.strokeStyle = ink('ink');
    ctx.setLineDash([2, 3]);
    ctx.beginPath();
    ctx.moveTo(x, chartArea.top - 8);
    ctx.lineTo(x, chartArea.bottom);
    ctx.stroke();
    ctx.fillStyle = ink('ink');
    ctx.font = "12px 'IBM Plex Sans Variable', sans-serif";
    const wide = ctx.measureText($says ?? '').width;
    ctx.fillText($says ?? '', x + 6 + wide > chartArea.right ? x - 6 - wide : x + 6, chartArea.top - 2);
    ctx.restore();
  },
};
