import { formatAmount } from '../money/formatAmount.ts';
import { counted, t } from '../words/t.ts';
import {
  type AmountReason,
  type CandidateKind,
  isDocument,
  type PairDifference,
  type PairReason,
  type SetReason,
} from './pairing.ts';

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

const SETS: Readonly<Record<SetReason, string>> = {
  numbers: t`The wording names them, and they add up to the line.`,
  allOfPayee: t`They are everything open for this payee, and they add up to the line.`,
  payee: t`They belong to the payee named in the wording, and they add up to the line.`,
  run: t`They follow one another, and they add up to the line.`,
  sum: t`They add up to the line; nothing else supports the match.`,
};

/** Why several stand together, in a sentence. */
export function setWords(because: SetReason): string {
  return SETS[because];
}

/** What speaks for a candidate, in a sentence. */
export function fitWords(by: readonly PairReason[]): string {
  const said = [
    by.includes('amount') ? t`the same amount` : null,
    by.includes('number') ? t`its number in the wording` : null,
    by.includes('payee') ? t`the same payee` : null,
    by.includes('date') ? t`a likely date` : null,
  ].filter((words) => words !== null);
  return t`Already in the books: ${said.join(', ')}.`;
}

/** Why amounts differ, as a question beside the difference. @example 'digits swapped?' */
export const amountReasonLabels: Readonly<Record<AmountReason, string>> = {
  fee: t`fee kept back?`,
  transposed: t`digits swapped?`,
  digit: t`one digit wrong?`,
  decimal: t`decimal mark?`,
  taxOff: t`tax left out?`,
  sign: t`other way round?`,
  missing: t`one missing?`,
};

/** Why amounts differ, in a sentence. */
export const amountReasonWords: Readonly<Record<AmountReason, string>> = {
  fee: t`A little less arrived: a fee may have been kept back.`,
  transposed: t`Two neighbouring digits are swapped: it may have been mistyped.`,
  digit: t`They differ in one digit: it may have been mistyped.`,
  decimal: t`They differ by a factor of ten: the decimal mark may be in the wrong place.`,
  taxOff: t`One is the other with tax: it may have been entered without it.`,
  sign: t`The amount is the same in the other direction: it may have been entered the wrong way round.`,
  missing: t`Another item of exactly that amount is open: it may belong here too.`,
};

/** How a candidate differs, in a few words. @example '24 days before' */
export function differenceWords(difference: PairDifference, currency: string): string {
  switch (difference.kind) {
    case 'date': {
      const { days } = difference;
      const size = Math.abs(days);
      return `${counted(size, 'day', 'days')} ${days > 0 ? 'before' : 'after'}`;
    }
    case 'payee':
      return t`another payee`;
    case 'number':
      return t`another number`;
    case 'direction':
      return t`the other direction`;
    case 'amount': {
      const by = formatAmount(Math.abs(difference.by), currency);
      return difference.because === null ? by : `${by}, ${amountReasonLabels[difference.because]}`;
    }
  }
}
