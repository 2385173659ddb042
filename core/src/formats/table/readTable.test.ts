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
    const { lines } = await read(text, { headerRow: 1, roles, dates: 'monthFirst', decimal: '.' });
    expect(lines).toMatchObject([{ date: '2026-03-04', amount: 123400, description: 'x' }]);
    const other = await read(text, { headerRow: 1, roles, decimal: ',', isTurned: true });
    expect(other.problems).toMatchObject([{ code: 'AMOUNT_TOO_FINE', line: 2 }]);
    const latin = await read(
      Uint8Array.from(Buffer.from('Date,Text,Amount\n2026-03-01,Caf\xe9,-1.00\n', 'latin1')),
      {
        encoding: 'windows-1250',
      },
    );
    expect(latin).toMatchObject({ encoding: 'windows-1250', problems: [] });
  });

  const posted = [
    'Statement of account',
    '',
    'Number;40124471',
    '',
    'Posting day;What;Ref;Sum;Account after',
    '13.03.2026;TIDEMARK FREIGHT;A-1;-48,50;951,50',
    '14.03.2026;NETTLE AND THREAD;A-2;640,00;1.591,50',
    '15.03.2026;ORRIN MOBILE;A-3;-29,00;1.562,50',
  ];
  const foot = ['', 'Total;;;562,50;', 'Closing balance;;;;1.562,50', 'Printed by the bank'];

  it('is found under headings nobody has seen, between titles and totals', async () => {
    const { layout, lines, problems, statement } = await read([...posted, ...foot].join('\n'));
    expect(layout).toMatchObject({
      headerRow: 5,
      roles: ['date', 'description', 'reference', 'amount', 'balance'],
      isProved: true,
    });
    expect(lines.map(({ place, reference }) => [place, reference])).toEqual([
      [6, 'A-1'],
      [7, 'A-2'],
      [8, 'A-3'],
    ]);
    expect(statement).toMatchObject({ opening: 100000, closing: 156250 });
    expect(problems.map(({ severity, message }) => [severity, message])).toEqual([
      ['notice', 'Row 1 above the headings: passed over.'],
      ['notice', 'Row 3 above the headings: passed over.'],
      ['notice', 'Rows 10 to 12: no line but a title or a total, passed over.'],
    ]);
  });

  it('counts rows as the file does, blank ones too, and loses none to the headings', async () => {
    const text = posted.join('\n');
    const right = await read(text, { headerRow: 5 });
    expect(right.amounts).toEqual([-4850, 64000, -2900]);
    expect(right.statement.opening).toBe(100000);
    // Row 6 is a line: taken as the headings it would be lost, and says so.
    const wrong = await read(text, { headerRow: 6 });
    expect(wrong.problems.filter(({ severity }) => severity === 'refused')).toMatchObject([
      { line: 6, code: 'ROW_AS_HEADINGS' },
    ]);
    expect(right.layout.firstRows.map(({ place }) => place)).toEqual([1, 3, 5, 6, 7, 8]);
  });

  it('knows a dated total under the lines, and no other row for one', async () => {
    const dated = [...posted.slice(4), '15.03.2026;Total;;562,50;'].join('\n');
    expect((await read(dated)).amounts).toEqual([-4850, 64000, -2900]);
    const other = [...posted.slice(4), '15.03.2026;TOTAL CLAY;;-1,00;1.561,50'].join('\n');
    expect((await read(other)).amounts).toEqual([-4850, 64000, -2900, -100]);
    const undated = [...posted.slice(4), ';PENHALLOW CLAY;A-4;-1,00;1.561,50'].join('\n');
    expect((await read(undated)).problems).toMatchObject([
      { severity: 'refused', line: 5, code: 'DATE_MISSING' },
    ]);
  });

  it('keeps a figure against the sign of its column for one that was taken back', async () => {
    const read2 = async (...rows: readonly string[]) =>
      (await read(['Date,Text,Paid out,Paid in', ...rows].join('\n'))).amounts;
    expect(
      await read2('2026-03-01,A,48.50,', '2026-03-02,B,-8.50,', '2026-03-03,C,12.00,'),
    ).toEqual([-4850, 850, -1200]);
    expect(
      await read2('2026-03-01,A,-48.50,', '2026-03-02,B,,640.00', '2026-03-03,C,-12.00,'),
    ).toEqual([-4850, 64000, -1200]);
    expect(await read2('2026-03-01,A,48.50,', '2026-03-02,B,,-640.00')).toEqual([-4850, -64000]);
  });

  it('leaves day and month open where no date tells them apart, until somebody says', async () => {
    const text = 'Date,Text,Amount\n03/04/2026,A,-1.00\n05/04/2026,B,-2.00\n';
    const open = await read(text);
    expect(open).toMatchObject({ openDate: '03/04/2026', layout: { dates: 'dayFirst' } });
    const said = await read(text, { dates: 'monthFirst' });
    expect(said.openDate).toBeNull();
    expect(said.lines.map(({ date }) => date)).toEqual(['2026-03-04', '2026-05-04']);
    expect((await read(text.replace('05/04', '15/04'))).openDate).toBeNull();
  });

  it('reads the amounts of one column however each is written', async () => {
    const { amounts } = await read(
      [
        'Date;Text;Amount',
        '2026-03-01;A;-1.006,60',
        '2026-03-02;B;-1,006.60',
        '2026-03-03;C;+1 006,60',
        "2026-03-04;D;1'006.60",
        '2026-03-05;E;1.006,60-',
        '2026-03-06;F;(48,5)',
        '2026-03-07;G;48,50 DR',
        '2026-03-08;H;48.50 CR',
      ].join('\n'),
    );
    expect(amounts).toEqual([-100660, -100660, 100660, 100660, -100660, -4850, -4850, 4850]);
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
      'xl/worksheets/sheet1.xml': new Uint8Array(11_000_000),
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
