import type { DraftCoding } from '@zubrell/contract/coding';
import type { Uses } from '../../app/codingChoices.ts';
import type { ShownBooks } from '../../app/useBooks.ts';

/**
 * A coding with what is usual in the fields that are still empty: a payee's usual account, and the tax
 * code that this payee, or else this account, was posted with last. What is filled in stays, but for the tax code on an
 * account that takes no tax. What goes to another business of the owner is on the account between the two, and nowhere
 * else.
 *
 * @example a payee alone: the payee's account and tax code come with it
 */
export function withUsual(
  coding: DraftCoding,
  { payees, accounts }: Uses,
  { takesTax, setup }: Pick<ShownBooks, 'takesTax' | 'setup'>,
): DraftCoding {
  if (coding.parts !== null) return coding;
  const related = setup.payees.find(
    ({ id, kind }) => id === coding.payeeId && kind === 'relatedBusiness',
  );
  if (related?.accountId) return { ...coding, accountId: related.accountId, taxCodeId: null };
  const payee = payees.find(({ payeeId }) => payeeId === coding.payeeId);
  const accountId = coding.accountId ?? payee?.usualAccountId ?? null;
  if (accountId !== null && !takesTax(accountId)) return { ...coding, accountId, taxCodeId: null };
  if (accountId === null || coding.taxCodeId !== null) return { ...coding, accountId };
  const taxCodeId =
    payee?.usualAccountId === accountId
      ? payee.usualTaxCodeId
      : (accounts.find((use) => use.accountId === accountId)?.lastTaxCodeId ?? null);
  return { ...coding, accountId, taxCodeId };
}
