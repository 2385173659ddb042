import type { PairDifference, PairingView, PairRow } from '@zubrell/contract/pairing';
import { candidateName, candidateNames } from '@zubrell/core/pair/candidateNames';
import { amountReasonWords, setWords } from '@zubrell/core/pair/pairWords';
import { t } from '@zubrell/core/words/t';
import { counted } from '../../app/formats.ts';

/** Why what is ticked fits, in sentences. */
export function whyWords(
  view: PairingView,
  rows: readonly PairRow[],
  amount: (minor: number) => string,
): readonly string[] {
  const set = view.sets.find((each) => idsOf(each.rows) === idsOf(rows));
  if (set && set.by !== 0) {
    return [
      t`They come to ${amount(Math.abs(set.by))} more than the line: a fee may have been kept back.`,
    ];
  }
  if (set && set.because !== 'numbers') return [setWords(set.because)];
  if (set) {
    const numbers = rows.flatMap(({ named, number }) =>
      number !== null && named.includes(number) ? [number] : [],
    );
    const payees = [...new Set(rows.map(({ payee }) => payee))];
    const whose = payees.length === 1 ? t`, all of ${payees[0]}` : '';
    return [
      t`The wording names ${listed(numbers)}, all open${whose}, and they add up to the line exactly.`,
    ];
  }
  return rows.slice(0, 4).map((row) => {
    const kinds = new Set(row.differences.map(({ kind }) => kind));
    const said = [
      kinds.has('amount') || row.likeness === 0 ? null : t`the same amount`,
      row.named.length > 0 ? t`the wording has ${row.named.join(' ')}` : null,
      kinds.has('date') ? t`but a date far off` : row.likeness >= 2 ? t`a likely date` : null,
      kinds.has('payee') ? t`but another payee` : null,
    ].filter((words) => words !== null);
    return `${candidateName(row)}: ${said.join(', ') || t`chosen by you`}.`;
  });
}

/** So many others are spoken of. */
const OTHERS = 2;

/** What fits as well or nearly, and what is different about it. */
export function otherWords(
  view: PairingView,
  rows: readonly PairRow[],
): readonly { readonly row: PairRow; readonly words: string }[] {
  const ticked = new Set(rows.map(({ id }) => id));
  const free = (all: readonly PairRow[]) =>
    all.filter(({ id, pairedWith }) => !ticked.has(id) && pairedWith === null);
  const fits = free(view.fits).slice(0, OTHERS);
  const misses = free(view.nearMisses).slice(0, OTHERS);
  return [...fits, ...misses].flatMap((row) => {
    const words = differingWords(row);
    return words === '' ? [] : [{ row, words }];
  });
}

function differingWords(row: PairRow): string {
  const said = row.differences.map(differenceSentence).filter(Boolean);
  if (said.length === 0 && row.likeness > 0) {
    return t`It fits as well: the same amount and nothing that differs. Look at the dates.`;
  }
  return said.join(' ');
}

function differenceSentence(difference: PairDifference): string {
  switch (difference.kind) {
    case 'amount':
      return difference.because === null ? '' : amountReasonWords[difference.because];
    case 'date':
      return difference.days > 0
        ? t`The same amount, but ${counted(difference.days, 'day', 'days')} before the line.`
        : t`The same amount, but ${counted(-difference.days, 'day', 'days')} after the line.`;
    case 'payee':
      return t`The wording doesn’t name its payee.`;
    case 'number':
      return t`Its number differs from the one in the wording.`;
    case 'direction':
      return t`The money goes the other way.`;
  }
}

/** What pairing does to the books, in sentences. */
export function whatWords(rows: readonly PairRow[], date: string): string {
  const returned = rows.filter(({ kind }) => kind === 'returned');
  const documents = rows.filter(({ kind, side }) => side !== null && kind !== 'returned');
  const entries = rows.filter(({ side }) => side === null);
  const said = (
    all: readonly PairRow[],
    one: (name: string) => string,
    many: (names: string) => string,
  ) => (all.length === 0 ? [] : [(all.length === 1 ? one : many)(candidateNames(all))]);
  const reopened = returned.map(({ number }) => t`${number ?? t`The document`} is open again.`);
  return [
    ...said(
      documents,
      (name) => t`${name} is paid on ${date}.`,
      (names) => t`${names} are paid on ${date}.`,
    ),
    ...reopened,
    ...said(
      entries,
      (name) => t`${name} stays as it is, and the bank has reported it.`,
      (names) => t`${names} stay as they are, and the bank has reported them.`,
    ),
    ...entries.flatMap(({ pays }) =>
      pays.length === 0
        ? []
        : pays.length === 1
          ? [t`${listed(pays)} is paid by it already.`]
          : [t`${listed(pays)} are paid by it already.`],
    ),
    t`Nothing is booked twice.`,
  ].join(' ');
}

/** @example listed(['1042', '1039']) // '1042 and 1039' */
function listed(all: readonly string[]): string {
  return all.length < 2 ? (all[0] ?? 'them') : t`${all.slice(0, -1).join(', ')} and ${all.at(-1)}`;
}

const idsOf = (rows: readonly PairRow[]) =>
  rows
    .map(({ id }) => id)
    .sort()
    .join();
