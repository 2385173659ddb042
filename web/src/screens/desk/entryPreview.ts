import type { BooksSetup } from '@zubrell/contract/books';
import type { DeskLine } from '@zubrell/contract/desk';
import { fail, ZubrellError } from '@zubrell/core/errors';
import { buildLegs, type Leg } from '@zubrell/core/ledger/buildLegs';
import type { Coding } from '@zubrell/core/ledger/coding';
import { taxSide } from '@zubrell/core/ledger/taxSide';
import { rateOn } from '@zubrell/core/tax/rateOn';
import { formatLongDate } from '../../app/formats.ts';
import { accountLabel, taxedAccount } from '../../app/useBooks.ts';

/** The legs that posting a line would make, or why it can't be posted so, in words. */
export type EntryPreview =
  | { readonly kind: 'legs'; readonly legs: readonly Leg[] }
  | { readonly kind: 'wrong'; readonly message: string };

/**
 * Builds the entry of a line as the server would, from what the screen knows of the books.
 *
 * @param line its amount is positive where money came in
 */
export function entryPreview(
  setup: BooksSetup,
  line: Pick<DeskLine, 'amount' | 'date' | 'bankAccountId'>,
  coding: Coding,
): EntryPreview {
  const bank = setup.bankAccounts.find(({ id }) => id === line.bankAccountId);
  try {
    const legs = buildLegs(line.amount, bank?.accountId ?? '', coding, {
      taxSide: (id, use) => {
        const account = taxedAccount(setup, id);
        return account && taxSide(account, use);
      },
      accountName: (id) => {
        const found = setup.accounts.find((account) => account.id === id);
        return found ? accountLabel(found) : fail('ACCOUNT_UNKNOWN');
      },
      isBank: (id) => setup.bankAccounts.some(({ accountId }) => accountId === id),
      tax: (id) => {
        const code = setup.taxCodes.find((each) => each.id === id) ?? fail('TAX_CODE_UNKNOWN');
        const rate =
          rateOn(code.rates, line.date) ??
          fail('TAX_RATE_MISSING', { name: code.name, date: formatLongDate(line.date) });
        return { ...code, rate };
      },
    });
    return { kind: 'legs', legs };
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    return { kind: 'wrong', message: error.message };
  }
}
