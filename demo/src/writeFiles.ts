import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { demoFiles } from './scenario/files.ts';

/** Writes `demo/files` anew; run after the scenario changed. */
const folder = fileURLToPath(new URL('../files/', import.meta.url));
mkdirSync(folder, { recursive: true });
for (const { fileName, text } of demoFiles()) writeFileSync(folder + fileName, text);
