import type { AccountId, PayeeId, TaxCodeId } from '../ids.ts';
import { wholeLineCoding } from '../ledger/coding.ts';
import type { Doubt, PostProposal } from './proposal.ts';

/** The coding columns of a prepared file, with what of the books they name. */
export interface FileCoding {
  readonly accountId: AccountId;
  readonly isAccountOn: boolean;
  readonly payee: string | null;
  readonly payeeId: PayeeId | null;
  readonly tax: string | null;
  readonly taxCodeId: TaxCodeId | null;
}

/**
 * The proposal that a prepared file's account, payee and tax columns give; names that are not in the
 * books are doubts.
 *
 * @example an account that is there and a tax code “19 %” that is not: the account, with a doubt
 */
export function proposeFromFile(coding: FileCoding): PostProposal {
  const { accountId, isAccountOn, payee, payeeId, tax, taxCodeId } = coding;
  const doubts: Doubt[] = [];
  if (!isAccountOn) doubts.push({ kind: 'accountOff', accountId });
  if (tax !== null && taxCodeId === null)
    doubts.push({ kind: 'unknownName', what: 'tax', name: tax });
  if (payee !== null && payeeId === null) {
    doubts.push({ kind: 'unknownName', what: 'payee', name: payee });
  }
  return {
    kind: 'post',
    source: 'file',
    coding: wholeLineCoding(accountId, payeeId, taxCodeId),
    grounds: [{ kind: 'prepared' }],
    doubts,
  };
}
