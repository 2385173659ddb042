import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { errors } from '@zubrell/core/errors';
import { afterAll, expect, it } from 'vitest';
import { errorsThatArise, namedFrom } from './errorsThatArise.ts';

const folder = mkdtempSync(join(tmpdir(), 'zubrell-errors-'));
afterAll(() => rmSync(folder, { recursive: true }));

it('goes through what a module needs when it runs, and nothing else', () => {
  const files = {
    'page.ts': `import type { Seen } from './types.ts';
import {
  first,
} from './first.ts';
export { second } from './second.ts';
import react from 'react';
import './page.scss';
const late = () => import('./late.ts');
const worker = new Worker(new URL('./worker.ts', import.meta.url));`,
    'types.ts': `fail('OF_TYPES')`,
    'first.ts': `import './page.ts';\nfail('OF_FIRST')`,
    'second.ts': `fail('OF_SECOND')`,
    'late.ts': `import { first } from './first.ts';\nfail('OF_LATE')`,
    'worker.ts': `fail('OF_WORKER')`,
  };
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
  expect([...namedFrom(join(folder, 'page.ts'))].sort()).toEqual([
    'OF_FIRST',
    'OF_LATE',
    'OF_SECOND',
  ]);
});

it('leaves the page the errors of amounts, dates and splits, with their words', async () => {
  const { transform } = errorsThatArise;
  if (typeof transform !== 'object') throw new Error('no transform');
  const table = fileURLToPath(new URL('../../core/src/errors.ts', import.meta.url));
  const code =
    'before\nexport const errors = {\n  OF_OLD: [],\n} as const satisfies object;\nafter';
  const made = await transform.handler.call(undefined as never, code, table);
  const text = typeof made === 'object' ? String(made?.code) : '';
  const [, kept = ''] = /errors = (.*) as const satisfies object;\nafter$/.exec(text) ?? [];
  const list = JSON.parse(kept);
  expect(list.AMOUNT_UNREADABLE).toEqual(errors.AMOUNT_UNREADABLE);
  expect(Object.keys(list)).toEqual(
    expect.arrayContaining(['DATE_UNREAL', 'SPLIT_PERCENT', 'ENTRY_UNBALANCED', 'SIGN_IN_WRONG']),
  );
  expect(list).not.toHaveProperty('EMAIL_TAKEN');
  expect(list).not.toHaveProperty('OF_OLD');
});
