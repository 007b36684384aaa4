/** The server's answers: the built application, and whether it is well. */
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono, type MiddlewareHandler } from 'hono';
import { etag } from 'hono/etag';
import { secureHeaders } from 'hono/secure-headers';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join, relative } from 'node:path';

const YEAR = 'public, max-age=31536000, immutable';
const DAY = 'public, max-age=86400';

/** Nothing is fetched from outside, and nothing is run but what was built. Styles of elements are set by the interface. */
const POLICY = {
  defaultSrc: ["'none'"],
  scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
  workerSrc: ["'self'"],
  styleSrc: ["'self'", "'unsafe-inline'"],
  imgSrc: ["'self'", 'blob:', 'data:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  baseUri: ["'none'"],
  formAction: ["'none'"],
  frameAncestors: ["'none'"],
};

/** Files are sent whole, whatever part of them is asked for: a server may leave such wishes aside (RFC 9110, 14.2). */
const whole: MiddlewareHandler = async (c, next) => {
  if (c.req.header('range') !== undefined) {
    const headers = new Headers(c.req.raw.headers);
    headers.delete('range');
    c.req.raw = new Request(c.req.raw, { headers });
  }
  await next();
};

/** Addresses the application itself answers; all others are not found. */
const PAGES = /^\/$|^\/d\/[\w-]+$|^\/review$|^\/help$/;

/** The server: the built application from the folder `dist`, with strict headers, and a health check. */
export function createApp(dist: string): Hono {
  const app = new Hono();
  app.use(secureHeaders({ contentSecurityPolicy: POLICY, crossOriginEmbedderPolicy: 'require-corp' }));
  // Of what a browser has already only that is told; above all of index.html, which it asks about each time.
  app.use(etag());
  app.get('/api/health', (c) => c.json({ ok: true, built: existsSync(join(dist, 'index.html')) }));

  // Packed when they were built: not once more for every request.
  const files = serveStatic({ root: relative(process.cwd(), dist) || '.', precompressed: true });
  app.use('/assets/*', whole, keptFor(YEAR), files);
  app.use('/favicon.svg', keptFor(DAY), files);

  app.get('*', async (c) => {
    c.header('Cache-Control', 'no-cache');
    if (!PAGES.test(c.req.path))
      return c.html(page('There is nothing here', 'The address leads nowhere.'), 404);
    return c.html(await readFile(join(dist, 'index.html'), 'utf8'));
  });
  app.notFound((c) => c.json({ error: 'not found' }, 404));
  app.onError((error, c) => {
    console.error(error);
    return c.html(
      page(
        'Something broke',
        'The server could not answer. Designs are kept in the browser and are not touched by this.',
      ),
      500,
    );
  });
  return app;
}

/** Lets browsers keep what was found, and only that. */
const keptFor =
  (time: string): MiddlewareHandler =>
  async (c, next) => {
    await next();
    if (c.res.ok) c.header('Cache-Control', time);
  };

const page = (title: string, text: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${title} – Nematos</title>
<style>body{font:16px/1.5 Georgia,serif;background:#f6f2e9;color:#1d2b2f;display:grid;place-items:center;height:90vh;text-align:center}a{color:#3a4a9f}</style></head>
<body><main><h1>${title}</h1><p>${text}</p><p><a href="/">To the shelf</a></p></main></body></html>`;
