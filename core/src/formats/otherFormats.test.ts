import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ZubrellError } from '../errors.ts';
import type { BankFile } from './bankFile.ts';
import { readBankFile } from './readBankFile.ts';

function read(content: string): Promise<BankFile> {
  return readBankFile(new TextEncoder().encode(content), { currency: 'EUR' });
}

function camt(body: string, message = 'BkToCstmrStmt', version = '053.001.02'): string {
  return `<?xml version="1.0" encoding="UTF-8"?>
<c:Document xmlns:c="urn:iso:std:iso:20022:tech:xsd:camt.${version}"><c:${message}>
${body}
</c:${message}></c:Document>`.replaceAll(/<(\/?)(?=[A-Z])/g, '<$1c:');
}

const account =
  '<Acct><Id><IBAN>XX123</IBAN></Id><Ccy>EUR</Ccy><Svcr><FinInstnId><BIC>WICKXX</BIC></FinInstnId></Svcr></Acct>';
const balance = (code: string, amount: string, side: string, date: string) =>
  `<Bal><Tp><CdOrPrtry><Cd>${code}</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">${amount}</Amt><CdtDbtInd>${side}</CdtDbtInd><Dt><Dt>${date}</Dt></Dt></Bal>`;
const entry = (amount: string, side: string, more: string) =>
  `<Ntry><Amt Ccy="EUR">${amount}</Amt><CdtDbtInd>${side}</CdtDbtInd><Sts>BOOK</Sts>` +
  `<BookgDt><Dt>2026-03-03</Dt></BookgDt><ValDt><DtTm>2026-03-04T10:00:00</DtTm></ValDt>${more}</Ntry>`;

describe('camt', () => {
  const statement = camt(`<Stmt><Id>1</Id>${account}
${balance('PRCD', '10.00', 'CRDT', '2026-03-02')}${balance('CLBD', '1.50', 'DBIT', '2026-03-03')}
${balance('CLAV', '99.00', 'CRDT', '2026-03-03')}
${entry('6.50', 'DBIT', '<AcctSvcrRef>A1</AcctSvcrRef><NtryDtls><TxDtls><Refs><EndToEndId>E2E</EndToEndId></Refs><RltdPties><Cdtr><Nm>Penhallow Clay</Nm></Cdtr></RltdPties><RmtInf><Ustrd>Order 12</Ustrd></RmtInf></TxDtls></NtryDtls>')}
${entry('5.00', 'DBIT', '<RvslInd>true</RvslInd><AddtlNtryInf>Returned</AddtlNtryInf>')}
</Stmt>`);

  it('053 states account, booked balances, texts and directions', async () => {
    const { format, statements, problems } = await read(statement);
    expect([format, problems]).toEqual(['camt', []]);
    expect(statements).toMatchObject([
      {
        account: 'XX123',
        bank: 'WICKXX',
        currency: 'EUR',
        opening: 1000,
        closing: -150,
        closingDate: '2026-03-03',
        lines: [
          {
            date: '2026-03-03',
            valueDate: '2026-03-04',
            amount: -650,
            description: 'Penhallow Clay Order 12',
            payee: 'Penhallow Clay',
            reference: 'E2E',
            bankId: 'A1',
            isPending: false,
          },
          { amount: -500, description: 'Returned' },
        ],
      },
    ]);
  });

  it('may write dates without hyphens', async () => {
    const { statements, problems } = await read(
      statement.replaceAll(/2026-03-(\d\d)(T10:00:00)?/g, '202603$1'),
    );
    expect(problems).toEqual([]);
    expect(statements[0]?.lines[0]).toMatchObject({ date: '2026-03-03', valueDate: '2026-03-04' });
    expect(statements[0]?.closingDate).toBe('2026-03-03');
  });

  it('nested deeper than any bank would is refused', async () => {
    const deep = await read(camt(`<Stmt>${account}${entry('1.00', 'DBIT', '<A>'.repeat(100))}`));
    expect(deep.problems).toMatchObject([{ code: 'FILE_TOO_DEEP' }]);
  });

  it('052 and 054 of later versions, with several reports and pending entries', async () => {
    const pending = entry('2.00', 'CRDT', '').replace('BOOK', '<Cd>PDNG</Cd>');
    const both = `<Rpt>${account}${pending}</Rpt><Rpt><Acct><Id><Othr><Id>0916</Id></Othr></Id></Acct></Rpt>`;
    const { statements } = await read(camt(both, 'BkToCstmrAcctRpt', '052.001.08'));
    expect(statements.map(({ account: number }) => number)).toEqual(['XX123', '0916']);
    expect(statements[0]?.lines).toMatchObject([{ amount: 200, isPending: true }]);
    const note = camt(
      `<Ntfctn>${account}${entry('1.00', 'CRDT', '')}</Ntfctn>`,
      'BkToCstmrDbtCdtNtfctn',
    );
    expect((await read(note)).statements[0]?.lines).toHaveLength(1);
  });

  it('parts a batch entry only where its transactions add up', async () => {
    const detail = (amount: string | null) =>
      `<TxDtls>${amount === null ? '' : `<Amt Ccy="EUR">${amount}</Amt><CdtDbtInd>CRDT</CdtDbtInd>`}<RltdPties><Dbtr><Pty><Nm>Who</Nm></Pty></Dbtr></RltdPties></TxDtls>`;
    const batch = async (...amounts: (string | null)[]) => {
      const { statements } = await read(
        camt(
          `<Stmt>${account}${entry('9.00', 'CRDT', `<AcctSvcrRef>B</AcctSvcrRef><NtryDtls>${amounts.map(detail).join('')}</NtryDtls>`)}</Stmt>`,
        ),
      );
      return statements[0]?.lines.map(({ amount, bankId, payee }) => [amount, bankId, payee]);
    };
    expect(await batch('4.00', '5.00')).toEqual([
      [400, 'B/1', 'Who'],
      [500, 'B/2', 'Who'],
    ]);
    expect(await batch('4.00', '4.00')).toEqual([[900, 'B', 'Who']]);
    expect(await batch('9.00', null)).toEqual([[900, 'B', 'Who']]);
  });

  it('that is cut off or wrong in a record says where', async () => {
    const torn = await read(statement.slice(0, statement.indexOf('Returned')));
    expect(torn.statements[0]?.lines).toHaveLength(1);
    expect(torn.problems).toMatchObject([{ severity: 'fatal', code: 'FILE_CUT_OFF' }]);
    const wrong = await read(
      statement.replace('>6.50<', '>6.5.0<').replaceAll('2026-03-03', '2026-02-31'),
    );
    expect(new Set(wrong.problems.map(({ code }) => code))).toEqual(
      new Set(['AMOUNT_UNREADABLE', 'DATE_UNREAL']),
    );
  });
});

