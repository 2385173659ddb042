import type { CalendarDate } from '../dates/calendarDate.ts';
import type { ErrorCode } from '../errors.ts';
import type { Minor } from '../money/minor.ts';

/** A file format that is read. */
export type FileFormat = 'ofx1' | 'ofx2' | 'camt' | 'mt940' | 'qif' | 'csv';

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
  /** The booked balance after this line, where the file states it. */
  readonly balance: Minor | null;
  /** Announced by the bank, not booked yet. */
  readonly isPending: boolean;
}

/** What a file says of one bank account. */
export interface BankStatement {
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
  readonly lines: readonly BankLine[];
}

/**
 * Something wrong with a file, at its place.
 * - `notice`: worth knowing; nothing is lost.
 * - `refused`: one record could not be taken.
 * - `fatal`: reading stopped here.
 */
export interface Problem {
  readonly severity: 'notice' | 'refused' | 'fatal';
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

/** A bank file, read. */
export interface BankFile {
  readonly format: FileFormat;
  readonly encoding: string;
  readonly statements: readonly BankStatement[];
  readonly problems: readonly Problem[];
}

/** The records of a file that could not be taken, and where reading stopped, if it did. */
export function refusedOf(file: BankFile): readonly Problem[] {
  return file.problems.filter((problem) => problem.severity !== 'notice');
}
