import type { DeskLine, Proposal, Stack } from '@zubrell/contract/desk';
import { describe, expect, it } from 'vitest';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { deskScopeOf } from './deskScope.ts';
import { deskSlice, edited, moved, scopeChanged, settled, stackOpened } from './deskSlice.ts';
import {
  completeCoding,
  deskRows,
  emptyCoding,
  isSameCoding,
  lineRow,
  ownAccountOf,
  rowCoding,
  stackDoubt,
  stackId,
} from './rows.ts';

const nothing = {
  payeeId: null,
  accountId: null,
  taxCodeId: null,
  note: null,
  tax: null,
  parts: null,
};
const proposal: Proposal = {
  kind: 'post',
  source: 'habit',
  coding: {
    payeeId: 'tidemark',
    parts: [{ accountId: '6010', taxCodeId: '20', share: { kind: 'rest' }, tax: null }],
    note: null,
  },
  grounds: [],
  doubts: [],
};

const setup = testBooks();

function stack(key: string, change: Partial<Stack> = {}): Stack {
  return {
    grouping: 'lookAlikes',
    key,
    direction: 'out',
    title: key,
    count: 2,
    pairCount: 0,
    equalLines: null,
    equalCount: 0,
    total: -200,
    currency: 'EUR',
    firstDate: '2026-03-01',
    lastDate: '2026-03-02',
    smallest: 100,
    largest: 100,
    proposal: null,
    draft: null,
    draftCount: 0,
    twiceCount: 0,
    heldCount: 0,
    held: null,
    answeredCount: 0,
    answer: null,
    accountCount: 0,
    ...change,
  };
}

function line(id: string, change: Partial<DeskLine> = {}): DeskLine {
  return {
    id,
    bankAccountId: 'everyday',
    date: '2026-03-01',
    amount: -100,
    description: 'TIDEMARK FRT',
    stem: 'TIDEMARK FRT',
    proposal: null,
    sureness: null,
    draft: null,
    draftVersion: 0,
    asked: null,
    answer: null,
    held: null,
    twiceOf: null,
    decision: null,
    ...change,
  };
}

describe('the rows of the Desk', () => {
  it('are every stack, and the lines of the open one below it', () => {
    const stacks = [stack('A'), stack('B'), stack('B', { direction: 'in' })];
    const [, second] = stacks;
    const rows = deskRows(stacks, second ? stackId(second) : null, [line('1'), line('2')]);
    expect(rows.map(({ kind, id }) => `${kind} ${id}`)).toEqual([
      'stack lookAlikes|out|A',
      'stack lookAlikes|out|B',
      'line 1',
      'line 2',
      'stack lookAlikes|in|B',
    ]);
  });

  it('show what was typed before the draft, and the draft before the proposal', () => {
    const row = lineRow(line('1', { proposal, draft: { ...nothing, accountId: '5020' } }));
    expect(rowCoding(row, { 1: { ...nothing, accountId: '6090' } }).accountId).toBe('6090');
    expect(rowCoding(row, {}).accountId).toBe('5020');
    expect(rowCoding(lineRow(line('1', { proposal })), {})).toEqual({
      ...nothing,
      payeeId: 'tidemark',
      accountId: '6010',
      taxCodeId: '20',
    });
    expect(rowCoding(lineRow(line('1')), {})).toEqual(nothing);
  });

  it('can be posted when the account is there, and say what is missing before', () => {
    expect(completeCoding(nothing, setup)).toEqual({ missing: 'the account' });
    expect(completeCoding({ ...nothing, accountId: '6010', note: 'N' }, setup)).toEqual({
      coding: {
        payeeId: null,
        parts: [{ accountId: '6010', taxCodeId: null, share: { kind: 'rest' }, tax: null }],
        note: 'N',
      },
    });
    const demanding = { ...setup, books: { ...setup.books, demands: { expense: ['payeeId'] } } };
    expect(completeCoding({ ...nothing, accountId: '6010' }, demanding as typeof setup)).toEqual({
      missing: 'a payee',
    });
    expect(isSameCoding(nothing, { ...nothing, note: '' })).toBe(true);
    expect(isSameCoding(nothing, { ...nothing, clientId: 'alder' })).toBe(false);
    expect(isSameCoding(nothing, { ...nothing, taxCodeId: '20' })).toBe(false);
  });
});

