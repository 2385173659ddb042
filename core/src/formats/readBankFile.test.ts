import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ZubrellError } from '../errors.ts';
import type { BankFile } from './bankFile.ts';
import { readBankFile } from './readBankFile.ts';

function read(content: string | Uint8Array): Promise<BankFile> {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
  return readBankFile(bytes, { currency: 'EUR' });
}

const sgml = `OFXHEADER:100
DATA:OFXSGML
VERSION:102
SECURITY:NONE
ENCODING:USASCII
CHARSET:1252
COMPRESSION:NONE
OLDFILEUID:NONE
NEWFILEUID:NONE

<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR
<BANKACCTFROM><BANKID>WICK<ACCTID>4471<ACCTTYPE>SAVINGS</BANKACCTFROM>
<BANKTRANLIST><DTSTART>20260301<DTEND>20260331
<STMTTRN><TRNTYPE>POS<DTPOSTED>20260303120000[-5:EST]<TRNAMT>-48.50<FITID>A1<NAME>TIDEMARK &amp; CO<MEMO>ORDER 12</STMTTRN>
<STMTTRN>
<TRNTYPE>CREDIT
<DTPOSTED>20260320
<TRNAMT>+640,00
<FITID>A2
<NAME>NETTLE</NAME>
<BANKACCTTO><BANKID>X<ACCTID>9<ACCTTYPE>CHECKING</BANKACCTTO>
</STMTTRN>
</BANKTRANLIST><LEDGERBAL><BALAMT>1591.50<DTASOF>20260331</LEDGERBAL>
<AVAILBAL><BALAMT>99999.00<DTASOF>20260331</AVAILBAL>
</STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>
`;

const xml = `<?xml version="1.0" encoding="UTF-8"?>
<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>
<OFX><CREDITCARDMSGSRSV1><CCSTMTTRNRS><CCSTMTRS><CURDEF>EUR</CURDEF>
<CCACCTFROM><ACCTID>0916</ACCTID></CCACCTFROM><BANKTRANLIST>
<STMTTRN><TRNTYPE>DEBIT</TRNTYPE><DTPOSTED>20260303</DTPOSTED><TRNAMT>-4.80</TRNAMT><FITID>C1</FITID><NAME>Cobble Café</NAME></STMTTRN>
<STMTTRN><TRNTYPE>DEBIT</TRNTYPE><DTPOSTED>20260231</DTPOSTED><TRNAMT>-6.90</TRNAMT><FITID>C2</FITID><NAME>Parcel</NAME></STMTTRN>
<STMTTRN><TRNTYPE>DEBIT</TRNTYPE><DTPOSTED>20260304</DTPOSTED><TRNAMT>1.2.3</TRNAMT><FITID>C3</FITID><NAME>Odd</NAME></STMTTRN>
</BANKTRANLIST><LEDGERBAL><BALAMT>-11.70</BALAMT><DTASOF>20260305</DTASOF></LEDGERBAL>
</CCSTMTRS></CCSTMTTRNRS></CREDITCARDMSGSRSV1></OFX>
`;

