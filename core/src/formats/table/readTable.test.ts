import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { bankLine } from '../bankFile.ts';
import { readBankFile } from '../readBankFile.ts';
import { writeXlsx } from '../write/writeXlsx.ts';
import type { LayoutChoices } from './tableLayout.ts';

async function read(content: string | Uint8Array, choices: LayoutChoices = {}) {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
  const { statements, layout, ...file } = await readBankFile(bytes, { currency: 'EUR', choices });
  const [statement] = statements;
  if (!statement || !layout) throw new Error('no table was read');
  const amounts = statement.lines.map(({ amount }) => amount);
  return { ...file, statement, layout, lines: statement.lines, amounts };
}

const card = [
  'Booked;Text;Amount;Balance',
  '01.03.2026;PENHALLOW CLAY SUP 8841;212,40;-1.752,55',
  '02.03.2026;ORRIN MOBILE 0300118;29,00;-1.781,55',
  '03.03.2026;CARD PAYMENT THANK YOU;-1.540,15;-241,40',
].join('\n');

describe('the layout of a table', () => {
  it('knows a minus that means paid in by the balances', async () => {
    const { amounts, layout, statement } = await read(card);
    expect(amounts).toEqual([-21240, -2900, 154015]);
    expect(layout).toMatchObject({ isTurned: true, isProved: true, decimal: ',', delimiter: ';' });
    expect(statement).toMatchObject({ opening: -154015, closing: -24140 });
  });

  it('turns balances that are written as owed together with the amounts', async () => {
    const owed = card
      .replaceAll(';-', ';~')
      .replaceAll(';1.752', ';-1.752')
      .replace(/;~(\d)/g, ';$1');
    const asOwed = owed.replace(';1.540,15;', ';-1.540,15;');
    const plain = await read(asOwed);
    expect(plain.amounts).toEqual([21240, 2900, -154015]);
    const turned = await read(asOwed, { isTurned: true });
    expect(turned.amounts).toEqual([-21240, -2900, 154015]);
    expect(turned.statement).toMatchObject({ opening: -154015, closing: -24140 });
    expect(turned.layout.isProved).toBe(true);
  });

  it('is found without a header, by what the columns hold', async () => {
    const { layout, lines } = await read(
      [
        '2026-03-01,COBBLE CAFE 2 GARRAN,771204,-4.80,95.20',
        '2026-03-02,COBBLE CAFE 2 GARRAN,771205,-4.80,90.40',
        '2026-03-05,SALTMARSH MKT PITCH 14,771206,35.00,125.40',
      ].join('\n'),
    );
    expect(layout).toMatchObject({
      headerRow: null,
      roles: ['date', 'description', 'reference', 'amount', 'balance'],
      isProved: true,
    });
    expect(lines[2]).toMatchObject({ amount: 3500, reference: '771206', balance: 12540 });
  });

  it('is found below other rows, under headings in no language we know', async () => {
    const { layout, lines } = await read(
      'Wick & Alder\nkonto nr 4471\n\nDzien\tOpis\tWyplaty\tWplaty\n01/03/2026\tCLAY\t48,50\t\n02/03/2026\tSALE\t\t640,00\n',
    );
    expect(layout).toMatchObject({
      delimiter: '\t',
      headings: ['Dzien', 'Opis', 'Wyplaty', 'Wplaty'],
      roles: ['date', 'description', 'paidOut', 'paidIn'],
    });
    expect(lines.map(({ amount }) => amount)).toEqual([-4850, 64000]);
  });

  it('follows every choice', async () => {
    const text = 'A,B,C,D\n03/04/2026,x,"1,234",7.00\n';
    const roles = ['date', 'description', 'amount', null] as const;
    const { lines } = await read(text, { headerRow: 0, roles, dates: 'monthFirst', decimal: '.' });
    expect(lines).toMatchObject([{ date: '2026-03-04', amount: 123400, description: 'x' }]);
    const other = await read(text, { headerRow: 0, roles, decimal: ',', isTurned: true });
    expect(other.problems).toMatchObject([{ code: 'AMOUNT_TOO_FINE', line: 2 }]);
    const latin = await read(
      Uint8Array.from(Buffer.from('Date,Text,Amount\n2026-03-01,Caf\xe9,-1.00\n', 'latin1')),
      {
        encoding: 'windows-1250',
      },
    );
    expect(latin).toMatchObject({ encoding: 'windows-1250', problems: [] });
  });

  it('reads the coding of a prepared file, and tells it from a bank account’s number', async () => {
    const { lines, statement } = await read(
      'Date,Text,Amount,Account,Tax,Cost centre\n2026-03-01,Clay,-48.50,5010,20 %,Studio\n2026-03-02,Fee,-1.00,,,\n',
    );
    expect(lines.map(({ prepared }) => prepared)).toEqual([
      { account: '5010', tax: '20 %', costCentre: 'Studio' },
      null,
    ]);
    expect(statement.account).toBeNull();
    const own = await read('Date,Text,Amount,Account\n2026-03-01,Clay,-48.50,40124471\n');
    expect(own.statement.account).toBe('40124471');
    expect(own.lines[0]?.prepared).toBeNull();
  });
});

describe('a spreadsheet', () => {
  const line = bankLine({ place: 2, date: '2026-03-01', amount: -1230, description: '=SUM(A1)' });
  const facts = { account: null, bank: null, kind: null, currency: 'EUR', from: null, to: null };
  const statement = {
    ...facts,
    opening: null,
    closing: null,
    closingDate: null,
    dayBalances: [],
    lines: [line],
  };

  it('has dates, numbers and texts as they were meant', async () => {
    const { lines, format, layout } = await read(await writeXlsx([statement], 'EUR'));
    expect({ format, delimiter: layout.delimiter }).toEqual({ format: 'xlsx', delimiter: null });
    expect(lines).toMatchObject([{ date: '2026-03-01', amount: -1230, description: '=SUM(A1)' }]);
  });

  it('that unpacks to far too much, is broken or no workbook is refused', async () => {
    const bomb = zipSync({
      'xl/workbook.xml': new Uint8Array(1),
      'xl/worksheets/sheet1.xml': new Uint8Array(60_000_000),
    });
    expect(bomb.length).toBeLessThan(100_000);
    await expect(read(bomb)).rejects.toMatchObject({ code: 'FILE_ZIP_BOMB' });
    await expect(read(zipSync({ 'a.txt': Uint8Array.of(65) }))).rejects.toMatchObject({
      code: 'FILE_UNKNOWN',
    });
    const whole = await writeXlsx([statement], 'EUR');
    await expect(read(whole.slice(0, whole.length / 2))).rejects.toMatchObject({
      code: expect.stringMatching(/FILE_(ZIP_BROKEN|UNKNOWN)/),
    });
    const damaged = whole.slice();
    damaged.fill(0xff, 300, 900);
    await expect(read(damaged)).rejects.toMatchObject({
      code: expect.stringMatching(/FILE_(ZIP_BROKEN|UNKNOWN)/),
    });
  });
});
