import type { DocumentSheet, NewDocument } from '@zubrell/contract/documents';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { AccountId, LegId, PayeeId, TaxCodeId } from '@zubrell/core/ids';
import type { DocumentSide } from '@zubrell/core/ledger/documents';
import { t } from '@zubrell/core/words/t';

/** A document as it is being typed. */
export interface DocumentDraft {
  readonly kind: NewDocument['kind'];
  readonly side: DocumentSide;
  readonly number: string;
  readonly payeeId: PayeeId | null;
  readonly date: string;
  readonly dueDate: string;
  readonly note: string;
  /** Empty for that of the books. */
  readonly currency: string;
  /** The exchange rate that was typed; null for that of the day. */
  readonly rate: string | null;
  readonly lines: readonly DraftLine[];
}

export interface DraftLine {
  readonly text: string;
  readonly accountId: AccountId | null;
  readonly taxCodeId: TaxCodeId | null;
  readonly amount: number | null;
  /** The tax as it was said; left out or null for the computed one. */
  readonly tax?: number | null | undefined;
  /** The cost that it charges to the customer. */
  readonly rechargedLegId?: LegId | null | undefined;
}

export const emptyLine: DraftLine = { text: '', accountId: null, taxCodeId: null, amount: null };

/** What a document of a side begins with. */
export function emptyDocument(side: DocumentSide, date: string): DocumentDraft {
  const kind = side === 'payables' ? 'bill' : 'invoice';
  return {
    kind,
    side,
    number: '',
    payeeId: null,
    date,
    dueDate: '',
    note: '',
    currency: '',
    rate: null,
    lines: [emptyLine],
  };
}

/** When a document is due by its payee's terms; as it was where the payee has none. */
export function dueByTerms(
  { date, dueDate }: Pick<DocumentDraft, 'date' | 'dueDate'>,
  termsDays: number | null | undefined,
): string {
  return termsDays === null || termsDays === undefined || date === ''
    ? dueDate
    : addDays(date, termsDays);
}

/** A document as a draft that can be changed. */
export function documentDraftOf(sheet: DocumentSheet): DocumentDraft {
  const { kind, side, number, payeeId, date, dueDate, note, lines, exchange } = sheet;
  return {
    kind: kind === 'credit' ? 'creditNote' : kind,
    side,
    number: number ?? '',
    payeeId,
    date,
    dueDate: dueDate ?? '',
    note: note ?? '',
    currency: exchange?.currency ?? '',
    rate: exchange?.rate ?? null,
    lines,
  };
}

/** A credit note for a document, over what is still open of it at first. */
export function creditNoteFor(sheet: DocumentSheet, date: string): DocumentDraft {
  return {
    ...documentDraftOf(sheet),
    // What the invoice charges on is charged on by that alone.
    lines: sheet.lines.map(({ rechargedLegId: _, ...line }) => line),
    kind: 'creditNote',
    number: '',
    date,
    dueDate: '',
    rate: null,
    note: t`for ${sheet.number ?? ''}`.trim(),
  };
}

/** A draft as a document, or what is still missing, in words. */
export function completeDocument(
  draft: DocumentDraft,
): { readonly document: NewDocument } | { readonly missing: string } {
  const { kind, side, payeeId, date, dueDate, note, rate } = draft;
  const currency = draft.currency.trim().toUpperCase() || null;
  if (draft.number.trim() === '') return { missing: t`the number` };
  if (payeeId === null) {
    return { missing: side === 'payables' ? t`the supplier` : t`the customer` };
  }
  if (date === '') return { missing: t`the date` };
  if (currency !== null && !/^[A-Z]{3}$/.test(currency)) {
    return { missing: t`three letters for the currency` };
  }
  const filled = draft.lines.filter(
    ({ text, accountId, amount }) => text.trim() !== '' || accountId !== null || amount !== null,
  );
  const lines = filled.flatMap(
    ({ text, accountId, taxCodeId, amount, tax = null, rechargedLegId }) =>
      accountId === null || amount === null
        ? []
        : [
            {
              text: text.trim(),
              accountId,
              taxCodeId,
              amount,
              tax,
              ...(rechargedLegId ? { rechargedLegId } : {}),
            },
          ],
  );
  if (lines.length < filled.length || lines.length === 0) {
    return { missing: t`an account and an amount on each line` };
  }
  if (totalOf(draft) <= 0) return { missing: t`an amount above zero` };
  return {
    document: {
      kind,
      side,
      number: draft.number.trim(),
      payeeId,
      date,
      dueDate: dueDate === '' ? null : dueDate,
      note: note.trim() || null,
      currency,
      rate: currency === null ? null : rate,
      lines,
    },
  };
}

/** What the lines come to, with tax. */
export function totalOf({ lines }: DocumentDraft): number {
  return lines.reduce((sum, { amount }) => sum + (amount ?? 0), 0);
}
