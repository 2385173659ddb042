import { readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { lineEndpoints } from '@zubrell/contract/endpoints/lines';
import { expect, it } from 'vitest';
import { contractWithoutSchemas } from './contractWithoutSchemas.ts';

const FOLDER = fileURLToPath(new URL('../../contract/src/endpoints/', import.meta.url));
const FILES = readdirSync(FOLDER).filter((name) => name !== 'all.ts');

async function written(name: string): Promise<string> {
  const { load } = contractWithoutSchemas;
  if (typeof load !== 'object') throw new Error('no load');
  return String(await load.handler.call(undefined as never, FOLDER + name));
}

it('leaves addresses, tags and kinds, and takes the schemas', async () => {
  const text = await written('lines.ts');
  expect(text.startsWith('export const lineEndpoints = ')).toBe(true);
  const list = JSON.parse(text.slice(text.indexOf('{'), -1));
  expect(Object.keys(list)).toEqual(Object.keys(lineEndpoints));
  expect(list.decidedLines).toEqual({
    method: 'GET',
    path: '/books/:booksId/decided-lines',
    access: 'reviewer',
    isPaged: true,
    reads: ['decidedLines'],
  });
});

it.each(FILES)('writes %s as one that needs nothing else', async (name) => {
  const text = await written(name);
  expect(text).toMatch(/^export const \w+Endpoints = \{/);
  expect(text).not.toMatch(/^import|"(params|query|body|answer)":/m);
});
