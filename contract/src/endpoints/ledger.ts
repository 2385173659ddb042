import { z } from 'zod';
import { AccountParams, BooksParams, EntryId, Made, text } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import {
  Balances,
  EnterByHand,
  Entry,
  FoundEntry,
  Imported,
  ImportRecords,
  LedgerQuery,
  LedgerRows,
  Outstanding,
  RegisterQuery,
} from '../ledger.ts';

const EntryParams = BooksParams.extend({ entryId: EntryId });

/** Balances, an account’s register, entries made by hand and what the bank has not reported of them. */
export const ledgerEndpoints = endpoints({
  balances: {
    method: 'GET',
    path: '/books/:booksId/balances',
    access: 'reviewer',
    params: BooksParams,
    answer: Balances,
    reads: ['ledger'],
  },
  register: {
    method: 'GET',
    path: '/books/:booksId/accounts/:accountId/register',
    access: 'reviewer',
    params: AccountParams,
    query: RegisterQuery,
    answer: LedgerRows,
    isPaged: true,
    reads: ['ledger'],
  },
  ledgerRows: {
    method: 'GET',
    path: '/books/:booksId/ledger-rows',
    access: 'reviewer',
    params: BooksParams,
    query: LedgerQuery,
    answer: LedgerRows,
    isPaged: true,
    reads: ['ledger'],
  },
  findEntries: {
    method: 'GET',
    path: '/books/:booksId/found-entries',
    access: 'reviewer',
    params: BooksParams,
    query: z.object({ search: text(200).min(1) }),
    answer: z.object({ entries: z.array(FoundEntry) }),
    reads: ['ledger'],
  },
  entry: {
    method: 'GET',
    path: '/books/:booksId/entries/:entryId',
    access: 'reviewer',
    params: EntryParams,
    answer: Entry,
    reads: ['ledger'],
  },
  outstanding: {
    method: 'GET',
    path: '/books/:booksId/outstanding',
    access: 'reviewer',
    params: BooksParams,
    answer: Outstanding,
    reads: ['ledger'],
  },
  enterByHand: {
    method: 'POST',
    path: '/books/:booksId/entries',
    access: 'bookkeeper',
    params: BooksParams,
    body: EnterByHand,
    answer: Made,
    touches: ['entry', 'document'],
  },
  importEntries: {
    method: 'POST',
    path: '/books/:booksId/entries/import',
    access: 'bookkeeper',
    params: BooksParams,
    body: ImportRecords,
    answer: Imported,
    touches: ['entry', 'payee'],
  },
  changeEntry: {
    method: 'PUT',
    path: '/books/:booksId/entries/:entryId',
    access: 'bookkeeper',
    params: EntryParams,
    body: EnterByHand,
    answer: Made,
    touches: ['entry', 'document'],
  },
  voidEntry: {
    method: 'POST',
    path: '/books/:booksId/entries/:entryId/void',
    access: 'bookkeeper',
    params: EntryParams,
    answer: Made,
    touches: ['entry', 'document'],
  },
});
