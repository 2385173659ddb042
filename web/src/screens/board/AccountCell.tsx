import type { BoardRow } from '@zubrell/contract/board';
import { bankAccountLabel, useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';

/** A bank account with how far its lines are known. */
export function AccountCell({ row }: { readonly row: BoardRow }) {
  const { setup } = useBooks();
  const showDate = useShowDate();
  const bank = setup.bankAccounts.find(({ id }) => id === row.bankAccountId);
  return (
    <th scope="row">
      <b>{bank && bankAccountLabel(bank)}</b>
      <span className="quiet d-block">
        {row.knownTo === null ? 'no lines yet' : `known to ${showDate(row.knownTo)}`}
        {row.knownTo !== null && bank?.opening === null && ', no opening balance'}
      </span>
    </th>
  );
}
