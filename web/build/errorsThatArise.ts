import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Plugin, runnerImport } from 'vite';
import { ENDPOINTS } from './contractWithoutSchemas.ts';

const TABLE = /\/core\/src\/errors\.ts$/;
const ENTRY = fileURLToPath(new URL('../src/main.tsx', import.meta.url));
/** What a module needs when it runs; `import type` is gone by then. */
const NEEDED = /(?:^import(?! type)[^;]*?|^export[^;]*? from |\bimport\()\s*'([^']+)'/gm;
const QUOTED = /'([A-Z][A-Z_]+)'/g;

/**
 * Gives the page the words of those errors only that its own code can throw; what the server refuses comes with its
 * words. A worker is built by itself and keeps all.
 */
export const errorsThatArise: Plugin = {
  name: 'errors-that-arise',
  enforce: 'pre',
  transform: {
    filter: { id: TABLE },
    async handler(code, id) {
      const { module } = await runnerImport<typeof import('@zubrell/core/errors')>(id, {
        configFile: false,
        logLevel: 'error',
      });
      const named = namedFrom(ENTRY);
      const kept = Object.entries(module.errors).filter(([name]) => named.has(name));
      const table = Object.fromEntries(kept);
      const written = code.replace(
        /export const errors = \{[\s\S]*?\n\} as const/,
        () => `export const errors = ${JSON.stringify(table)} as const`,
      );
      return { code: written, map: null };
    },
  },
};

/** What stands in capitals in a module and all it leads to: the errors it can throw, and some more. */
export function namedFrom(entry: string): ReadonlySet<string> {
  const named = new Set<string>();
  const files = new Set([entry]);
  for (const file of files) {
    if (ENDPOINTS.test(file) || TABLE.test(file)) continue;
    const text = readFileSync(file, 'utf8');
    for (const [, name = ''] of text.matchAll(QUOTED)) named.add(name);
    for (const [, path = ''] of text.matchAll(NEEDED)) {
      const found = fileOf(path, file);
      if (found !== null) files.add(found);
    }
  }
  return named;
}

/** Where our own module stands; null for packages and styles. */
function fileOf(path: string, from: string): string | null {
  if (path.startsWith('.') && /\.tsx?$/.test(path)) return resolve(dirname(from), path);
  if (path.startsWith('@zubrell/')) return createRequire(from).resolve(path);
  return null;
}