describe('OFX', () => {
  it('1.x is read with unclosed elements, and only the booked balance', async () => {
    const { format, statements, problems } = await read(sgml);
    expect(format).toBe('ofx1');
    expect(problems).toEqual([]);
    expect(statements).toMatchObject([
      {
        account: '4471',
        bank: 'WICK',
        kind: 'savings',
        currency: 'EUR',
        from: '2026-03-01',
        to: '2026-03-31',
        opening: null,
        closing: 159150,
        closingDate: '2026-03-31',
        lines: [
          {
            place: 14,
            date: '2026-03-03',
            amount: -4850,
            description: 'TIDEMARK & CO ORDER 12',
            bankId: 'A1',
          },
          { place: 15, date: '2026-03-20', amount: 64000, description: 'NETTLE' },
        ],
      },
    ]);
  });

  it('2.x is read; a bad record is refused at its line, the others are kept', async () => {
    const { format, statements, problems } = await read(xml);
    expect(format).toBe('ofx2');
    expect(statements[0]).toMatchObject({ kind: 'card', account: '0916', closing: -1170 });
    expect(statements[0]?.lines.map((line) => line.description)).toEqual(['Cobble Café']);
    expect(problems).toMatchObject([
      { severity: 'refused', line: 6, message: '31 February doesn’t exist.', amount: -690 },
      { severity: 'refused', line: 7, code: 'AMOUNT_UNREADABLE' },
    ]);
  });

  it('2.x is read with elements left open, comments, literal text and empty elements', async () => {
    const whole = xml
      .replace('<TRNAMT>1.2.3<', '<TRNAMT>-1,006.60<')
      .replace(
        '<NAME>Cobble Café</NAME>',
        '<NAME><![CDATA[Cobble <&> ]]>Caf&#xe9;<!-- <x> --></NAME>',
      )
      .replace('<NAME>Odd</NAME>', '<NAME a="b">Odd</NAME><MEMO/>');
    const inOrder = (await read(whole)).statements[0]?.lines;
    expect(inOrder).toMatchObject([
      { place: 5, amount: -480, description: 'Cobble <&> Café' },
      { place: 7, amount: -100660, description: 'Odd' },
    ]);
    const leftOpen = whole.replaceAll(/<\/(?!OFX|CCSTMTRS)[A-Z0-9]+>/g, '');
    const { statements, problems } = await read(leftOpen);
    expect(statements[0]?.lines).toEqual(inOrder);
    expect(statements[0]).toMatchObject({ account: '0916', closing: -1170 });
    expect(problems).toMatchObject([{ line: 6, code: 'DATE_UNREAL' }]);
  });

  it('that is cut off keeps what was whole and says where it ends', async () => {
    for (const whole of [sgml, xml]) {
      const at = whole.lastIndexOf('<FITID>');
      const { statements, problems } = await read(whole.slice(0, at));
      expect(statements[0]?.lines.length).toBeGreaterThan(0);
      expect(problems.at(-1)).toMatchObject({ severity: 'fatal', code: 'FILE_CUT_OFF' });
    }
  });

  it('with a document type or entities is not read, and has no depth to run into', async () => {
    const bomb = xml.replace('<OFX>', '<!DOCTYPE x [<!ENTITY a "b"><!ENTITY c "&a;&a;">]><OFX>');
    expect(await read(bomb)).toMatchObject({
      statements: [],
      problems: [{ severity: 'fatal', line: 3, code: 'FILE_XML_ENTITIES' }],
    });
    const deep = `<?xml version="1.0"?><OFX>${'<A>'.repeat(100)}`;
    expect((await read(deep)).problems).toMatchObject([{ code: 'FILE_CUT_OFF' }]);
  });

  it('in another character set than it says is read, with a notice at the line', async () => {
    const latin = Uint8Array.from(xml, (character) => character.codePointAt(0) ?? 0);
    const { encoding, statements, problems } = await read(latin);
    expect(encoding).toBe('windows-1252');
    expect(statements[0]?.lines[0]?.description).toBe('Cobble Café');
    expect(problems[0]).toMatchObject({ severity: 'notice', line: 5, code: 'FILE_ENCODING' });
  });
});

describe('a text without end', () => {
  const word = 'PENHALLOW'.repeat(1000);

  it.each([
    [
      'CSV',
      `Date,Text,Reference,Amount\n2026-03-01,${word},${word},-1.00\n2026-03-02,CLAY,,-2.00\n`,
    ],
    ['OFX', sgml.replace('TIDEMARK &amp; CO', word)],
  ])('is cut in %s, with a word, and costs nothing else', async (_format, text) => {
    const { statements, problems } = await read(text);
    const lines = statements[0]?.lines ?? [];
    expect(lines).toHaveLength(2);
    expect(lines[0]?.description).toHaveLength(600);
    expect(lines[0]?.description).toMatch(/^PENHALLOW.*…$/);
    expect(lines[0]?.reference?.length ?? 0).toBeLessThanOrEqual(200);
    expect(problems).toMatchObject([{ severity: 'notice', code: 'FILE_TEXT_CUT' }]);
  });

  it('is cut before a character of two halves, not within it', async () => {
    const text = `Date,Text,Amount\n2026-03-01,${'x'.repeat(598)}${'😀'.repeat(9)},-1.00\n`;
    const description = (await read(text)).statements[0]?.lines[0]?.description;
    expect(description).toBe(`${'x'.repeat(598)}…`);
  });
});

