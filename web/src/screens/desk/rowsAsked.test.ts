import { skipToken } from '@reduxjs/toolkit/query/react';
import { describe, expect, it } from 'vitest';
import { deskScopeOf } from './deskScope.ts';
import { decidedAsked, stacksAsked } from './rowsAsked.ts';

const at = (query: string) => deskScopeOf(new URLSearchParams(query));

describe('what the Desk asks for', () => {
  it('are stacks in the lanes of open lines, and nothing else there', () => {
    expect(stacksAsked('books', at('lane=check&by=payee&q=kiln&period=2026-02'))).toEqual({
      booksId: 'books',
      lane: 'check',
      grouping: 'payee',
      search: 'kiln',
      from: '2026-02-01',
      to: '2026-02-28',
    });
    expect(decidedAsked('books', at('lane=check'))).toBe(skipToken);
  });

  it.each([
    ['date', { order: 'date', isTurned: 'false' }],
    ['name-turned', { order: 'name', isTurned: 'true' }],
    ['amount-turned', { order: 'amount', isTurned: 'true' }],
    ['count', {}],
    ['usual', {}],
    ['nonsense', {}],
  ])('are decided lines in the order %s', (sort, order) => {
    expect(decidedAsked('books', at(`lane=decided&sort=${sort}`))).toEqual({
      booksId: 'books',
      ...order,
    });
    expect(stacksAsked('books', at('lane=decided'))).toBe(skipToken);
  });

  it('are decided lines by how they were decided', () => {
    expect(
      decidedAsked('books', at('lane=decided&decision=paired&codedTo=a1&side=out&attachment=none')),
    ).toEqual({
      booksId: 'books',
      kind: 'paired',
      accountId: 'a1',
      direction: 'out',
      attachment: 'none',
    });
  });
});
