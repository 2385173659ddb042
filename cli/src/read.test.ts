import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { read } from './read.ts';

async function run(content: string) {
  const folder = mkdtempSync(join(tmpdir(), 'zubrell read '));
  writeFileSync(join(folder, 'a file.csv'), content);
  let out = '';
  let err = '';
  const code = await read('a file.csv', folder, {
    out: (text) => {
      out += text;
    },
    err: (text) => {
      err += text;
    },
  });
  const rows = out.split('\n').filter(Boolean);
  return { code, err, rows: rows.map((row): unknown => JSON.parse(row)) };
}

describe('read', () => {
  it('prints lines, then their statement', async () => {
    const { code, err, rows } = await run(
      'Date,Details,Amount,Balance\n2026-03-03,Clay,-48.50,51.50\n',
    );
    expect({ code, err }).toEqual({ code: 0, err: '' });
    expect(rows).toMatchObject([
      { kind: 'line', date: '2026-03-03', amount: '-48.50', description: 'Clay', bankId: null },
      { kind: 'statement', opening: '100.00', closing: '51.50', currency: 'EUR', lines: 1 },
    ]);
  });

  it('names the file, line and fault of what it refused', async () => {
    const { code, err, rows } = await run('Date,Details,Amount\n2026-02-31,Clay,-48.50\n');
    expect(code).toBe(1);
    expect(err).toBe('a file.csv:2: Date: 31 February is no date.\n');
    expect(rows).toMatchObject([{ kind: 'statement', lines: 0 }]);
  });

  it('says where there is no bank file, or no file', async () => {
    expect(await run('hello')).toMatchObject({ code: 2, rows: [] });
    const output = { out: () => undefined, err: () => undefined };
    expect(await read('missing', tmpdir(), output)).toBe(2);
  });
});
