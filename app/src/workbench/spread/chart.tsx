/** A spread drawn: a curve against one figure, lines of equal result against two. A place of it can be taken over. */
import {
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  ScatterController,
  type ChartConfiguration,
  type Plugin,
} from 'chart.js';
import { contours } from 'd3-contour';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { writeAt } from '@nematos/core/design/literal';
import type { Spread } from '@nematos/core/design/schema';
import { writtenSample, type SpreadAxis } from '@nematos/core/design/spread';
import { formatNumber, sayFigure, showing, type Units } from '@nematos/core/measure/format';

import type { Quantity } from '@nematos/core/measure/quantity';
import { useTheme } from '../../ui/theme';
import { useBench, useBenchStore, useDesign, useUnits } from '../../bench/bench';
import { ink, setTicks } from '../foot/chart-style';
import { nowAt, overName } from './over';
import type { SpreadSeen } from './use-spread';

Chart.register(LinearScale, LineController, LineElement, PointElement, ScatterController);

interface Props {
  readonly spread: Spread;
  readonly seen: SpreadSeen;
  /** Set while it is of an earlier state of the sheet. */
  readonly quiet: boolean;
  /** What is spread. */
  readonly called: string;
}

/** Where the cursor is: which sample of each figure. */
type At = readonly [column: number, row: number];

/** The result at a sample, NaN where there is none; undefined while it has not come. */
function valueAt({ axes, values, done }: SpreadSeen, [column, row]: At): number | undefined {
  const at = row * axes[0]!.samples.length + column;
  return at < done ? values[at] : undefined;
}

/** The spread on a canvas, drawn again when it or the sheet changes; and the quantity of its result. */
function useSpreadChart({ spread, seen, called }: Props) {
  const design = useDesign();
  const unit = useUnits();
  const theme = useTheme();
  const bench = useBench((all) => all.seen);
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<'scatter'>>(undefined);
  const figure = bench?.steps
    .find(({ id }) => id === spread.step)
    ?.results.find(({ name }) => name === spread.figure);
  const quantity: Quantity = figure?.quantity ?? 'number';
  const [x, y] = seen.axes as [SpreadAxis, SpreadAxis | undefined];
  const now = spread.over.map((over) => nowAt({ seen: bench }, over));

  useEffect(() => {
    const made = new Chart<'scatter'>(canvas.current!, plainConfig());
    chart.current = made;
    return () => made.destroy();
  }, []);
  useEffect(() => {
    const here = [now[0], y ? now[1] : figure?.value] as const;
    if (chart.current) drawSpread(chart.current, seen, here, quantity, unit, titles);
    // The titles follow from what is listed.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [seen, now[0], now[1], figure?.value, quantity, unit, theme, design]);
  const titles = [
    titleOf(overName(design, spread.over[0]!), x.quantity, unit),
    y && spread.over[1]
      ? titleOf(overName(design, spread.over[1]), y.quantity, unit)
      : titleOf(called, quantity, unit),
  ] as const;
  return { canvas, chart, quantity };
}

/** The chart, its cursor, and what is at it. */
export function SpreadChart(props: Props) {
  const { spread, seen, quiet, called } = props;
  const store = useBenchStore();
  const design = useDesign();
  const unit = useUnits();
  const { canvas, chart, quantity } = useSpreadChart(props);
  const [cursor, setCursor] = useState<At>();
  const [x, y] = seen.axes as [SpreadAxis, SpreadAxis | undefined];

  const onPointerMove = (event: PointerEvent<HTMLCanvasElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const scales = chart.current!.scales as { x: LinearScale; y: LinearScale };
    const column = nearestSample(x, event.clientX - box.left, scales.x, unit);
    setCursor([column, y ? nearestSample(y, event.clientY - box.top, scales.y, unit) : 0]);
  };
  const places = cursor && seen.axes.map((axis, i) => [axis, axis.samples[cursor[i]!]!] as const);
  const take = () => {
    if (!places || Number.isNaN(valueAt(seen, cursor))) return;
    store.getState().edit(`Take over ${said(places)}`, (draft) => {
      for (const [{ place, quantity: of }, value] of places)
        writeAt(draft, place, writtenSample(value, of, draft.unit, 4));
    });
  };
  const said = (taken: readonly (readonly [SpreadAxis, number])[]) =>
    taken
      .map(
        ([axis, value], i) => `${overName(design, spread.over[i]!)} ${sayFigure(value, axis.quantity, unit)}`,
      )
      .join(', ');
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter') take();
    const next = stepped(cursor, event.key, x.samples.length, y?.samples.length ?? 1);
    if (!next) return;
    event.preventDefault();
    setCursor(next);
  };

  const value = cursor && valueAt(seen, cursor);
  return (
    <div className="relative size-full">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`${called} over ${spread.over.map((over) => overName(design, over)).join(' and ')}. Arrow keys move the cursor, Enter takes its place over.`}
        className={`cursor-crosshair touch-none ${quiet ? 'opacity-55' : ''}`}
        onPointerMove={onPointerMove}
        onPointerDown={onPointerMove}
        onClick={take}
        onPointerLeave={() => setCursor(undefined)}
        onKeyDown={onKeyDown}
      />
      {cursor && chart.current && (
        <Spot
          left={pixelOf(chart.current, 'x', x.samples[cursor[0]]!, x.quantity, unit)}
          top={
            y
              ? pixelOf(chart.current, 'y', y.samples[cursor[1]]!, y.quantity, unit)
              : pixelOf(chart.current, 'y', value ?? 0, quantity, unit)
          }
        />
      )}
      {places && (
        <Status places={said(places)}>
          {value === undefined ? '…' : Number.isNaN(value) ? 'no result' : sayFigure(value, quantity, unit)}
        </Status>
      )}
    </div>
  );
}

