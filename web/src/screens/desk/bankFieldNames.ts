import type { BankField } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';

/** The bank's own fields of a line as they are named to people. */
export const bankFieldNames: Readonly<Record<BankField, string>> = {
  bankAccount: t`Account`,
  reference: t`Reference`,
  payee: t`Payee`,
  type: t`Type`,
  valueDate: t`Value date`,
  bankId: t`Bank ID`,
  chequeNumber: t`Cheque number`,
  counterparty: t`Counterparty account`,
  category: t`Category`,
  cardholder: t`Cardholder`,
  original: t`Original amount`,
};
