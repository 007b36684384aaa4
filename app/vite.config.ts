import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { defineConfig, type Plugin } from 'vite';

/** Packs what can be packed, so that the server need not do it again and again. */
const packed: Plugin = {
  name: 'packed',
  apply: 'build',
  writeBundle({ dir }) {
    const assets = join(dir!, 'assets');
    for (const name of readdirSync(assets).filter((one) => /\.(js|css|wasm|svg)$/.test(one))) {
      const bytes = readFileSync(join(assets, name));
      writeFileSync(join(assets, `${name}.gz`), gzipSync(bytes, { level: 9 }));
      const params = { [constants.BROTLI_PARAM_QUALITY]: 9 };
      writeFileSync(join(assets, `${name}.br`), brotliCompressSync(bytes, { params }));
    }
  },
};

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwind(), packed],
  resolve: { dedupe: ['three', 'react', 'react-dom'] },
  worker: { format: 'es' },
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
});
