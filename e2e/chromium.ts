/** Debian's Chromium with software WebGL, and where the application is served for tests. */
import { existsSync } from 'node:fs';
import browsers from './browsers.json' with { type: 'json' };

export const PORT = 4178;
export const BASE = `http://127.0.0.1:${PORT}`;

export const VIEWPORT = { width: 1280, height: 800 };

export const CHROMIUM = {
  executablePath: process.env.CHROMIUM ?? browsers.find((place) => existsSync(place)) ?? browsers[0]!,
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--ignore-gpu-blocklist',
    // Only the stage is drawn by the graphics library: pages are put together sooner without it.
    '--disable-gpu-compositing',
  ],
};