describe('CSV', () => {
  it('with semicolons, day-first dates, decimal commas and running balances', async () => {
    const csv = [
      'Buchung;Text;Beleg;Betrag EUR;Stand',
      '01.03.2026;"Penhallow; Clay";771204;-212,40;-1.752,55',
      '02.03.2026;ORRIN MOBILE;;-29,00;-1.781,55',
      '31.02.2026;PARCEL;;-6,90;-1.788,45',
      '15.03.2026;CARD PAYMENT;;1.540,15;-248,30',
    ].join('\r\n');
    const { statements, problems } = await read(csv);
    expect(statements[0]).toMatchObject({
      currency: 'EUR',
      from: '2026-03-01',
      to: '2026-03-15',
      opening: -154015,
      closing: -24830,
      lines: [
        { place: 2, amount: -21240, description: 'Penhallow; Clay', reference: '771204' },
        { place: 3, amount: -2900 },
        { place: 5, amount: 154015, balance: -24830 },
      ],
    });
    expect(problems).toMatchObject([
      { line: 4, field: 'Buchung', message: '31 February doesn’t exist.', amount: -690 },
    ]);
  });

  it('with two amount columns, the newest line first, quoted line breaks and CP1252', async () => {
    const csv = [
      'Date,Details,Paid out,Paid in,Balance',
      '2026-03-04,"Caf\u00e9\nFeld",4.80,,95.20',
      '2026-03-03,Sale,,50.00,100.00',
      '2026-03-02,Both,1.00,1.00,50.00',
    ].join('\n');
    const { encoding, statements, problems } = await read(
      Uint8Array.from(csv, (character) => character.codePointAt(0) ?? 0),
    );
    expect(encoding).toBe('windows-1252');
    expect(statements[0]).toMatchObject({
      opening: 5000,
      closing: 9520,
      lines: [
        { place: 2, amount: -480, description: 'Café\nFeld' },
        { place: 4, amount: 5000 },
      ],
    });
    expect(problems).toMatchObject([{ line: 5, code: 'AMOUNT_TWICE' }]);
  });

  it('reads back what any table of lines says', async () => {
    const line = fc.record({
      day: fc.integer({ min: 1, max: 28 }),
      amount: fc.integer({ min: -1e9, max: 1e9 }),
      text: fc.string({ minLength: 1, unit: 'grapheme' }).filter((text) => /\S/.test(text)),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(line, { minLength: 1, maxLength: 20 }), async (lines) => {
        const rows = lines.map(({ day, amount, text }) => {
          const quoted = `"${text.replaceAll('"', '""')}"`;
          return `2026-03-${String(day).padStart(2, '0')},${quoted},${(amount / 100).toFixed(2)}`;
        });
        const { statements, problems } = await read(
          ['Date,Description,Amount', ...rows].join('\n'),
        );
        expect(problems).toEqual([]);
        expect(statements[0]?.lines.map(({ amount }) => amount)).toEqual(
          lines.map(({ amount }) => amount),
        );
      }),
    );
  });
});

describe('any bytes', () => {
  it('are read or refused by name, never more', async () => {
    const good = [sgml, xml, 'Date,Details,Amount\n2026-03-03,Clay,-1.00\n'];
    const mutated = fc
      .tuple(fc.constantFrom(...good), fc.nat(), fc.uint8Array({ maxLength: 12 }), fc.nat(40))
      .map(([text, seed, insert, cut]) => {
        const bytes = new TextEncoder().encode(text);
        const at = seed % bytes.length;
        return Uint8Array.from([...bytes.slice(0, at), ...insert, ...bytes.slice(at + cut)]);
      });
    await fc.assert(
      fc.asyncProperty(fc.oneof(mutated, fc.uint8Array({ maxLength: 300 })), async (bytes) => {
        try {
          for (const statement of (await read(bytes)).statements) {
            for (const { amount, date } of statement.lines) {
              expect(Number.isSafeInteger(amount)).toBe(true);
              expect(date).toMatch(/^\d{4}-\d{2}-\d{2}$/);
            }
          }
        } catch (error) {
          expect(error).toBeInstanceOf(ZubrellError);
        }
      }),
      { numRuns: 500 },
    );
  });

  it('that are no bank file are said to be none', async () => {
    await expect(read('')).rejects.toThrow('empty');
    await expect(read('hello, there\nnothing, here')).rejects.toThrow('We can’t read this file');
    await expect(read(Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0, 1, 2))).rejects.toThrow(
      'We can’t read this file',
    );
  });
});
