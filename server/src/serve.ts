import { serve as listen } from '@hono/node-server';
import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import { join } from 'node:path';
import { createApp } from './app';

const DIST = join(import.meta.dirname, '../../app/dist');

/** Serves the built application on this machine only, until `signal` ends it; returns its address. Port 0 takes any free one. */
export async function serve(port: number, signal?: AbortSignal): Promise<string> {
  if (!existsSync(join(DIST, 'index.html')))
    throw new Error('the application is not built yet: run npm start, or npm run build');
  return new Promise((resolve, reject) => {
    const server = listen({ fetch: createApp(DIST).fetch, port, hostname: '127.0.0.1' }, (info) =>
      resolve(`http://127.0.0.1:${info.port}/`),
    );
    signal?.addEventListener('abort', () => {
      server.close();
      // Browsers keep their connections open: those would hold the process.
      (server as Server).closeAllConnections();
    });
    server.on('error', (error: NodeJS.ErrnoException) =>
      reject(
        new Error(
          error.code === 'EADDRINUSE' ? `port ${port} is taken: choose another with --port` : error.message,
        ),
      ),
    );
  });
}
