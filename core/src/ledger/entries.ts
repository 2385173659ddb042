/** What is entered by hand before or beside what the bank reports. */
export const handKinds = [
  'payment',
  'receipt',
  'cheque',
  'deposit',
  'transfer',
  'paidPrivately',
  'journal',
] as const;
export type HandKind = (typeof handKinds)[number];

/**
 * What an entry is: `line` posts a line, `settlement` is a payment that pairing a line with documents makes,
 * `document` is a bill, invoice or credit note, `valuation` what other currencies are worth on a day; the others were
 * entered by hand. `paidPrivately` is a cost of the business that an owner paid: no bank of the books knows of it.
 */
export const entryKinds = [
  'line',
  'opening',
  ...handKinds,
  'document',
  'settlement',
  'valuation',
] as const;
export type EntryKind = (typeof entryKinds)[number];

/** What is entered by hand and waits for the bank to report it. A journal does only where that is said. */
export const waitingKinds = [
  'payment',
  'receipt',
  'cheque',
  'deposit',
  'transfer',
] as const satisfies readonly EntryKind[];

/** Entries that a decision on lines makes: they go with it when it is taken back. */
export const ownKinds = ['line', 'settlement'] as const satisfies readonly EntryKind[];

/** Which way money goes that is entered as this: 1 for in, −1 for out. */
export function handDirection(kind: Exclude<HandKind, 'transfer' | 'journal'>): 1 | -1 {
  return kind === 'receipt' || kind === 'deposit' ? 1 : -1;
}
