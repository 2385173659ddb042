import type { BankField } from '@zubrell/contract/books';

/** The bank's own fields of a line as they are named to people. */
export const bankFieldNames: Readonly<Record<BankField, string>> = {
  bankAccount: 'Account',
  reference: 'Reference',
  payee: 'Payee',
  type: 'Type',
  valueDate: 'Value date',
  bankId: 'Bank id',
  chequeNumber: 'Cheque',
  counterparty: 'Other side',
  category: 'Category',
  cardholder: 'Cardholder',
  original: 'Original amount',
};
