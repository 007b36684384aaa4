import { defineConfig } from 'vite';

/** Packages of the core's own are taken in: from here another version of them might be found. */
export default defineConfig({ ssr: { noExternal: ['lru-cache'] } });
