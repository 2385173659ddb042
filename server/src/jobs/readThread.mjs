// Piscina starts its threads from JavaScript; this loads the TypeScript one in them.
import { tsImport } from 'tsx/esm/api';

export const { readRows } = await tsImport('./readWorker.ts', import.meta.url);
