import type { CalendarDate } from '../dates/calendarDate.ts';
import type { ErrorCode } from '../errors.ts';
import type { DatedBalance } from '../intake/balanceChain.ts';
import type { Minor } from '../money/minor.ts';
import type { TableLayout } from './table/tableLayout.ts';

/** A file format that is read. */
export const fileFormats = ['ofx1', 'ofx2', 'camt', 'mt940', 'qif', 'csv', 'xlsx'] as const;
export type FileFormat = (typeof fileFormats)[number];

/** How bad a problem is: see {@link Problem}. */
export const severities = ['notice', 'refused', 'fatal'] as const;

/** One line as a file states it. Texts are as the bank sent them, trimmed. */
export interface BankLine {
  /** Line number in the file where the record starts, from 1. */
  readonly place: number;
  readonly date: CalendarDate;
  readonly valueDate: CalendarDate | null;
  /** In is positive, out is negative. */
  readonly amount: Minor;
  readonly description: string;
  readonly reference: string | null;
  readonly payee: string | null;
  readonly bankId: string | null;
  readonly type: string | null;
  readonly chequeNumber: string | null;
  /** The other side's account number. */
  readonly counterparty: string | null;
  /** Merchant category code (ISO 18245), four digits. */
  readonly category: string | null;
  /** Whose card it was paid with, as the file names them: a name, or the end of the card's number. */
  readonly cardholder: string | null;
  /** The amount in the currency it was paid in, as `USD -41.20`. */
  readonly original: string | null;
  /** How a prepared file codes the line, by the names it has there. */
  readonly prepared: PreparedCoding | null;
  /** The booked balance after this line, where the file states it. */
  readonly balance: Minor | null;
  /** Announced by the bank, not booked yet. */
  readonly isPending: boolean;
}

/** The coding columns of a prepared file, as they stand there. */
export interface PreparedCoding {
  readonly account: string | null;
  readonly tax: string | null;
  readonly costCentre: string | null;
}

/** A line with what is not given left out: null, and booked. */
export function bankLine(
  given: Pick<BankLine, 'place' | 'date' | 'amount'> & Partial<BankLine>,
): BankLine {
  // Field by field: spreading is slow for as many, and large files have a million of them.
  return {
    place: given.place,
    date: given.date,
    valueDate: given.valueDate ?? null,
    amount: given.amount,
    description: given.description ?? '',
    reference: given.reference ?? null,
    payee: given.payee ?? null,
    bankId: given.bankId ?? null,
    type: given.type ?? null,
    chequeNumber: given.chequeNumber ?? null,
    counterparty: given.counterparty ?? null,
    category: given.category ?? null,
    cardholder: given.cardholder ?? null,
    original: given.original ?? null,
    prepared: given.prepared ?? null,
    balance: given.balance ?? null,
    isPending: given.isPending ?? false,
  };
}

/** What a file says of one bank account, without its lines. */
export interface StatementFacts {
  readonly account: string | null;
  readonly bank: string | null;
  readonly kind: 'current' | 'savings' | 'card' | null;
  /** ISO 4217; null where the file does not say. */
  readonly currency: string | null;
  readonly from: CalendarDate | null;
  readonly to: CalendarDate | null;
  /** Booked balance before the first line, only where stated. */
  readonly opening: Minor | null;
  /** Booked balance after the last line, only where stated. */
  readonly closing: Minor | null;
  readonly closingDate: CalendarDate | null;
  /** End-of-day balances that a column of running balances states, in the order of time. */
  readonly dayBalances: readonly DatedBalance[];
}

/** What a file says of one bank account. */
export interface BankStatement extends StatementFacts {
  readonly lines: readonly BankLine[];
}

/** Takes a line as soon as it is read. @param statement which one of the file, from 0 */
export type TakeLine = (statement: number, line: BankLine) => void;

/**
 * Something wrong with a file, at its place.
 * - `notice`: worth knowing; nothing is lost.
 * - `refused`: one record could not be taken.
 * - `fatal`: reading stopped here.
 */
export interface Problem {
  readonly severity: (typeof severities)[number];
  /** Line number in the file, from 1. */
  readonly line: number;
  /** The column's heading or the field's name, where one is to blame. */
  readonly field: string | null;
  readonly code: ErrorCode;
  readonly message: string;
  /** The record as it stands, cut to 200 characters. */
  readonly excerpt: string | null;
  /** The refused record's amount, if that much could be read. */
  readonly amount: Minor | null;
}

/** What is known of a bank file when it is read, beside its lines. */
export interface BankFileFacts {
  readonly format: FileFormat;
  readonly encoding: string;
  readonly statements: readonly StatementFacts[];
  readonly problems: readonly Problem[];
  /** How a CSV file or a spreadsheet was read; null for other formats. */
  readonly layout: TableLayout | null;
  /** A date whose day and month can't be told apart, which is to be asked; null where they can. */
  readonly openDate: string | null;
}

/** A bank file, read. */
export interface BankFile extends BankFileFacts {
  readonly statements: readonly BankStatement[];
}

/** The records of a file that could not be taken, and where reading stopped, if it did. */
export function refusedOf(file: Pick<BankFileFacts, 'problems'>): readonly Problem[] {
  return file.problems.filter((problem) => problem.severity !== 'notice');
}