const mt = `{1:F01WICKXX}{2:I940}{4:
:20:START
:25:WICK/4471
:28C:12/1
:60F:C260228EUR1000,00
:61:2603030304D48,50NTRFNONREF//B1
:86:166?00DIRECT DEBIT?20ORDER 20318 FREI?21GHT MARCH?32TIDEMARK ?33FREIGHT
:61:260305RD12,NMSCNONREF
:62M:C260305EUR963,50
-}{4:
:20:NEXT
:25:WICK/4471
:28C:12/2
:60M:C260305EUR963,50
:61:251231RC5,25NCHK1042
:86:/NAME/NETTLE AND THREAD/EREF/INV 7/REMI/RETURNED
 AS AGREED
:62F:C260331EUR958,25
:64:C260331EUR1,00
-}`;

describe('MT940', () => {
  it('puts pages together and reads every kind of information', async () => {
    const { format, statements, problems } = await read(mt);
    expect([format, problems]).toEqual(['mt940', []]);
    expect(statements).toMatchObject([
      { account: 'WICK/4471', opening: 100000, closing: 95825, closingDate: '2026-03-31' },
    ]);
    expect(statements[0]?.lines).toMatchObject([
      {
        place: 6,
        date: '2026-03-04',
        valueDate: '2026-03-03',
        amount: -4850,
        description: 'TIDEMARK FREIGHT ORDER 20318 FREIGHT MARCH',
        payee: 'TIDEMARK FREIGHT',
        reference: null,
        bankId: 'B1',
      },
      { amount: 1200, date: '2026-03-05' },
      {
        amount: -525,
        date: '2025-12-31',
        payee: 'NETTLE AND THREAD',
        reference: 'INV 7',
        chequeNumber: '1042',
        description: 'NETTLE AND THREAD RETURNED AS AGREED',
      },
    ]);
  });

  it('942 has lines and no balance; a wrong line is refused at its place', async () => {
    const report =
      ':20:R\n:25:4471\n:34F:USD0,\n:61:260231D1,00NMSC\n:61:260301D1,00NMSCX\n:86:FEE\n';
    const { statements, problems } = await read(report);
    expect(statements).toMatchObject([
      {
        currency: 'USD',
        opening: null,
        closing: null,
        lines: [{ amount: -100, description: 'FEE' }],
      },
    ]);
    expect(problems).toMatchObject([{ line: 4, code: 'DATE_UNREAL' }]);
  });
});

