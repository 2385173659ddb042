import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../../dates/calendarDate.ts';
import { type BankStatement, bankLine, refusedOf } from '../bankFile.ts';
import { readBankFile } from '../readBankFile.ts';
import { writeCamt } from './writeCamt.ts';
import { writeCsv } from './writeCsv.ts';
import { writeOfx } from './writeOfx.ts';
import { writeXlsx } from './writeXlsx.ts';

const text = fc
  .string({ minLength: 1, maxLength: 30, unit: fc.constantFrom(...'ABc é&<>"\',;=+-@ 09') })
  .map((value) => value.trim().replace(/\s+/g, ' '))
  .filter((value) => value !== '');
const id = fc.stringMatching(/^[A-Z0-9]{1,12}$/);
const line = fc.record({
  date: fc.integer({ min: 0, max: 400 }).map((days) => addDays('2025-01-01', days)),
  amount: fc.integer({ min: -1e9, max: 1e9 }).filter((amount) => amount !== 0),
  description: text,
  reference: fc.option(id),
  bankId: fc.option(id),
});
const statement = fc
  .record({
    lines: fc.array(line, { minLength: 1, maxLength: 12 }),
    account: id,
    closing: fc.integer({ min: -1e9, max: 1e9 }),
    currency: fc.constantFrom('EUR', 'JPY', 'KWD'),
  })
  .map(
    ({ lines, account, closing, currency }): BankStatement => ({
      account,
      bank: 'WICK',
      kind: 'current',
      currency,
      from: '2025-01-01',
      to: '2026-03-31',
      opening: null,
      closing,
      closingDate: '2026-03-31',
      dayBalances: [],
      lines: lines.map((each, index) => bankLine({ ...each, place: index })),
    }),
  );

async function readBack(content: string | Uint8Array): Promise<BankStatement> {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
  const file = await readBankFile(bytes, { currency: 'EUR' });
  expect(refusedOf(file)).toEqual([]);
  const [only] = file.statements;
  if (!only) throw new Error('nothing was read back');
  return only;
}

const told = ({ lines }: BankStatement) =>
  lines.map(({ date, amount, description, reference, bankId }) => ({
    date,
    amount,
    description,
    reference,
    bankId,
  }));

describe('what is written', () => {
  it.each([
    ['OFX', writeOfx],
    ['camt.053', writeCamt],
    ['a spreadsheet', writeXlsx],
  ])('as %s reads back the same', async (_name, write) => {
    await fc.assert(
      fc.asyncProperty(statement, async (made) => {
        const read = await readBack(await write([made], 'EUR'));
        expect(told(read)).toEqual(told(made));
        expect(read.currency).toBe(made.currency);
        if (write === writeXlsx) return;
        const { account, closing, closingDate } = made;
        expect(read).toMatchObject({ account, closing, closingDate });
      }),
      { numRuns: write === writeXlsx ? 15 : 60 },
    );
  });

  it('as CSV reads back the same, and no spreadsheet runs it', async () => {
    await fc.assert(
      fc.asyncProperty(statement, async (made) => {
        const read = await readBack(writeCsv([made], 'EUR'));
        expect(told(read)).toEqual(told(made));
      }),
      { numRuns: 60 },
    );
    const risky = bankLine({
      place: 1,
      date: '2026-03-01',
      amount: -100,
      description: '=HYPERLINK("x")',
    });
    const csv = writeCsv(
      [
        {
          account: null,
          bank: null,
          kind: null,
          currency: null,
          from: null,
          to: null,
          opening: null,
          closing: null,
          closingDate: null,
          dayBalances: [],
          lines: [risky],
        },
      ],
      'EUR',
    );
    expect(csv).toContain(`"'=HYPERLINK(""x"")"`);
    expect(csv).toContain(',-1.00,');
  });
});
