import { readdirSync, rmSync } from 'node:fs';
import { basename, join } from 'node:path';
import { build, type Plugin } from 'esbuild';
import { builtFolder, projectFolder } from '../projectFolder.ts';

/** Packages stay what they are; only our own code is built. */
const packagesStay: Plugin = {
  name: 'packages-stay',
  setup: ({ onResolve }) => {
    onResolve({ filter: /^[^./]/ }, ({ path }) =>
      path.startsWith('@zubrell/') ? undefined : { path, external: true },
    );
  },
};

/** Builds the server as JavaScript: no process of it, and no thread, translates anything as it starts. */
export async function buildServer(): Promise<void> {
  const inProject = (...parts: string[]) => join(projectFolder, ...parts);
  const { metafile } = await build({
    entryPoints: {
      main: inProject('server', 'src', 'main.ts'),
      operate: inProject('server', 'src', 'operate', 'main.ts'),
      readWorker: inProject('server', 'src', 'modules', 'intake', 'readWorker.ts'),
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
    metafile: true,
    absWorkingDir: projectFolder,
  });
  // What the build before made besides goes only now: a server that runs may start a thread at any time.
  const made = new Set(Object.keys(metafile.outputs).map((file) => basename(file)));
  for (const file of readdirSync(builtFolder)) if (!made.has(file)) rmSync(join(builtFolder, file));
}
