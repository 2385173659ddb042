import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';
import { contractWithoutSchemas } from './build/contractWithoutSchemas.ts';
import { errorsThatArise } from './build/errorsThatArise.ts';

/** What is worth compressing: fonts are already. */
const COMPRESSED = /\.(js|css|html|svg)$/;
const BEST_QUALITY = { params: { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY } };

/** Puts compressed files beside those that are built, for the server to send as they are. */
const compress: Plugin = {
  name: 'compress',
  apply: 'build',
  generateBundle: {
    order: 'post',
    async handler(_options, bundle) {
      const files = Object.values(bundle).filter(({ fileName }) => COMPRESSED.test(fileName));
      await Promise.all(
        files.map(async (file) => {
          const bytes = Buffer.from(file.type === 'chunk' ? file.code : file.source);
          const made = [
            ['br', await promisify(brotliCompress)(bytes, BEST_QUALITY)],
            ['gz', await promisify(gzip)(bytes)],
          ] as const;
          for (const [ending, source] of made) {
            this.emitFile({ type: 'asset', fileName: `${file.fileName}.${ending}`, source });
          }
        }),
      );
    },
  },
};

export default defineConfig({
  plugins: [contractWithoutSchemas, errorsThatArise, react(), compress],
  css: {
    preprocessorOptions: {
      scss: { quietDeps: true, silenceDeprecations: ['import', 'if-function'] },
    },
  },
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1_000,
    rolldownOptions: { checks: { pluginTimings: false } },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4310' } },
});
