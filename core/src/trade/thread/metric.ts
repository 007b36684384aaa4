/**
 * ISO metric threads: pitches of ISO 261 (coarse, and the fine one used most), mm by nominal diameter; the basic profile of
 * ISO 68-1, the root of ISO 965-1, the stress area of ISO 898-1.
 */
export const METRIC = {
  M3: [3, 0.5, 0.35],
  M4: [4, 0.7, 0.5],
  M5: [5, 0.8, 0.5],
  M6: [6, 1, 0.75],
  M8: [8, 1.25, 1],
  M10: [10, 1.5, 1.25],
  M12: [12, 1.75, 1.25],
  M14: [14, 2, 1.5],
  M16: [16, 2, 1.5],
  M18: [18, 2.5, 1.5],
  M20: [20, 2.5, 1.5],
  M22: [22, 2.5, 1.5],
  M24: [24, 3, 2],
  M27: [27, 3, 2],
  M30: [30, 3.5, 2],
  M33: [33, 3.5, 2],
  M36: [36, 4, 3],
  M39: [39, 4, 3],
  M42: [42, 4.5, 3],
  M48: [48, 5, 3],
} as const satisfies Readonly<Record<string, readonly [diameter: number, coarse: number, fine: number]>>;

export type MetricSize = keyof typeof METRIC;
export const METRIC_SIZES = Object.keys(METRIC) as [MetricSize, ...MetricSize[]];

/** Height of the sharp triangle that the profile is cut from, as a part of the pitch: its flanks stand at 60°. */
const SHARP = Math.sqrt(3) / 2;

/** Diameters of a metric thread, mm: of the middle of its flanks, of the basic profile's root, and of a bolt's root; and the area, mm², that a bolt is calculated with. */
export function metricFigures(diameter: number, pitch: number) {
  const h = SHARP * pitch;
  const middle = diameter - (3 / 4) * h;
  const minor = diameter - (5 / 4) * h;
  const root = diameter - (17 / 12) * h;
  return { middle, minor, root, stressArea: (Math.PI / 4) * ((middle + root) / 2) ** 2 };
}
