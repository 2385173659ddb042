import type { BooksSetup } from '@zubrell/contract/books';
import { describe, expect, it } from 'vitest';
import { testBooks } from '../testing/testBooks.ts';
import { shownBooks } from './useBooks.ts';

const preferences: BooksSetup['books']['preferences'] = {
  hiddenFields: ['taxCodeId', 'note'],
  bankFields: [],
};

describe('a hidden field', () => {
  it('is away for who hides it', () => {
    const { isHidden } = shownBooks('books', testBooks({ preferences }));
    expect([isHidden('taxCodeId'), isHidden('note'), isHidden('jobId')]).toEqual([
      true,
      true,
      false,
    ]);
  });

  it('is there all the same where the books demand it', () => {
    const demands = { expense: ['note' as const] };
    const { isHidden } = shownBooks('books', testBooks({ preferences, demands }));
    expect([isHidden('taxCodeId'), isHidden('note')]).toEqual([true, false]);
  });
});
