/** Debian's Chromium with software WebGL, and where the application is served for tests. */
export const PORT = 4178;
export const BASE = `http://127.0.0.1:${PORT}`;

export const VIEWPORT = { width: 1280, height: 800 };

export const CHROMIUM = {
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
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
