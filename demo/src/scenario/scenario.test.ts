import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { refusedOf } from '@zubrell/core/formats/bankFile';
import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { statementGap, summaryOf } from '@zubrell/core/intake/statementBalances';
import { describe, expect, it } from 'vitest';
import { demoFiles, firstMonth, lastMonth } from './files.ts';
import { larkmoor } from './larkmoor.ts';
import { makeLines } from './makeLines.ts';

const folder = fileURLToPath(new URL('../../files/', import.meta.url));

describe('the demo', () => {
  it('is the same every time, and a month does not depend on those after it', () => {
    const short = makeLines(larkmoor, firstMonth, '2025-01');
    const long = makeLines(larkmoor, firstMonth, lastMonth);
    const before = long.filter((line) => line.date <= '2025-01-20');
    expect(short.filter((line) => line.date <= '2025-01-20')).toEqual(before);
    expect(new Set(long.map((line) => line.id)).size).toBe(long.length);
  });

  it('never overdraws an account that can’t be', () => {
    const lines = makeLines(larkmoor, firstMonth, lastMonth);
    for (const account of larkmoor.bankAccounts.filter(({ kind }) => kind !== 'card')) {
      let balance = account.opening;
      for (const line of lines.filter(({ bank }) => bank === account.key)) {
        balance += line.amount;
        expect(balance, `${account.name} on ${line.date}`).toBeGreaterThan(0);
      }
    }
  });

  it('has its files as the generator writes them', () => {
    expect(readdirSync(folder).sort()).toEqual(
      demoFiles()
        .map((file) => file.fileName)
        .sort(),
    );
    for (const { fileName, text } of demoFiles()) {
      expect(readFileSync(folder + fileName, 'utf8')).toBe(text);
    }
  });

  it('has files that are whole, and two with errors in known places', async () => {
    const read = demoFiles().map(async ({ fileName, text }) => {
      const file = await readBankFile(new TextEncoder().encode(text), { currency: 'EUR' });
      expect(file.statements[0]?.lines.length).toBeGreaterThan(3);
      return [fileName, refusedOf(file).map(({ line, code }) => `${line} ${code}`)] as const;
    });
    const problems = Object.fromEntries(await Promise.all(read));
    expect(problems).toMatchObject({
      'everyday-april.ofx': [],
      'everyday-march-again.ofx': [],
      'studio-card-april.csv': [],
      'studio-card-april-with-errors.csv': ['4 DATE_UNREAL', '6 AMOUNT_UNREADABLE'],
    });
    expect(problems['everyday-april-cut-off.ofx']?.[0]).toMatch('FILE_CUT_OFF');
    const card = demoFiles().find(({ fileName }) => fileName === 'studio-card-april.csv');
    const bytes = new TextEncoder().encode(card?.text);
    const [statement] = (await readBankFile(bytes, { currency: 'EUR' })).statements;
    expect(statement && statementGap(statement, summaryOf(statement.lines))).toBe(0);
  });
});
