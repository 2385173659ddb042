import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../../dates/calendarDate.ts';
import type { BankStatement } from '../bankFile.ts';
import { readBankFile } from '../readBankFile.ts';
import { writeCamt } from './writeCamt.ts';
import { writeCsv } from './writeCsv.ts';
import { writeOfx } from './writeOfx.ts';

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
      lines: lines.map((each, index) => ({
        ...each,
        place: index,
        valueDate: null,
        payee: null,
        type: null,
        chequeNumber: null,
        balance: null,
        isPending: false,
      })),
    }),
  );

function readBack(content: string): BankStatement {
  const { statements, problems } = readBankFile(new TextEncoder().encode(content), 'EUR');
  expect(problems).toEqual([]);
  const [only] = statements;
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
  ])('as %s reads back the same', (_name, write) => {
    fc.assert(
      fc.property(statement, (made) => {
        const read = readBack(write([made], 'EUR'));
        expect(told(read)).toEqual(told(made));
        const { account, currency, closing, closingDate } = made;
        expect(read).toMatchObject({ account, currency, closing, closingDate });
      }),
      { numRuns: 60 },
    );
  });

  it('as CSV reads back the same, and no spreadsheet runs it', () => {
    fc.assert(
      fc.property(statement, (made) => {
        const read = readBack(writeCsv([made], 'EUR'));
        expect(told(read)).toEqual(told(made));
      }),
      { numRuns: 60 },
    );
    const risky: BankStatement['lines'][number] = {
      place: 1,
      date: '2026-03-01',
      valueDate: null,
      amount: -100,
      description: '=HYPERLINK("x")',
      reference: null,
      payee: null,
      bankId: null,
      type: null,
      chequeNumber: null,
      balance: null,
      isPending: false,
    };
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
          lines: [risky],
        },
      ],
      'EUR',
    );
    expect(csv).toContain(`"'=HYPERLINK(""x"")"`);
    expect(csv).toContain(',-1.00,');
  });
});
