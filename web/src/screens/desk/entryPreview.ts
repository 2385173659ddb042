import type { BooksSetup } from '@zubrell/contract/books';
import { fail, ZubrellError } from '@zubrell/core/errors';
import type { BankAccountId } from '@zubrell/core/ids';
import { buildLegs, type Leg } from '@zubrell/core/ledger/buildLegs';
import type { Coding } from '@zubrell/core/ledger/coding';
import { accountLabel, taxSideOf } from '../../app/useBooks.ts';

/** The legs that posting a line would make, or why it can't be posted so, in words. */
export type EntryPreview =
  | { readonly kind: 'legs'; readonly legs: readonly Leg[] }
  | { readonly kind: 'wrong'; readonly message: string };

/**
 * Builds the entry of a line as the server would, from what the screen knows of the books.
 *
 * @param line the line's amount, in positive, out negative
 * @param bankAccountId the line's bank account
 */
export function entryPreview(
  setup: BooksSetup,
  line: number,
  bankAccountId: BankAccountId,
  coding: Coding,
): EntryPreview {
  const bank = setup.bankAccounts.find(({ id }) => id === bankAccountId);
  try {
    const legs = buildLegs(line, bank?.accountId ?? '', coding, {
      taxSide: (id) => taxSideOf(setup, id),
      accountName: (id) => {
        const found = setup.accounts.find((account) => account.id === id);
        return found ? accountLabel(found) : fail('ACCOUNT_UNKNOWN');
      },
      isBank: (id) => setup.bankAccounts.some(({ accountId }) => accountId === id),
      tax: (id) => setup.taxCodes.find((code) => code.id === id) ?? fail('TAX_CODE_UNKNOWN'),
    });
    return { kind: 'legs', legs };
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    return { kind: 'wrong', message: error.message };
  }
}
