import { BooksParams } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import {
  AccountTotals,
  AgedDocuments,
  AgedQuery,
  CashFlow,
  ClearingItems,
  ClearingQuery,
  GroupedQuery,
  GroupedTotals,
  ReportPeriod,
} from '../reports.ts';

/** What reports are made of. */
export const reportEndpoints = endpoints({
  accountTotals: {
    method: 'GET',
    path: '/books/:booksId/reports/totals',
    access: 'reviewer',
    params: BooksParams,
    query: ReportPeriod,
    answer: AccountTotals,
    reads: ['ledger'],
  },
  groupedTotals: {
    method: 'GET',
    path: '/books/:booksId/reports/grouped',
    access: 'reviewer',
    params: BooksParams,
    query: GroupedQuery,
    answer: GroupedTotals,
    reads: ['ledger'],
  },
  agedDocuments: {
    method: 'GET',
    path: '/books/:booksId/reports/aged',
    access: 'reviewer',
    params: BooksParams,
    query: AgedQuery,
    answer: AgedDocuments,
    reads: ['ledger', 'documents'],
  },
  cashFlow: {
    method: 'GET',
    path: '/books/:booksId/reports/cash',
    access: 'reviewer',
    params: BooksParams,
    query: ReportPeriod,
    answer: CashFlow,
    reads: ['ledger'],
  },
  clearingItems: {
    method: 'GET',
    path: '/books/:booksId/reports/clearing',
    access: 'reviewer',
    params: BooksParams,
    query: ClearingQuery,
    answer: ClearingItems,
    reads: ['ledger'],
  },
});
