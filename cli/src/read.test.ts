import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { type Output, read, type WrittenFormat } from './read.ts';

async function run(content: string, to?: WrittenFormat) {
  const folder = mkdtempSync(join(tmpdir(), 'zubrell read '));
  writeFileSync(join(folder, 'a file.csv'), content);
  let out = '';
  let err = '';
  const output: Output = {
    out: (content) => {
      out += typeof content === 'string' ? content : `${content.length} bytes`;
    },
    err: (text) => {
      err += text;
    },
  };
  const code = await read('a file.csv', folder, output, to);
  const rows = out.split('\n').filter(Boolean);
  return { code, err, out, rows: to ? [] : rows.map((row): unknown => JSON.parse(row)) };
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

  it('writes any format', async () => {
    const content = 'Date,Details,Amount\n2026-03-03,Clay,-48.50\n';
    expect(await run(content, 'ofx')).toMatchObject({
      code: 0,
      out: expect.stringContaining('<TRNAMT>-48.50</TRNAMT>'),
    });
    expect((await run(content, 'camt053')).out).toContain('<CdtDbtInd>DBIT</CdtDbtInd>');
    expect((await run(content, 'csv')).out).toContain('2026-03-03,,Clay,,,-48.50');
    expect((await run(content, 'xlsx')).out).toMatch(/^\d{4,} bytes$/);
  });

  it('names the file, line and fault of what it refused', async () => {
    const { code, err, rows } = await run('Date,Details,Amount\n2026-02-31,Clay,-48.50\n');
    expect(code).toBe(1);
    expect(err).toBe('a file.csv:2: Date: 31 February doesn’t exist.\n');
    expect(rows).toMatchObject([{ kind: 'statement', lines: 0 }]);
  });

  it('says where there is no bank file, or no file', async () => {
    expect(await run('hello')).toMatchObject({ code: 2, rows: [] });
    const output = { out: () => undefined, err: () => undefined };
    expect(await read('missing', tmpdir(), output)).toBe(2);
  });
});
