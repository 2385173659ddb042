import { type ErrorCode, ZubrellError } from '@zubrell/core/errors';
import type pg from 'pg';

/** What was named and is not in the books, by the table that a foreign key asks. */
const MISSING: Readonly<Record<string, ErrorCode>> = {
  accounts: 'ACCOUNT_UNKNOWN',
  bank_accounts: 'BANK_ACCOUNT_UNKNOWN',
  batches: 'BATCH_UNKNOWN',
  books: 'BOOKS_UNKNOWN',
  cost_objects: 'COST_OBJECT_UNKNOWN',
  decisions: 'LINE_UNKNOWN',
  documents: 'DOCUMENT_UNKNOWN',
  entries: 'ENTRY_UNKNOWN',
  feeds: 'FEED_UNKNOWN',
  legs: 'ENTRY_UNKNOWN',
  lines: 'LINE_UNKNOWN',
  payees: 'PAYEE_UNKNOWN',
  questions: 'QUESTION_UNKNOWN',
  tax_codes: 'TAX_CODE_UNKNOWN',
  uploads: 'UPLOAD_MISSING',
  users: 'MEMBER_UNKNOWN',
};

/**
 * What the database refused and a person can mend, as an error of the table: something named that is not
 * there, something that is there already, a value beyond what can be kept. Checks come before it; this is
 * for what slips past them, so that it is refused with words.
 *
 * @returns null where it is a fault of ours
 * @see PostgreSQL documentation, appendix A (SQLSTATE classes 22, 23 and 54)
 */
export function errorOfDatabase({ code, detail }: pg.DatabaseError): ZubrellError | null {
  if (code === '23503') {
    const table = /is not present in table "(\w+)"/.exec(detail ?? '')?.[1] ?? '';
    const missing = MISSING[table];
    return missing === undefined ? null : new ZubrellError(missing);
  }
  if (code === '23505') return new ZubrellError('THERE_ALREADY');
  if (code?.startsWith('22') || code?.startsWith('54')) return new ZubrellError('VALUE_UNKEPT');
  return null;
}