/** Where the cursor is; nothing where there is no result to stand at. */
const Spot = ({ left, top }: { readonly left: number; readonly top: number }) =>
  Number.isFinite(top) && (
    <span
      aria-hidden
      className="pointer-events-none absolute size-3 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-sheet bg-ink"
      style={{ left, top }}
    />
  );

/** What comes out where the cursor is. */
const Status = ({ places, children }: { readonly places: string; readonly children: string }) => (
  <p role="status" data-spread-cursor className="pointer-events-none absolute top-1 right-8 text-[12.5px]">
    <span className="text-quiet">{places}:</span> <span className="font-semibold">{children}</span>
  </p>
);

const pixelOf = (
  { scales }: Chart<'scatter'>,
  along: 'x' | 'y',
  value: number,
  quantity: Quantity,
  unit: Units,
): number => scales[along]!.getPixelForValue(value * showing(quantity, unit).factor);

/** Which sample of an axis is drawn nearest to a pixel. */
function nearestSample(axis: SpreadAxis, pixel: number, scale: LinearScale, unit: Units): number {
  const value = scale.getValueForPixel(pixel)! / showing(axis.quantity, unit).factor;
  return axis.samples.reduce(
    (best, sample, i) => (Math.abs(sample - value) < Math.abs(axis.samples[best]! - value) ? i : best),
    0,
  );
}

/** A cursor after an arrow key; undefined after any other. */
function stepped([column, row]: At = [0, 0], key: string, columns: number, rows: number): At | undefined {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowDown: [0, -1], ArrowUp: [0, 1] }[key];
  const within = (value: number, count: number) => Math.min(count - 1, Math.max(0, value));
  return by && [within(column + by[0]!, columns), within(row + by[1]!, rows)];
}

const titleOf = (name: string, quantity: Quantity, unit: Units): string => {
  const { unit: said } = showing(quantity, unit);
  return said ? `${name}, ${said}` : name;
};

/** A chart with nothing on it yet. */
const plainConfig = (): ChartConfiguration<'scatter'> => ({
  type: 'scatter',
  data: { datasets: [] },
  options: {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    events: [],
    layout: { padding: { top: 24, right: 12 } },
    scales: { x: { type: 'linear' }, y: { type: 'linear' } },
  },
  plugins: [LINES],
});

type WithLines = Chart<'scatter'> & { $lines?: (() => void) | undefined };

/** Lines of equal result under all else. */
const LINES: Plugin<'scatter'> = {
  id: 'lines',
  beforeDatasetsDraw: (chart) => (chart as WithLines).$lines?.(),
};

function drawSpread(
  chart: Chart<'scatter'>,
  seen: SpreadSeen,
  here: readonly [number | undefined, number | undefined],
  quantity: Quantity,
  unit: Units,
  titles: readonly [string, string],
): void {
  const [x, y] = seen.axes as [SpreadAxis, SpreadAxis | undefined];
  const [fx, fy] = [showing(x.quantity, unit).factor, showing(y?.quantity ?? quantity, unit).factor];
  const [px, py] = here;
  const present = {
    data: px !== undefined && py !== undefined ? [{ x: px * fx, y: py * fy }] : [],
    pointRadius: 5.5,
    pointBackgroundColor: ink('brass'),
    pointBorderColor: ink('sheet'),
    pointBorderWidth: 2,
  };
  const curve = {
    data: x.samples.map((sample, i) => ({
      x: sample * fx,
      y: Number.isFinite(seen.values[i]!) ? seen.values[i]! * fy : (null as unknown as number),
    })),
    showLine: true,
    borderColor: ink('thread'),
    borderWidth: 1.8,
    pointRadius: x.whole ? 2.5 : 0,
    pointBackgroundColor: ink('thread'),
  };
  chart.data.datasets = y ? [present] : [curve, present];
  const scales = chart.options.scales as Record<
    'x' | 'y',
    { min?: number; max?: number; title?: object; grid?: object }
  >;
  const ends = ({ samples }: SpreadAxis, factor: number) =>
    [samples[0]! * factor, samples.at(-1)! * factor] as const;
  [scales.x.min, scales.x.max] = ends(x, fx);
  if (y) [scales.y.min, scales.y.max] = ends(y, fy);
  else {
    delete scales.y.min;
    delete scales.y.max;
  }
  setTicks(scales.x, 8);
  setTicks(scales.y, 6);
  const titled = (text: string) => ({ display: true, text, color: ink('quiet'), font: { size: 11.5 } });
  scales.x.title = titled(titles[0]);
  scales.y.title = titled(titles[1]);
  scales.x.grid = { display: false };
  scales.y.grid = { color: ink('hair'), display: !y };
  (chart as WithLines).$lines = y && (() => drawLines(chart, seen, quantity, unit));
  chart.update('none');
}

