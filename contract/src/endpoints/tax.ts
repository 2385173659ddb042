import { GivenTaxCode } from '../books.ts';
import { BooksParams, Made, StepDone } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import {
  FileTaxReturn,
  ReportedElsewhere,
  TaxCodeParams,
  TaxDraft,
  TaxLegs,
  TaxLegsQuery,
  TaxPeriod,
  TaxReturns,
} from '../tax.ts';

/** Tax codes and tax returns. */
export const taxEndpoints = endpoints({
  makeTaxCode: {
    method: 'POST',
    path: '/books/:booksId/tax-codes',
    access: 'bookkeeper',
    params: BooksParams,
    body: GivenTaxCode,
    answer: Made,
    touches: ['taxCode'],
  },
  changeTaxCode: {
    method: 'PUT',
    path: '/books/:booksId/tax-codes/:taxCodeId',
    access: 'bookkeeper',
    params: TaxCodeParams,
    body: GivenTaxCode,
    answer: StepDone,
    touches: ['taxCode'],
  },
  taxReturns: {
    method: 'GET',
    path: '/books/:booksId/tax-returns',
    access: 'reviewer',
    params: BooksParams,
    answer: TaxReturns,
    reads: ['tax'],
  },
  taxDraft: {
    method: 'GET',
    path: '/books/:booksId/tax-returns/next',
    access: 'reviewer',
    params: BooksParams,
    query: TaxPeriod,
    answer: TaxDraft,
    reads: ['tax', 'ledger'],
  },
  taxLegs: {
    method: 'GET',
    path: '/books/:booksId/tax-returns/codes/:taxCodeId/legs',
    access: 'reviewer',
    params: TaxCodeParams,
    query: TaxLegsQuery,
    answer: TaxLegs,
    isPaged: true,
    reads: ['tax', 'ledger'],
  },
  fileTaxReturn: {
    method: 'POST',
    path: '/books/:booksId/tax-returns',
    access: 'reviewer',
    params: BooksParams,
    body: FileTaxReturn,
    answer: Made,
    touches: ['taxReturn', 'books', 'entry'],
  },
  reportedElsewhere: {
    method: 'POST',
    path: '/books/:booksId/tax-returns/elsewhere',
    access: 'reviewer',
    params: BooksParams,
    body: ReportedElsewhere,
    answer: Made,
    touches: ['taxReturn'],
  },
});
