import { BooksParams, StepDone } from '../common.ts';
import {
  ExchangeRates,
  GivenRate,
  ImportRates,
  RateParams,
  Valuation,
  ValueCurrencies,
} from '../currencies.ts';
import { endpoints } from '../endpoint.ts';
import { Imported } from '../ledger.ts';

/** Exchange rates, and what they make of what is open in other currencies. */
export const currencyEndpoints = endpoints({
  exchangeRates: {
    method: 'GET',
    path: '/books/:booksId/exchange-rates',
    access: 'reviewer',
    params: BooksParams,
    answer: ExchangeRates,
    reads: ['rates'],
  },
  setRate: {
    method: 'POST',
    path: '/books/:booksId/exchange-rates',
    access: 'bookkeeper',
    params: BooksParams,
    body: GivenRate,
    answer: StepDone,
    touches: ['exchangeRate'],
  },
  removeRate: {
    method: 'DELETE',
    path: '/books/:booksId/exchange-rates/:rateId',
    access: 'bookkeeper',
    params: RateParams,
    answer: StepDone,
    touches: ['exchangeRate'],
  },
  importRates: {
    method: 'POST',
    path: '/books/:booksId/exchange-rates/import',
    access: 'bookkeeper',
    params: BooksParams,
    body: ImportRates,
    answer: Imported,
    touches: ['exchangeRate'],
  },
  valuation: {
    method: 'GET',
    path: '/books/:booksId/valuation',
    access: 'reviewer',
    params: BooksParams,
    query: ValueCurrencies,
    answer: Valuation,
    reads: ['rates', 'ledger', 'documents'],
  },
  valueCurrencies: {
    method: 'POST',
    path: '/books/:booksId/valuation',
    access: 'bookkeeper',
    params: BooksParams,
    body: ValueCurrencies,
    answer: StepDone,
    touches: ['entry'],
  },
});
