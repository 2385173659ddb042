import { z } from 'zod';
import { BankAccountParams, BooksParams, CalendarDate, Cursor, StepDone } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import {
  AgreeStatement,
  AllStatements,
  ChangeCycle,
  ChangeStatement,
  MoveStatementLines,
  NameHolders,
  ReopenStatement,
  SettleCause,
  Statement,
  StatementHolders,
  StatementRows,
  TickEntries,
} from '../statements.ts';

/** A statement is named by its bank account and last day. */
const StatementParams = BankAccountParams.extend({ to: CalendarDate });

const path = '/books/:booksId/bank-accounts/:bankAccountId/statements/:to' as const;

/** Statements of bank accounts, and agreeing them with the bank. */
export const statementEndpoints = endpoints({
  statements: {
    method: 'GET',
    path: '/books/:booksId/statements',
    access: 'reviewer',
    params: BooksParams,
    answer: AllStatements,
    reads: ['statements'],
  },
  statement: {
    method: 'GET',
    path,
    access: 'reviewer',
    params: StatementParams,
    answer: Statement,
    reads: ['statements'],
  },
  statementRows: {
    method: 'GET',
    path: `${path}/rows`,
    access: 'reviewer',
    params: StatementParams,
    query: z.object({ cursor: Cursor.optional() }),
    answer: StatementRows,
    reads: ['statements'],
    isPaged: true,
  },
  statementHolders: {
    method: 'GET',
    path: `${path}/holders`,
    access: 'reviewer',
    params: StatementParams,
    answer: StatementHolders,
    reads: ['statements'],
  },
  /** Its report as a file. */
  statementReport: {
    method: 'GET',
    path: `${path}/report`,
    access: 'reviewer',
    params: StatementParams,
    query: z.object({ as: z.enum(['pdf', 'csv']) }),
    answer: null,
    reads: ['statements'],
  },
  changeStatement: {
    method: 'PATCH',
    path,
    access: 'bookkeeper',
    params: StatementParams,
    body: ChangeStatement,
    answer: StepDone,
    touches: ['statement'],
  },
  moveStatementLines: {
    method: 'POST',
    path: `${path}/move-lines`,
    access: 'bookkeeper',
    params: StatementParams,
    body: MoveStatementLines,
    answer: StepDone,
    touches: ['statementDay'],
  },
  settleCause: {
    method: 'POST',
    path: '/books/:booksId/bank-accounts/:bankAccountId/settle-cause',
    access: 'bookkeeper',
    params: BankAccountParams,
    body: SettleCause,
    answer: StepDone,
    touches: ['line', 'entry', 'lineHere'],
  },
  tickEntries: {
    method: 'POST',
    path: `${path}/tick-entries`,
    access: 'bookkeeper',
    params: StatementParams,
    body: TickEntries,
    answer: StepDone,
    touches: ['statementDay'],
  },
  agreeStatement: {
    method: 'POST',
    path: `${path}/agree`,
    access: 'bookkeeper',
    params: StatementParams,
    body: AgreeStatement,
    answer: StepDone,
    touches: ['statement', 'bankAccount'],
  },
  reopenStatement: {
    method: 'POST',
    path: `${path}/reopen`,
    access: 'bookkeeper',
    params: StatementParams,
    body: ReopenStatement,
    answer: StepDone,
    touches: ['statement', 'bankAccount'],
  },
  changeCycle: {
    method: 'PUT',
    path: '/books/:booksId/bank-accounts/:bankAccountId/cycle',
    access: 'bookkeeper',
    params: BankAccountParams,
    body: ChangeCycle,
    answer: StepDone,
    touches: ['bankAccount', 'statement'],
  },
  nameHolders: {
    method: 'PUT',
    path: '/books/:booksId/bank-accounts/:bankAccountId/holders',
    access: 'bookkeeper',
    params: BankAccountParams,
    body: NameHolders,
    answer: StepDone,
    touches: ['bankAccount'],
  },
});
