import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { evaluate, evaluateOptions } from './evaluate.ts';

const HEADER = 'date,amount,description,reference,bank_account,account,payee,tax_code,kind,more';
const row = (month: number, account: string, kind = 'normal') =>
  `2026-0${month}-05,-48.50,"CRD PUR TIDEMARK FREIGHT ${month}, GARRAN",,current,${account},Tidemark,20 %,${kind},x`;

async function run(rows: readonly string[], isByLine = false, other: readonly string[] = []) {
  const folder = await mkdtemp(join(tmpdir(), 'zubrell-evaluate-'));
  await writeFile(join(folder, 'past.csv'), `${rows.join('\n')}\n`);
  const others = other.length > 0 ? ['other.csv'] : [];
  await writeFile(join(folder, 'other.csv'), `${other.join('\n')}\n`);
  const said = { out: '', err: '' };
  const output = {
    out: (content: string | Uint8Array) => {
      said.out += String(content);
    },
    err: (text: string) => {
      said.err += text;
    },
  };
  const code = await evaluate('past.csv', folder, output, { isByLine, others });
  return { code, ...said };
}

describe('zubrell evaluate', () => {
  it('prints how each month would have been proposed for', async () => {
    const rows = [1, 2, 3, 4].map((month) => row(month, '6010'));
    const { code, out } = await run([HEADER, ...rows, row(4, '6010', 'miscoded'), row(4, '')]);
    expect(code).toBe(0);
    const { months, from4 } = JSON.parse(out) as {
      months: { month: string; lines: number }[];
      from4: { lines: number; top1Right: number };
    };
    expect(months.map(({ month, lines }) => `${month} ${lines}`)).toEqual(
      [1, 2, 3, 4].map((month) => `2026-0${month} 1`),
    );
    expect(from4).toMatchObject({ lines: 1, top1Right: 1 });
  });

  it('prints a proposal for each row, in their order', async () => {
    const { out } = await run([HEADER, row(2, ''), row(1, '6010')], true);
    const lines = out.trim().split('\n');
    expect(lines.map((line) => JSON.parse(line) as object)).toMatchObject([
      { row: 0, account: '6010', top3: ['6010'] },
      { row: 1, lane: 'blank', account: null, p: null },
    ]);
  });

  it('asks other books about what these do not know, by the accounts’ names', async () => {
    const other = [HEADER, ...[1, 2].map((month) => row(month, 'Freight and postage'))];
    const own = [HEADER, row(3, 'Freight out'), row(3, 'Clay').replace('TIDEMARK', 'PENHALLOW')];
    const { out } = await run(own, true, other);
    const [known, unknown] = out.trim().split('\n');
    expect(JSON.parse(known ?? '')).toMatchObject({
      lane: 'check',
      account: 'Freight out',
      p: null,
      grounds: 'In one of your other books: Freight out.',
    });
    expect(JSON.parse(unknown ?? '')).toMatchObject({ lane: 'blank', account: null });
    expect((await run(own, true, ['nothing'])).err).toMatch(/^other.csv:/);
  });

  it('understands what stands behind the file', () => {
    expect(evaluateOptions([])).toEqual({ isByLine: false, others: [] });
    expect(evaluateOptions(['--lines', '--with', 'a.csv', 'b.csv'])).toEqual({
      isByLine: true,
      others: ['a.csv', 'b.csv'],
    });
    expect(evaluateOptions(['--with'])).toBeNull();
    expect(evaluateOptions(['--more'])).toBeNull();
  });

  it('refuses what it can’t read, with the place', async () => {
    expect(await run(['date,amount', '2026-01-05,1'])).toEqual({
      code: 2,
      out: '',
      err: 'past.csv:1: the header lacks description, reference, bank_account, account, payee, tax_code, kind.\n',
    });
    const bad = row(1, '6010').replace('-48.50', 'forty');
    const refused = await run([HEADER, row(1, '6010'), bad]);
    expect(refused.code).toBe(2);
    expect(refused.err).toMatch(/^past.csv:3: “forty” isn’t an amount/);
    expect((await run([HEADER])).err).toContain('no row below the header');
  });
});
