import { AuditRecords, ChainChecks, Exported, RecordsWanted } from '../audit.ts';
import { BooksParams, Cursor, Nothing } from '../common.ts';
import { endpoints } from '../endpoint.ts';

/** What is on record of who got in, was refused, or changed who may do what. */
export const auditEndpoints = endpoints({
  records: {
    method: 'GET',
    path: '/books/:booksId/records',
    access: 'owner',
    params: BooksParams,
    query: RecordsWanted.extend({ cursor: Cursor.optional() }),
    answer: AuditRecords,
    isPaged: true,
    reads: ['records'],
  },
  checkChains: {
    method: 'GET',
    path: '/books/:booksId/records/check',
    access: 'owner',
    params: BooksParams,
    answer: ChainChecks,
    reads: [],
  },
  recordExport: {
    method: 'POST',
    path: '/books/:booksId/exports',
    access: 'reviewer',
    params: BooksParams,
    body: Exported,
    answer: Nothing,
    touches: [],
  },
});