describe('field 61', () => {
  const linesOf = async (...fields: readonly string[]) => {
    const text = `:20:S\n:25:4471\n:60F:C260228EUR10,00\n${fields.join('\n')}\n:62F:C260331EUR10,00\n`;
    const { statements, problems } = await read(text);
    expect(problems).toEqual([]);
    return statements[0]?.lines;
  };

  it.each([
    [':61:2602300302D48,50NTRFNONREF//B1', { date: '2026-03-02', valueDate: '2026-02-28' }],
    [':61:240230D48,50NTRFNONREF//B1', { date: '2024-02-29', valueDate: '2024-02-29' }],
    [':61:2603030303D48,50\nNTRFNONREF//B1', { type: 'NTRF', bankId: 'B1' }],
    [':61:26030303\n03D48,50NTRFNONREF//B1', { date: '2026-03-03', type: 'NTRF', bankId: 'B1' }],
    [':61:260303D48,50NTRFINV\n2026-7//B1', { reference: 'INV2026-7', bankId: 'B1' }],
    [':61:260303D48,50NTRFINV 7//\nB1', { reference: 'INV 7', bankId: 'B1' }],
    [
      ':61:260303D48,50NTRFNONREF//B1\nTIDEMARK\nFREIGHT',
      { bankId: 'B1', description: 'TIDEMARK FREIGHT' },
    ],
    [':61:260303DR48,50NTRFNONREF', { type: 'NTRF', reference: null }],
    [':61:260303d48,5ntrfnonref//b1', { type: 'NTRF', reference: null, bankId: 'b1' }],
    [':61:260303D48,50N051INV 7', { type: 'N051', reference: 'INV 7' }],
    [':61:260303D48,50XYZ1NONREF', { type: 'XYZ1', reference: null }],
    [':61:260303D48,50S103INV 7//B1', { type: 'S103', reference: 'INV 7' }],
    [':61:260303D48.50NTRFNONREF', {}],
  ])('is read from %j', async (field, expected) => {
    expect(await linesOf(field)).toMatchObject([{ amount: -4850, ...expected }]);
  });

  it('of a statement takes no information that is about the whole of it', async () => {
    const field = ':61:260303D48,50NTRFNONREF';
    expect(await linesOf(`${field}\n:86:CLAY`)).toMatchObject([{ description: 'CLAY' }]);
    const { statements } = await read(
      `:20:S\n:25:4471\n:60F:C260228EUR10,00\n${field}\n:62F:C260331EUR10,00\n:86:YEARLY NOTICE\n`,
    );
    expect(statements[0]?.lines).toMatchObject([{ description: '' }]);
  });
});

describe('QIF', () => {
  it('reads dates in the order the whole file has, and passes other lists over', async () => {
    const { format, statements, problems } = await read(
      "!Type:Bank\nD3/ 5'26\nT-1,048.50\nPTidemark\nMOrder 7\nN1042\nSFreight\n$-1.00\n^\n" +
        "D3/28'26\nT640.00\nPNettle\n^\n!Type:Invst\nD1/1'26\n^\n",
    );
    expect(format).toBe('qif');
    expect(statements[0]?.lines).toMatchObject([
      {
        date: '2026-03-05',
        amount: -104850,
        description: 'Tidemark Order 7',
        chequeNumber: '1042',
      },
      { date: '2026-03-28', amount: 64000 },
    ]);
    expect(problems).toMatchObject([{ severity: 'notice' }]);
  });

  it('without its last mark is cut off', async () => {
    const { statements, problems } = await read(
      '!Type:CCard\nD2026-03-01\nT-1.00\n^\nD2026-03-02\nT-2.',
    );
    expect(statements[0]).toMatchObject({ kind: 'card', lines: [{ amount: -100 }] });
    expect(problems).toMatchObject([{ code: 'FILE_CUT_OFF', line: 6 }]);
  });

  it.each([
    'D2026-03-02\nT-2.00',
    'D2026-03-02\nT-2\n',
    'T-2.00\nD2026-03-02',
    'D2026-03-02\nT-2\nPNett',
  ])('without its last mark is whole where date and amount are there: %j', async (record) => {
    const { statements, problems } = await read(`!Type:Bank\nD2026-03-01\nT-1.00\n^\n${record}`);
    expect(problems).toEqual([]);
    expect(statements[0]?.lines.map(({ amount }) => amount)).toEqual([-100, -200]);
  });
});

describe('mutated files of every format', () => {
  it('are read or refused by name, never more', async () => {
    const good = [
      mt,
      camt(`<Stmt>${account}${entry('1.00', 'DBIT', '')}</Stmt>`),
      "!Type:Bank\nD3/5'26\nT-1.00\nPX\n^\n",
    ];
    const mutated = fc
      .tuple(fc.constantFrom(...good), fc.nat(), fc.uint8Array({ maxLength: 9 }), fc.nat(60))
      .map(([text, seed, insert, cut]) => {
        const bytes = new TextEncoder().encode(text);
        const at = seed % bytes.length;
        return Uint8Array.from([...bytes.slice(0, at), ...insert, ...bytes.slice(at + cut)]);
      });
    await fc.assert(
      fc.asyncProperty(mutated, async (bytes) => {
        try {
          for (const { lines } of (await readBankFile(bytes, { currency: 'EUR' })).statements) {
            for (const { amount } of lines) expect(Number.isSafeInteger(amount)).toBe(true);
          }
        } catch (error) {
          expect(error).toBeInstanceOf(ZubrellError);
        }
      }),
      { numRuns: 600 },
    );
  });
});