describe('a row on a bank account that holds clients’ money', () => {
  const [everyday] = testBooks().bankAccounts;
  const held = {
    ...testBooks(),
    payees: [testPayee, { ...testPayee, id: 'alder', kind: 'customer' as const }],
    bankAccounts: everyday ? [{ ...everyday, kind: 'clientMoney' as const }] : [],
  };
  const row = lineRow(line('1'));
  const coding = { ...emptyCoding, accountId: '6010' };
  const complete = (more: object) =>
    completeCoding({ ...coding, ...more }, held, ownAccountOf(row, held));

  it('misses the client, unless the payee is a customer', () => {
    expect(complete({ payeeId: 'tidemark' })).toEqual({ missing: 'a client' });
    expect(complete({ payeeId: 'alder' })).toHaveProperty('coding');
    expect(complete({ payeeId: 'tidemark', clientId: 'alder' })).toMatchObject({
      coding: { parts: [{ accountId: '6010', clientId: 'alder' }] },
    });
    // A stack may be of several accounts: each line is asked by itself.
    expect(
      ownAccountOf({ kind: 'ticked', id: 'ticked', lineIds: [], total: 0, currency: null }, held),
    ).toBeNull();
  });
});

describe('the scope in the address', () => {
  const scope = (query: string) => deskScopeOf(new URLSearchParams(query));

  it('reads account, period, search, lane and grouping', () => {
    expect(scope('account=a&period=2026-02&q=%3E500&lane=check&by=date')).toMatchObject({
      lane: 'check',
      grouping: 'date',
      scope: { bankAccountId: ['a'], from: '2026-02-01', to: '2026-02-28', search: '>500' },
    });
  });

  it('leaves out what it does not understand', () => {
    expect(scope('period=soon&lane=nowhere&by=colour&decision=maybe')).toEqual({
      lane: 'ready',
      grouping: 'lookAlikes',
      period: null,
      bankAccountId: null,
      search: '',
      side: null,
      isWithoutAttachment: false,
      decision: null,
      sorting: { by: 'usual', isTurned: false },
      decided: {},
      scope: {},
    });
  });
});

describe('the state of the Desk', () => {
  const { reducer } = deskSlice;
  const start = reducer(undefined, { type: 'start' });

  it('forgets what was typed into rows that are decided, and nothing else', () => {
    const coding = { ...nothing, accountId: '6010' };
    const typed = reducer(reducer(start, edited({ id: '1', coding })), edited({ id: '2', coding }));
    expect(Object.keys(reducer(typed, settled(['1'])).edits)).toEqual(['2']);
  });

  it('starts at the top in another scope, with what was typed kept', () => {
    const coding = { ...nothing, accountId: '6010' };
    const busy = [edited({ id: '1', coding }), moved({ id: '1', index: 7 }), stackOpened('s')];
    const after = reducer(busy.reduce(reducer, start), scopeChanged());
    expect(after).toMatchObject({ currentId: null, currentIndex: 0, openStack: null });
    expect(after.edits).toHaveProperty('1');
  });
});

describe('the doubt of a stack', () => {
  it('says that more equal lines fit than there is in the books', () => {
    const invoice = { kind: 'invoice', number: '1042' } as const;
    const equalLines = { kind: 'equalLines' as const, count: 2, targets: [invoice] };
    const equal = (change: Partial<Stack>) =>
      stackDoubt(
        stack('NETTLE', { direction: 'in', equalLines, pairCount: 3, equalCount: 1, ...change }),
      );
    expect(equal({})).toBe('3 equal receipts for invoice 1042');
    expect(equal({ direction: 'out', equalCount: 2 })).toBe('more equal payments than open items');
    expect(equal({ twiceCount: 1 })).toBe('may be the same payment twice');
  });
});
