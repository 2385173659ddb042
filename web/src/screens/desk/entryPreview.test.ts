import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import { describe, expect, it } from 'vitest';
import { testBooks } from '../../testing/testBooks.ts';
import { entryPreview } from './entryPreview.ts';

const setup = testBooks();
const line = { amount: -6_000, date: '2026-03-09', bankAccountId: 'everyday' };
const coded = (accountId: string, taxCodeId: string | null = null) =>
  wholeLineCoding(accountId, null, taxCodeId);

describe('the entry that posting a line would make', () => {
  it('comes to nothing, with the bank on one side', () => {
    const preview = entryPreview(setup, line, coded('6010'));
    if (preview.kind !== 'legs') throw new Error(preview.message);
    expect(preview.legs.map(({ accountId, amount }) => [accountId, amount])).toEqual([
      ['1010', -6_000],
      ['6010', 6_000],
    ]);
  });

  it('is what comes in the other way round', () => {
    const preview = entryPreview(setup, { ...line, amount: 6_000 }, coded('4010'));
    if (preview.kind !== 'legs') throw new Error(preview.message);
    expect(preview.legs.reduce((sum, { amount }) => sum + amount, 0)).toBe(0);
    expect(preview.legs[0]).toMatchObject({ accountId: '1010', amount: 6_000 });
  });

  it('can’t be shown with a tax code that is gone, and the reason is said', () => {
    expect(entryPreview(setup, line, coded('6010', 'gone'))).toEqual({
      kind: 'wrong',
      message: 'That tax code is not in these books.',
    });
  });
});
