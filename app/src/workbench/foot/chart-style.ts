/** How all charts are set. */
import { Chart } from 'chart.js';
import { formatNumber } from '@nematos/core/measure/format';

Chart.defaults.font.family = "'IBM Plex Sans Variable', sans-serif";

/** A colour of the page. */
export const ink = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

/** Sets the figures at a scale, so many at most. */
export function setTicks(scale: object, most: number): void {
  (scale as { ticks?: object }).ticks = {
    color: ink('quiet'),
    font: { size: 11 },
    maxTicksLimit: most,
    callback: (value: number | string) => formatNumber(Number(value), 4),
  };
}
