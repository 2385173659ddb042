import type { Endpoints } from '@zubrell/contract/endpoint';
import { type Plugin, runnerImport } from 'vite';

/** The modules of the contract that say what can be asked. */
export const ENDPOINTS = /\/contract\/src\/endpoints\/\w+\.ts$/;

/**
 * Gives the browser the endpoints without their schemas, which only the server checks by: it needs the addresses, the
 * tags, and what is a page or takes a file. Zod and all shapes are then loaded by the forms that check with them.
 */
export const contractWithoutSchemas: Plugin = {
  name: 'contract-without-schemas',
  enforce: 'pre',
  load: {
    filter: { id: ENDPOINTS },
    async handler(id) {
      const { module } = await runnerImport<Readonly<Record<string, Endpoints>>>(id, {
        configFile: false,
        logLevel: 'error',
      });
      return Object.entries(module)
        .map(([name, list]) => `export const ${name} = ${JSON.stringify(withoutSchemas(list))};`)
        .join('\n');
    },
  },
};

function withoutSchemas(list: Endpoints): object {
  return Object.fromEntries(
    Object.entries(list).map(([name, { params, query, body, answer, ...kept }]) => [name, kept]),
  );
}
