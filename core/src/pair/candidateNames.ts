import { t } from '../words/t.ts';
import { type CandidateKind, isDocument } from './pairing.ts';

const KINDS: Readonly<Record<CandidateKind, string>> = {
  payment: t`Payment`,
  receipt: t`Receipt`,
  cheque: t`Cheque`,
  deposit: t`Deposit`,
  transfer: t`Transfer`,
  paidPrivately: t`Cost paid privately`,
  journal: t`Journal entry`,
  bill: t`Bill`,
  invoice: t`Invoice`,
  creditNote: t`Credit note`,
  credit: t`Credit left`,
  returned: t`Returned payment of`,
};

const PLURALS: Readonly<Record<CandidateKind, string>> = {
  payment: t`payments`,
  receipt: t`receipts`,
  cheque: t`cheques`,
  deposit: t`deposits`,
  transfer: t`transfers`,
  paidPrivately: t`costs paid privately`,
  journal: t`journal entries`,
  bill: t`bills`,
  invoice: t`invoices`,
  creditNote: t`credit notes`,
  credit: t`credits left`,
  returned: t`returned payments`,
};

/** What stands in the books, in a few words. @example candidateName({ kind: 'invoice', number: '1042' }) // 'Invoice 1042' */
export function candidateName({
  kind,
  number,
}: {
  readonly kind: CandidateKind;
  readonly number: string | null;
}): string {
  return number === null || number === '' ? KINDS[kind] : `${KINDS[kind]} ${number}`;
}

/**
 * Several, in a few words.
 *
 * @example candidateNames([invoice1039, invoice1042]) // 'Invoices 1039, 1042'
 */
export function candidateNames(
  all: readonly { readonly kind: CandidateKind; readonly number: string | null }[],
): string {
  const [first] = all;
  if (!first) return '';
  if (all.length === 1) return candidateName(first);
  const isOneKind = all.every(({ kind }) => kind === first.kind);
  if (!isOneKind || first.kind === 'returned') return t`${all.length} that add up`;
  const numbers = all.map(({ number }) => number).filter((number) => number !== null);
  return isDocument(first) && numbers.length === all.length && all.length <= 3
    ? `${KINDS[first.kind]}s ${numbers.join(', ')}`
    : `${all.length} ${PLURALS[first.kind]}`;
}

/** So many of a kind. @example countedNames([invoice1039, invoice1042]) // '2 invoices' */
export function countedNames(
  all: readonly { readonly kind: CandidateKind; readonly number: string | null }[],
): string {
  const kinds = new Set(all.map(({ kind }) => kind));
  const [kind] = kinds;
  return kind && kinds.size === 1 ? `${all.length} ${PLURALS[kind]}` : `${all.length}`;
}
