import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, type Plugin } from 'esbuild';
import { projectFolder } from '../projectFolder.ts';

/** Packages stay what they are; only our own code is built. */
const packagesStay: Plugin = {
  name: 'packages-stay',
  setup: ({ onResolve }) => {
    onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
      path.startsWith('@zubrell/') || kind === 'entry-point' ? undefined : { path, external: true },
    );
  },
};

/** Where the built server is: its programs and the thread that reads files, beside what they share. */
export const builtFolder = join(projectFolder, 'server', 'dist');

/** Builds the server as JavaScript: no process of it, and no thread, translates anything as it starts. */
export async function buildServer(): Promise<void> {
  const inProject = (...parts: string[]) => join(projectFolder, ...parts);
  rmSync(builtFolder, { recursive: true, force: true });
  await build({
    entryPoints: {
      main: inProject('server', 'src', 'main.ts'),
      operate: inProject('server', 'src', 'operate', 'main.ts'),
      readWorker: inProject('server', 'src', 'jobs', 'readWorker.ts'),
      practiceBank: inProject('practice-bank', 'src', 'main.ts'),
    },
    outdir: builtFolder,
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [packagesStay],
  });
}
