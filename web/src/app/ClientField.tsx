import type { PayeeId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Combobox } from '../ui/Combobox.tsx';
import { clientMoneyOf } from './clientMoney.ts';
import { useBooks } from './useBooks.ts';

/** Whose money it is, on a bank account that holds clients' money; a customer who is the payee needs not be named again. */
export function ClientField({
  label,
  payeeId,
  value,
  onChange,
}: {
  readonly label: string;
  /** Who pays or is paid. */
  readonly payeeId: PayeeId | null;
  readonly value: PayeeId | null;
  readonly onChange: (clientId: PayeeId | null) => void;
}) {
  const { setup, payeeName } = useBooks();
  const isPayee = payeeId !== null && clientMoneyOf(setup).isCustomer(payeeId);
  const clients = setup.payees.filter(
    ({ isOn, mergedInto, kind }) => isOn && mergedInto === null && kind === 'customer',
  );
  return (
    <Combobox
      label={label}
      placeholder={isPayee ? payeeName(payeeId) : t`Whose money it is`}
      value={value}
      choices={clients.map(({ id, name }) => ({ id, label: name }))}
      onChange={onChange}
    />
  );
}
