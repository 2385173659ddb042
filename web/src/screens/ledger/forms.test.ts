import { describe, expect, it } from 'vitest';
import { completeDocument, creditNoteFor, emptyDocument, totalOf } from './documentForm.ts';
import { completeHand, emptyHand, handDraftOf } from './handForm.ts';

const missing = (answer: object) => ('missing' in answer ? answer.missing : null);

describe('an entry that is typed', () => {
  const start = emptyHand('2026-03-02', 'everyday');

  it('says what is still missing, in the order of the form', () => {
    expect(missing(completeHand({ ...start, bankAccountId: null }))).toBe('the bank account');
    expect(missing(completeHand(start))).toBe('an amount above zero');
    const cheque = { ...start, amount: 4_850 };
    expect(missing(completeHand(cheque))).toBe('the cheque’s number');
    expect(missing(completeHand({ ...cheque, number: '7' }))).toBe('the account');
    const transfer = { ...cheque, kind: 'transfer', toBankAccountId: 'everyday' } as const;
    expect(missing(completeHand(transfer))).toBe('the other bank account');
  });

  it('comes back as the same draft when it is to be changed', () => {
    const draft = { ...start, amount: 4_850, number: '000416', accountId: 'clay', payeeId: 'p' };
    const complete = completeHand(draft);
    expect('entry' in complete && handDraftOf(complete.entry)).toEqual(draft);
  });

  it('of a journal has to balance; empty legs do not count', () => {
    const legs = [
      { accountId: 'repairs', amount: 9_000 },
      { accountId: 'payables', amount: -8_000 },
      { accountId: null, amount: null },
    ];
    const journal = { ...start, kind: 'journal' as const, legs };
    expect(missing(completeHand(journal))).toBe('debits and credits of the same total');
    const even = legs.map((leg) => (leg.amount === -8_000 ? { ...leg, amount: -9_000 } : leg));
    expect(completeHand({ ...journal, legs: even })).toMatchObject({
      entry: { kind: 'journal', legs: [{ amount: 9_000 }, { amount: -9_000 }] },
    });
    const half = [...even, { accountId: 'clay', amount: null }];
    expect(missing(completeHand({ ...journal, legs: half }))).toBe(
      'an account and an amount on each leg',
    );
  });
});

describe('a document that is typed', () => {
  const line = { text: 'Stoneware', accountId: 'clay', taxCodeId: '20', amount: 31_240 };
  const draft = {
    ...emptyDocument('payables', '2026-03-02'),
    number: ' 2093 ',
    payeeId: 'p',
    lines: [line, { text: '', accountId: null, taxCodeId: null, amount: null }],
  };

  it('is complete with its number, payee and lines; empty lines do not count', () => {
    expect(completeDocument(draft)).toMatchObject({
      document: { kind: 'bill', side: 'payables', number: '2093', dueDate: null, lines: [line] },
    });
    expect(missing(completeDocument({ ...draft, number: '' }))).toBe('the number');
    const nobody = { ...draft, payeeId: null };
    expect(missing(completeDocument(nobody))).toBe('the supplier');
    expect(missing(completeDocument({ ...nobody, side: 'receivables' }))).toBe('the customer');
    const open = { ...draft, lines: [{ ...line, amount: null }] };
    expect(missing(completeDocument(open))).toBe('an account and an amount on each line');
  });

  it('comes to more than nil, discounts and all', () => {
    const discounted = { ...draft, lines: [line, { ...line, amount: -31_240 }] };
    expect(totalOf(discounted)).toBe(0);
    expect(missing(completeDocument(discounted))).toBe('an amount above zero');
  });

  it('is credited by a note of its lines, dated today, that names it', () => {
    const sheet = {
      id: 'd',
      kind: 'invoice',
      side: 'receivables',
      number: '1042',
      payeeId: 'p',
      date: '2026-02-24',
      dueDate: '2026-03-22',
      amount: 31_240,
      open: 31_240,
      exchange: null,
      isVoid: false,
      entryId: 'e',
      lastStep: 1,
      seenStep: 1,
      lines: [{ ...line, tax: null }],
      note: null,
      payments: [],
      attachments: [],
    } as const;
    expect(
      creditNoteFor(
        { ...sheet, lines: [...sheet.lines], payments: [], attachments: [] },
        '2026-04-08',
      ),
    ).toMatchObject({
      kind: 'creditNote',
      number: '',
      date: '2026-04-08',
      dueDate: '',
      note: 'for 1042',
      lines: [line],
    });
  });
});
