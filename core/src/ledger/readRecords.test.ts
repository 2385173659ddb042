import { describe, expect, it } from 'vitest';
import { readRecords } from './readRecords.ts';

describe('a file of entries or documents', () => {
  it('is read by its headings, in any order and with any delimiter', () => {
    const german =
      'Number;Supplier;Date;Due date;Amount\n2093;Penhallow Clay;02.03.2026;01.04.2026;1.312,40\n';
    expect(readRecords(german, 'EUR')).toMatchObject({
      problems: [],
      records: [
        {
          row: 2,
          number: '2093',
          payee: 'Penhallow Clay',
          date: '2026-03-02',
          dueDate: '2026-04-01',
          amount: 131_240,
          account: null,
        },
      ],
    });
    const comma =
      'kind,AMOUNT,document_date,customer\nInvoice,"1,312.40",2026-03-02,Nettle and Thread\n';
    expect(readRecords(comma, 'EUR').records).toMatchObject([
      { kind: 'invoice', amount: 131_240, payee: 'Nettle and Thread' },
    ]);
  });

  it('says row by row what can’t be read, and skips empty rows', () => {
    const { records, problems } = readRecords(
      'Date;Amount\n31.02.2026;5,00\n\n02.03.2026;clay\n03.03.2026;7,00\n',
      'EUR',
    );
    expect(records.map(({ amount }) => amount)).toEqual([700]);
    expect(problems).toEqual([
      { row: 2, message: '31 February doesn’t exist.' },
      { row: 4, message: expect.stringContaining('“clay” isn’t an amount') },
    ]);
  });

  it('has every column under each of its names, trimmed, empty cells as none', () => {
    const file = [
      '\uFEFF Issued ,GROSS,Type,Cheque-Number,Name,Due,Category,Tax_Rate,Details,From,To',
      ' 2026-03-02 , 7.50 , Cheque ,104, Orrin Bell ,2026-04-01,6010,20 %,  Repairs,Everyday,Tax pot',
      '2026-03-03,1.00,,, ,,,,,',
      ' , , ',
    ];
    expect(readRecords(file.join('\n'), 'EUR')).toEqual({
      problems: [],
      records: [
        {
          row: 2,
          kind: 'cheque',
          number: '104',
          payee: 'Orrin Bell',
          date: '2026-03-02',
          dueDate: '2026-04-01',
          amount: 750,
          account: '6010',
          tax: '20 %',
          text: 'Repairs',
          bankAccount: 'Everyday',
          to: 'Tax pot',
        },
        {
          row: 3,
          kind: null,
          number: null,
          payee: null,
          date: '2026-03-03',
          dueDate: null,
          amount: 100,
          account: null,
          tax: null,
          text: null,
          bankAccount: null,
          to: null,
        },
      ],
    });
  });

  it('says that a row has no date or no amount, where only these lack', () => {
    const { records, problems } = readRecords('Date;Amount;Text\n;5,00;a\n02.03.2026;;b\n', 'EUR');
    expect(records).toEqual([]);
    expect(problems.map(({ row }) => row)).toEqual([2, 3]);
  });

  it('needs a date and an amount column', () => {
    expect(readRecords('Date;Payee\n02.03.2026;Clay\n', 'EUR').problems[0]?.message).toBe(
      'The first row names no column for the amount.',
    );
    expect(readRecords('Number;Payee\n1;Clay\n', 'EUR').problems).toEqual([
      { row: 1, message: 'The first row names no column for the date and the amount.' },
    ]);
    expect(readRecords('', 'EUR').records).toEqual([]);
  });
});