const LEVELS = 9;

/** Levels at round numbers between the least and the most there is. */
function levelsOf(values: Float64Array, factor: number): number[] {
  const finite = [...values].filter(Number.isFinite).map((value) => value * factor);
  const [least, most] = [Math.min(...finite), Math.max(...finite)];
  if (!(most > least)) return [];
  const rough = (most - least) / LEVELS;
  const decade = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((n) => n * decade).find((n) => n >= rough)!;
  const first = Math.ceil(least / step + 1e-9);
  return Array.from({ length: Math.max(0, Math.floor(most / step - 1e-9) - first + 1) }, (_x, i) =>
    Number(((first + i) * step).toPrecision(6)),
  );
}

/** Lines of equal result, filled darker the higher they are, with the result written on them. */
function drawLines(chart: Chart<'scatter'>, seen: SpreadSeen, quantity: Quantity, unit: Units): void {
  const { ctx, scales, chartArea } = chart;
  const [x, y] = seen.axes as [SpreadAxis, SpreadAxis];
  const { factor } = showing(quantity, unit);
  const [nx, ny] = [x.samples.length, y.samples.length];
  const levels = levelsOf(seen.values, factor);
  const shown = Array.from(seen.values, (value) => value * factor);
  const [left, right] = [x.samples[0]!, x.samples.at(-1)!].map((at) =>
    scales.x!.getPixelForValue(at * showing(x.quantity, unit).factor),
  ) as [number, number];
  const [low, high] = [y.samples[0]!, y.samples.at(-1)!].map((at) =>
    scales.y!.getPixelForValue(at * showing(y.quantity, unit).factor),
  ) as [number, number];
  // A grid value stands in the middle of its square.
  const place = ([gx, gy]: number[]): [number, number] => [
    left + ((right - left) * (gx! - 0.5)) / (nx - 1),
    low + ((high - low) * (gy! - 0.5)) / (ny - 1),
  ];
  ctx.save();
  ctx.beginPath();
  ctx.rect(chartArea.left, chartArea.top, chartArea.width, chartArea.height);
  ctx.clip();
  const bands = contours()
    .size([nx, ny])
    .thresholds([-Number.MAX_VALUE, ...levels])(shown);
  bands.forEach(({ coordinates }, i) => {
    ctx.beginPath();
    for (const ring of coordinates.flat()) {
      ring.forEach((at, k) => (k ? ctx.lineTo(...place(at)) : ctx.moveTo(...place(at))));
      ctx.closePath();
    }
    ctx.fillStyle = ink('thread');
    ctx.globalAlpha = i ? 0.075 : 0.05;
    ctx.fill('evenodd');
    ctx.globalAlpha = 1;
    if (!i) return;
    ctx.strokeStyle = ink('thread');
    ctx.lineWidth = 1;
    ctx.stroke();
  });
  ctx.font = "11px 'IBM Plex Sans Variable', sans-serif";
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  for (const { coordinates, value } of bands.slice(1)) {
    const [ring] = coordinates.flat();
    // The edge of the map is a part of the ring, and no line of it.
    const inner = ring?.filter(([gx, gy]) => gx! > 1.2 && gx! < nx - 1.2 && gy! > 1.2 && gy! < ny - 1.2);
    const at = inner?.[Math.floor(inner.length / 2)];
    if (!at) continue;
    const [px, py] = place(at);
    const text = formatNumber(value, 4);
    const wide = ctx.measureText(text).width + 6;
    ctx.fillStyle = ink('page');
    ctx.globalAlpha = 0.85;
    ctx.fillRect(px - wide / 2, py - 7, wide, 14);
    ctx.globalAlpha = 1;
    ctx.fillStyle = ink('ink');
    ctx.fillText(text, px, py + 0.5);
  }
  ctx.restore();
}
