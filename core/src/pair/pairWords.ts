import { formatAmount } from '../money/formatAmount.ts';
import { counted } from '../words/t.ts';
import {
  type AmountReason,
  type CandidateKind,
  isDocument,
  type PairDifference,
  type PairReason,
  type SetReason,
} from './pairing.ts';

const KINDS: Readonly<Record<CandidateKind, string>> = {
  payment: 'Payment',
  receipt: 'Receipt',
  cheque: 'Cheque',
  deposit: 'Deposit',
  transfer: 'Transfer',
  paidPrivately: 'Cost paid privately',
  journal: 'Journal entry',
  bill: 'Bill',
  invoice: 'Invoice',
  creditNote: 'Credit note',
  credit: 'Credit left',
  returned: 'Returned payment of',
};

const PLURALS: Readonly<Record<CandidateKind, string>> = {
  payment: 'payments',
  receipt: 'receipts',
  cheque: 'cheques',
  deposit: 'deposits',
  transfer: 'transfers',
  paidPrivately: 'costs paid privately',
  journal: 'journal entries',
  bill: 'bills',
  invoice: 'invoices',
  creditNote: 'credit notes',
  credit: 'credits left',
  returned: 'returned payments',
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
  if (!isOneKind || first.kind === 'returned') return `${all.length} that add up`;
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
  numbers: 'The wording names them, and they add up to the line.',
  allOfPayee: 'They are everything open for this payee, and they add up to the line.',
  payee: 'They belong to the payee named in the wording, and they add up to the line.',
  run: 'They follow one another, and they add up to the line.',
  sum: 'They add up to the line; nothing else supports the match.',
};

/** Why several stand together, in a sentence. */
export function setWords(because: SetReason): string {
  return SETS[because];
}

/** What speaks for a candidate, in a sentence. */
export function fitWords(by: readonly PairReason[]): string {
  const said = [
    by.includes('amount') ? 'the same amount' : null,
    by.includes('number') ? 'its number in the wording' : null,
    by.includes('payee') ? 'the same payee' : null,
    by.includes('date') ? 'a likely date' : null,
  ].filter((words) => words !== null);
  return `Already in the books: ${said.join(', ')}.`;
}

/** Why amounts differ, as a question beside the difference. @example 'digits swapped?' */
export const amountReasonLabels: Readonly<Record<AmountReason, string>> = {
  fee: 'fee kept back?',
  transposed: 'digits swapped?',
  digit: 'one digit wrong?',
  decimal: 'decimal mark?',
  taxOff: 'tax left out?',
  sign: 'other way round?',
  missing: 'one missing?',
};

/** Why amounts differ, in a sentence. */
export const amountReasonWords: Readonly<Record<AmountReason, string>> = {
  fee: 'A little less arrived: a fee may have been kept back.',
  transposed: 'Two neighbouring digits are swapped: it may have been mistyped.',
  digit: 'They differ in one digit: it may have been mistyped.',
  decimal: 'They differ by a factor of ten: the decimal mark may be in the wrong place.',
  taxOff: 'One is the other with tax: it may have been entered without it.',
  sign: 'The amount is the same in the other direction: it may have been entered the wrong way round.',
  missing: 'Another item of exactly that amount is open: it may belong here too.',
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
      return 'another payee';
    case 'number':
      return 'another number';
    case 'direction':
      return 'the other direction';
    case 'amount': {
      const by = formatAmount(Math.abs(difference.by), currency);
      return difference.because === null ? by : `${by}, ${amountReasonLabels[difference.because]}`;
    }
  }
}
