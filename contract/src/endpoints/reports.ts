import { BooksParams } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import { AccountTotals, FigureLegs, FigureParams, FigureQuery, ReportPeriod } from '../reports.ts';

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
  figureLegs: {
    method: 'GET',
    path: '/books/:booksId/reports/accounts/:accountId/legs',
    access: 'reviewer',
    params: FigureParams,
    query: FigureQuery,
    answer: FigureLegs,
    isPaged: true,
    reads: ['ledger'],
  },
});
