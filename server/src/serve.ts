import { serve as listen } from '@hono/node-server';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { createApp } from './app';

const DIST = join(import.meta.dirname, '../../app/dist');

/** Serves the built application on this machine only; returns its address. Port 0 takes any free one. */
export async function serve(port: number): Promise<string> {
  if (!existsSync(join(DIST, 'index.html')))
    throw new Error('the application is not built yet: run npm start, or npm run build');
  return new Promise((resolve, reject) => {
    const server = listen({ fetch: createApp(DIST).fetch, port, hostname: '127.0.0.1' }, (info) =>
      resolve(`http://127.0.0.1:${info.port}/`),
    );
    server.on('error', (error: NodeJS.ErrnoException) =>
      reject(
        new Error(
          error.code === 'EADDRINUSE' ? `port ${port} is taken: choose another with --port` : error.message,
        ),
      ),
    );
  });
}
